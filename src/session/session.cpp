#include "session/session.h"

#include "core/base/phrase.h"
#include "core/signal_path/feeds.h"
#include "link/listening.h"
#include "session/live/acting_allowed.h"
#include "session/live/arriving.h"
#include "session/plan_edit.h"
#include "session/publish/station_page.h"
#include "session/recorder/bench_lock.h"
#include "session/recorder/live_stream.h"
#include "store/exchange/json_import.h"
#include "store/file/data_files.h"

#include <QCoreApplication>
#include <QEvent>
#include <QFile>
#include <chrono>
#include <unistd.h>

namespace cognitum {

namespace {

TimeUs system_now() {
    using namespace std::chrono;
    return duration_cast<microseconds>(system_clock::now().time_since_epoch()).count();
}

} // namespace

Cards begin_reading_cards() {
    return std::async(std::launch::async, [] { return std::make_shared<const LoadedCatalog>(load_catalog()); })
        .share();
}

Session::Session(SessionOptions options, QObject* parent)
    : QObject(parent),
      m_clock(options.clock ? options.clock : Clock(system_now)),
      m_lock(std::make_unique<BenchLock>()),
      m_worker(m_clock, options.simulation_arguments, options.open_links) {
    m_cards = options.cards.valid() ? options.cards : begin_reading_cards();
    m_writes.setMaxThreadCount(1);
    m_station_page = std::make_unique<StationPage>(*this);
    m_arrivals = std::make_unique<Arrivals>(*this, std::move(options));
    m_save_soon.setSingleShot(true);
    m_save_soon.setInterval(300);
    connect(&m_save_soon, &QTimer::timeout, this, &Session::savePlan);
    m_look_around.setInterval(2000);
    connect(&m_look_around, &QTimer::timeout, this, &Session::lookAround);
    connect(&m_worker, &Worker::fileReplaced, this, &Session::lookAround);
    connect(&m_worker, &Worker::recorderLost, this, &Session::recorderLost);
    connect(&m_worker, &Worker::said, this, &Session::trouble);
    connect(&m_worker, &Worker::speedFound, this, [this](const QString& board, int baud) {
        edit(tr("Speed found"), [&](Bench& bench) {
            if (BoardUse* use = bench.board(board.toStdString())) {
                use->link.baud = baud;
                use->link.find_speed = false;
            }
        });
    });
}

Session::~Session() {
    closeBench();
}

const LoadedCatalog& Session::cards() const {
    return *m_cards.get();
}
const Catalog& Session::catalog() const {
    return cards().catalog;
}
const std::vector<Error>& Session::catalogProblems() const {
    return cards().problems;
}
const BringUpGuide& Session::guide() const {
    return cards().guide;
}
const std::vector<Recipe>& Session::recipes() const {
    return cards().recipes;
}

QString Session::path() const {
    return m_file ? QString::fromStdString(m_file->path()) : QString();
}

Result<void> Session::createBench(const QString& path, const QString& name) {
    Bench bench;
    bench.name = name.toStdString();
    COGNITUM_TRY(file, BenchFile::create(path.toStdString(), [&](BenchFile& made) -> Result<void> {
                     COGNITUM_CHECK(made.save_plan(bench));
                     return {};
                 }));
    COGNITUM_TRY(plan, file.load_plan());
    return take({std::move(file), std::move(plan)});
}

void Session::readAhead(const QString& path) {
    m_ahead = {path, std::async(std::launch::async,
                                [path = path.toStdString()] { return load_bench(path, Access::write); })};
}

Result<void> Session::openBench(const QString& path) {
    if (auto [ahead, loading] = std::exchange(m_ahead, {}); loading.valid() && ahead == path)
        if (auto loaded = loading.get()) return take(std::move(*loaded)); // else it may be there by now
    COGNITUM_TRY(loaded, load_bench(path.toStdString(), Access::write));
    return take(std::move(loaded));
}

Result<void> Session::take(LoadedBench loaded) {
    closeBench();
    m_file = std::make_unique<BenchFile>(std::move(loaded.file));
    m_bench = std::move(loaded.plan);
    ++m_plan_revision;
    m_saved_at.reset();
    const auto identity = identity_of(m_file->path());
    const bool alone = !identity || m_lock->take(*identity);
    const bool attached = !alone && attach(*identity);
    m_look_only = alone || attached
                      ? QString()
                      : tr("%1 has this bench open. Here it is only shown; close it there to change it here.")
                            .arg(QString::fromStdString(BenchLock::holder(*identity)));
    for (Archive* archive : {&m_archive, &m_exports})
        archive->open(m_file->path());
    if (alone) takeBackUnsaved();
    m_look_around.start();
    sendPlan();
    emit benchOpened();
    if (!m_look_only.isEmpty()) emit trouble(m_look_only);
    return {};
}

void Session::sendPlan() {
    if (m_worker.isAttached()) return; // the recorder reads it from the file
    Bench plan = m_bench;
    if (!m_look_only.isEmpty()) // its boards belong to the program that has it open
        for (BoardUse& board : plan.boards)
            board.link.kind = LinkKind::none;
    for (LoadControl& control : plan.controls)
        if (!is_acting_allowed(control, plan)) control.acts = false;
    if (!m_look_only.isEmpty()) { // and so do telling and acting
        plan.watch_rules.clear();
        plan.controls.clear();
    }
    m_worker.setPlan(plan, path(), m_cards);
}

/// Says why, where the bench is only looked at.
bool Session::refuseToChange() {
    if (m_look_only.isEmpty()) return false;
    emit trouble(m_look_only);
    return true;
}

void Session::closeBench() {
    if (!m_file) return;
    *m_stop_writing = true;
    m_writes.waitForDone(); // it stops at its next piece
    m_stop_writing = std::make_shared<std::atomic<bool>>(false);
    m_writing = 0;
    if (m_save_soon.isActive()) savePlan();
    if (m_save_soon.isActive()) keepUnsavedPlan(); // it could not be saved
    m_save_soon.stop();
    m_look_around.stop();
    m_worker.detach();
    m_waits_for_recorder.reset();
    m_takes_back = m_was_recording = false;
    m_worker.shutDownNow();
    QCoreApplication::sendPostedEvents(&m_worker, QEvent::MetaCall); // what it said last, before nobody listens
    for (Archive* archive : {&m_archive, &m_exports})
        archive->close();
    m_lock->release();
    m_undo.clear();
    m_file.reset();
    m_bench = {};
    m_look_only.clear();
    ++m_plan_revision;
    emit benchClosed();
}

Result<void> Session::saveCopy(const QString& path) {
    if (!m_file) return failure(phrase("no bench is open."));
    savePlan();
    return m_file->save_copy(path.toStdString());
}

void Session::savePlan() {
    m_save_soon.stop();
    if (!m_file) return;
    const Result<PlanSaved> saved = m_file->save_plan(m_bench);
    if (saved && saved->merged) adopt(*saved);
    const QString before = m_save_trouble;
    m_save_trouble = saved ? QString() : QString::fromStdString(saved.error().text());
    if (saved) m_worker.wish({LiveWish::Kind::plan_changed});
    if (saved)
        m_saved_at = now();
    else if (m_save_trouble != before)
        emit trouble(m_save_trouble);
    if (!saved) m_save_soon.start(2000); // what was edited stays in memory until it can be saved
}

void Session::edit(const QString& text, const std::function<void(Bench&)>& change) {
    if (!m_file || refuseToChange()) return;
    Bench after = m_bench;
    change(after);
    for (const Reading& reading : after.readings) {
        const std::vector<std::string> loop = feed_loop(after, reading.id);
        if (loop.empty() || !feed_loop(m_bench, reading.id).empty()) continue; // what a file brought is a finding
        QStringList names;
        for (const std::string& id : loop)
            names << QString::fromStdString(after.reading(id)->name);
        names << names.front();
        emit trouble(tr("Readings would feed each other in a circle: %1. Nothing was changed.")
                         .arg(names.join(QStringLiteral(" → "))));
        return;
    }
    PlanDifference delta = difference(m_bench, after);
    if (delta.empty()) return;
    m_undo.push(new PlanEdit(text, std::move(delta),
                             [this](const PlanDifference& d, bool forwards) { applyChange(d, forwards); }));
}

void Session::applyQuietly(const std::function<void(Bench&)>& change) {
    if (!m_file || !m_look_only.isEmpty()) return;
    Bench after = m_bench;
    change(after);
    if (const PlanDifference delta = difference(m_bench, after); !delta.empty()) applyChange(delta, true);
}

void Session::editReading(const std::string& id, const QString& text, const std::function<void(Reading&)>& change) {
    edit(text, [&](Bench& bench) {
        if (Reading* reading = bench.reading(id)) change(*reading);
    });
}

void Session::applyChange(const PlanDifference& change, bool forwards) {
    apply(change, forwards, m_bench);
    ++m_plan_revision;
    m_save_soon.start();
    sendPlan();
    for (const auto& item : change.readings) {
        const auto& from = forwards ? item.before : item.after;
        const auto& to = forwards ? item.after : item.before;
        if (from && to && from->wiring.reference != to->wiring.reference) tellBoardOfReference(*to);
    }
    emit planChanged();
}

/// A board that lists the command `reference` is switched with the plan; on others the maker's own code must do it.
void Session::tellBoardOfReference(const Reading& reading) {
    if (!reading.wiring.board.empty() && !reading.wiring.reference.empty())
        m_worker.sendCommand(reading.wiring.board,
                             QStringLiteral("reference ") + QString::fromStdString(reading.wiring.reference));
}

const BoardCard* Session::boardCard(const Reading& reading) const {
    const BoardUse* use = m_bench.board(reading.wiring.board);
    return use ? catalog().board(use->card) : nullptr;
}

void Session::reloadCatalog() {
    std::promise<std::shared_ptr<const LoadedCatalog>> read;
    read.set_value(std::make_shared<const LoadedCatalog>(load_catalog()));
    m_cards = read.get_future().share();
    ++m_plan_revision;
    if (m_file) sendPlan();
    emit planChanged();
}

void Session::applyFix(const Finding& finding) {
    if (!finding.action) return;
    if (!finding.action->send.empty()) {
        if (const Reading* reading = m_bench.reading(finding.reading))
            m_worker.sendCommand(reading->wiring.board, QString::fromStdString(finding.action->send));
        return;
    }
    if (finding.action->change)
        edit(QString::fromStdString(finding.action->label), [&](Bench& bench) { mend(bench, catalog(), finding); });
}

void Session::allowWide(const std::string& board) {
    const BoardUse* use = m_bench.board(board);
    if (!use) return;
    allow_wide(use->link.http);
    m_worker.allowWide(board);
}

void Session::allowActing(const std::string& control) {
    const LoadControl* wanted = m_bench.control(control);
    if (!wanted || refuseToChange()) return;
    allow_acting(*wanted, m_bench);
    m_worker.wish({LiveWish::Kind::allow_acting, QString::fromStdString(control)});
    sendPlan();
}

void Session::note(const std::string& reading, const std::string& kind, const std::function<std::string()>& says) {
    const InEnglish in_the_file;
    log({0, now(), reading, kind, says(), 0});
}

void Session::log(const LogEntry& entry) {
    if (!m_file || refuseToChange()) return;
    if (const auto written = m_file->append_log(entry); !written)
        emit trouble(QString::fromStdString(written.error().text()));
    emit logChanged();
}

Result<std::string> Session::beginWriting() {
    if (!m_file) return failure(phrase("no bench is open."));
    if (refuseToChange()) return failure(m_look_only.toStdString());
    savePlan();
    ++m_writing;
    return m_file->path();
}

bool Session::endWriting(const WritingMark& mark) {
    if (mark != m_stop_writing) return false;
    m_writing = std::max(0, m_writing - 1);
    return true;
}

void Session::adoptReadings(const QString& text, const Bench& plan) {
    edit(text, [&](Bench& bench) {
        for (const Reading& reading : plan.readings)
            if (!bench.reading(reading.id)) bench.readings.push_back(reading);
    });
    m_own_merge = true; // the file has them already: nobody else changed it
    savePlan();
    m_own_merge = false;
}

QFuture<Result<ImportReport>> Session::importFile(const QString& path, ImportOptions options,
                                                  std::shared_ptr<ImportWatch> watch) {
    struct Done {
        ImportReport report;
        Bench plan;
    };
    return answered_as<Result<ImportReport>>(
        writeBeside<Done>([options, watch, cards = m_cards, plan = m_bench, path = path.toStdString()](
                              BenchFile& file, const std::atomic<bool>& stop) mutable -> Result<Done> {
            options.catalog = &cards.get()->catalog;
            options.progress = [&](std::uint64_t read) {
                watch->read = read;
                return !watch->stop && !stop;
            };
            COGNITUM_TRY(descriptor, open_regular_file(path));
            auto report = import_samples(file, plan, path, descriptor, options);
            ::close(descriptor);
            if (!report) return tl::make_unexpected(report.error());
            return Done{std::move(*report), plan};
        }),
        this, [this, path, mark = writingMark()](const Result<Done>& done) -> Result<ImportReport> {
            const bool here = endWriting(mark);
            if (!done) return tl::make_unexpected(done.error());
            if (!here) return done->report;
            adoptReadings(tr("Readings from %1").arg(path), done->plan);
            note("", log_kind::import, [&] {
                return counted(static_cast<long>(done->report.rows), "{} row from {}, {} set aside.",
                               "{} rows from {}, {} set aside.", path.toStdString(), done->report.rejected.total());
            });
            return done->report;
        });
}

} // namespace cognitum
