// Where a time axis has its marks, and what stands at them: from minutes to years, in the desktop's zone.
#pragma once

#include "core/base/time.h"

#include <QString>
#include <vector>

namespace cognitum {

struct TimeTick {
    TimeUs time = 0;
    QString label;
};

/// At most about `most` marks in [from, to), at full minutes, hours, days, months or years. Where a new day or
/// month begins the label says which.
std::vector<TimeTick> time_ticks(TimeUs from, TimeUs to, int most);

/// A moment as finely as it matters in a stretch of that length: "12 June 04:50".
QString time_text(TimeUs t, TimeUs length);

/// "1 to 30 June 2026", "12 June 04:50 to 13 June 02:20": a stretch for a person.
QString stretch_text(TimeUs from, TimeUs to);

} // namespace cognitum
