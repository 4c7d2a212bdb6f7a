// Lines of a program as they should be.
#pragma once

#include "core/program/read/program_trial.h"

namespace cognitum::program {

/// The first `what` in a line replaced.
std::string replaced_first(std::string line, const std::string& what, const std::string& by);
/// The program's text at a place; empty: it is not there any more.
std::string text_at(const Trial& trial, const CodePlace& place);
/// A number, written as the one that stood there: with a point where that had one (or a quotient becomes whole),
/// and with its L or f (or a product gets too large).
std::string written_as(const std::string& before, double value);
struct MendedLine {
    CodePlace place;  ///< the line that it replaces
    std::string text; ///< empty: one line does not mend it
};
/// So that a number loses nothing: where it lost something, or where its variable is declared.
MendedLine mended_loss(const Trial& trial, const Loss& loss);

} // namespace cognitum::program
