#include "core/physics/vessel.h"

#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/base/root.h"
#include "core/physics/steffen.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace cognitum::physics {

namespace {

using std::numbers::pi;
constexpr double litres = 1000; ///< in a cubic metre

/// Area of a circle's segment of height h, radius r.
double segment_area(double r, double h) {
    const double x = std::clamp((r - h) / r, -1.0, 1.0);
    return r * r * (std::acos(x) - x * std::sqrt(1 - x * x));
}

/// A cone's or frustum's volume below a level, from both diameters of that part.
double frustum_volume(double bottom, double top, double height) {
    return pi * height / 12 * (bottom * bottom + bottom * top + top * top);
}

struct Kind {
    std::string name;
    const char* title;
    std::vector<std::string> sizes;
};
const std::vector<Kind>& kinds() { // in the order of VesselKind
    static const std::vector<Kind> all = {
        {"box", for_people("box"), {"length", "width", "height"}},
        {"upright-cylinder", for_people("upright cylinder"), {"diameter", "height"}},
        {"lying-cylinder", for_people("lying cylinder"), {"diameter", "length"}},
        {"dished-cylinder", for_people("lying cylinder, dished ends"), {"diameter", "length"}},
        {"cone", for_people("cone"), {"diameter", "height"}},
        {"frustum", for_people("frustum"), {"diameter", "width", "height"}},
        {"sphere", for_people("sphere"), {"diameter"}},
        {"lying-oval", for_people("lying oval"), {"width", "height", "length"}},
        {"rounded-box", for_people("rounded box"), {"length", "width", "height", "diameter"}},
        {"strapping", for_people("table of levels and volumes"), {}},
        {"stack", for_people("stack of sections"), {}}};
    return all;
}

double size_of(const VesselShape& s, std::string_view name) {
    return name == "diameter" ? s.diameter_m
           : name == "length" ? s.length_m
           : name == "width"  ? s.width_m
                              : s.height_m;
}

Result<void> check_table(const VesselShape& s) {
    if (s.levels_m.size() != s.volumes_L.size() || s.levels_m.size() < 2)
        return failure(phrase("a strapping table needs at least two rows, each with a level and a volume."),
                       "table");
    for (std::size_t i = 0; i < s.levels_m.size(); ++i) {
        if (!std::isfinite(s.levels_m[i]) || !std::isfinite(s.volumes_L[i]))
            return failure(phrase("row {} of the table is no number.", i + 1), "table");
        if (i > 0 && s.levels_m[i] <= s.levels_m[i - 1])
            return failure(phrase("row {} of the table goes back: its level is not above the one before.", i + 1),
                           "table", phrase("Sort the rows by level, and take doubled ones out."));
        if (i > 0 && s.volumes_L[i] < s.volumes_L[i - 1])
            return failure(phrase("row {} of the table goes back: it holds less at a higher level.", i + 1),
                           "table", phrase("Measure that row again."));
    }
    if (s.levels_m.front() != 0)
        return failure(phrase("the table does not begin at level 0."), "table",
                       phrase("Add the row of the empty vessel."));
    return {};
}

Result<void> check_stack(const VesselShape& s) {
    if (s.sections.empty() || s.sections.size() > 20)
        return failure(phrase("a stack has one to twenty sections."), "sections",
                       phrase("Name them from the lowest upwards."));
    for (std::size_t i = 0; i < s.sections.size(); ++i) {
        if (s.sections[i].kind == VesselKind::stack || s.sections[i].kind == VesselKind::strapping)
            return failure(phrase("section {} is a {}, which cannot be part of a stack.", i + 1,
                                  vessel_name(s.sections[i].kind)),
                           "sections");
        if (const auto sound = check_vessel(s.sections[i]); !sound)
            return failure(phrase("section {}: {}", i + 1, sound.error().what), "sections");
    }
    return {};
}

double stack_volume(const VesselShape& s, double level) {
    double sum = 0;
    for (const VesselShape& section : s.sections) {
        const double height = vessel_height(section);
        sum += vessel_volume(section, std::clamp(level, 0.0, height));
        level -= height;
        if (level <= 0) break;
    }
    return sum;
}

} // namespace

const std::vector<std::string>& vessel_names() {
    static const std::vector<std::string> names = [] {
        std::vector<std::string> out;
        for (const Kind& kind : kinds())
            out.push_back(kind.name);
        return out;
    }();
    return names;
}

std::optional<VesselKind> vessel_kind(std::string_view name) {
    const auto& names = vessel_names();
    const auto at = std::find(names.begin(), names.end(), name);
    if (at == names.end()) return {};
    return static_cast<VesselKind>(at - names.begin());
}

bool lies(VesselKind kind) {
    return kind == VesselKind::lying_cylinder || kind == VesselKind::dished_cylinder ||
           kind == VesselKind::lying_oval;
}

const std::string& vessel_name(VesselKind kind) {
    return kinds()[static_cast<std::size_t>(kind)].name;
}

std::string vessel_title(VesselKind kind) {
    return phrase(kinds()[static_cast<std::size_t>(kind)].title);
}

std::vector<std::string> vessel_sizes(VesselKind kind) {
    return kinds()[static_cast<std::size_t>(kind)].sizes;
}

Result<void> check_vessel(const VesselShape& s) {
    if (s.kind == VesselKind::strapping) return check_table(s);
    if (s.kind == VesselKind::stack) return check_stack(s);
    for (const std::string& size : vessel_sizes(s.kind)) {
        const double value = size_of(s, size);
        if (!std::isfinite(value) || value <= 0)
            return failure(phrase("a {} needs a {} above zero.", vessel_name(s.kind), size), size);
    }
    if (s.kind == VesselKind::rounded_box && s.diameter_m > std::min(s.length_m, s.width_m))
        return failure(phrase("the rounded edges are wider than the box."), "diameter");
    return {};
}

double vessel_height(const VesselShape& s) {
    switch (s.kind) {
    case VesselKind::lying_cylinder:
    case VesselKind::dished_cylinder:
    case VesselKind::sphere: return s.diameter_m;
    case VesselKind::strapping: return s.levels_m.empty() ? no_number : s.levels_m.back();
    case VesselKind::stack: {
        double sum = 0;
        for (const VesselShape& section : s.sections)
            sum += vessel_height(section);
        return sum;
    }
    default: return s.height_m;
    }
}

double vessel_volume(const VesselShape& s, double h) {
    if (!(h >= 0) || h > vessel_height(s)) return no_number;
    const double r = s.diameter_m / 2;
    switch (s.kind) {
    case VesselKind::box: return litres * s.length_m * s.width_m * h;
    case VesselKind::upright_cylinder: return litres * pi * r * r * h;
    case VesselKind::lying_cylinder: return litres * s.length_m * segment_area(r, h);
    case VesselKind::dished_cylinder: // the two ends together are an ellipsoid r × r × r/2 along the axis
        return litres * (s.length_m * segment_area(r, h) + 0.5 * pi * h * h * (3 * r - h) / 3);
    case VesselKind::cone: return litres * frustum_volume(0, s.diameter_m * h / s.height_m, h);
    case VesselKind::frustum:
        return litres * frustum_volume(s.diameter_m, s.diameter_m + (s.width_m - s.diameter_m) * h / s.height_m, h);
    case VesselKind::sphere: return litres * pi * h * h * (3 * r - h) / 3;
    case VesselKind::lying_oval: // a circle of the height, stretched sideways
        return litres * s.length_m * segment_area(s.height_m / 2, h) * s.width_m / s.height_m;
    case VesselKind::rounded_box: return litres * (s.length_m * s.width_m - (4 - pi) * r * r) * h;
    case VesselKind::strapping: return steffen(s.levels_m, s.volumes_L, h);
    case VesselKind::stack: return stack_volume(s, h);
    }
    return no_number;
}

double vessel_level(const VesselShape& s, double volume) {
    const double height = vessel_height(s);
    const double full = vessel_volume(s, height);
    if (!(volume >= vessel_volume(s, 0)) || volume > full * (1 + 1e-12)) return no_number;
    const double within = std::min(volume, full);
    return bracketed_root([&](double level) { return vessel_volume(s, level) - within; }, 0, height)
        .value_or(no_number);
}

double vessel_width(const VesselShape& s, double h) {
    const double height = vessel_height(s);
    if (!(h >= 0) || h > height) return no_number;
    const double part = h / height;
    switch (s.kind) {
    case VesselKind::box:
    case VesselKind::rounded_box: return s.width_m;
    case VesselKind::upright_cylinder: return s.diameter_m;
    case VesselKind::lying_cylinder:
    case VesselKind::dished_cylinder:
    case VesselKind::sphere: return 2 * s.diameter_m * std::sqrt(std::max(0.0, part * (1 - part)));
    case VesselKind::cone: return s.diameter_m * part;
    case VesselKind::frustum: return s.diameter_m + (s.width_m - s.diameter_m) * part;
    case VesselKind::lying_oval: return 2 * s.width_m * std::sqrt(std::max(0.0, part * (1 - part)));
    case VesselKind::strapping: return no_number;
    case VesselKind::stack:
        for (const VesselShape& section : s.sections) {
            const double here = vessel_height(section);
            if (h <= here) return vessel_width(section, h);
            h -= here;
        }
        return no_number;
    }
    return no_number;
}

double vessel_worst_level(const VesselShape& s, double up_to) {
    const double top = std::min(up_to, vessel_height(s));
    double worst = 0, slope = 0;
    for (int i = 0; i <= 100; ++i) {
        const double level = top * i / 100;
        if (const double here = vessel_litres_per_mm(s, level);
            here > slope * (1 + 1e-9)) { // more than by rounding
            slope = here;
            worst = level;
        }
    }
    return worst;
}

double vessel_litres_per_mm(const VesselShape& s, double level) {
    const double height = vessel_height(s);
    if (!(level >= 0) || level > height) return no_number;
    const double step = std::min(1e-5, height / 10);
    const double from = std::max(0.0, level - step), to = std::min(height, level + step);
    return (vessel_volume(s, to) - vessel_volume(s, from)) / (to - from) / 1000;
}

} // namespace cognitum::physics
