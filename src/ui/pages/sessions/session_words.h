// Words for sessions, on the screen and on paper.
#pragma once

#include "core/bench/bench.h"

#include <QString>

namespace cognitum {

/// "34 min", "2 h 20 min", "21 d".
QString session_length(const TimedSession& session, TimeUs now);
/// "12 June 19:10 to 21:40", "since 12 June 19:10".
QString session_when(const TimedSession& session, TimeUs now);
/// "25 Nov 09:30": for a list.
QString session_began(const TimedSession& session);
/// Proposed for a session that is begun by hand.
TimedSession session_begun(const Bench& bench, SessionKind kind, TimeUs from, TimeUs to);

} // namespace cognitum
