// A simulated board heard through the decoder, as the session hears it, without processes: bytes in, the raw signal
// of a reading and its verdicts out.
#pragma once

#include "core/analyse/health.h"
#include "core/decode/stream.h"
#include "core/plan/signal_about.h"
#include "demo/board.h"
#include "demo/wire.h"
#include "support/support.h"

#include <deque>

namespace cognitum::test {

inline const Bench& demo_plan() {
    static const Bench bench = [] {
        auto loaded = load_bench_json(data_folder() + "/demo/whelk-point.json");
        if (!loaded) qFatal("%s", loaded.error().text().c_str());
        return *loaded;
    }();
    return bench;
}

class HeardBoard {
  public:
    static constexpr TimeUs start = 1795617060LL * second_us; // 2026-11-25T14:31:00Z

    HeardBoard(const std::string& board, const std::string& reading, std::uint64_t seed = 20261)
        : m_name(board), m_now(start), m_stream({}, board == "beacon-log") {
        m_board = demo::make_board(board, {seed, 0, 0}, start);
        choose(reading);
        if (m_reading->source.signal.empty() && board == "gauge") command("wave off"); // sixty lines a second less
        for (const demo::Sent& sent : m_board->start(m_now))
            hear(sent);
    }
    void choose(const std::string& reading) {
        m_reading = demo_plan().reading(reading);
        if (!m_reading) qFatal("no reading %s", reading.c_str());
        m_placed = place(demo_plan(), catalog(), *m_reading);
        m_rules = failure_rules_of(m_placed);
        samples.clear();
    }
    std::string command(const std::string& line) { return m_board->command(line, m_now); }
    void run(double s) {
        const TimeUs end = m_now + from_seconds(s);
        while (m_now < end) {
            m_now = std::min(end, std::max(m_now + 1, m_board->next()));
            for (const demo::Sent& sent : m_board->step(m_now))
                hear(sent);
        }
    }
    std::vector<HealthVerdict> verdicts() {
        const std::vector<RawSample> now(samples.begin(), samples.end());
        return judge_health(now, about_signal(m_placed), m_stream.recent_facts(m_now));
    }
    [[nodiscard]] const Stream& stream() const { return m_stream; }
    [[nodiscard]] const Placed& placed() const { return m_placed; }
    [[nodiscard]] std::vector<RawSample> heard() const { return {samples.begin(), samples.end()}; }
    [[nodiscard]] TimeUs now() const { return m_now; }

    std::deque<RawSample> samples; ///< the last 1 200, as the session keeps them

  private:
    void hear(const demo::Sent& sent) {
        std::string bytes = sent.bytes;
        if (m_board->faults().on("wrong-speed")) bytes = demo::as_heard(bytes, 9600, 115200);
        const bool message = m_name == "shed" || m_name == "pump-house";
        if (sent.retained) return;
        const std::string name = sent.channel.substr(sent.channel.rfind('/') + 1);
        const auto& rows = message ? m_stream.feed_message(bytes, name, m_now) : m_stream.feed(bytes, m_now);
        const std::string wanted = m_reading->source.signal.empty() ? m_reading->field() : m_reading->source.signal;
        const std::uint32_t field = m_stream.decoder().field(wanted);
        for (const Stream::Row& row : rows) {
            const auto value = m_stream.records().value(row.row, field);
            if (!value) continue;
            const bool failed = failed_by(m_rules, *value, m_before, part_span(m_placed)) != nullptr;
            if (!failed && std::isfinite(*value)) m_before = *value;
            samples.push_back({row.time, failed ? std::nan("") : *value});
            if (samples.size() > 1200) samples.pop_front();
        }
    }

    std::string m_name;
    std::unique_ptr<demo::Board> m_board;
    TimeUs m_now;
    Stream m_stream;
    const Reading* m_reading = nullptr;
    Placed m_placed;
    std::vector<FailureRule> m_rules;
    double m_before = std::nan("");
};

} // namespace cognitum::test
