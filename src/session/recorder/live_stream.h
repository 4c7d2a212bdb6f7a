// What is live, as bytes between the recorder and a window that looks at the same bench. One description of each
// struct serves the writer and the reader; a reader takes nothing longer than its bound.
#pragma once

#include "session/live/line_store.h"
#include "session/live/live.h"

#include <QByteArray>
#include <map>
#include <string>
#include <vector>

namespace cognitum {

/// What changed since a client was told last.
struct LiveUpdate {
    std::uint64_t revision = 0, log_revision = 0;
    LiveRecording recording;
    std::map<std::string, LiveRule> rules;
    std::map<std::string, LiveLoad> loads;
    std::vector<std::string> readings, boards;           ///< ids of all of them
    std::vector<std::string> begun_anew;                 ///< readings whose points of before say nothing any more
    std::map<std::string, LiveReading> changed_readings; ///< points and signal: only the new ones
    std::map<std::string, LiveBoard> changed_boards;
    std::map<std::string, std::vector<KeptLine>> lines; ///< new ones, by board
    std::vector<std::string> lines_anew;                ///< boards whose lines of before are not those any more
};

QByteArray live_bytes(const LiveUpdate& update);
/// Empty: these are not such bytes, or of another version.
std::optional<LiveUpdate> read_live(const QByteArray& bytes);

/// Where one client stands: makes the next update for it.
class LiveTeller {
  public:
    /// Empty: nothing changed.
    std::optional<LiveUpdate> next(const LiveShare& share, const LineStore& lines);

  private:
    Live m_live;
    std::uint64_t m_revision = 0;
    bool m_first = true;
    std::map<std::string, std::uint64_t> m_readings, m_boards; ///< revisions that were told
    std::map<std::string, TimeUs> m_points, m_signals;         ///< time of the last one that was told
    std::map<std::string, std::size_t> m_sizes;                ///< of the points that were told
    std::map<std::string, std::uint64_t> m_lines;
};

/// Puts an update into what this program shares.
void take_update(const LiveUpdate& update, LiveShare& share, LineStore& lines);

/// A wish of a window, on its way to the recorder.
struct LiveWish {
    enum class Kind : quint8 {
        plan_changed, ///< in the file
        start_recording,
        stop_recording,
        send,         ///< target: board, text: line
        plug,         ///< target: board, number: 1 or 0
        allow_wide,   ///< target: board
        allow_acting, ///< target: control
        log_in,       ///< target: board, text: user, more: password
        by_hand,      ///< target: reading, number: value, doubt
        seen,         ///< target: rule
        hand,         ///< target: control, text: "on", "off" or empty, number: until, µs since 1970
        try_notice,
        log_in_broker, ///< text: user, more: password
        end            ///< the recorder ends
    };
    Kind kind = Kind::plan_changed;
    QString target = {}, text = {}, more = {};
    double number = 0, doubt = 0;
};
QByteArray wish_bytes(const LiveWish& wish);
std::optional<LiveWish> read_wish(const QByteArray& bytes);

inline constexpr int longest_wish = 1 << 16, longest_update = 1 << 26; ///< bytes

} // namespace cognitum
