// How a reading's error moves from one calibration to the next, and when it will meet the limit.
#pragma once

#include "core/base/no_number.h"
#include "core/calibrate/record.h"
#include "core/catalog/part_card.h"

#include <optional>
#include <span>

namespace cognitum {

/// Between two calibrations where a reading says nothing else.
inline constexpr double usual_calibration_months = 12;

struct DriftPoint {
    TimeUs time = 0;
    double error = 0; ///< mean of indication − reference of the uncorrected path, reading's unit
    double u = 0;     ///< standard uncertainty
};

struct Drift {
    std::vector<DriftPoint> points; ///< oldest first; only of the path that is in use now
    double per_year = no_number;    ///< slope of the line through them
    double u_per_year = per_year;   ///< its standard uncertainty
    double dof = 0;
    bool from_data_sheet = false; ///< fewer than two calibrations: the part's own claim, either way
    TimeUs due = 0;               ///< when it is to be calibrated again; 0: never was
    enum class Because { interval, drift, disturbed } because = Because::interval;
    /// Error expected at a time, and the half width of its 95 % band, counted from the newest calibration.
    [[nodiscard]] double shift_at(TimeUs time) const;
    [[nodiscard]] double band_at(TimeUs time) const;
    [[nodiscard]] bool real() const; ///< the slope is not zero beyond doubt (95 %)
};

/// Records oldest first; those of another path are left out. A line through the mean errors, weighted by their
/// doubts; the band is that of the line or of the stated doubts, whichever is wider. Next due: when shift and band
/// and what the calibration itself left open meet the limit, or after the interval (twelve months where none is
/// set), or at once when the build was moved, sealed or opened since: the earliest. `sheet_per_year`: what the
/// part's data sheet says it may drift, ±, unit; 0: nothing.
Drift drift_of(const Reading& reading, std::span<const CalibrationRecord> records, double sheet_per_year);
/// The same with what the card of its part says; null: no part is chosen.
Drift drift_by_card(const Reading& reading, std::span<const CalibrationRecord> records, const PartCard* part);

/// "drifts + 0.11 °C a year", "no drift to be seen (± 0.05 °C a year)".
std::string drift_text(const Drift& drift, const std::string& unit);

} // namespace cognitum
