// The log sheet of the whole bench as values: a row for each reading (beds beside each other share one), what needs
// a look first and why, what follows from its record, and how it is proven.
#pragma once

#include "core/base/no_number.h"
#include "core/watch/hours.h"
#include "core/watch/outlook.h"
#include "session/archive/recorded.h"
#include "session/path_state.h"

#include <functional>
#include <map>
#include <string>
#include <vector>

namespace cognitum {

/// What the sheet knows of the record.
struct OverviewRecord {
    std::map<std::string, DayFigures> days;
    std::map<std::string, HourCounter> hours; ///< go on with what comes
    std::map<std::string, TimeUs> read_to;
    std::map<std::string, Outlook> outlooks;
};
/// Brings `known` up to `now`; the first time it reads the last five weeks.
Result<OverviewRecord> overview_record(BenchFile& file, const Bench& bench, OverviewRecord known, TimeUs now);

struct OverviewRow {
    std::vector<std::string> readings; ///< ids
    QString group;                     ///< heading; "" for those that need a look is the sheet's own
    QString name;
    Mark mark = Mark::not_begun;
    bool needs_look = false;
    QString why;                 ///< it does; one sentence
    QString number, doubt;       ///< "18.5", "± 0.5 °C"
    QString state;               ///< "in range · 2 s"
    QString follows;             ///< what follows from the record
    QString proven;              ///< "calibrated 3 Nov · pass"
    std::vector<double> values;  ///< of each reading; NaN: it has none
    double expanded = no_number; ///< ± at 95 % of the first one's value; NaN: not known
};

/// In the order of the plan, what needs a look first, then group by group. `state_of`: of a reading.
std::vector<OverviewRow> overview_rows(const Session& session, const Live& live,
                                       const std::function<const PathState&(const std::string&)>& state_of,
                                       const OverviewRecord& record);

} // namespace cognitum
