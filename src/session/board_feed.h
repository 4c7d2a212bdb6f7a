// One board in the ingest worker: its link, its decoder, and the readings that its columns go to.
#pragma once

#include "core/bench/bench.h"
#include "core/decode/table_decoder.h"
#include "session/live.h"
#include "store/sample.h"

#include <QByteArray>
#include <QObject>
#include <functional>
#include <memory>
#include <set>

namespace cognitum {

/// A reading of this board, ready for conversion.
struct Route {
    std::string reading;
    std::string column; ///< the pin's label
    Chain path;         ///< effective
    std::optional<Bands> bands;
};

class BoardFeed : public QObject {
    Q_OBJECT

  public:
    using Sink = std::function<void(const Route&, const Sample&)>;
    BoardFeed(BoardUse board, LiveShare* share, Clock clock, Sink sink, QStringList simulation_arguments);

    [[nodiscard]] const BoardUse& board() const { return m_board; }
    void setRoutes(std::vector<Route> routes) { m_routes = std::move(routes); }
    void start();
    void send(const QByteArray& line);
    void setPlugged(bool plugged);
    /// Bytes as if from the link; for replays and tests.
    void take(const QByteArray& bytes);

  private:
    void onState(LinkState state, const QString& reason);
    void takeRows(TimeUs arrival);
    void takeComments();
    void keepLines(const QByteArray& bytes, TimeUs arrival);
    void countLost(double sequence);

    BoardUse m_board;
    LiveShare* m_share;
    Clock m_clock;
    Sink m_sink;
    std::unique_ptr<Link> m_link;
    std::vector<Route> m_routes;
    TableDecoder m_decoder;
    RecordBatch m_batch;
    QByteArray m_line_rest;
    TimeUs m_last_time = 0;
    double m_last_sequence = -1;
    std::uint64_t m_headers_seen = 0;
    std::set<std::string> m_seen; ///< columns that the lines have brought at least once
};

} // namespace cognitum
