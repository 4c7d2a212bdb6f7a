// Text as a field of CSV (RFC 4180) that a spreadsheet shows and does not run.
#pragma once

#include <string>
#include <string_view>

namespace cognitum {

/// True for what a spreadsheet takes for the start of a formula: = + - @ tab, carriage return.
bool starts_formula(std::string_view text);
/// In quotes where it must be; with ' before what would run as a formula.
std::string csv_field(std::string_view text);

} // namespace cognitum
