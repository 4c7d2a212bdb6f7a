#include "cli/arguments.h"

#include "core/units/unit.h"

#include <algorithm>
#include <fmt/format.h>
#include <numeric>

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

std::string nearest_word(const std::string& word, const std::vector<std::string>& known) {
    const auto changes = [&](const std::string& other) {
        std::vector<std::size_t> row(other.size() + 1);
        std::iota(row.begin(), row.end(), 0);
        for (std::size_t i = 0; i < word.size(); ++i) {
            std::size_t diagonal = row[0]++;
            for (std::size_t j = 0; j < other.size(); ++j) {
                const std::size_t same = diagonal + (word[i] == other[j] ? 0 : 1);
                diagonal = row[j + 1];
                row[j + 1] = std::min({same, row[j] + 1, row[j + 1] + 1});
            }
        }
        return row.back();
    };
    return *std::min_element(known.begin(), known.end(),
                             [&](const std::string& l, const std::string& r) { return changes(l) < changes(r); });
}

} // namespace cognitum::cli
