// The bench file of a session while it is open: what others do to it, and what it could not take.
#include "core/base/phrase.h"
#include "session/recorder/bench_lock.h"
#include "session/recorder/live_stream.h"
#include "session/session.h"
#include "store/file/file_header.h"
#include "store/samples/unsaved.h"

namespace cognitum {

namespace {
constexpr std::chrono::seconds patience(3);          ///< with a worker that is at one board
constexpr TimeUs recorder_may_take = 15 * second_us; ///< to come back
} // namespace

void Session::lookAround() {
    if (const auto stuck = m_worker.watch().stuck(patience); stuck && stuck->board != m_stuck_told) {
        m_stuck_told = stuck->board;
        const BoardUse* board = m_bench.board(stuck->board);
        emit trouble(tr("What %1 sends has kept the reading of all boards busy for more than %2 s. Unplug it, or "
                        "change its format.")
                         .arg(QString::fromStdString(board ? board->name : stuck->board))
                         .arg(patience.count()));
    } else if (!stuck) {
        m_stuck_told.clear();
    }
    if (!m_file) {
        if (!m_replaced_path.isEmpty()) reopenReplaced();
        return;
    }
    const auto identity = identity_of(m_file->path());
    if (!m_file->check_in_place()) {
        if (identity) reopenReplaced();
        return;
    }
    if (!isAttached()) m_session_rules.lookNow();
    m_secrets.look();
    if (!m_look_only.isEmpty()) lookAgainForTheLock(*identity);
    if (m_writing > 0) return; // what the file has beside this plan is taken over when that work is done
    if (const auto current = m_file->plan_is_current(); !current || *current || m_save_soon.isActive()) return;
    if (const auto theirs = m_file->load_plan()) adopt({true, *theirs, {}});
}

/// A recorder that has the bench is joined; whoever else had it may have closed it: then it can be changed here.
void Session::lookAgainForTheLock(const FileIdentity& identity) {
    if (attach(identity)) {
        m_look_only.clear();
        if (const auto theirs = m_file->load_plan()) m_bench = *theirs;
        ++m_plan_revision;
        emit planChanged();
        return;
    }
    // It was killed, or is being started: it gets the time for that, and what it recorded goes on here if not.
    const bool still_waits = m_waits_for_recorder && now() - *m_waits_for_recorder < recorder_may_take &&
                             now() >= *m_waits_for_recorder; // or the clock was set
    if (still_waits && !m_takes_back) return;
    if (!m_lock->take(identity)) return;
    takeOver();
}

void Session::takeOver() {
    m_look_only.clear();
    if (const auto theirs = m_file->load_plan()) m_bench = *theirs;
    ++m_plan_revision;
    takeBackUnsaved();
    sendPlan();
    emit planChanged();
    const bool goes_on = m_waits_for_recorder && m_was_recording;
    emit trouble(m_takes_back ? tr("The recorder has ended: this window has the bench.")
                 : goes_on    ? tr("The recorder does not come back: the recording goes on here.")
                 : m_waits_for_recorder
                     ? tr("The recorder does not come back: this window has the bench now.")
                     : tr("The other program let go of this bench: it can be changed here now."));
    m_waits_for_recorder.reset();
    m_takes_back = false;
    if (goes_on) m_worker.startRecording();
}

/// A recorder without a window has the bench: what is live comes from it, and edits go through the file to it.
bool Session::attach(const FileIdentity& identity) {
    if (!m_worker.attach(identity)) return false;
    m_waits_for_recorder.reset();
    m_worker.shutDownNow(); // nothing is listened to here
    return true;
}

void Session::recorderLost() {
    if (!m_worker.isAttached() || !m_file) return;
    m_was_recording = m_worker.live().recording.on;
    m_worker.detach();
    m_waits_for_recorder = now();
    if (m_takes_back) {
        m_look_only = tr("The recorder ends …");
        QTimer::singleShot(200, this, &Session::lookAround);
        return;
    }
    m_look_only = tr("The recorder of this bench is gone. It gets %1 s to come back; then this window takes over.")
                      .arg(recorder_may_take / second_us);
    ++m_plan_revision;
    emit planChanged();
    emit trouble(m_look_only);
}

void Session::takeBack() {
    if (!isAttached()) return;
    savePlan();
    m_takes_back = true;
    m_worker.wish({LiveWish::Kind::end});
}

void Session::handOver() {
    if (!m_file || isAttached()) return;
    m_was_recording = m_worker.live().recording.on;
    savePlan();
    m_worker.shutDownNow();
    m_lock->release();
    m_waits_for_recorder = now();
    m_look_only = tr("The recorder is being started …");
    ++m_plan_revision;
    emit planChanged();
}

/// The plan as the file has it now, with what another program changed.
void Session::adopt(const PlanSaved& saved) {
    m_bench = saved.plan;
    ++m_plan_revision;
    sendPlan();
    for (const std::string& sentence : saved.both)
        note("", log_kind::edit, [&] { return sentence; });
    emit planChanged();
    // Followed only, or changed by work beside this: nothing to tell, unless both changed one item.
    if (!m_look_only.isEmpty() || ((m_own_merge || isAttached()) && saved.both.empty())) return;
    emit trouble(saved.both.empty()
                     ? tr("Another program changed the plan of this bench; what is shown has its changes.")
                     : tr("Another program changed the same parts of the plan. Yours stand; the others are in the "
                          "logbook."));
}

/// Another file has the bench's name: the old one is let go, the new one opened, edits of the plan that were not
/// saved go into it, and so does what is still recorded.
void Session::reopenReplaced() {
    const QString where = m_file ? path() : m_replaced_path;
    if (read_file_header(where.toStdString()).kind != FileKind::bench) {
        savePlan(); // which fails, and says so
        return;
    }
    const Bench base = m_file ? m_file->base() : m_bench;
    m_worker.letGoOfFileNow();
    for (Archive* archive : {&m_archive, &m_exports})
        archive->close();
    m_file.reset();
    m_replaced_path = where;
    auto file = BenchFile::open(where.toStdString(), Access::write);
    auto plan = file ? file->load_plan() : Result<Bench>(tl::make_unexpected(file.error()));
    if (!plan) {
        emit trouble(QString::fromStdString(plan.error().text()));
        return;
    }
    m_replaced_path.clear();
    m_file = std::make_unique<BenchFile>(std::move(*file));
    if (const auto identity = identity_of(m_file->path())) m_lock->take(*identity);
    for (Archive* archive : {&m_archive, &m_exports})
        archive->open(m_file->path());
    m_bench = merge_plans(base, m_bench, *plan).plan;
    m_undo.clear();
    ++m_plan_revision;
    m_save_soon.start();
    sendPlan();
    emit planChanged();
    const auto says = [] {
        return std::string(
            phrase("The bench file was replaced by another one while it was open. The new one is open "
                   "now; what was saved before is in the file that had its name."));
    };
    note("", log_kind::edit, says);
    emit trouble(QString::fromStdString(says()));
}

void Session::takeBackUnsaved() {
    const auto taken = take_back_unsaved(*m_file);
    if (!taken) {
        emit trouble(tr("What could not be saved before cannot be taken in: %1")
                         .arg(QString::fromStdString(taken.error().text())));
    } else if (!taken->files.empty()) {
        const auto says = [&] {
            return counted(static_cast<long>(taken->samples),
                           "{} sample that could not be saved before is in the bench now.",
                           "{} samples that could not be saved before are in the bench now.");
        };
        note("", log_kind::import, says);
        emit trouble(QString::fromStdString(says()));
    }
}

void Session::keepUnsavedPlan() {
    const auto kept = keep_unsaved(m_file->path(), m_bench, {}, now());
    emit trouble(
        kept ? tr("The plan could not be saved in %1. It is kept in %2.").arg(path(), QString::fromStdString(*kept))
             : tr("The plan could not be saved in %1, nor beside it: %2")
                   .arg(path(), QString::fromStdString(kept.error().text())));
}

} // namespace cognitum
