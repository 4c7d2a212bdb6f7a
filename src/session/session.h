// The running bench as the interface sees it: one open file, the plan with undo, the worker behind a lock, and
// everything that is computed from them. Lives in the GUI thread; nothing here waits for the worker.
#pragma once

#include "core/analyse/health.h"
#include "core/calibrate/path_offers.h"
#include "core/calibrate/record.h"
#include "core/catalog/cards.h"
#include "core/plan/findings.h"
#include "core/uncertainty/budget.h"
#include "link/inbox.h"
#include "session/bench_lock.h"
#include "session/ingest.h"
#include "session/live.h"
#include "session/plan_edit.h"
#include "store/csv_import.h"
#include "store/data_files.h"
#include "store/export.h"
#include "store/samples.h"

#include <QObject>
#include <QThread>
#include <QTimer>
#include <QUndoStack>
#include <future>
#include <map>
#include <memory>

namespace cognitum {

struct SessionOptions {
    Clock clock;                      ///< empty: the system's
    QStringList simulation_arguments; ///< for cognitum-simboard, beside the seed
    bool open_links = true;           ///< false: boards only send what injectBytes() gives them
};

class Session : public QObject {
    Q_OBJECT

  public:
    explicit Session(SessionOptions options = {}, QObject* parent = nullptr);
    ~Session() override;

    // The file. On an error nothing changes: the bench that was open stays open.
    Result<void> createBench(const QString& path, const QString& name);
    Result<void> openBench(const QString& path);
    /// Makes the demo bench at `path` if there is none, and opens it.
    Result<void> openDemo(const QString& path);
    Result<void> saveCopy(const QString& path);
    void closeBench();
    [[nodiscard]] bool isOpen() const { return m_file != nullptr; }
    [[nodiscard]] QString path() const;
    [[nodiscard]] std::optional<TimeUs> savedAt() const { return m_saved_at; }
    [[nodiscard]] QString saveTrouble() const { return m_save_trouble; }
    [[nodiscard]] BenchFile* file() { return m_file.get(); }

    // The plan. Every edit is one step of undo and is saved within half a second.
    [[nodiscard]] const Bench& bench() const { return m_bench; }
    /// Grows with every change of the plan or the cards, and with another bench.
    [[nodiscard]] std::uint64_t planRevision() const { return m_plan_revision; }
    [[nodiscard]] const Catalog& catalog() const { return cards().catalog; }
    [[nodiscard]] const std::vector<Error>& catalogProblems() const { return cards().problems; }
    /// Stimulus tests and the question tree.
    [[nodiscard]] const BringUpGuide& guide() const { return cards().guide; }
    /// Reads all cards again, after one was saved.
    void reloadCatalog();
    void edit(const QString& text, const std::function<void(Bench&)>& change);
    void editReading(const std::string& id, const QString& text, const std::function<void(Reading&)>& change);
    [[nodiscard]] QUndoStack* undoStack() { return &m_undo; }
    /// Takes a finding's way out.
    void applyFix(const Finding& finding);

    // Now.
    [[nodiscard]] TimeUs now() const { return m_clock(); }
    [[nodiscard]] std::uint64_t liveRevision() const { return m_share.revision(); }
    [[nodiscard]] Live live() const { return m_share.copy(); }
    /// Brings a copy of it up to date; cheap where little changed.
    void pull(Live& mine) const { m_share.update(mine); }
    [[nodiscard]] const PartCard* part(const Reading& reading) const { return catalog().part(reading.sensor.part); }
    [[nodiscard]] const BoardCard* boardCard(const Reading& reading) const;
    /// Steps of a reading's wiring, all told.
    [[nodiscard]] std::size_t wiringSteps(const std::string& reading) const;
    /// From the plan and from what arrives.
    [[nodiscard]] std::vector<Finding> findings(const Reading& reading, const Live& live) const;
    /// Verdicts on a reading's raw signal, at most one second old.
    [[nodiscard]] const std::vector<HealthVerdict>& health(const Reading& reading, const Live& live) const;
    /// What the Raw stop looks at: the reading's own numbers, or the signal behind them.
    [[nodiscard]] std::vector<RawSample> rawSamples(const Reading& reading, const Live& live) const;
    [[nodiscard]] SignalAbout rawAbout(const Reading& reading) const;
    /// Raw numbers since then: what was recorded, and what came live behind it. At most half a million.
    [[nodiscard]] std::vector<RawSample> history(const Reading& reading, TimeUs since, const Live& live);
    [[nodiscard]] const LineStore& lines() const { return m_lines; }
    [[nodiscard]] Budget budget(const Reading& reading, double raw, const Live& live) const;
    /// The same question to a Monte Carlo run: what it needs beside the path.
    [[nodiscard]] DoubtInputs doubts(const Reading& reading, double raw, const Live& live) const;
    /// What the readings that a reading's path follows say now, with their doubt; those that are silent are
    /// missing.
    [[nodiscard]] Partners partners(const Reading& reading, const Live& live) const;
    /// The path as it converts now.
    [[nodiscard]] Chain livePath(const Reading& reading, const Live& live) const {
        return effective_path(reading, partners(reading, live));
    }

    void startRecording();
    void stopRecording();
    /// Stops, saves, and returns how many samples this recording has in the file.
    std::uint64_t endRecording();
    void sendCommand(const std::string& board, const QString& line);
    void setPlugged(const std::string& board, bool plugged);
    /// A person says that this board's receiver may listen to the whole network, as the plan asks; remembered on
    /// this computer, never in the bench.
    void allowWide(const std::string& board);
    /// Bytes as if the board had sent them, for replays and tests; returns when the worker has taken them.
    void injectBytesNow(const std::string& board, const QByteArray& bytes);
    void injectMessageNow(const std::string& board, const LinkMessage& message);
    void logIn(const std::string& board, const QString& user, const QString& password);
    /// A value that a person read off, with its doubt (± at 95 %), in the reading's unit.
    void enterByHand(const std::string& reading, double value, double doubt);

    // Proof.
    /// Keeps the record, applies its correction and ends the draft. No model: compared, and nothing changed.
    Result<CalibrationRecord> finishCalibration(const std::string& reading, CalibrationDraft draft,
                                                std::optional<Model> model);
    /// The same, where the points become constants of the path; undo takes path and correction back together.
    Result<CalibrationRecord> finishIntoPath(const std::string& reading, const CalibrationDraft& draft,
                                             const PathOffer& offer);
    /// The calibration under way, as the file keeps it; an empty one when there is none.
    [[nodiscard]] CalibrationDraft draft(const std::string& reading);
    /// Kept in the file at once; an empty one ends it.
    void saveDraft(const std::string& reading, const CalibrationDraft& draft);
    [[nodiscard]] const std::vector<Recipe>& recipes() const { return cards().recipes; }
    /// Makes a new reading that holds the recorded raw values of this one through its path of today, calibration
    /// and all; its name says so. Returns its id. Error when nothing was recorded.
    Result<std::string> reevaluate(const std::string& reading);
    [[nodiscard]] std::vector<CalibrationRecord> calibrations(const std::string& reading);
    void note(const std::string& reading, const std::string& kind, const QString& text);
    [[nodiscard]] std::vector<LogEntry> log();
    Result<ImportReport> importCsv(const QString& path, const ImportOptions& options);

    /// Looks whether the file is in its place, another program changed the plan, and the worker comes back. Called
    /// every two seconds, and by tests.
    void lookAround();

  signals:
    void benchOpened();
    void planChanged();
    void logChanged();
    void trouble(const QString& message);

  private:
    Result<void> take(BenchFile file);
    void adopt(const PlanSaved& saved);
    void reopenReplaced();
    void takeBackUnsaved();
    void keepUnsavedPlan();
    Result<CalibrationRecord> keepCalibration(CalibrationRecord record, const QString& what, const QString& how,
                                              const Chain* path);
    void applyChange(const PlanDifference& change, bool forwards);
    void savePlan();
    void tellBoardOfReference(const Reading& reading);
    /// Asks the worker to do something, after everything that it was asked before.
    void onWorker(std::function<void()> task);
    /// And waits until it is done.
    void onWorkerNow(std::function<void()> task);
    void sendPlan();
    [[nodiscard]] Partners partners(const Reading& reading, const Live& live, int depth) const;
    [[nodiscard]] double noise(const Reading& reading, const Live& live) const;
    [[nodiscard]] Budget budgetAt(const Reading& reading, double raw, const Live& live, int depth) const;

    Clock m_clock;
    std::unique_ptr<BenchFile> m_file;
    BenchLock m_lock;
    QString m_replaced_path; ///< a bench whose file was replaced and could not be opened yet
    QTimer m_look_around;
    WorkerWatch m_watch;
    std::string m_stuck_told; ///< board that was named last for holding up the worker
    Bench m_bench;
    std::uint64_t m_plan_revision = 1;
    /// What follows from the plan alone, computed once for each revision of it.
    struct PlanView {
        std::uint64_t revision = 0;
        std::map<std::string, std::vector<Finding>> of_reading, of_board;
        std::map<std::string, std::size_t> steps;
    };
    [[nodiscard]] const PlanView& planView() const;
    mutable PlanView m_plan_view;
    /// The cards are read on another thread while the window is built; who asks first waits for them. The worker
    /// reads the same ones.
    using Cards = std::shared_future<std::shared_ptr<const LoadedCatalog>>;
    [[nodiscard]] const LoadedCatalog& cards() const { return *m_cards.get(); }
    Cards m_cards;
    struct Health {
        std::int64_t second = 0;
        std::uint64_t revision = 0;
        std::vector<HealthVerdict> verdicts;
    };
    mutable std::map<std::string, Health> m_health;
    QUndoStack m_undo;
    QTimer m_save_soon;
    std::optional<TimeUs> m_saved_at;
    QString m_save_trouble;
    LiveShare m_share;
    LineStore m_lines;
    Inbox<std::function<void()>> m_tasks;
    QThread m_thread;
    Ingest* m_ingest; ///< lives in m_thread
};

} // namespace cognitum
