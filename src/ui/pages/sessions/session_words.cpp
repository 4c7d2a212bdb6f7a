#include "ui/pages/sessions/session_words.h"

#include "core/units/format.h"
#include "session/language.h"
#include "ui/pages/logbook/time_ticks.h"
#include "ui/widgets/parts.h"

#include <QCoreApplication>

namespace cognitum {

QString session_length(const TimedSession& session, TimeUs now) {
    const TimeUs length = std::max<TimeUs>(0, session.end(now) - session.from);
    return from_std(duration_text(length));
}

QString session_when(const TimedSession& session, TimeUs now) {
    if (session.goes_on())
        return QCoreApplication::translate("Sessions", "since %1").arg(time_text(session.from, now - session.from));
    return stretch_text(session.from, session.to);
}

QString session_began(const TimedSession& session) {
    return date_said(session.from, "d MMM HH:mm");
}

TimedSession session_begun(const Bench& bench, SessionKind kind, TimeUs from, TimeUs to) {
    TimedSession out;
    out.name = session_title(kind);
    out.id = bench.free_id(out.name);
    out.kind = kind;
    out.from = from;
    out.to = to;
    out.readings = bench.readings_for(kind);
    return out;
}

} // namespace cognitum
