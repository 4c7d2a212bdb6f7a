// A stretch of one reading in figures, read from the bench file: what it amounts to, and how sure that is.
#pragma once

#include "core/base/calendar.h"
#include "core/catalog/cards.h"
#include "core/stretch/stretch.h"
#include "store/file/bench_file.h"

#include <optional>
#include <string>
#include <vector>

namespace cognitum {

struct ReadingFigures {
    StretchFigures stretch; ///< value's unit: the quantity's
    TimeUs usual = 0;       ///< step between lines
    Adds adds = Adds::nothing;
    /// Standard uncertainties. Of the mean: the noise of single values over the root of their number, and what all
    /// values share (constants, calibration, drift, the part's own limit), which no averaging mends. NaN: there is
    /// no mean, or no total.
    double u_mean = no_number, u_total = no_number;
    std::string trouble;       ///< why the reading cannot be read; empty: it was
    bool shared_known = false; ///< what all values share is known; if not, the doubts hold the noise alone

    /// ± for the digits in which the mean, or a single value, is shown: where what all values share is not known, a
    /// tenth of the accuracy that is needed, for the noise alone would promise digits that nobody knows.
    [[nodiscard]] double digits_of_mean(const Quantity& quantity) const;
    [[nodiscard]] double digits_of_value(const Quantity& quantity) const;
};

/// Over [from, to); without them from the first sample, up to one usual step behind the last.
Result<ReadingFigures> figures_of(BenchFile& file, const Bench& bench, const Catalog& catalog,
                                  const Reading& reading, std::optional<TimeUs> from, std::optional<TimeUs> to);

/// Standard uncertainty of one value with what is known of its path, calibration and part; NaN: nothing is.
double value_u(const Bench& bench, const Catalog& catalog, const Reading& reading, double value, TimeUs when);

/// One reading over one period: its total, or its mean where it has none.
struct PeriodValue {
    double value = no_number;
    double doubt = no_number; ///< expanded, 95 % (k = 2); NaN: not known
    double coverage = 0;
};
struct PeriodFigures {
    CalendarPeriod period;
    PeriodValue own;
    std::optional<PeriodValue> other;       ///< of the reading that it is set against, in this one's unit
    double difference = no_number;          ///< own − other, where both have a value
    double doubt_of_difference = no_number; ///< of two that know nothing of each other, 95 %
    std::string says;                       ///< what the difference can and cannot prove; empty without another
};
struct PeriodTable {
    bool totals = false; ///< values are totals, else means
    std::string unit;
    std::vector<PeriodFigures> rows;
};
/// Whole periods of local time that the samples touch, in one pass for each reading. Error when the two are not of
/// one dimension.
Result<PeriodTable> figures_by_period(BenchFile& file, const Bench& bench, const Catalog& catalog,
                                      const Reading& reading, const Reading* against, Period period,
                                      const ZoneOffset& zone, TimeUs day_start = 0);

} // namespace cognitum
