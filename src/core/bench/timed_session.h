// Stretches of time that a person looks at as one (a drive, a fermentation, a swim), and the rules that begin them.
#pragma once

#include "core/base/time.h"

#include <span>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace cognitum {

/// What a session is, which decides what its summary says.
enum class SessionKind { other, drive, fermentation, swim, pulse, fire };
/// With their words in files: "other", "drive".
std::span<const std::pair<SessionKind, const char*>> session_kind_words();
/// For a person: "Session", "Drive".
const char* session_title(SessionKind kind);

struct TimedSession {
    std::string id, name;
    SessionKind kind = SessionKind::other;
    TimeUs from = 0, to = 0;           ///< the end excluded; to 0: it goes on
    std::vector<std::string> readings; ///< ids; the first one leads
    std::string rule = {};             ///< id of the SessionRule that began it; empty: a person did
    bool operator==(const TimedSession&) const = default;
    [[nodiscard]] bool goes_on() const { return to == 0; }
    [[nodiscard]] TimeUs end(TimeUs now) const { return goes_on() ? now : to; }
};

/// When a session is under way, by one reading.
enum class SessionWhen {
    above, ///< its value is above the limit: 60 °C
    below,
    valued ///< it has a value at all: a finger is on the sensor
};
std::span<const std::pair<SessionWhen, const char*>> session_when_words();

struct SessionRule {
    std::string id, name; ///< the name is that of the sessions that it begins
    SessionKind kind = SessionKind::other;
    std::string reading; ///< id
    SessionWhen when = SessionWhen::above;
    double limit = 0;                       ///< unit of the reading
    double least_s = 60;                    ///< what is shorter is no session
    double pause_s = 300;                   ///< longer without it ends one
    std::vector<std::string> readings = {}; ///< ids of others that its sessions look at
    bool live = true;                       ///< begins sessions while it is recorded
    bool operator==(const SessionRule&) const = default;
};

/// First defect of a rule, in a sentence; empty: there is none.
std::string_view defect_of(const SessionRule& rule);

} // namespace cognitum
