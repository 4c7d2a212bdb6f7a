// One board's stream: decoding, times, sequence numbers, and what they prove about the link. Everything between the
// bytes of a link and the readings, without a link and without readings.
#pragma once

#include "core/analyse/signal.h"
#include "core/base/no_number.h"
#include "core/decode/decoder.h"
#include "core/decode/sender.h"

#include <utility>

namespace cognitum {

class Stream {
  public:
    /// `by_sender`: rows take the time that they say themselves (files); otherwise that of their arrival, less the
    /// milliseconds that they say they waited on their board (`late_ms`).
    explicit Stream(Format format = {}, bool by_sender = false)
        : m_decoder(std::move(format)), m_by_sender(by_sender) {}

    struct Row {
        TimeUs time = 0;     ///< strictly growing, unless by sender
        std::size_t row = 0; ///< in records()
    };
    /// Rows of the bytes that arrived at `arrival`; doubled lines are left out. Valid until the next call.
    const std::vector<Row>& feed(std::string_view bytes, TimeUs arrival);
    const std::vector<Row>& feed_message(std::string_view message, std::string_view name, TimeUs arrival);
    const std::vector<Row>& finish(TimeUs arrival); ///< a file's last line without an end counts

    /// When the sender began, by the milliseconds since then that its last line says; empty: it says none.
    [[nodiscard]] std::optional<TimeUs> started(TimeUs arrival) const;

    [[nodiscard]] const Records& records() const { return m_records; }
    [[nodiscard]] Decoder& decoder() { return m_decoder; }
    [[nodiscard]] const Decoder& decoder() const { return m_decoder; }
    /// Over the whole stream.
    [[nodiscard]] StreamFacts facts() const;
    /// Over the last ten minutes before `now`; less when the stream is younger.
    [[nodiscard]] StreamFacts recent_facts(TimeUs now) const;

  private:
    const std::vector<Row>& time_rows(TimeUs arrival);
    [[nodiscard]] TimeUs late_us(std::size_t row, std::uint32_t field) const;
    void remember(TimeUs arrival);

    Decoder m_decoder;
    bool m_by_sender;
    Records m_records;
    std::vector<Row> m_rows;
    SequenceWatch m_sequence;
    SenderClock m_clock;
    ClockCompare m_compared;
    ClockFit m_clock_fit; ///< as it stood at the last snapshot
    TimeUs m_last_time = 0, m_last_late = 0;
    double m_last_ms = no_number;
    std::uint64_t m_bytes = 0, m_odd_bytes = 0;
    std::deque<std::pair<TimeUs, StreamFacts>> m_history; ///< facts as they stood, one for each ten seconds
};

} // namespace cognitum
