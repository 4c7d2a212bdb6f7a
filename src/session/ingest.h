// The worker off the GUI thread: links, decoding, conversion, bands, and recording into the bench file with a
// commit every second. Its public slots are called through the event loop of its thread; its answers are in the
// LiveShare.
#pragma once

#include "core/bench/bench.h"
#include "session/board_feed.h"
#include "session/live.h"
#include "store/samples.h"

#include <QObject>
#include <QTimer>
#include <map>
#include <memory>

namespace cognitum {

class Ingest : public QObject {
    Q_OBJECT

  public:
    Ingest(LiveShare* share, Clock clock, QStringList simulation_arguments, bool open_links = true);

    /// Takes over a plan: links that changed are opened anew, the others run on. `path` is the bench file.
    void setPlan(const Bench& bench, const QString& path);
    void startRecording();
    void stopRecording();
    /// Ends everything and commits; the object can be given a new plan afterwards.
    void shutDown();
    void sendCommand(const QString& board, const QString& line);
    void setPlugged(const QString& board, bool plugged);
    /// Bytes as if a board had sent them; for replays and tests.
    void injectBytes(const QString& board, const QByteArray& bytes);

  private:
    void take(const Route& route, const Sample& sample);
    void commit();
    void writeLog(const std::string& reading, const std::string& kind, const std::string& text);

    LiveShare* m_share;
    Clock m_clock;
    QStringList m_simulation_arguments;
    bool m_open_links;
    Bench m_bench;
    std::string m_path;
    std::unique_ptr<BenchFile> m_file;
    std::map<std::string, std::unique_ptr<BoardFeed>> m_feeds;
    QTimer m_commit;
    bool m_recording = false;
    std::vector<SeriesBatch> m_pending;
    std::uint64_t m_saved = 0;
    std::vector<LogEntry> m_log_waiting;
};

} // namespace cognitum
