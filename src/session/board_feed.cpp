#include "session/board_feed.h"

#include "link/serial_link.h"
#include "link/simulated_link.h"

#include <algorithm>
#include <cmath>

namespace cognitum {

namespace {

int column_of(const TableDecoder& decoder, std::string_view name) {
    const auto& names = decoder.names();
    const auto found = std::find(names.begin(), names.end(), name);
    return found == names.end() ? -1 : static_cast<int>(found - names.begin());
}

} // namespace

BoardFeed::BoardFeed(BoardUse board, LiveShare* share, Clock clock, Sink sink, QStringList simulation_arguments)
    : m_board(std::move(board)), m_share(share), m_clock(std::move(clock)), m_sink(std::move(sink)) {
    if (m_board.link.kind == LinkKind::serial) {
        m_link = std::make_unique<SerialLink>(QString::fromStdString(m_board.link.port), m_board.link.baud);
    } else if (m_board.link.kind == LinkKind::simulated) {
        simulation_arguments << QStringLiteral("--seed") << QString::number(m_board.link.seed);
        m_link = std::make_unique<SimulatedLink>(simulation_arguments);
    }
    m_share->change([&](Live& live) { live.boards[m_board.id] = LiveBoard{}; });
    if (!m_link) return;
    connect(m_link.get(), &Link::bytes, this, &BoardFeed::take);
    connect(m_link.get(), &Link::stateChanged, this, &BoardFeed::onState);
}

void BoardFeed::start() {
    if (m_link) m_link->start();
}

void BoardFeed::send(const QByteArray& line) {
    if (m_link) m_link->send(line + '\n');
}

void BoardFeed::setPlugged(bool plugged) {
    if (auto* simulated = qobject_cast<SimulatedLink*>(m_link.get())) simulated->setPlugged(plugged);
}

void BoardFeed::onState(LinkState state, const QString& reason) {
    // After an opening the first line may be half a one, and the board may be another: learn anew.
    if (state == LinkState::open) {
        m_decoder = TableDecoder();
        m_headers_seen = 0;
        m_last_sequence = -1;
        m_line_rest.clear();
        send("reset"); // a board that knows the word prints its header; others ignore it
    }
    m_share->change([&](Live& live) {
        LiveBoard& board = live.boards[m_board.id];
        board.state = state;
        board.reason = reason;
        board.port = m_link->place();
    });
}

void BoardFeed::take(const QByteArray& bytes) {
    const TimeUs arrival = m_clock();
    m_share->change([&](Live& live) { live.boards[m_board.id].state = LinkState::open; });
    keepLines(bytes, arrival);
    m_batch.clear();
    m_decoder.feed({bytes.constData(), static_cast<std::size_t>(bytes.size())}, m_batch);
    takeComments();
    takeRows(arrival);
    m_share->change([&](Live& live) {
        LiveBoard& board = live.boards[m_board.id];
        board.format = QString::fromStdString(m_decoder.format_text());
        board.columns = m_decoder.names();
        board.rejected = m_decoder.rejections().total();
        board.rejections.clear();
        for (const Rejection& r : m_decoder.rejections().reasons())
            board.rejections.emplace_back(r.reason, r.count);
        if (m_decoder.headers() > m_headers_seen + (m_headers_seen == 0 ? 1 : 0)) ++board.resets;
        m_headers_seen = m_decoder.headers();
    });
}

/// Lines for the eye, as they came; decoding does not look at these.
void BoardFeed::keepLines(const QByteArray& bytes, TimeUs arrival) {
    m_line_rest += bytes;
    std::vector<LiveLine> lines;
    qsizetype start = 0;
    for (qsizetype end = 0; (end = m_line_rest.indexOf('\n', start)) >= 0; start = end + 1)
        lines.push_back(
            {arrival, QString::fromUtf8(m_line_rest.mid(start, std::min<qsizetype>(end - start, 160))).trimmed()});
    m_line_rest.remove(0, start);
    if (m_line_rest.size() > 4096) m_line_rest.clear();
    m_share->change([&](Live& live) {
        LiveBoard& board = live.boards[m_board.id];
        for (LiveLine& line : lines) {
            board.recent.push_back(std::move(line));
            ++board.lines;
        }
        while (board.recent.size() > LiveBoard::recent_size)
            board.recent.pop_front();
        if (!lines.empty()) board.last_line = arrival;
    });
}

void BoardFeed::takeComments() {
    for (const std::string& comment : m_decoder.take_comments()) {
        const std::string reference = comment_value(comment, "reference");
        const bool is_answer = comment.rfind("ok", 0) == 0 || comment.rfind("error", 0) == 0;
        m_share->change([&](Live& live) {
            LiveBoard& board = live.boards[m_board.id];
            if (!reference.empty()) board.reference = QString::fromStdString(reference);
            if (!is_answer) return;
            board.answer = QString::fromStdString(comment);
            ++board.answers;
        });
    }
}

void BoardFeed::countLost(double sequence) {
    if (m_last_sequence >= 0 && sequence > m_last_sequence + 1)
        m_share->change([&](Live& live) {
            live.boards[m_board.id].lost += static_cast<std::uint64_t>(sequence - m_last_sequence - 1);
        });
    m_last_sequence = sequence;
}

void BoardFeed::takeRows(TimeUs arrival) {
    const std::size_t rows = m_batch.rows();
    if (rows == 0) return;
    const int sequence = column_of(m_decoder, "seq");
    const int sender_ms = column_of(m_decoder, "ms");
    const auto cell = [&](std::size_t row, int column) {
        return m_batch.values[row * m_batch.columns + static_cast<std::size_t>(column)];
    };
    for (std::size_t row = 0; row < rows; ++row) {
        // Rows of one chunk arrived together; the sender's own time says how far apart they were measured.
        TimeUs time = arrival;
        if (sender_ms >= 0) {
            const double behind = cell(rows - 1, sender_ms) - cell(row, sender_ms);
            if (behind > 0 && behind < 60'000) time = arrival - static_cast<TimeUs>(behind * 1000);
        }
        time = std::max(time, m_last_time + 1); // no two samples at one time, none before the last
        m_last_time = time;
        if (sequence >= 0 && std::isfinite(cell(row, sequence))) countLost(cell(row, sequence));
        for (const Route& route : m_routes) {
            const int column = column_of(m_decoder, route.column);
            if (column >= 0) m_seen.insert(route.column);
            // What the board's program never sent is a plan, not a loss.
            if (column < 0 && !m_decoder.names().empty() && !m_seen.count(route.column)) continue;
            Sample sample{time, std::numeric_limits<double>::quiet_NaN(), std::numeric_limits<double>::quiet_NaN(),
                          Cause::missing};
            if (column >= 0) {
                sample.raw = cell(row, column);
                const Value value = forward(route.path, sample.raw);
                sample.value = value.number;
                sample.cause = value.cause;
            }
            m_sink(route, sample);
        }
    }
}

} // namespace cognitum
