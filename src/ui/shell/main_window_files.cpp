// What the window does with files: benches, tables, cards and programs, chosen, dropped or handed over.
#include "core/base/phrase.h"
#include "core/units/quantity_kind.h"
#include "demo/demo_bench.h"
#include "session/archive/answer.h"
#include "store/exchange/export.h"
#include "store/file/data_files.h"
#include "store/file/given_file.h"
#include "store/file/whole_file.h"
#include "ui/pages/boards_page.h"
#include "ui/pages/logbook/report.h"
#include "ui/save_file.h"
#include "ui/shell/import_dialog.h"
#include "ui/shell/main_window.h"
#include "ui/shell/status_line.h"
#include "ui/widgets/parts.h"
#include "ui/window_memory.h"

#include <QApplication>
#include <QDir>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QFuture>
#include <QMessageBox>
#include <QMimeData>
#include <QPromise>
#include <QPushButton>
#include <QStandardPaths>
#include <QThreadPool>
#include <QTimer>
#include <memory>

namespace cognitum {

namespace {

QString with_suffix(QString path, const QString& suffix) {
    if (!path.isEmpty() && QFileInfo(path).suffix().isEmpty()) path += suffix;
    return path;
}

} // namespace

FileDialogs FileDialogs::native() {
    const QString benches = QObject::tr("Cognitum benches (*.cognitum)");
    FileDialogs d;
    d.new_bench = [=](QWidget* w) {
        return with_suffix(QFileDialog::getSaveFileName(w, QObject::tr("New bench"),
                                                        QDir::homePath() + QStringLiteral("/my bench.cognitum"),
                                                        benches),
                           QStringLiteral(".cognitum"));
    };
    d.open_bench = [=](QWidget* w) {
        return QFileDialog::getOpenFileName(w, QObject::tr("Open a bench"), QDir::homePath(), benches);
    };
    d.copy_to = [=](QWidget* w) {
        return with_suffix(QFileDialog::getSaveFileName(w, QObject::tr("Save a copy"), QDir::homePath(), benches),
                           QStringLiteral(".cognitum"));
    };
    d.import_from = [](QWidget* w) {
        return QFileDialog::getOpenFileName(
            w, QObject::tr("Import a table"), QDir::homePath(),
            QObject::tr("Tables and samples (*.csv *.txt *.tsv *.json *.senml);;All files (*)"));
    };
    d.export_to = [](QWidget* w, const QString& suffix) {
        return with_suffix(QFileDialog::getSaveFileName(w, QObject::tr("Export"), QDir::homePath(),
                                                        QStringLiteral("(*%1)").arg(suffix)),
                           suffix);
    };
    d.with_private = [](QWidget* w, const QStringList& names) {
        QMessageBox box(
            QMessageBox::Question, QObject::tr("Private readings"),
            QObject::tr("%1: private. Leave it out of the export?").arg(names.join(QStringLiteral(", "))),
            QMessageBox::NoButton, w);
        box.setTextFormat(Qt::PlainText);
        box.addButton(QObject::tr("Leave out"), QMessageBox::AcceptRole);
        const QPushButton* with = box.addButton(QObject::tr("Export as well"), QMessageBox::ActionRole);
        box.exec();
        return box.clickedButton() == with;
    };
    d.end_recording = [](QWidget* w, const QString& recorded, const QString& other) {
        QMessageBox box(
            QMessageBox::Question, QObject::tr("A recording runs"),
            QObject::tr("%1 is being recorded. Open %2 in its place and end the recording?").arg(recorded, other),
            QMessageBox::NoButton, w);
        box.setTextFormat(Qt::PlainText);
        box.addButton(QObject::tr("Go on recording"), QMessageBox::RejectRole);
        const QPushButton* end = box.addButton(QObject::tr("End it and open"), QMessageBox::AcceptRole);
        box.exec();
        return box.clickedButton() == end;
    };
    return d;
}

void MainWindow::rememberPlace() {
    if (!m_session.isOpen()) return;
    const Bench& bench = m_session.bench();
    remember_bench({QFileInfo(m_session.path()).absoluteFilePath(), from_std(bench.name), from_std(bench.place),
                    static_cast<int>(bench.readings.size()), QDateTime::fromMSecsSinceEpoch(m_session.now() / 1000),
                    m_page, from_std(m_context.readingId()), m_stop});
}

/// Where somebody was when this bench was open last; an empty one begins with what a board sends.
void MainWindow::returnToPlace() {
    if (!m_context.reading()) return showPage(QStringLiteral("new"));
    const QString path = QFileInfo(m_session.path()).absoluteFilePath();
    for (const RecentBench& bench : recent_benches()) {
        if (bench.path != path) continue;
        if (m_session.bench().reading(bench.reading.toStdString()))
            m_context.selectReading(bench.reading.toStdString());
        showStop(bench.stop);
        if (!bench.page.isEmpty() && bench.page != QStringLiteral("new")) showPage(bench.page);
        return;
    }
    showStop(m_stop);
}

void MainWindow::fillRecent() {
    m_recent->clear();
    for (const RecentBench& bench : recent_benches()) {
        const QString name = bench.name.isEmpty() ? QFileInfo(bench.path).completeBaseName() : bench.name;
        QAction* entry = m_recent->addAction(on_button(name + QStringLiteral("   ") + describe(bench)));
        entry->setToolTip(bench.path);
        connect(entry, &QAction::triggered, this, [this, path = bench.path] { openFile(path); });
    }
    if (m_recent->isEmpty()) m_recent->addAction(tr("nothing yet"))->setEnabled(false);
}

bool MainWindow::openLast() {
    const std::vector<RecentBench> known = recent_benches();
    if (!m_context.settings().open_last || known.empty()) return false;
    openFile(known.front().path);
    return m_session.isOpen();
}

void MainWindow::newBench() {
    const QString path = m_dialogs.new_bench(this);
    if (path.isEmpty()) return;
    if (const auto made = m_session.createBench(path, QFileInfo(path).completeBaseName()); !made)
        complain(made.error());
}

void MainWindow::openFile(const QString& path) {
    if (path.isEmpty()) return;
    rememberPlace();
    if (const auto opened = m_session.openBench(path); !opened) complain(opened.error());
}

QString MainWindow::demoPath() {
    return QStandardPaths::writableLocation(QStandardPaths::GenericDataLocation) +
           QStringLiteral("/cognitum/whelk-point.cognitum");
}

void MainWindow::openDemo(Making making) {
    const QString path = demoPath();
    QDir().mkpath(QFileInfo(path).path());
    const auto open = [this, path] {
        if (const auto opened = m_session.openBench(path); !opened) return complain(opened.error());
        if (m_session.lookOnly().isEmpty()) m_session.worker().startRecording();
    };
    // Its history ends now: the same seed makes the same weather, so a fresh one is no loss.
    if (!QFile::exists(path) && making == Making::before_the_window)
        if (const auto made = create_demo_bench(path.toStdString(), m_session.now()); !made)
            return complain(made.error());
    if (QFile::exists(path)) return open();
    m_status->say(tr("Making the demo bench: sixty days at Whelk Point …"));
    auto promise = std::make_shared<QPromise<Result<void>>>();
    promise->start();
    when_answered(promise->future(), this, [this, open](const Result<void>& made) {
        if (!made) return complain(made.error());
        m_status->say({});
        open();
    });
    QThreadPool::globalInstance()->start([promise, path = path.toStdString(), now = m_session.now()] {
        const auto made = create_demo_bench(path, now);
        promise->addResult(made ? Result<void>() : Result<void>(tl::make_unexpected(made.error())));
        promise->finish();
    });
}

void MainWindow::saveCopy() {
    if (!m_session.isOpen()) return;
    const QString path = m_dialogs.copy_to(this);
    if (path.isEmpty()) return;
    if (const auto saved = m_session.saveCopy(path); saved)
        m_status->say(tr("A copy is in %1.").arg(path));
    else
        complain(saved.error());
}

void MainWindow::importCsv() {
    if (!m_session.isOpen()) return;
    importFrom(m_dialogs.import_from(this));
}

void MainWindow::importFrom(const QString& path) {
    if (path.isEmpty()) return;
    auto* dialog = new ImportDialog(m_context, path, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void MainWindow::takeCard(const QString& path) {
    const auto text = read_text_file(path.toStdString());
    const auto kept =
        text ? save_own_card(*text, Existing::keep) : Result<std::string>(tl::make_unexpected(text.error()));
    if (!kept)
        return complain({kept.error().what, path.toStdString() + ": " + kept.error().where, kept.error().fix});
    m_session.reloadCatalog();
    m_status->say(tr("The card is kept as %1.").arg(from_std(*kept)));
}

void MainWindow::takePrograms(const QStringList& paths) {
    if (m_session.bench().boards.empty())
        return complain(
            {tr("a program is read beside the plan of a board, and this bench has none yet.").toStdString(),
             paths.front().toStdString(), tr("Add the board first, on the page Boards.").toStdString()});
    showPage(QStringLiteral("boards"));
    static_cast<BoardsPage*>(benchPage(QStringLiteral("boards")))->readProgram(paths);
}

void MainWindow::take(const QStringList& paths) {
    QStringList programs;
    bool table_taken = false;
    for (const QString& path : paths) {
        const auto given = what_is(path.toStdString());
        if (!given) return complain(given.error());
        if (*given == GivenFile::bench) {
            const bool is_open = m_session.isOpen() && QFileInfo(path) == QFileInfo(m_session.path());
            if (!is_open && mayLeaveRecording(path)) openFile(path);
            return;
        }
        if (*given == GivenFile::card)
            takeCard(path);
        else if (!m_session.isOpen())
            return complain({tr("there is no bench yet that could take it.").toStdString(), path.toStdString(),
                             tr("Open a bench or begin one, then drop it again.").toStdString()});
        else if (*given == GivenFile::table) {
            if (table_taken)
                m_status->say(
                    tr("One table at a time: drop %1 again when this one is in.").arg(QFileInfo(path).fileName()));
            else
                importFrom(path);
            table_taken = true;
        } else
            programs << path;
    }
    if (!programs.isEmpty()) takePrograms(programs);
}

/// True: nothing is being recorded here, or a person says that it may end.
bool MainWindow::mayLeaveRecording(const QString& path) {
    if (!m_session.isOpen() || !m_session.worker().live().recording.on || m_session.isAttached()) return true;
    return m_dialogs.end_recording &&
           m_dialogs.end_recording(this, from_std(m_session.bench().name), QFileInfo(path).fileName());
}

void MainWindow::askedFromElsewhere(const QStringList& paths, const QString& token) {
    comeForward(token);
    if (paths.isEmpty()) return;
    if (QApplication::activeModalWidget()) // it may be about the bench that is open
        return m_status->say(
            tr("Close this dialog first; then open %1 again.").arg(QFileInfo(paths.front()).fileName()));
    take(paths);
}

void MainWindow::comeForward(const QString& token) {
    // Where windows may not come forward by themselves, the token of the click lets them (xdg-activation).
    if (!token.isEmpty()) qputenv("XDG_ACTIVATION_TOKEN", token.toUtf8());
    setWindowState(windowState() & ~Qt::WindowMinimized);
    show();
    raise();
    activateWindow();
}

void MainWindow::showReading(const QString& reading, const QString& token) {
    comeForward(token);
    if (!m_session.bench().reading(reading.toStdString())) return;
    m_context.selectReading(reading.toStdString());
    constexpr int watch = 6;
    showStop(watch);
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    for (const QUrl& url : event->mimeData()->urls())
        if (url.isLocalFile()) return event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    QStringList paths;
    for (const QUrl& url : event->mimeData()->urls())
        if (url.isLocalFile()) paths << url.toLocalFile();
    if (paths.isEmpty()) return;
    event->acceptProposedAction();
    // The program that it was dragged from waits until this returns: a question must come after that.
    QTimer::singleShot(0, this, [this, paths] { take(paths); });
}

/// Everything that was recorded of all readings but those about somebody's health.
void MainWindow::reportOfBench() {
    if (!m_session.isOpen()) return;
    when_answered(m_session.archive().ask<std::optional<Interval>>(
                      [bench = m_session.bench()](BenchFile& file) { return recorded_span(file, bench); }),
                  this, [this](const Result<std::optional<Interval>>& span) {
                      if (!span || !*span) {
                          m_status->say(span ? tr("Nothing is recorded yet.") : from_std(span.error().text()));
                          return;
                      }
                      ReportRequest request{tr("Report of the bench").toStdString(), **span, {}};
                      for (const Reading& r : m_session.bench().readings)
                          if (!r.quantity.is_private()) request.readings.push_back(r.id);
                      request.stretch.to = std::max(request.stretch.to, request.stretch.from) + 1;
                      request.periods = Period::month;
                      save_report(m_context, this, request);
                  });
}

/// Names of the readings that leave this computer only when they are asked for.
QStringList MainWindow::privateReadings() const {
    QStringList names;
    for (const Reading& r : m_session.bench().readings)
        if (r.quantity.is_private()) names << from_std(r.name);
    return names;
}

/// The name appears only when the file is whole.
static Result<ExportReport> export_to_file(BenchFile& bench_file, const Bench& bench, const ExportOptions& options,
                                           const QString& path) {
    Result<ExportReport> report;
    const auto saved = save_file(path, [&](QIODevice& file) {
        report = export_samples(bench_file, bench, options, [&](std::string_view text) {
            file.write(text.data(), static_cast<qint64>(text.size()));
        });
        return report.has_value();
    });
    if (report && !saved) return tl::make_unexpected(saved.error());
    return report;
}

void MainWindow::exportAs(ExportFormat format, const QString& suffix) {
    ExportOptions options;
    options.format = format;
    exportWith(options, suffix);
}

void MainWindow::exportWith(ExportOptions options, const QString& suffix) {
    if (!m_session.isOpen()) return;
    const QString path = m_dialogs.export_to(this, suffix);
    if (path.isEmpty()) return;
    const QStringList about_health = privateReadings();
    if (options.readings.empty() && !about_health.isEmpty() && m_context.settings().offer_private &&
        m_dialogs.with_private && m_dialogs.with_private(this, about_health))
        for (const Reading& r : m_session.bench().readings)
            options.readings.push_back(r.id); // asked for by name
    m_status->say(tr("Exporting to %1 …").arg(path));
    when_answered(
        m_session.exports().ask<ExportReport>([bench = m_session.bench(), options, path](BenchFile& file) {
            return export_to_file(file, bench, options, path);
        }),
        this, [this, path, about_health](const Result<ExportReport>& report) {
            if (!report) return complain(report.error());
            tellExported(*report, path, about_health);
        });
}

void MainWindow::tellExported(const ExportReport& report, const QString& path, const QStringList& about_health) {
    if (!report.unreadable.empty()) {
        const Unreadable& first = report.unreadable.front();
        const auto more = static_cast<int>(report.unreadable.size()) - 1;
        QString what =
            tr("the export lacks %n sample(s) of %1 from %2 to %3, which cannot be read.", "",
               static_cast<int>(first.n))
                .arg(from_std(first.reading), from_std(iso_time(first.first)), from_std(iso_time(first.last)));
        if (more > 0) what += tr(" %n more stretch(es) as well.", "", more);
        return complain(
            {what.toStdString(), path.toStdString(), phrase("cognitum-cli verify --mend saves what can be read.")});
    }
    m_status->say(report.private_readings.empty()
                      ? tr("Exported to %1.").arg(path)
                      : tr("Exported to %1, without %2.").arg(path, about_health.join(QStringLiteral(", "))));
}

} // namespace cognitum
