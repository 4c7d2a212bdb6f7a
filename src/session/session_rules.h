// Begins and ends sessions by the rules of the plan, from what is recorded: what one writes live, another finds in
// old data by the same finder.
#pragma once

#include "core/stretch/session_finder.h"
#include "session/archive/archive.h"

#include <QObject>
#include <map>
#include <string>
#include <vector>

namespace cognitum {

class Session;
struct Bench;

/// Where a rule stands in its series.
struct FollowedRule {
    SessionRule rule;
    SessionFinder finder;
    RuleValues values;
    TimeUs next = 0;               ///< time of the first sample that it has not seen
    std::vector<Interval> ended{}; ///< since it was asked last
};

/// What the rules found, put into the plan: sessions that go on, those that ended, and those that were missed. A
/// session that a person ended stays ended, and no more are added than a plan holds. True when anything changed.
bool put_sessions(Bench& bench, const std::vector<FollowedRule>& rules);

class SessionRules : public QObject {
    Q_OBJECT

  public:
    explicit SessionRules(Session& session);
    /// Looks through what was recorded since it looked last. Called every few seconds, and by tests.
    void lookNow();

  private:
    Session& m_session;
    std::map<std::string, FollowedRule> m_followed; ///< by id of the rule
    QString m_path;
    ArchiveQuestion<std::vector<FollowedRule>> m_question;
};

} // namespace cognitum
