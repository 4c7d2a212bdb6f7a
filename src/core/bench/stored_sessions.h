// How sessions and the rules that begin them stand in the bench file, see stored.h.
#pragma once

#include "core/base/described.h"
#include "core/base/phrase.h"
#include "core/bench/timed_session.h"

namespace cognitum {

template <>
struct Description<TimedSession> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("id", &TimedSession::id)
            .must("name", &TimedSession::name)
            .must("kind", &TimedSession::kind,
                  NamedForm<SessionKind>{session_kind_words(),
                                         phrase("a session is a drive, fermentation, swim, pulse, fire or other.")})
            .must("from", &TimedSession::from, TimeForm{})
            .may("to", &TimedSession::to, TimeForm{})
            .always("readings", &TimedSession::readings)
            .may("rule", &TimedSession::rule);
        f.rule(
            "id", [](const TimedSession& s) { return !s.id.empty() && !s.name.empty(); },
            phrase("a session needs an id and a name."));
        f.rule(
            "to", [](const TimedSession& s) { return s.goes_on() || s.to > s.from; },
            phrase("a session ends after it began."));
    }
};

template <>
struct Description<SessionRule> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("id", &SessionRule::id)
            .must("name", &SessionRule::name)
            .must("kind", &SessionRule::kind,
                  NamedForm<SessionKind>{session_kind_words(),
                                         phrase("a session is a drive, fermentation, swim, pulse, fire or other.")})
            .must("reading", &SessionRule::reading)
            .must("when", &SessionRule::when,
                  NamedForm<SessionWhen>{session_when_words(), phrase("a rule looks at above, below or valued.")})
            .always("limit", &SessionRule::limit)
            .always("least_s", &SessionRule::least_s)
            .always("pause_s", &SessionRule::pause_s)
            .may("readings", &SessionRule::readings)
            .always("live", &SessionRule::live);
        f.rule(
            "id", [](const SessionRule& r) { return !r.id.empty(); }, phrase("a rule needs an id."));
        f.rule(
            "name", [](const SessionRule& r) { return defect_of(r).empty(); },
            [](const SessionRule& r) { return std::string(defect_of(r)); });
    }
};

} // namespace cognitum
