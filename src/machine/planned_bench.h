// The plan that a program is written from, from a file.
#pragma once

#include "core/bench/bench.h"
#include "core/catalog/cards.h"

#include <string>

namespace cognitum::machine {

struct PlannedBench {
    Bench bench;
    Catalog catalog; ///< the shipped cards
};

/// `path`: a bench, or its JSON form (ends in .json). Error: it cannot be read.
Result<PlannedBench> load_planned(const std::string& path);

} // namespace cognitum::machine
