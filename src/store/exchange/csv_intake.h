// Numbers of a file to samples, through the same intake as live lines: failure values of the cards, counters,
// readings that follow each other, causes.
#pragma once

#include "core/plan/intake.h"
#include "store/exchange/csv_rows.h"
#include "store/exchange/import_run.h"

#include <span>
#include <string>
#include <vector>

namespace cognitum::csv {

/// Numbers of one reading to its samples.
class SampleIntake {
  public:
    /// `plan` must outlive it where numbers are raw. A unit that measures something else changes nothing here:
    /// unit_line() says so before.
    SampleIntake(const Bench& plan, const Catalog* catalog, const Reading& reading, bool is_raw,
                 const std::string& unit);
    /// Empty: it is one of many that become one later. A value is told to those that follow it.
    std::optional<Sample> sample(const Bench& plan, PartnerValues& partners, TimeUs time, const Cell& cell);
    [[nodiscard]] const Reading& reading() const { return m_reading; }

  private:
    Reading m_reading;
    bool m_is_raw = false;
    UnitLine m_line;
    Intake m_intake;
};

class RowIntake {
  public:
    /// `plan` and `columns` (with their readings) must outlive it.
    RowIntake(const Bench& plan, const Catalog* catalog, const std::vector<CsvColumn>& columns);

    struct Taken {
        std::size_t lane = 0; ///< in lanes()
        Sample sample;
    };
    /// Ids of the readings that samples go to.
    [[nodiscard]] std::vector<std::string> lanes() const;
    /// Samples of a row, one cell for each column. Valid until the next call.
    std::span<const Taken> take(TimeUs time, std::span<const Cell> cells);

  private:
    struct Lane {
        std::size_t column = 0;
        std::size_t cause_column = 0; ///< as `column`: there is none
        SampleIntake intake;
    };

    const Bench& m_plan;
    PartnerValues m_partners;
    std::vector<Lane> m_lanes; ///< those that others follow first
    std::vector<Taken> m_taken;
};

} // namespace cognitum::csv
