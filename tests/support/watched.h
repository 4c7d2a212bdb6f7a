// A small bench with a watch rule, and what it tells.
#pragma once

#include "support/clocked_session.h"

namespace cognitum::test {

inline WatchRule too_warm() {
    WatchRule rule;
    rule.id = "warm";
    rule.name = "Too warm";
    WatchCondition c;
    c.reading = "air";
    c.value = 24;
    c.clear = 20;
    rule.conditions = {c};
    rule.count = 3;
    return rule;
}

/// A small bench with a rule, and what was told.
class Watched : public ClockedSession {
  public:
    explicit Watched(const WatchRule& rule = too_warm()) {
        open_small_bench(*this);
        listen();
        session.edit("Rule", [&](Bench& bench) { bench.watch_rules.push_back(rule); });
        settle();
    }
    void listen() {
        QObject::connect(&session.messenger(), &Messenger::told, &session,
                         [this](const ToldNotice& notice) { told << notice; });
    }
    void send_lines(int n, int code) {
        lines(n, code);
        settle();
        QCoreApplication::processEvents();
    }
    /// The clock alone.
    void wait(double s) {
        pass(s);
        session.worker().passTimeNow();
        QCoreApplication::processEvents();
    }
    QStringList alerts() {
        QStringList out;
        for (const LogEntry& e : entries(session))
            if (e.kind == log_kind::alert || e.kind == log_kind::recovery)
                out.prepend(QString::fromStdString(plain(e.kind + ": " + e.text)));
        return out;
    }
    QList<ToldNotice> told;
};

} // namespace cognitum::test
