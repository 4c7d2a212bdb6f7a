// The bench file of a session while it is open: what others do to it, and what it could not take.
#include "session/bench_lock.h"
#include "session/session.h"
#include "store/file_header.h"
#include "store/unsaved.h"

namespace cognitum {

namespace {
constexpr std::chrono::seconds patience(3); ///< with a worker that is at one board
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
    m_session_rules.lookNow();
    if (!m_look_only.isEmpty()) lookAgainForTheLock(*identity);
    if (m_writing > 0) return; // what the file has beside this plan is taken over when that work is done
    if (const auto current = m_file->plan_is_current(); !current || *current || m_save_soon.isActive()) return;
    if (const auto theirs = m_file->load_plan()) adopt({true, *theirs, {}});
}

/// Whoever had the bench may have closed it: then it can be changed here.
void Session::lookAgainForTheLock(const FileIdentity& identity) {
    if (!m_lock->take(identity)) return;
    m_look_only.clear();
    if (const auto theirs = m_file->load_plan()) m_bench = *theirs;
    ++m_plan_revision;
    takeBackUnsaved();
    sendPlan();
    emit planChanged();
    emit trouble(tr("The other program let go of this bench: it can be changed here now."));
}

/// The plan as the file has it now, with what another program changed.
void Session::adopt(const PlanSaved& saved) {
    m_bench = saved.plan;
    ++m_plan_revision;
    sendPlan();
    for (const std::string& sentence : saved.both)
        note("", log_kind::edit, QString::fromStdString(sentence));
    emit planChanged();
    // Followed only, or changed by work beside this: nothing to tell, unless both changed one item.
    if (!m_look_only.isEmpty() || (m_own_merge && saved.both.empty())) return;
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
    const QString sentence = tr("The bench file was replaced by another one while it was open. The new one is open "
                                "now; what was saved before is in the file that had its name.");
    note("", log_kind::edit, sentence);
    emit trouble(sentence);
}

void Session::takeBackUnsaved() {
    const auto taken = take_back_unsaved(*m_file);
    if (!taken) {
        emit trouble(tr("What could not be saved before cannot be taken in: %1")
                         .arg(QString::fromStdString(taken.error().text())));
    } else if (!taken->files.empty()) {
        const QString sentence = tr("%n sample(s) that could not be saved before are in the bench now.", nullptr,
                                    static_cast<int>(taken->samples));
        note("", log_kind::import, sentence);
        emit trouble(sentence);
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
