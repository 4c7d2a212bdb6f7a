#include "cli/arguments.h"
#include "cli/cli.h"

#include "core/physics/vessel.h"
#include "core/units/format.h"
#include "store/csv_rows.h"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace cognitum::cli {

namespace {

/// Rows `level_mm,volume_L` behind a header.
Result<void> read_table(const std::string& path, physics::VesselShape& shape) {
    COGNITUM_TRY(text, read_input(path));
    std::size_t at = 0;
    int number = 0;
    while (at < text.size()) {
        const std::size_t end = std::min(text.find('\n', at), text.size());
        const std::string row(csv::trimmed(std::string_view(text).substr(at, end - at)));
        at = end + 1;
        if (++number == 1 || row.empty()) continue;
        double level = 0, volume = 0;
        int used = 0;
        if (std::sscanf(row.c_str(), "%lf,%lf%n", &level, &volume, &used) != 2 ||
            static_cast<std::size_t>(used) != row.size())
            return failure(fmt::format("\"{}\" is no level and volume.", row), fmt::format("{}:{}", path, number),
                           "Write rows of level_mm,volume_L behind a header.");
        shape.levels_m.push_back(level / 1000);
        shape.volumes_L.push_back(volume);
    }
    return {};
}

} // namespace

int run_vessel(const std::string& name, const std::vector<std::string>& arguments, bool json) {
    using namespace physics;
    VesselShape shape;
    if (!vessel_kind(name, shape.kind))
        return complain(
            {fmt::format("\"{}\" is no shape; known are {}.", name, fmt::join(vessel_names(), ", ")), "vessel", ""},
            usage);
    auto arguments_read = read_arguments(arguments);
    if (!arguments_read) return complain(arguments_read.error(), usage);
    Arguments& given = *arguments_read;
    const bool by_level = given.contains("level");
    std::vector<std::string> wanted = vessel_sizes(shape.kind);
    if (shape.kind == VesselKind::strapping) wanted.push_back("table");
    for (const std::string& size : wanted)
        if (!given.contains(size) || given.size() != wanted.size() + 1 || by_level == given.contains("volume"))
            return complain(
                {fmt::format("{} takes {}=, and level= or volume=.", name, fmt::join(wanted, "=, ")), "vessel", ""},
                usage);
    for (const std::string& size : vessel_sizes(shape.kind)) {
        const auto value = measure_of(given, size, "m");
        if (!value) return complain(value.error(), usage);
        (size == "diameter" ? shape.diameter_m
         : size == "length" ? shape.length_m
         : size == "width"  ? shape.width_m
                            : shape.height_m) = *value;
    }
    if (shape.kind == VesselKind::strapping)
        if (const auto read = read_table(given["table"], shape); !read) return complain(read.error());
    if (const auto sound = check_vessel(shape); !sound) return complain(sound.error());
    const auto asked = measure_of(given, by_level ? "level" : "volume", by_level ? "m" : "L");
    if (!asked) return complain(asked.error(), usage);
    const double full = vessel_volume(shape, vessel_height(shape));
    if (*asked < 0) return complain({"below empty.", by_level ? "level" : "volume", ""}, answer_is_no);
    const double level = by_level ? *asked : vessel_level(shape, *asked);
    const double volume = by_level ? vessel_volume(shape, *asked) : *asked;
    if (!std::isfinite(level) || !std::isfinite(volume))
        return complain({fmt::format("overfull: it is {} high and holds {}.",
                                     format_measure(vessel_height(shape), "m", 5), format_measure(full, "L", 6)),
                         by_level ? "level" : "volume", ""},
                        answer_is_no);
    const double slope = vessel_litres_per_mm(shape, level);
    if (json)
        print_json({{"level_m", level}, {"volume_L", volume}, {"litres_per_mm", slope}, {"full_volume_L", full}});
    else
        std::puts(fmt::format("{} in it at a level of {}; a millimetre is {} here; full with {}.",
                              format_measure(volume, "L", 6), format_measure(level, "m", 5),
                              format_measure(slope, "L", 3), format_measure(full, "L", 6))
                      .c_str());
    return done;
}

} // namespace cognitum::cli
