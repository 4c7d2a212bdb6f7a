// A value as boards write it: "21.5", "21.5 °C", "-127", "nan", "on". Text in, number and unit out.
#pragma once

#include "core/base/no_number.h"

#include <string>
#include <string_view>

namespace cognitum {

struct NumberText {
    bool there = false;  ///< it is a number
    bool failed = false; ///< it is a word for no number: nan, null, error, nothing at all
    bool state = false;  ///< it is a word for a state, which counts as 1 or 0
    double value = no_number;
    std::string unit; ///< what follows the number, as written
};
/// Booleans (true, on, yes) are 1 and 0. A number with anything but a unit behind it is none.
NumberText read_number_text(std::string_view text);

/// Without blanks around it.
std::string_view trimmed(std::string_view text);
/// True when every byte is printable text: ASCII, or UTF-8 that is well formed.
bool is_plain_text(std::string_view line);

} // namespace cognitum
