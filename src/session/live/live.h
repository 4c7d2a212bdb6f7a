// What the running bench knows right now, as values. The ingest worker writes them under a lock, the interface
// takes copies: it pulls, it is never pushed at line rate.
#pragma once

#include "core/analyse/health.h"
#include "core/base/no_number.h"
#include "core/decode/stream.h"
#include "core/signal_path/stage.h"
#include "core/watch/bands.h"
#include "link/link.h"

#include <QString>
#include <deque>
#include <map>
#include <mutex>
#include <optional>
#include <string>
#include <vector>

namespace cognitum {

struct LivePoint {
    TimeUs time = 0;
    double raw = 0;   ///< NaN: the line brought none
    double value = 0; ///< corrected, reading's unit; NaN: no value
};

struct LiveReading {
    std::uint64_t revision = 0; ///< of Live, when it changed last
    std::optional<TimeUs> time; ///< of the last line that should have brought it
    double raw = no_number;
    Value value = Value::none(Cause::missing); ///< corrected, with the cause when there is none
    std::string cause;                         ///< a sentence
    Zone zone = Zone::unknown;
    std::deque<LivePoint> points; ///< the last `ring_size`
    std::deque<RawSample> signal; ///< of the field that the Raw stop looks at, where that is another one
    bool by_hand = false;         ///< the last value was typed or tapped
    double hand_doubt = 0;        ///< ± of that value, at 95 %
    static constexpr std::size_t ring_size = 1200;
};

struct LiveBoard {
    std::uint64_t revision = 0; ///< of Live, when it changed last
    LinkState state = LinkState::closed;
    QString reason, port, format;
    QString format_reason; ///< why this format, and what else it could be
    std::uint64_t lines = 0, lost = 0, rejected = 0, resets = 0;
    std::optional<TimeUs> last_line;
    QString reference; ///< as the board says: supply or internal; empty: it does not say
    QString program;   ///< fingerprint of the plan that its program was written from; empty: it does not say
    QString restart;   ///< why it began, as it says
    std::vector<Field> fields; ///< what its lines bring, in the order of their first coming
    StreamFacts facts;         ///< over the last ten minutes
    double lines_per_s = 0;    ///< over the last ten seconds
    std::vector<Rejection> rejections;
    std::deque<RejectedLine> rejected_last;
    std::uint64_t dropped = 0; ///< lines or messages that came faster than they could be taken
    std::uint64_t kept = 0;    ///< messages that the broker had kept: their age is not known
    QString secret_wanted;     ///< of what a user name and password are asked for
    QString permission_wanted; ///< what the plan asks for and a person has not allowed on this computer
    QString answer;            ///< to the last command
    std::uint64_t answers = 0; ///< counts answers, so that a new one with the same text is seen
};

struct LiveRecording {
    bool on = false;
    TimeUs since = 0;
    std::optional<TimeUs> saved_at;
    std::uint64_t saved = 0; ///< samples
    QString trouble;         ///< a sentence while it cannot save; samples wait in memory
    std::uint64_t waiting = 0;
    std::uint64_t lost = 0; ///< samples that neither the file nor the memory could take
};

/// A watch rule that is judged.
struct LiveRule {
    bool raised = false;
    TimeUs since = 0;    ///< when it was raised
    bool unseen = false; ///< it was told and nobody has said that it was seen
    bool operator==(const LiveRule&) const = default;
};

/// A load that follows a rule.
struct LiveLoad {
    bool on = false;
    TimeUs since = 0;
    std::string why; ///< a sentence's end: "“Dry” holds"
    bool by_hand = false;
    TimeUs hand_until = 0;
    TimeUs waits_until = 0; ///< it should be on, and may be then; 0: it does not wait
    std::string trouble;    ///< why it could not be told; empty: it was
    bool operator==(const LiveLoad&) const = default;
};

struct Live {
    std::uint64_t revision = 0;     ///< grows with every change
    std::uint64_t log_revision = 0; ///< grows with every logbook entry by the worker
    std::map<std::string, LiveReading> readings;
    std::map<std::string, LiveBoard> boards;
    LiveRecording recording;
    std::map<std::string, LiveRule> rules; ///< by id; those that are on
    std::map<std::string, LiveLoad> loads; ///< by id of the control; those that act
};

/// Shared between the worker and the interface.
class LiveShare {
  public:
    [[nodiscard]] std::uint64_t revision() const {
        const std::lock_guard lock(m_mutex);
        return m_live.revision;
    }
    [[nodiscard]] Live copy() const {
        const std::lock_guard lock(m_mutex);
        return m_live;
    }
    /// Brings a copy up to date: what did not change is not copied again.
    void update(Live& mine) const {
        const std::lock_guard lock(m_mutex);
        if (mine.revision == m_live.revision) return;
        update_map(m_live.readings, mine.readings);
        update_map(m_live.boards, mine.boards);
        mine.recording = m_live.recording;
        mine.rules = m_live.rules;
        mine.loads = m_live.loads;
        mine.log_revision = m_live.log_revision;
        mine.revision = m_live.revision;
    }
    template <typename F>
    void change_reading(const std::string& id, F f) {
        const std::lock_guard lock(m_mutex);
        LiveReading& reading = m_live.readings[id];
        f(reading);
        reading.revision = ++m_live.revision;
    }
    template <typename F>
    void change_board(const std::string& id, F f) {
        const std::lock_guard lock(m_mutex);
        LiveBoard& board = m_live.boards[id];
        f(board);
        board.revision = ++m_live.revision;
    }
    template <typename F>
    void change_recording(F f) {
        const std::lock_guard lock(m_mutex);
        f(m_live.recording);
        ++m_live.revision;
    }
    void change_rules(std::map<std::string, LiveRule> rules) {
        const std::lock_guard lock(m_mutex);
        if (m_live.rules == rules) return;
        m_live.rules = std::move(rules);
        ++m_live.revision;
    }
    void change_loads(std::map<std::string, LiveLoad> loads) {
        const std::lock_guard lock(m_mutex);
        if (m_live.loads == loads) return;
        m_live.loads = std::move(loads);
        ++m_live.revision;
    }
    void change_log() {
        const std::lock_guard lock(m_mutex);
        ++m_live.log_revision;
        ++m_live.revision;
    }
    /// As another program counts it.
    void change_log_to(std::uint64_t log_revision) {
        const std::lock_guard lock(m_mutex);
        m_live.log_revision = log_revision;
        ++m_live.revision;
    }
    /// Anything; all of it counts as changed.
    template <typename F>
    void change_all(F f) {
        const std::lock_guard lock(m_mutex);
        f(m_live);
        ++m_live.revision;
        for (auto& [id, reading] : m_live.readings)
            reading.revision = m_live.revision;
        for (auto& [id, board] : m_live.boards)
            board.revision = m_live.revision;
    }

  private:
    template <typename T>
    static void update_map(const std::map<std::string, T>& from, std::map<std::string, T>& to) {
        std::erase_if(to, [&](const auto& entry) { return !from.contains(entry.first); });
        for (const auto& [id, value] : from)
            if (T& mine = to[id]; mine.revision != value.revision) mine = value;
    }
    mutable std::mutex m_mutex;
    Live m_live;
};

} // namespace cognitum
