// A path's stages as lines of a program, with its constants, for boards that say the value beside the raw number.
#pragma once

#include "core/signal_path/chain.h"

#include <string>
#include <vector>

namespace cognitum::program {

/// Lines of a function that turns `float x`, the raw number, into the value; NAN where there is none. Error: a
/// stage that a small board had better not compute; then its value stays with the computer.
Result<std::string> stage_code(const Chain& chain);

/// A constant as C++ writes it, with what a float holds: "4.998", "-0.62", "1e-06".
std::string float_text(double value);

} // namespace cognitum::program
