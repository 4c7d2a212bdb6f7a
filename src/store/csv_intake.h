// Rows of a CSV file to samples, through the same intake as live lines: failure values of the cards, counters,
// readings that follow each other, causes.
#pragma once

#include "core/plan/intake.h"
#include "store/csv_rows.h"
#include "store/sample.h"

#include <span>
#include <string>
#include <vector>

namespace cognitum::csv {

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
        const Reading* reading = nullptr;
        bool is_raw = false;
        Intake intake;
    };
    /// Empty: it is one of many that become one later.
    [[nodiscard]] std::optional<Sample> sample_of(Lane& lane, TimeUs time, const Cell& cell);

    const Bench& m_plan;
    PartnerValues m_partners;
    std::vector<Lane> m_lanes; ///< those that others follow first
    std::vector<Taken> m_taken;
};

} // namespace cognitum::csv
