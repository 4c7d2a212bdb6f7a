// A vessel with the sensor that looks into it: what is drawn of it at Quantity, and what the rules judge, from one
// place, so that picture and finding never disagree. Levels in mm above the bottom.
#pragma once

#include "core/bench/quantity.h"
#include "core/catalog/part_card.h"

#include <optional>

namespace cognitum {

/// Half the free width at a level, mm; that of the plan where the shape is not said or has none there.
double vessel_half_width_mm(const Vessel& vessel, double level_mm);

/// Level that a value of a reading in a vessel stands for, mm: of a level itself, of a volume through the shape.
/// NaN where there is none.
double vessel_level_mm(const Quantity& quantity, double value);

/// The beam of a ranger above the water, down to the lowest level.
struct VesselBeam {
    double from_mm = 0, to_mm = 0; ///< the face, and the lowest level that is to be measured
    double half_mm = 0;            ///< half its width at the lowest level
    double beam_mm = 0;            ///< its width there, where it is widest
    double free_mm = 0;            ///< the narrowest free width around it, as planned; a round bottom is left out
    [[nodiscard]] bool meets_wall() const { return beam_mm > 1.001 * free_mm; }
};
/// Nothing for a part without a beam, or where the face's height is not said. Lowest level: the outlet; where that
/// is not said the lower end of an expected level.
std::optional<VesselBeam> beam_in_vessel(const Quantity& quantity, const PartCard& part);

/// What a millimetre is worth.
struct VesselFigures {
    double top_mm = 0, holds_L = 0;     ///< up to full, or to the brim
    double worst_mm = 0, worst_L = 0;   ///< where a millimetre is the most, and how much
    double here_L = 0;                  ///< a millimetre at the level of now; NaN: there is none
    std::optional<double> part_mm;      ///< what the part's data sheet leaves open at the worst level, ±
    std::optional<double> percent_full; ///< by the level of now, between empty and full
};
/// `level_now_mm`: NaN: not known. Error for a shape that is none.
Result<VesselFigures> vessel_figures(const Quantity& quantity, const PartCard* part, double level_now_mm);

} // namespace cognitum
