// One board in the ingest worker: its link, its stream, and the readings that its fields go to.
#pragma once

#include "core/analyse/signal.h"
#include "core/bench/bench.h"
#include "core/decode/stream.h"
#include "core/plan/intake.h"
#include "link/make_link.h"
#include "session/live/line_store.h"
#include "session/live/live.h"
#include "session/live/worker_watch.h"
#include "store/samples/sample.h"

#include <QByteArray>
#include <QObject>
#include <functional>
#include <memory>
#include <set>

namespace cognitum {

/// A reading that this board's lines bring, ready for conversion.
struct Route {
    std::string reading;
    std::string field;  ///< name in the lines
    std::string signal; ///< field that the Raw stop looks at; empty: the same
    std::optional<Bands> bands;
    Intake intake;
};

/// A board never holds up the others: it is read for a bounded time in each turn, what waits is bounded in bytes,
/// and what does not fit is left out, the oldest first, and counted.
class BoardFeed : public QObject {
    Q_OBJECT

  public:
    struct Sink {
        std::function<void(const Route&, const Sample&, const std::string& cause)> value;
        std::function<void(const Route&, const RawSample&)> signal;
        std::function<void(int baud)> speed_found;
        std::function<void(const std::string& text)> answer; ///< to a command; may be empty
        std::function<void(bool open)> link;                 ///< it came or went; may be empty
    };
    /// `bench` and `partners` outlive the feed; all feeds of a worker share them.
    BoardFeed(BoardUse board, LiveShare* share, LineStore* lines, Clock clock, Sink sink, const Bench& bench,
              PartnerValues& partners, LinkServices& services, WorkerWatch* watch);

    [[nodiscard]] const BoardUse& board() const { return m_board; }
    /// For tests that play the board: the plan's link, which is not opened.
    void pretend(const LinkPlan& link) {
        m_board.link = link;
        m_pretends = true;
    }
    /// Takes new routes; what is known of those that stay is kept.
    void setRoutes(std::vector<Route> routes);
    void start();
    void send(const QByteArray& line);
    /// What a load should be, see Link::tell(). False: it cannot be told now.
    bool tellState(const std::string& load, const std::string& line, const std::string& topic);
    void setPlugged(bool plugged);
    void logIn(const QString& user, const QString& password);
    void allowWide();
    /// Reads all that has arrived, before a recording ends.
    void finishWaiting();
    /// Bytes as if from the link, all at once; for replays and tests.
    void take(const QByteArray& bytes, TimeUs arrival);
    void takeMessage(const LinkMessage& message, TimeUs arrival);

  private:
    /// What arrived and has not been read yet.
    struct Waiting {
        TimeUs arrival = 0;
        QByteArray bytes;
        std::optional<LinkMessage> message;
        [[nodiscard]] qsizetype size() const { // of a message its topic as well, which may be as long
            return message ? message->payload.size() + 2 * message->channel.size() + 100 : bytes.size();
        }
    };
    void enqueue(Waiting arrived);
    void work();
    void readFirst();
    void onState(LinkState state, const QString& reason);
    void forget();
    void wantFields();
    void takeRows(const std::vector<Stream::Row>& rows);
    void takeRow(const Stream::Row& row, Route& route);
    void noticePower(TimeUs arrival);
    void takeComments();
    void keepLines(const QByteArray& bytes, TimeUs arrival, std::uint64_t first);
    void keepMessage(const LinkMessage& message, TimeUs arrival, std::uint64_t number);
    void tellBoard(TimeUs arrival);
    [[nodiscard]] std::map<std::uint64_t, std::uint64_t> fieldsOfLines() const;

    BoardUse m_board;
    LiveShare* m_share;
    LineStore* m_lines;
    Clock m_clock;
    Sink m_sink;
    const Bench& m_bench;
    PartnerValues& m_partners;
    WorkerWatch* m_watch;
    std::unique_ptr<Link> m_link;
    std::deque<Waiting> m_waiting;
    qsizetype m_waiting_bytes = 0;
    bool m_work_is_due = false;
    bool m_pretends = false;
    std::uint64_t m_left_out = 0; ///< pieces that came faster than they could be read
    std::vector<Route> m_routes;
    Stream m_stream;
    QByteArray m_line_rest;
    std::uint64_t m_line_count = 0, m_headers_seen = 0;
    std::deque<std::pair<TimeUs, std::uint64_t>> m_rate; ///< lines up to a moment
    std::set<std::string> m_seen;                        ///< fields that the lines have brought at least once
    std::optional<TimeUs> m_started;                     ///< when the board began, where its lines say so
    std::uint64_t m_restarts = 0;
};

} // namespace cognitum
