// A number as a person types it.
#pragma once

#include <optional>
#include <string_view>

namespace cognitum {

/// "−1 234,5" and "-1234.5" alike: blanks of any width are left out, a true minus is one, a single comma without a
/// point is a decimal comma. Nothing when it is no finite number. UTF-8.
std::optional<double> typed_number(std::string_view text);

} // namespace cognitum
