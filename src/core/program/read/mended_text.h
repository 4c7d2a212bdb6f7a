// Lines of a program as they should be.
#pragma once

#include "core/program/read/program_trial.h"

namespace cognitum::program {

/// The first `what` in a line replaced.
std::string replaced_first(std::string line, const std::string& what, const std::string& by);
/// The program's text at a place; empty: it is not there any more.
std::string text_at(const Trial& trial, const CodePlace& place);
/// The line in which a number lost something, so that it does not; empty: one line does not mend it.
std::string mended_loss(const Trial& trial, const Loss& loss);

} // namespace cognitum::program
