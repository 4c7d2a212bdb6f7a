#include "cli/arguments.h"
#include "cli/cli.h"

#include "core/decode/number.h"
#include "core/physics/vessel.h"
#include "core/units/format.h"
#include "store/exchange/csv_rows.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace cognitum::cli {

namespace {

/// Rows `level_mm,volume_L` behind a header.
Result<void> read_strapping(const std::string& path, physics::VesselShape& shape) {
    COGNITUM_TRY(text, read_input(path));
    std::size_t at = 0;
    int number = 0;
    while (at < text.size()) {
        const std::size_t end = std::min(text.find('\n', at), text.size());
        const std::string row(csv::trimmed(std::string_view(text).substr(at, end - at)));
        at = end + 1;
        if (++number == 1 || row.empty()) continue;
        const std::size_t comma = std::min(row.find(','), row.size());
        const auto level = number_of(csv::trimmed(std::string_view(row).substr(0, comma)));
        const auto volume = number_of(csv::trimmed(std::string_view(row).substr(std::min(comma + 1, row.size()))));
        if (!level || !volume)
            return failure(fmt::format("\"{}\" is no level and volume.", row), fmt::format("{}:{}", path, number),
                           "Write rows of level_mm,volume_L behind a header.");
        shape.levels_m.push_back(*level / 1000);
        shape.volumes_L.push_back(*volume);
    }
    return {};
}

/// Fills in the sizes that its kind asks for.
Result<physics::VesselShape> read_sizes(const Arguments& given, physics::VesselShape shape) {
    for (const std::string& size : physics::vessel_sizes(shape.kind)) {
        if (!given.contains(size))
            return failure(fmt::format("a {} needs {}=.", physics::vessel_name(shape.kind), size), size);
        COGNITUM_TRY(value, measure_of(given, size, "m"));
        (size == "diameter" ? shape.diameter_m
         : size == "length" ? shape.length_m
         : size == "width"  ? shape.width_m
                            : shape.height_m) = value;
    }
    return shape;
}

/// "cone:diameter=1m:height=0.4m": one section of a stack.
Result<physics::VesselShape> read_section(const std::string& text, const std::string& key) {
    physics::VesselShape out;
    const auto colon = std::min(text.find(':'), text.size());
    const auto kind = physics::vessel_kind(text.substr(0, colon));
    if (!kind)
        return failure(fmt::format("\"{}\" is no shape.", text.substr(0, colon)), key,
                       "Write a section as cone:diameter=1m:height=0.4m.");
    out.kind = *kind;
    std::vector<std::string> parts;
    for (std::size_t at = colon; at < text.size();) {
        const std::size_t end = std::min(text.find(':', at + 1), text.size());
        parts.push_back(text.substr(at + 1, end - at - 1));
        at = end;
    }
    COGNITUM_TRY(given, read_arguments(parts));
    return read_sizes(given, out);
}

} // namespace

int run_vessel(const std::string& name, const std::vector<std::string>& arguments, bool json) {
    using namespace physics;
    VesselShape shape;
    const auto kind = vessel_kind(name);
    if (!kind)
        return complain(
            {fmt::format("\"{}\" is no shape; known are {}.", name, fmt::join(vessel_names(), ", ")), "vessel", ""},
            usage);
    shape.kind = *kind;
    auto arguments_read = read_arguments(arguments);
    if (!arguments_read) return complain(arguments_read.error(), usage);
    Arguments& given = *arguments_read;
    const bool by_level = given.contains("level");
    std::vector<std::string> wanted = vessel_sizes(shape.kind);
    if (shape.kind == VesselKind::strapping) wanted.push_back("table");
    if (shape.kind == VesselKind::stack)
        for (int i = 1; i == 1 || given.contains(fmt::format("section{}", i)); ++i)
            wanted.push_back(fmt::format("section{}", i));
    for (const std::string& size : wanted)
        if (!given.contains(size) || given.size() != wanted.size() + 1 || by_level == given.contains("volume"))
            return complain(
                {fmt::format("{} takes {}=, and level= or volume=.", name, fmt::join(wanted, "=, ")), "vessel", ""},
                usage);
    const auto sized = read_sizes(given, shape);
    if (!sized) return complain(sized.error(), usage);
    shape = *sized;
    if (shape.kind == VesselKind::stack)
        for (int i = 1; given.contains(fmt::format("section{}", i)); ++i) {
            const std::string key = fmt::format("section{}", i);
            const auto section = read_section(given[key], key);
            if (!section) return complain(section.error(), usage);
            shape.sections.push_back(*section);
        }
    if (shape.kind == VesselKind::strapping)
        if (const auto read = read_strapping(given["table"], shape); !read) return complain(read.error());
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
