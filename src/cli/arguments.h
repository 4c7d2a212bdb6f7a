// key=value arguments of a verb, each quantity with its unit.
#pragma once

#include "core/base/error.h"

#include <map>
#include <string>
#include <vector>

namespace cognitum::cli {

using Arguments = std::map<std::string, std::string>;

/// Error that names the first argument that is not key=value.
Result<Arguments> read_arguments(const std::vector<std::string>& arguments);
/// The value in `unit`; the error names the key and the units that it takes. The key must be there.
Result<double> measure_of(const Arguments& given, const std::string& key, const std::string& unit);

/// The word of `known`, which must not be empty, that is most like this one: the fewest letters changed, added,
/// left out.
std::string nearest_word(const std::string& word, const std::vector<std::string>& known);

} // namespace cognitum::cli
