#include "cli/arguments.h"

#include "core/units/unit.h"

#include <fmt/format.h>

namespace cognitum::cli {

Result<Arguments> read_arguments(const std::vector<std::string>& arguments) {
    Arguments out;
    for (const std::string& argument : arguments) {
        const auto equals = argument.find('=');
        if (equals == std::string::npos) return failure(fmt::format("\"{}\" is not key=value.", argument));
        out[argument.substr(0, equals)] = argument.substr(equals + 1);
    }
    return out;
}

Result<double> measure_of(const Arguments& given, const std::string& key, const std::string& unit) {
    const auto measure = parse_measure(given.at(key));
    auto value = measure ? convert_unit(measure->value, measure->unit, unit) : tl::make_unexpected(measure.error());
    if (value) return value;
    return failure(value.error().what, key,
                   fmt::format("Write it with one of these units: {}.", accepted_units(unit)));
}

} // namespace cognitum::cli
