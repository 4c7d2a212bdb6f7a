#include "session/live/board_feed.h"

#include "core/base/no_number.h"
#include "core/units/quantity_kind.h"

#include <QTimer>
#include <algorithm>
#include <chrono>
#include <cmath>
#include <set>

namespace cognitum {

namespace {

constexpr std::chrono::milliseconds longest_turn(30);
constexpr qsizetype read_at_once = 16384;                 ///< bytes
constexpr qsizetype most_waiting_bytes = 8 * 1024 * 1024; ///< bytes

Stream new_stream(const LinkPlan& plan) {
    const auto format = parse_format(plan.format);
    // A file has no arrival: what its lines say is all there is.
    return Stream(format ? *format : Format{}, plan.brings_the_past());
}

} // namespace

BoardFeed::BoardFeed(BoardUse board, LiveShare* share, LineStore* lines, Clock clock, Sink sink, const Bench& bench,
                     PartnerValues& partners, LinkServices& services, WorkerWatch* watch)
    : m_board(std::move(board)),
      m_share(share),
      m_lines(lines),
      m_clock(std::move(clock)),
      m_sink(std::move(sink)),
      m_bench(bench),
      m_partners(partners),
      m_watch(watch),
      m_link(make_link(m_board, services)),
      m_stream(new_stream(m_board.link)) {
    m_share->change_board(m_board.id, [](LiveBoard& live) { live = {}; });
    m_lines->clear(m_board.id);
    if (!m_link) return;
    connect(m_link.get(), &Link::bytes, this, [this](const QByteArray& bytes) {
        if (m_board.link.brings_the_past())
            take(bytes, m_clock()); // a file waits by itself, and nothing of it may be left out
        else
            enqueue({m_clock(), bytes, {}});
    });
    connect(m_link.get(), &Link::message, this, [this](const LinkMessage& message) {
        enqueue({m_clock(), {}, message});
    });
    connect(m_link.get(), &Link::stateChanged, this, &BoardFeed::onState);
    connect(m_link.get(), &Link::speedFound, this, [this](int baud) {
        m_board.link.baud = baud; // the plan follows, and must not open the link anew
        m_board.link.find_speed = false;
        m_sink.speed_found(baud);
    });
    connect(m_link.get(), &Link::secretWanted, this, [this](const QString& what) {
        m_share->change_board(m_board.id, [&](LiveBoard& live) { live.secret_wanted = what; });
    });
    connect(m_link.get(), &Link::permissionWanted, this, [this](const QString& what) {
        m_share->change_board(m_board.id, [&](LiveBoard& live) { live.permission_wanted = what; });
    });
}

void BoardFeed::enqueue(Waiting arrived) {
    m_waiting_bytes += arrived.size();
    m_waiting.push_back(std::move(arrived));
    while (m_waiting_bytes > most_waiting_bytes) {
        m_waiting_bytes -= m_waiting.front().size();
        m_waiting.pop_front();
        ++m_left_out;
    }
    if (!m_work_is_due) work();
}

/// One turn. What is left is read in the next one, after the other boards had theirs.
void BoardFeed::work() {
    using clock = std::chrono::steady_clock;
    const auto end = clock::now() + longest_turn;
    m_work_is_due = false;
    while (!m_waiting.empty()) {
        if (clock::now() > end) {
            m_work_is_due = true;
            QTimer::singleShot(0, this, &BoardFeed::work);
            return;
        }
        readFirst();
    }
}

/// One message, or one piece of bytes.
void BoardFeed::readFirst() {
    Waiting& first = m_waiting.front();
    m_waiting_bytes -= first.size();
    if (first.message) {
        takeMessage(*first.message, first.arrival);
        m_waiting.pop_front();
        return;
    }
    take(first.bytes.left(read_at_once), first.arrival);
    first.bytes.remove(0, std::min(read_at_once, first.bytes.size()));
    m_waiting_bytes += first.size();
    if (first.bytes.isEmpty()) m_waiting.pop_front();
}

void BoardFeed::finishWaiting() {
    constexpr std::chrono::seconds longest(2); // a board that floods does not hold up the end
    const auto end = std::chrono::steady_clock::now() + longest;
    if (m_link) m_link->flush();
    while (!m_waiting.empty() && std::chrono::steady_clock::now() < end)
        readFirst();
}

void BoardFeed::allowWide() {
    m_share->change_board(m_board.id, [&](LiveBoard& board) { board.permission_wanted.clear(); });
    if (m_link) m_link->allowWide();
}

void BoardFeed::setRoutes(std::vector<Route> routes) {
    for (Route& route : routes)
        for (const Route& known : m_routes)
            if (known.reading == route.reading && known.field == route.field) route.intake.carry_on(known.intake);
    m_routes = std::move(routes);
    wantFields();
}

/// What the readings wait for is heard also on a broker with hundreds of topics.
void BoardFeed::wantFields() {
    std::vector<std::string> names, measured;
    std::set<std::string> with_states;
    for (const Route& route : m_routes) {
        const Reading* reading = m_bench.reading(route.reading);
        const bool measures = reading && find_quantity_kind(reading->quantity.kind) &&
                              quantity_kind(reading->quantity.kind).has_no_states();
        for (const std::string& name : {route.field, route.signal}) {
            if (name.empty()) continue;
            names.push_back(name);
            measures ? measured.push_back(name) : void(with_states.insert(name));
        }
    }
    std::erase_if(measured, [&](const std::string& name) { return with_states.contains(name); });
    m_stream.decoder().want_fields(std::move(names), std::move(measured));
}

void BoardFeed::start() {
    if (m_link) m_link->start();
}

void BoardFeed::send(const QByteArray& line) {
    if (m_link) m_link->send(line + '\n');
}

bool BoardFeed::tellState(const std::string& load, const std::string& line, const std::string& topic) {
    if (!m_link) return m_pretends;
    return m_link->tellState(QString::fromStdString(load), QByteArray::fromStdString(line),
                             QString::fromStdString(topic));
}

void BoardFeed::setPlugged(bool plugged) {
    if (m_link) m_link->setPlugged(plugged);
}

void BoardFeed::logIn(const QString& user, const QString& password) {
    m_share->change_board(m_board.id, [&](LiveBoard& board) { board.secret_wanted.clear(); });
    if (m_link) m_link->logIn(user, password);
}

void BoardFeed::forget() {
    m_stream = new_stream(m_board.link);
    wantFields();
    m_headers_seen = 0;
    m_line_rest.clear();
    m_waiting.clear();
    m_waiting_bytes = 0;
    m_line_count = 0;
    m_started.reset();
    m_restarts = 0;
    m_rate.clear();
    m_lines->clear(m_board.id);
}

void BoardFeed::onState(LinkState state, const QString& reason) {
    // After an opening the first line may be half a one, and the board may be another: learn anew.
    if (state == LinkState::open && m_link->isWire() && reason.isEmpty()) {
        forget();
        m_stream.decoder().joined_midway();
        // A board that knows the word says who it is, or prints its header; others ignore it. What nobody has
        // described is told nothing: it may be a machine that moves.
        if (!m_board.card.empty() || m_board.link.is_simulated())
            send(m_board.link.is_simulated() && !m_board.link.runs_the_program() ? "reset" : "who");
    }
    if (m_sink.link && (state == LinkState::open || state == LinkState::lost))
        m_sink.link(state == LinkState::open);
    m_share->change_board(m_board.id, [&](LiveBoard& board) {
        board.state = state;
        board.reason = reason;
        board.port = m_link->place();
    });
}

void BoardFeed::take(const QByteArray& bytes, TimeUs arrival) {
    m_watch->begin(m_board.id);
    const std::uint64_t before = m_stream.decoder().lines();
    const auto& rows = m_stream.feed({bytes.constData(), static_cast<std::size_t>(bytes.size())}, arrival);
    keepLines(bytes, arrival, before + 1);
    const bool by_its_lines = m_board.link.brings_the_past() && !rows.empty();
    noticePower(by_its_lines ? rows.front().time : arrival);
    takeComments();
    takeRows(rows);
    tellBoard(arrival);
    m_watch->end();
}

void BoardFeed::takeMessage(const LinkMessage& message, TimeUs arrival) {
    if (message.kept) { // whenever it was sent: shown, and no value of now
        m_share->change_board(m_board.id, [&](LiveBoard& board) { ++board.kept; });
        return;
    }
    m_watch->begin(m_board.id);
    // A message that counts is the end of what was said about the ones before it.
    m_share->change_board(m_board.id, [&](LiveBoard& board) { board.reason.clear(); });
    const std::string name = message.channel.section(QLatin1Char('/'), -1).toStdString();
    const auto& rows = m_stream.feed_message(
        {message.payload.constData(), static_cast<std::size_t>(message.payload.size())}, name, arrival);
    keepMessage(message, arrival, m_stream.decoder().lines());
    noticePower(arrival);
    takeComments();
    takeRows(rows);
    tellBoard(arrival);
    m_watch->end();
}

void BoardFeed::tellBoard(TimeUs arrival) {
    const Decoder& decoder = m_stream.decoder();
    m_rate.emplace_back(arrival, decoder.lines());
    while (m_rate.size() > 2 && m_rate[1].first < arrival - 10 * second_us)
        m_rate.pop_front();
    m_share->change_board(m_board.id, [&](LiveBoard& board) {
        if (board.state != LinkState::open) board.reason.clear();
        board.state = LinkState::open;
        board.format = QString::fromStdString(decoder.format_text());
        board.format_reason = QString::fromStdString(decoder.reason());
        board.fields = decoder.fields();
        board.facts = m_stream.recent_facts(arrival);
        const StreamFacts all = m_stream.facts();
        board.lines = all.lines;
        board.lost = all.lost;
        board.rejected = all.rejected;
        board.dropped = m_left_out + (m_link ? m_link->dropped() : 0);
        board.rejections = decoder.rejections().reasons();
        board.rejected_last = decoder.rejections().last();
        board.last_line = arrival;
        const double span = seconds(arrival - m_rate.front().first);
        board.lines_per_s = span > 0 ? static_cast<double>(decoder.lines() - m_rate.front().second) / span : 0;
        if (decoder.headers() > m_headers_seen + (m_headers_seen == 0 ? 1 : 0)) ++board.resets;
        m_headers_seen = decoder.headers();
    });
}

/// Which of the first 64 fields each line of the last piece brought.
std::map<std::uint64_t, std::uint64_t> BoardFeed::fieldsOfLines() const {
    std::map<std::uint64_t, std::uint64_t> out;
    const Records& records = m_stream.records();
    for (const Records::Row& row : records.rows) {
        std::uint64_t& mask = out[row.line];
        for (std::size_t i = row.first; i < row.first + row.count; ++i)
            if (records.cells[i].field < 64) mask |= std::uint64_t(1) << records.cells[i].field;
    }
    return out;
}

/// Lines for the eye, as they came; decoding does not look at these.
void BoardFeed::keepLines(const QByteArray& bytes, TimeUs arrival, std::uint64_t first) {
    const auto fields = fieldsOfLines();
    const auto& rejected = m_stream.decoder().rejections().last();
    m_line_rest += bytes;
    std::vector<KeptLine> lines;
    qsizetype start = 0;
    std::uint64_t number = first;
    const auto keep = [&](std::string_view text) {
        while (!text.empty() && (text.back() == '\r' || text.back() == ' '))
            text.remove_suffix(1);
        KeptLine line;
        line.number = number++;
        line.time = arrival;
        line.text = text.substr(0, LineStore::longest);
        for (char& c : line.text)
            if (static_cast<unsigned char>(c) < 0x20) c = '.';
        if (const auto found = fields.find(line.number); found != fields.end()) line.fields = found->second;
        for (const RejectedLine& r : rejected)
            if (r.line == line.number) line.rejected = r.reason;
        if (!line.text.empty()) lines.push_back(std::move(line));
    };
    for (qsizetype end = 0; (end = m_line_rest.indexOf('\n', start)) >= 0; start = end + 1)
        keep({m_line_rest.constData() + start, static_cast<std::size_t>(end - start)});
    m_line_rest.remove(0, start);
    // Frames and noise have no lines' ends: they are shown in pieces.
    if (m_line_rest.size() > static_cast<qsizetype>(4 * LineStore::longest)) {
        keep({m_line_rest.constData(), LineStore::longest});
        m_line_rest.clear();
    }
    m_lines->add(m_board.id, std::move(lines));
}

void BoardFeed::keepMessage(const LinkMessage& message, TimeUs arrival, std::uint64_t number) {
    KeptLine line;
    line.number = number;
    line.time = arrival;
    line.text = (message.channel + QLatin1Char(' ') +
                 QString::fromUtf8(message.payload.left(LineStore::longest)).simplified())
                    .toStdString()
                    .substr(0, LineStore::longest);
    for (const auto& [at, mask] : fieldsOfLines())
        line.fields |= mask;
    if (const auto& last = m_stream.decoder().rejections().last(); !last.empty() && last.back().line == number)
        line.rejected = last.back().reason;
    m_lines->add(m_board.id, {line});
}

/// A board that began anew, as its own clock or its lines show, has just got power, and its parts with it.
void BoardFeed::noticePower(TimeUs arrival) {
    constexpr TimeUs same_start = 2 * second_us; // a sender's clock drifts, and lines wait on their way
    const auto started = m_stream.started(arrival);
    const std::uint64_t restarts = m_stream.facts().restarts;
    const bool another = started && (!m_started || *started > *m_started + same_start);
    if (another || (!started && restarts > m_restarts))
        for (Route& route : m_routes)
            route.intake.powered(started.value_or(arrival));
    if (another) m_started = started;
    m_restarts = restarts;
}

void BoardFeed::takeComments() {
    constexpr int longest_word = 40; // of what a board says about itself
    for (const std::string& comment : m_stream.decoder().take_comments()) {
        const std::string reference = comment_value(comment, "reference");
        const std::string program = comment_value(comment, "plan");
        const std::string restart = comment_value(comment, "restart");
        const bool is_answer = comment.rfind("ok", 0) == 0 || comment.rfind("error", 0) == 0;
        m_share->change_board(m_board.id, [&](LiveBoard& board) {
            if (!reference.empty()) board.reference = QString::fromStdString(reference);
            if (!program.empty()) board.program = QString::fromStdString(program).left(longest_word);
            if (!restart.empty()) board.restart = QString::fromStdString(restart).left(longest_word);
            if (!is_answer) return;
            board.answer = QString::fromStdString(comment);
            ++board.answers;
        });
        if (is_answer && m_sink.answer) m_sink.answer(comment);
    }
}

void BoardFeed::takeRows(const std::vector<Stream::Row>& rows) {
    for (const Stream::Row& row : rows)
        for (Route& route : m_routes)
            takeRow(row, route);
}

void BoardFeed::takeRow(const Stream::Row& row, Route& route) {
    const Records& records = m_stream.records();
    const Decoder& decoder = m_stream.decoder();
    if (!route.signal.empty())
        if (const auto raw = records.value(row.row, decoder.field(route.signal)))
            m_sink.signal(route, {row.time, *raw});
    const auto raw = records.value(row.row, decoder.field(route.field));
    Sample sample{row.time, no_number, no_number, Cause::missing};
    if (!raw) {
        if (route.intake.collects()) return; // between its samples come other lines
        // What the board's program never sent is a plan, not a loss; and another kind of line says nothing.
        if (m_seen.count(route.field) && decoder.is_table_row(records, row.row)) m_sink.value(route, sample, {});
        return;
    }
    m_seen.insert(route.field);
    const Partners& partners = m_partners.at(m_bench, row.time);
    const auto arrived = route.intake.take(row.time, *raw, partners, m_partners.revision());
    if (!arrived) return;
    sample.raw = arrived->raw;
    sample.value = arrived->value.number;
    sample.cause = arrived->value.cause;
    m_sink.value(route, sample, arrived->why);
}

} // namespace cognitum
