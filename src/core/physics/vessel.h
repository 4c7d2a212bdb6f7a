// Volume from level, and back, for the shapes that tanks have. Lengths in m, volumes in L; a level is measured from
// the lowest inner point. Outside of 0 … height there is no volume: NaN.
#pragma once

#include "core/base/error.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace cognitum::physics {

enum class VesselKind {
    box,              ///< length, width, height
    upright_cylinder, ///< diameter, height
    lying_cylinder,   ///< diameter, length between flat ends
    dished_cylinder,  ///< lying; diameter, length of the straight part, 2:1 ellipsoidal ends beside it
    cone,             ///< standing on its tip: diameter at the top, height
    frustum,          ///< diameter at the bottom, width as the diameter at the top, height
    sphere,           ///< diameter
    lying_oval,       ///< elliptic section: width, height, length
    rounded_box,      ///< length, width, height, diameter of its four upright edges
    strapping,        ///< a table of levels and volumes
    stack,            ///< sections one over the other, the lowest first
};

struct VesselShape {
    VesselKind kind = VesselKind::box;
    double diameter_m = 0, length_m = 0, width_m = 0, height_m = 0;
    std::vector<double> levels_m = {}, volumes_L = {}; ///< strapping: both growing, from an empty vessel on
    std::vector<VesselShape> sections = {};            ///< of a stack
    bool operator==(const VesselShape&) const = default;
};

/// As on the command line and in files: "lying-cylinder".
const std::vector<std::string>& vessel_names();
/// Nothing for an unknown name.
std::optional<VesselKind> vessel_kind(std::string_view name);
/// True where its length is seen from the side, and not in its section.
bool lies(VesselKind kind);
const std::string& vessel_name(VesselKind kind);
/// For people: "lying cylinder".
std::string vessel_title(VesselKind kind);
/// Names of the sizes that a kind needs: diameter, length, width, height; empty for strapping and
/// a stack.
std::vector<std::string> vessel_sizes(VesselKind kind);

/// Error that names the size that is missing, negative or impossible, or the row of the table that goes back.
Result<void> check_vessel(const VesselShape& shape);

/// Inner height, m.
double vessel_height(const VesselShape& shape);
/// L in it at a level of 0 … height; closed forms (a lying cylinder's segment, elliptic ends' caps), and Steffen's
/// (1990, Astron. Astrophys. 239, 443) monotone cubic through a strapping table.
double vessel_volume(const VesselShape& shape, double level_m);
/// The inverse, by search.
double vessel_level(const VesselShape& shape, double volume_L);
/// Width of the section that one draws at a level, m: of the circle of what lies, of the side of a box. NaN
/// outside, and for a strapping table, which knows none.
double vessel_width(const VesselShape& shape, double level_m);
/// The level at which a millimetre is the most litres, m, among a hundred between 0 and `up_to_m`; the lowest where
/// several are alike.
double vessel_worst_level(const VesselShape& shape, double up_to_m);
/// Slope of the volume at a level, L/mm.
double vessel_litres_per_mm(const VesselShape& shape, double level_m);

} // namespace cognitum::physics
