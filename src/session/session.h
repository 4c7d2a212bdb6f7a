// The open bench: its file, and its plan with undo. Beside it stand the worker that takes what arrives, what is
// worked out from plan and live values, the calibrations, and what was recorded. Lives in the interface's thread.
#pragma once

#include "core/bench/plan_difference.h"
#include "core/bringup/guide.h"
#include "core/calibrate/recipe.h"
#include "core/plan/findings.h"
#include "session/archive/archive.h"
#include "session/live/live_views.h"
#include "session/live/worker.h"
#include "session/proof.h"
#include "session/publish/messenger.h"
#include "session/secrets.h"
#include "session/session_rules.h"
#include "store/file/bench_file.h"

#include <QObject>
#include <QThreadPool>
#include <QTimer>
#include <QUndoStack>
#include <atomic>
#include <future>
#include <memory>

namespace cognitum {

class Arrivals;
class BenchFile;
class BenchLock;
class StationPage;
struct FileIdentity;
struct ImportOptions;
struct ImportReport;
struct PlanSaved;

/// Begins to read the shipped cards and a person's own, beside this thread.
Cards begin_reading_cards();

struct SessionOptions {
    Clock clock;                      ///< empty: the system's
    QStringList simulation_arguments; ///< for cognitum-simboard, beside the seed
    bool open_links = true;           ///< false: boards only send what injectBytes() gives them
    Cards cards = {};                 ///< that are being read; none: the session reads them
};

class Session : public QObject {
    Q_OBJECT

  public:
    explicit Session(SessionOptions options = {}, QObject* parent = nullptr);
    ~Session() override;

    // The file. On an error nothing changes: the bench that was open stays open.
    Result<void> createBench(const QString& path, const QString& name);
    Result<void> openBench(const QString& path);
    /// Begins to read a bench beside this thread; openBench() of that path takes it over. A start does it first.
    void readAhead(const QString& path);
    Result<void> saveCopy(const QString& path);
    void closeBench();
    [[nodiscard]] bool isOpen() const { return m_file != nullptr; }
    [[nodiscard]] QString path() const;
    [[nodiscard]] std::optional<TimeUs> savedAt() const { return m_saved_at; }
    [[nodiscard]] QString saveTrouble() const { return m_save_trouble; }

    // The plan. Every edit is one step of undo and is saved within half a second.
    [[nodiscard]] const Bench& bench() const { return m_bench; }
    /// Grows with every change of the plan or the cards, and with another bench.
    [[nodiscard]] std::uint64_t planRevision() const { return m_plan_revision; }
    [[nodiscard]] const Catalog& catalog() const;
    [[nodiscard]] const std::vector<Error>& catalogProblems() const;
    /// Stimulus tests and the question tree.
    [[nodiscard]] const BringUpGuide& guide() const;
    /// Reads all cards again, after one was saved.
    void reloadCatalog();
    void edit(const QString& text, const std::function<void(Bench&)>& change);
    /// The same without a step of undo: what a rule does, not a person.
    void applyQuietly(const std::function<void(Bench&)>& change);
    void editReading(const std::string& id, const QString& text, const std::function<void(Reading&)>& change);
    [[nodiscard]] QUndoStack* undoStack() { return &m_undo; }
    /// Takes a finding's way out.
    void applyFix(const Finding& finding);

    /// Readings that work beside this put into the file and its plan.
    void adoptReadings(const QString& text, const Bench& plan);

    // Now.
    [[nodiscard]] TimeUs now() const { return m_clock(); }
    [[nodiscard]] const PartCard* part(const Reading& reading) const { return catalog().part(reading.sensor.part); }
    [[nodiscard]] const BoardCard* boardCard(const Reading& reading) const;
    [[nodiscard]] const std::vector<Recipe>& recipes() const;
    /// A person says that this board's receiver may listen to the whole network, as the plan asks; remembered on
    /// this computer, never in the bench.
    void allowWide(const std::string& board);
    /// A person of this computer lets a load act.
    void allowActing(const std::string& control);

    // Beside it.
    [[nodiscard]] Worker& worker() { return m_worker; }
    [[nodiscard]] const Worker& worker() const { return m_worker; }
    [[nodiscard]] const LiveViews& views() const { return m_views; }
    [[nodiscard]] Proof& proof() { return m_proof; }
    [[nodiscard]] Messenger& messenger() { return m_messenger; }
    [[nodiscard]] const Messenger& messenger() const { return m_messenger; }
    [[nodiscard]] Secrets& secrets() { return m_secrets; }
    [[nodiscard]] StationPage& stationPage() { return *m_station_page; }
    /// What boards send that the bench does not have yet.
    [[nodiscard]] Arrivals& arrivals() { return *m_arrivals; }
    [[nodiscard]] Archive& archive() { return m_archive; }
    /// The same for what takes long: no chart waits for it.
    [[nodiscard]] Archive& exports() { return m_exports; }

    // The logbook.
    /// What is said stands in English in the file, whatever the window speaks.
    void note(const std::string& reading, const std::string& kind, const std::function<std::string()>& says);
    /// An entry of another time, or one that corrects another.
    void log(const LogEntry& entry);

    /// Long work that writes into the file, in a thread of its own with a connection of its own; one after another.
    /// `work` gets a wish to stop. Error when the bench is not open, is only looked at, or cannot be opened.
    template <typename Answer>
    [[nodiscard]] QFuture<Result<Answer>>
    writeBeside(std::function<Result<Answer>(BenchFile&, const std::atomic<bool>& stop)> work) {
        auto promise = std::make_shared<QPromise<Result<Answer>>>();
        promise->start();
        const auto path = beginWriting();
        if (!path) {
            promise->addResult(tl::make_unexpected(path.error()));
            promise->finish();
            return promise->future();
        }
        m_writes.start([promise, path = *path, work = std::move(work), stop = m_stop_writing] {
            promise->addResult(Archive::guardedAnswer<Answer>([&]() -> Result<Answer> {
                COGNITUM_TRY(file, BenchFile::open(path, Access::write));
                return work(file, *stop);
            }));
            promise->finish();
        });
        return promise->future();
    }
    /// Names the bench for which work beside this was begun.
    using WritingMark = std::shared_ptr<const std::atomic<bool>>;
    [[nodiscard]] WritingMark writingMark() const { return m_stop_writing; }
    /// The work is done, well or not. False: the bench was closed meanwhile, and its answer is of no use.
    bool endWriting(const WritingMark& mark);
    void finishWritingNow() { m_writes.waitForDone(); } ///< for tests and pictures

    // Files from elsewhere.
    /// Bytes so far, and a wish to stop; shared with the thread that imports.
    struct ImportWatch {
        std::atomic<std::uint64_t> read = 0;
        std::atomic<bool> stop = false;
    };
    /// Samples of a file (CSV, JSON, SenML) into the bench, in a thread of its own with a connection of its own.
    /// The answer comes in this one, when the plan has the readings that the file brought.
    QFuture<Result<ImportReport>> importFile(const QString& path, ImportOptions options,
                                             std::shared_ptr<ImportWatch> watch);

    /// Who else has the bench open, in words: it is only shown here. Empty: it can be changed.
    [[nodiscard]] QString lookOnly() const { return m_look_only; }
    /// A recorder without a window has the bench: it listens, records and tells, and goes on when this ends.
    [[nodiscard]] bool isAttached() const { return m_worker.isAttached(); }
    /// Lets go of links and lock, so that a recorder can take the bench; what is live comes from it from then on.
    void handOver();
    /// Ends the recorder; this window listens and records in its place.
    void takeBack();
    /// What was recorded, looked through by the rules of sessions.
    [[nodiscard]] SessionRules& sessionRules() { return m_session_rules; }

    /// Looks whether the file is in its place, another program changed the plan, and the worker comes back. Called
    /// every two seconds, and by tests.
    void lookAround();
    /// Saves at once what was edited.
    void savePlan();

  signals:
    void benchOpened();
    void benchClosed();
    void planChanged();
    void logChanged();
    void trouble(const QString& message);

  private:
    friend class Proof; // keeps calibrations in the file
    [[nodiscard]] BenchFile* file() { return m_file.get(); }
    Result<void> take(LoadedBench loaded);
    void adopt(const PlanSaved& saved);
    void reopenReplaced();
    void takeBackUnsaved();
    void keepUnsavedPlan();
    void applyChange(const PlanDifference& change, bool forwards);
    Result<std::string> beginWriting(); ///< path of the bench
    bool refuseToChange();
    void lookAgainForTheLock(const FileIdentity& identity);
    bool attach(const FileIdentity& identity);
    void recorderLost();
    void takeOver();
    void tellBoardOfReference(const Reading& reading);
    void sendPlan();

    Clock m_clock;
    std::unique_ptr<BenchFile> m_file;
    std::pair<QString, std::future<Result<LoadedBench>>> m_ahead; ///< its path, and what was read
    std::unique_ptr<BenchLock> m_lock;
    QString m_replaced_path; ///< a bench whose file was replaced and could not be opened yet
    QTimer m_look_around;
    std::string m_stuck_told; ///< board that was named last for holding up the worker
    Bench m_bench;
    std::uint64_t m_plan_revision = 1;
    [[nodiscard]] const LoadedCatalog& cards() const;
    Cards m_cards;
    QUndoStack m_undo;
    QTimer m_save_soon;
    std::optional<TimeUs> m_saved_at;
    QString m_save_trouble;
    Archive m_archive, m_exports;
    QThreadPool m_writes;
    std::shared_ptr<std::atomic<bool>> m_stop_writing =
        std::make_shared<std::atomic<bool>>(false); ///< of this bench
    int m_writing = 0;                              ///< works beside this
    bool m_own_merge = false; ///< what the file has beside this plan came from work beside this
    QString m_look_only;
    std::optional<TimeUs> m_waits_for_recorder; ///< since when: it may be started again
    bool m_was_recording = false, m_takes_back = false;
    Worker m_worker; ///< ends before what it reads
    LiveViews m_views{*this};
    Proof m_proof{*this};
    SessionRules m_session_rules{*this};
    Messenger m_messenger{*this};
    Secrets m_secrets{*this};
    std::unique_ptr<StationPage> m_station_page;
    std::unique_ptr<Arrivals> m_arrivals;
};

} // namespace cognitum
