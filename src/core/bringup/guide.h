// What the bring-up knows, as it is read from data/bringup.
#pragma once

#include "core/bringup/stimulus.h"
#include "core/bringup/symptoms.h"

namespace cognitum {

struct BringUpGuide {
    std::vector<Stimulus> stimuli;
    SymptomTree symptoms;
};

} // namespace cognitum
