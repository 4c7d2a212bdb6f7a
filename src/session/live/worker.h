// The door to the worker: the thread in which boards are listened to, numbers converted and samples recorded. The
// interface asks through here and is answered in what is shared; only the functions named …Now wait.
#pragma once

#include "core/bench/bench.h"
#include "session/live/line_store.h"
#include "session/live/live.h"
#include "session/live/notice.h"
#include "session/live/worker_watch.h"

#include <QObject>
#include <QStringList>
#include <functional>
#include <future>
#include <memory>
#include <optional>

namespace cognitum {

class LiveClient;
struct FileIdentity;
struct LiveWish;
struct LoadedCatalog;

/// The cards are read on another thread while the window is built; who asks first waits for them.
using Cards = std::shared_future<std::shared_ptr<const LoadedCatalog>>;

class Worker : public QObject {
    Q_OBJECT

  public:
    /// `simulation_arguments`: for cognitum-simboard. `open_links`: false: boards only send what injectBytesNow()
    /// gives them.
    Worker(Clock clock, const QStringList& simulation_arguments, bool open_links);
    ~Worker() override;

    /// Until begin(), or until somebody waits for it, it only collects what it is asked: a window is painted sooner
    /// while no links are opened beside it.
    void hold();
    void begin();

    // What it shares.
    [[nodiscard]] std::uint64_t liveRevision() const { return m_share.revision(); }
    [[nodiscard]] Live live() const { return m_share.copy(); }
    /// Brings a copy of it up to date; cheap where little changed.
    void pull(Live& mine) const { m_share.update(mine); }
    [[nodiscard]] const LiveShare& share() const { return m_share; }
    [[nodiscard]] const LineStore& lines() const { return m_lines; }
    [[nodiscard]] const WorkerWatch& watch() const { return m_watch; }

    // A recorder without a window may have the bench: then it does the work, and this only tells it.
    /// False: nobody is there.
    bool attach(const FileIdentity& file);
    void detach();
    [[nodiscard]] bool isAttached() const { return m_recorder != nullptr; }
    void wish(const LiveWish& wish);

    // What it does.
    /// The worker asks the cards itself, so that nobody waits for them here. `path`: of the bench file.
    void setPlan(const Bench& plan, const QString& path, const Cards& cards);
    void startRecording();
    void stopRecording();
    /// Stops, saves, and returns how many samples this recording has in the file.
    std::uint64_t endRecordingNow();
    void sendCommand(const std::string& board, const QString& line);
    void setPlugged(const std::string& board, bool plugged);
    void allowWide(const std::string& board);
    void logIn(const std::string& board, const QString& user, const QString& password);
    /// A value that a person read off, with its doubt (± at 95 %), in the reading's unit.
    void enterByHandNow(const std::string& reading, double value, double doubt);
    /// A person has seen that this watch rule was raised.
    void seen(const std::string& rule);
    /// A load on or off by a person until then; empty: by its rule again.
    void handNow(const std::string& control, std::optional<bool> on, TimeUs until);
    /// Judges what became due by the clock, as once a second; for tests.
    void passTimeNow();
    /// As if the board had sent it, for replays and tests.
    void injectBytesNow(const std::string& board, const QByteArray& bytes);
    void injectMessageNow(const std::string& board, const LinkMessage& message);
    /// Closes the bench file; the next commit opens it again.
    void letGoOfFileNow();
    /// Ends all links and commits what waits.
    void shutDownNow();

  signals:
    void recorderLost();
    void fileReplaced(); ///< another file has the bench's name
    void said(const QString& sentence);
    void told(const cognitum::ToldNotice& notice); ///< what a watch rule has to tell
    void speedFound(const QString& board, int baud);

  private:
    /// Asks the worker to do something, after everything that it was asked before.
    void ask(std::function<void()> task);
    /// And waits until it is done.
    void askNow(std::function<void()> task);

    LiveShare m_share;
    LineStore m_lines;
    WorkerWatch m_watch;
    std::unique_ptr<LiveClient> m_recorder;
    void wake();
    bool m_held = false;
    struct Thread;
    std::unique_ptr<Thread> m_thread;
};

} // namespace cognitum
