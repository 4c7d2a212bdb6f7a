// How sure single recorded values are, for many of them.
#pragma once

#include "core/calibrate/record.h"
#include "store/figures/reading_figures.h"

#include <cstdint>
#include <map>
#include <optional>
#include <vector>

namespace cognitum {

/// The doubt of a reading's values, expanded to 95 % (k = 2), with the calibration in force at their time. It
/// changes slowly with the value, so that it is worked out at steps of a thousandth of the expected range and kept.
class ValueDoubts {
  public:
    /// `records`: of the reading, oldest first. Bench and catalog must outlive it.
    ValueDoubts(const Bench& bench, const Catalog& catalog, const Reading& reading,
                std::vector<CalibrationRecord> records);
    /// Empty: the value is none, or nothing is known of its doubt.
    std::optional<double> at(double value, TimeUs time);

  private:
    const Bench& m_bench;
    const Catalog& m_catalog;
    Reading m_reading;
    std::vector<CalibrationRecord> m_records;
    double m_step;
    std::ptrdiff_t m_force = -1; ///< how many records are older than the last time that was asked for
    std::map<std::int64_t, double> m_known;
};

} // namespace cognitum
