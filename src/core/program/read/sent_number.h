// A number in the lines of a program that runs, found as it was when the program was read: by the text before it,
// or by its place among the numbers of its line.
#pragma once

#include "core/program/proof_plan.h"
#include "core/program/read/read_program.h"

#include <string>
#include <vector>

namespace cognitum {

/// Its text in one line; empty: the line does not have it.
std::string sent_number(const std::string& line, const ReadPath& path);
/// The last one that was sent in the later part of a stretch, when what was given at its start has gone through.
std::string last_sent(const std::vector<ProofLine>& lines, const ReadPath& path, double from_s, double to_s);

} // namespace cognitum
