// What somebody wants to know: kind, range, accuracy, interval, place, and the vessel or funnel that it is about.
#pragma once

#include "core/physics/vessel.h"
#include "core/units/quantity_kind.h"

#include <string>
#include <vector>

namespace cognitum {

/// What stands around the sensor; each asks something of it.
struct Surroundings {
    bool water = false, food = false, outdoors = false;
    bool beside_regulator = false; ///< on or next to the board's regulator
    double hottest_degC = 40;
    bool operator==(const Surroundings&) const = default;
};

/// The vessel under a ranger or a probe. Zero: not said.
struct Vessel {
    std::string shape;   ///< as for `cognitum-cli vessel`; empty: none
    double width_mm = 0; ///< narrowest free width around the beam: tube diameter, tank width
    double length_mm = 0, height_mm = 0;
    double mount_mm = 0;      ///< sensor's face above the bottom
    double full_mm = 0;       ///< level that counts as full, above the bottom
    double diameter_mm = 0;   ///< of a frustum's bottom, of a rounded box's edges
    double empty_mm = 0;      ///< level that counts as empty: the outlet
    double bulge_percent = 0; ///< that it holds more when full, because its walls give way
    std::vector<double> levels_mm = {}, volumes_L = {}; ///< of a strapping table
    bool operator==(const Vessel&) const = default;
};

/// The vessel as a shape with volumes; width is the diameter of what is round. A height that is not said is that of
/// the sensor's face. Check it with physics::check_vessel(). An unknown shape: a box without sizes.
physics::VesselShape vessel_shape(const Vessel& vessel);

/// Of a tipping bucket. Zero: as on its card.
struct Funnel {
    double area_cm2 = 0, tip_mL = 0;
    bool operator==(const Funnel&) const = default;
};

struct Quantity {
    std::string kind = "temperature"; ///< id of a QuantityKind
    std::string unit = "degC";
    double low = -10, high = 40; ///< expected range, unit
    double accuracy = 1;         ///< needed: ± in unit, at 95 %
    double interval_s = 1;       ///< needed: a value every so many seconds
    std::string place = {};
    double sample_s = 0; ///< between two samples on the board; 0: as interval_s
    double change_s = 0; ///< time constant of the fastest change that must be seen; 0: not said
    double stale_s = 0;  ///< age at which a value counts as gone; 0: fifteen intervals and 5 s
    Surroundings around = {};
    Vessel vessel = {};
    Funnel funnel = {};
    double altitude_m = 0;          ///< of the place, above the sea
    std::string expected_when = {}; ///< "30 L an hour while the beds are watered", in a person's words
    bool kept_private = false;      ///< by a person's choice, whatever its kind
    [[nodiscard]] const QuantityKind& about() const { return quantity_kind(kind); }
    /// It leaves the bench only when it is asked for by name.
    [[nodiscard]] bool is_private() const { return kept_private || about().is_private; }
    bool operator==(const Quantity&) const = default;
};

/// Age at which a value of such a reading counts as gone, s.
double silent_after_s(const Quantity& quantity);

/// Expresses range and accuracy in another unit of the same dimension; anything else changes nothing and says
/// false.
bool change_unit(Quantity& quantity, const std::string& unit);

} // namespace cognitum
