// What a program does to a number, as steps for a person and as a path of the bench.
#pragma once

#include "core/program/read/explain.h"

namespace cognitum::program {

/// The number's way in the program, from its pin on. Null path: it cannot be written as one.
ReadPath path_in_program(const Trial& trial, const SentNumber& sent, const Standing& standing);

} // namespace cognitum::program
