// The worker off the GUI thread: links, decoding, conversion, bands, and recording into the bench file with a
// commit every second. Its public slots are called through the event loop of its thread; its answers are in the
// LiveShare.
#pragma once

#include "core/bench/bench.h"
#include "session/live/board_feed.h"
#include "session/live/live.h"
#include "session/live/live_acting.h"
#include "session/live/live_watch.h"
#include "session/live/run_folder.h"
#include "store/samples/samples.h"

#include <QObject>
#include <QTimer>
#include <map>
#include <memory>
#include <set>

namespace cognitum {

class Ingest : public QObject {
    Q_OBJECT

  public:
    /// What is shared with the interface; it outlives the worker.
    struct Shared {
        LiveShare* live;
        LineStore* lines;
        WorkerWatch* watch;
    };
    Ingest(Shared shared, Clock clock, QStringList simulation_arguments, bool open_links = true);

    using Facts = std::map<std::string, RawRules>; ///< by reading
    /// Takes over a plan: links that changed are opened anew, the others run on. `path` is the bench file.
    void setPlan(const Bench& bench, const Facts& facts, const DoubtOf& doubt_of, const QString& path);
    void startRecording();
    void stopRecording();
    [[nodiscard]] TimeUs now() const { return m_clock(); }
    /// Ends everything and commits; the object can be given a new plan afterwards.
    void shutDown();
    void sendCommand(const QString& board, const QString& line);
    void setPlugged(const QString& board, bool plugged);
    void logIn(const QString& board, const QString& user, const QString& password);
    void allowWide(const QString& board);
    /// Closes the bench file; it is opened again with the next commit. For one that was replaced.
    void letGoOfFile() { m_file.reset(); }
    /// Bytes, or a message, as if a board had sent them; for replays and tests.
    void injectBytes(const QString& board, const QByteArray& bytes);
    void injectMessage(const QString& board, const LinkMessage& message);
    /// A person has seen that this rule was raised.
    void seen(const QString& rule) { m_watch_rules.seen(rule.toStdString()); }
    /// Judges what became due by the clock. Called once a second, and by tests.
    void passTime() {
        m_watch_rules.pass();
        m_acting.pass();
    }
    /// A load on or off by a person until then; empty: by its rule again.
    void hand(const std::string& control, std::optional<bool> on, TimeUs until) {
        m_acting.hand(control, on, until);
    }
    /// A value that a person read or counted, with its own doubt (± at 95 %).
    void takeByHand(const QString& reading, double value, double doubt);

  signals:
    /// A port's speed was found; the plan should say so.
    void speedFound(const QString& board, int baud);
    /// Another file has the bench's name.
    void fileReplaced();
    /// A sentence for a person about samples that are in danger.
    void said(const QString& sentence);
    void told(const cognitum::ToldNotice& notice);

  private:
    void take(const std::string& id, const std::optional<Bands>& bands, const Sample& sample,
              const std::string& cause);
    void addFeed(const BoardUse& board, const Facts& facts);
    void setRoutes(BoardFeed& feed, const Facts& facts);
    void record(const std::string& reading, const Sample& sample);
    void commit();
    Result<AddResult> addPending();
    void keepPending();
    void writeLog(const std::string& reading, const std::string& kind, const std::string& text);

    LiveShare* m_share;
    LineStore* m_lines;
    WorkerWatch* m_watch;
    Clock m_clock;
    LinkServices m_services;
    std::unique_ptr<RunFolder> m_folder; ///< for files that simulated boards write
    bool m_open_links;
    Bench m_bench;
    std::string m_path;
    std::unique_ptr<BenchFile> m_file;
    std::map<std::string, std::unique_ptr<BoardFeed>> m_feeds;
    PartnerValues m_partners;
    std::map<std::string, Intake> m_by_hand; ///< of each reading, for numbers that are typed
    LiveWatch m_watch_rules;
    LiveActing m_acting;
    QTimer m_commit, m_pass;
    bool m_recording = false;
    std::vector<SeriesBatch> m_pending;
    std::uint64_t m_waiting = 0; ///< samples in m_pending
    std::uint64_t m_saved = 0, m_lost = 0;
    std::vector<LogEntry> m_log_waiting;
};

} // namespace cognitum
