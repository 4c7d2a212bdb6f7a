#include "core/bench/timed_session.h"

#include "core/base/phrase.h"

#include <cmath>

namespace cognitum {

namespace {

constexpr std::pair<SessionKind, const char*> kind_words[] = {
    {SessionKind::other, "other"}, {SessionKind::drive, "drive"}, {SessionKind::fermentation, "fermentation"},
    {SessionKind::swim, "swim"},   {SessionKind::pulse, "pulse"}, {SessionKind::fire, "fire"}};
constexpr std::pair<SessionWhen, const char*> when_words[] = {
    {SessionWhen::above, "above"}, {SessionWhen::below, "below"}, {SessionWhen::valued, "valued"}};

} // namespace

std::span<const std::pair<SessionKind, const char*>> session_kind_words() {
    return kind_words;
}

std::span<const std::pair<SessionWhen, const char*>> session_when_words() {
    return when_words;
}

const char* session_title(SessionKind kind) {
    switch (kind) {
    case SessionKind::drive: return phrase("Drive");
    case SessionKind::fermentation: return phrase("Fermentation");
    case SessionKind::swim: return phrase("Swim");
    case SessionKind::pulse: return phrase("Pulse");
    case SessionKind::fire: return phrase("Fire");
    case SessionKind::other: break;
    }
    return phrase("Session");
}

std::string_view defect_of(const SessionRule& rule) {
    if (rule.name.empty()) return phrase("a rule needs a name.");
    if (!std::isfinite(rule.limit)) return phrase("the limit must be a number.");
    if (!(rule.least_s >= 0) || !(rule.pause_s > 0))
        return phrase("a session's shortest length is not below 0, its pause above 0.");
    if (rule.least_s > 366 * 86400.0 || rule.pause_s > 366 * 86400.0) return phrase("a length is at most a year.");
    return {};
}

} // namespace cognitum
