#include "core/decode/stream.h"

#include "core/base/no_number.h"

#include <algorithm>
#include <cmath>

namespace cognitum {

namespace {
constexpr TimeUs snapshot_every = 10 * second_us;
constexpr TimeUs recent = 10 * minute_us;
} // namespace

const std::vector<Stream::Row>& Stream::feed(std::string_view bytes, TimeUs arrival) {
    m_records.clear();
    if (m_decoder.format().kind != FormatKind::record) {
        m_bytes += bytes.size();
        m_odd_bytes += static_cast<std::uint64_t>(
            std::count_if(bytes.begin(), bytes.end(), [](char c) { // UTF-8 is text; control bytes are not
                const auto u = static_cast<unsigned char>(c);
                return u == 0x7f || u >= 0xf5 || (u < 0x20 && c != '\n' && c != '\r' && c != '\t');
            }));
    }
    m_decoder.feed(bytes, m_records);
    return time_rows(arrival);
}

const std::vector<Stream::Row>& Stream::feed_message(std::string_view message, std::string_view name,
                                                     TimeUs arrival) {
    m_records.clear();
    m_decoder.feed_message(message, name, m_records);
    return time_rows(arrival);
}

const std::vector<Stream::Row>& Stream::finish(TimeUs arrival) {
    m_records.clear();
    m_decoder.finish(true, m_records);
    return time_rows(arrival);
}

const std::vector<Stream::Row>& Stream::time_rows(TimeUs arrival) {
    m_rows.clear();
    const std::uint32_t sequence_field = m_decoder.field("seq");
    const std::uint32_t ms_field = m_decoder.field("ms");
    const std::uint32_t late_field = m_decoder.field("late_ms");
    double last_ms = no_number;
    if (ms_field != FieldTable::none)
        for (std::size_t i = m_records.rows.size(); i > 0 && !std::isfinite(last_ms); --i)
            last_ms = m_records.value(i - 1, ms_field).value_or(no_number);
    m_last_ms = last_ms;
    for (std::size_t i = 0; i < m_records.rows.size(); ++i) {
        if (sequence_field != FieldTable::none)
            if (const auto sequence = m_records.value(i, sequence_field); sequence && std::isfinite(*sequence))
                if (m_sequence.take(*sequence) == SequenceWatch::Step::duplicate) continue;
        // A board that was cut off sends later, and says by how much.
        const TimeUs sent_late = late_us(i, late_field);
        m_last_late = sent_late;
        TimeUs time = arrival - sent_late;
        if (const auto said = m_records.rows[i].time) {
            m_clock.take(*said, arrival);
            m_compared.take(*said, arrival, true);
            if (m_by_sender) time = *said;
        } else if (std::isfinite(last_ms)) {
            const double ms = m_records.value(i, ms_field).value_or(no_number);
            // Rows of one chunk arrived together; the sender's own time says how far apart they were measured.
            if (std::isfinite(ms)) {
                if (sent_late == 0) time = SenderClock::spread(arrival, ms, last_ms);
                if (std::abs(ms) < 1e15) m_compared.take(static_cast<TimeUs>(1000 * ms), time, false);
            }
        }
        if (!m_by_sender) { // no two samples at one time, none before the last
            time = std::max(time, m_last_time + 1);
            m_last_time = time;
        }
        m_rows.push_back({time, i});
    }
    remember(arrival);
    return m_rows;
}

/// How long a row waited on its board; 0: it does not say, or nothing that can be.
TimeUs Stream::late_us(std::size_t row, std::uint32_t field) const {
    constexpr double longest_ms = 30 * 86400e3;
    if (field == FieldTable::none) return 0;
    const double ms = m_records.value(row, field).value_or(0);
    return ms > 0 && ms <= longest_ms ? static_cast<TimeUs>(1000 * ms) : 0;
}

std::optional<TimeUs> Stream::started(TimeUs arrival) const {
    constexpr double longest_ms = 4294967296.0; // a 32-bit clock of milliseconds goes round after 49.7 days
    if (!(m_last_ms >= 0 && m_last_ms < longest_ms)) return {};
    return arrival - m_last_late - static_cast<TimeUs>(1000 * m_last_ms);
}

StreamFacts Stream::facts() const {
    StreamFacts out;
    const Rejections& rejected = m_decoder.rejections();
    out.lines = m_decoder.lines();
    out.rejected = rejected.total();
    out.bytes = m_bytes;
    out.odd_bytes = m_odd_bytes;
    out.lost = m_sequence.lost();
    out.duplicates = m_sequence.duplicates();
    out.late = m_sequence.late();
    const std::uint64_t headers = m_decoder.headers();
    out.restarts = std::max(m_sequence.restarts(), headers > 0 ? headers - 1 : 0);
    out.set_back = m_clock.set_back();
    out.clock = m_clock_fit;
    return out;
}

void Stream::remember(TimeUs arrival) {
    if (!m_history.empty() && arrival < m_history.back().first + snapshot_every) return;
    m_clock_fit = m_compared.fit();
    m_history.emplace_back(arrival, facts());
    while (m_history.size() > 2 && m_history[1].first < arrival - recent)
        m_history.pop_front();
}

StreamFacts Stream::recent_facts(TimeUs now) const {
    StreamFacts out = facts();
    out.now = now;
    // The newest snapshot that is ten minutes old; a young stream is told from its beginning.
    const auto from =
        std::find_if(m_history.rbegin(), m_history.rend(), [&](const auto& h) { return h.first <= now - recent; });
    if (from == m_history.rend()) return out;
    const StreamFacts& before = from->second;
    out.lines -= before.lines;
    out.rejected -= before.rejected;
    out.bytes -= before.bytes;
    out.odd_bytes -= before.odd_bytes;
    out.lost -= std::min(out.lost, before.lost);
    out.duplicates -= before.duplicates;
    out.late -= before.late;
    out.restarts -= before.restarts;
    out.set_back -= before.set_back;
    return out;
}

} // namespace cognitum
