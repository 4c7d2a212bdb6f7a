// A maker's program, parsed with the compiler's own parser for the types of its board, as a tree. Nothing outside
// the given texts is opened: an include that is not among them is noted and left out.
#pragma once

#include "core/base/error.h"
#include "core/program/read/syntax.h"

#include <string>
#include <vector>

namespace cognitum::reader {

struct SourceText {
    std::string name; ///< "hut.ino", or of the core's interface "avr/wdt.h"
    std::string text;
};

struct ParseOptions {
    bool eight_bit = true;             ///< int of 16 bits, double of 32; otherwise int of 32 bits, double of 64
    std::vector<SourceText> interface; ///< stand-in of the core's headers; "core.h" comes before the program
};

/// Error: no text, bytes that are no UTF-8, a program that is too large, or text that holds no setup() and loop().
Result<program::SyntaxTree> parse_program(const std::vector<SourceText>& files, const ParseOptions& options);

} // namespace cognitum::reader
