// What sessions amount to, each kind in its own way, and sessions found in what was recorded.
#pragma once

#include "core/base/calendar.h"
#include "core/stretch/session_finder.h"
#include "store/figures/reading_figures.h"

#include <string>
#include <vector>

namespace cognitum {

/// One thing that a session of its kind is asked for.
struct SessionFact {
    std::string reading;      ///< id
    std::string name;         ///< "at the start"
    double value = no_number; ///< NaN: there is none
    double doubt = no_number; ///< expanded, 95 % (k = 2); NaN: not known
    std::string unit;         ///< of both; "s": a length of time
};

/// "62.4 ± 0.5 °C", "34 min", "87 %".
std::string session_fact_text(const SessionFact& fact);

/// A day of a fermentation.
struct SessionDay {
    CalendarPeriod day;
    StretchFigures figures;
};

struct SessionFigures {
    Interval stretch;
    std::vector<std::string> readings; ///< ids of those that the plan still has
    std::vector<ReadingFigures> figures;
    std::vector<SessionFact> facts;
    std::vector<SessionDay> days; ///< of the reading that leads; a fermentation's
    std::string caution;          ///< what its numbers are not; empty: nothing to say
};

/// Over the session; of one that goes on up to `now`. A reading that cannot be read says so in its figures.
Result<SessionFigures> session_figures(BenchFile& file, const Bench& bench, const Catalog& catalog,
                                       const TimedSession& session, TimeUs now, const ZoneOffset& zone);

/// Sessions of a rule in [from, to): those that ended, and one that still goes on, whose end is its last sample.
/// Error when its reading is not in the plan or cannot be read.
Result<std::vector<Interval>> find_sessions(BenchFile& file, const Bench& bench, const SessionRule& rule,
                                            TimeUs from, TimeUs to);

/// One series of a session over the time since its start.
struct SinceStart {
    double seconds = 0;
    double least = no_number, most = no_number, mean = no_number;
};
/// At most about 600 parts, in the quantity's unit.
Result<std::vector<SinceStart>> since_start(BenchFile& file, const std::string& reading, const Interval& stretch);

} // namespace cognitum
