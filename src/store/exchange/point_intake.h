// Numbers that come one by one with the name of their reading: rows of a long CSV, records of JSON and SenML.
#pragma once

#include "store/exchange/csv_intake.h"
#include "store/exchange/import_run.h"

#include <map>
#include <string>
#include <string_view>

namespace cognitum {

struct Point {
    TimeUs time = 0;
    std::string_view name, unit;               ///< as the file says; the unit may be empty
    csv::Cell cell = {no_number, Cause::none}; ///< NaN without a cause: there is no value
};

/// Sends points to their readings, which are created where the plan has none of the name.
class PointIntake {
  public:
    PointIntake(ImportRun& run, const Catalog* catalog, bool as_raw)
        : m_run(run), m_catalog(catalog), m_as_raw(as_raw) {}
    /// Empty: it was taken, or is one of many that become one; else why not.
    std::string take(std::uint64_t line, const Point& point);

  private:
    struct Lane {
        std::size_t lane = 0;
        std::string refused; ///< why its numbers cannot be taken
        csv::SampleIntake intake;
    };
    Lane& lane_of(const Point& point);
    ImportRun& m_run;
    const Catalog* m_catalog;
    bool m_as_raw;
    PartnerValues m_partners;
    std::map<std::string, Lane, std::less<>> m_lanes; ///< by name and unit as the file writes them
    std::string m_key;
};

} // namespace cognitum
