// The window's actions, its bench menu, and what they do with files.
#include "core/units/format.h"
#include "core/units/quantity_kind.h"
#include "demo/demo_bench.h"
#include "demo/gauge_board.h"
#include "store/export.h"
#include "ui/pages/logbook/report.h"
#include "ui/save_file.h"
#include "ui/shell/command_finder.h"
#include "ui/shell/import_dialog.h"
#include "ui/shell/main_window.h"
#include "ui/stops/calibrate/calibrate_page.h"
#include "ui/widgets/parts.h"

#include <QAction>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QFuture>
#include <QMessageBox>
#include <QPromise>
#include <QPushButton>
#include <QSettings>
#include <QShortcut>
#include <QStandardPaths>
#include <QThreadPool>
#include <memory>

#include "ui/shell/side_panel.h"
#include "ui/shell/status_line.h"

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
        QMessageBox box(QMessageBox::Question, QObject::tr("Health readings"),
                        QObject::tr("%1: about somebody’s health. Leave it out of the export?")
                            .arg(names.join(QStringLiteral(", "))),
                        QMessageBox::NoButton, w);
        box.setTextFormat(Qt::PlainText);
        box.addButton(QObject::tr("Leave out"), QMessageBox::AcceptRole);
        const QPushButton* with = box.addButton(QObject::tr("Export as well"), QMessageBox::ActionRole);
        box.exec();
        return box.clickedButton() == with;
    };
    return d;
}

QAction* MainWindow::action(const QString& name, const QString& text, const QKeySequence& keys,
                            const std::function<void()>& run) {
    auto* a = new QAction(text, this);
    a->setObjectName(name);
    a->setShortcut(keys);
    connect(a, &QAction::triggered, this, run);
    addAction(a);
    return a;
}

void MainWindow::makeActions() {
    for (int i = 0; i < 7; ++i)
        action(QStringLiteral("stop%1").arg(i + 1), tr("Go to %1").arg(stop_name(i)),
               QKeySequence(Qt::CTRL | static_cast<Qt::Key>(Qt::Key_1 + i)), [this, i] { showStop(i); });
    action(QStringLiteral("nextStep"), tr("Go to the next step of this reading"),
           QKeySequence(Qt::CTRL | Qt::Key_Return), [this] {
               if (!m_context.reading()) return newReading();
               if (const int next = m_context.state(m_context.readingId()).next; next >= 0) showStop(next);
           });
    const std::pair<QString, QString> pages[] = {{QStringLiteral("overview"), tr("Overview")},
                                                 {QStringLiteral("boards"), tr("Boards")},
                                                 {QStringLiteral("logbook"), tr("Logbook")},
                                                 {QStringLiteral("sessions"), tr("Sessions")}};
    for (int i = 0; i < 4; ++i) {
        QAction* a = action(QStringLiteral("show_") + pages[i].first, tr("Go to %1").arg(pages[i].second), {},
                            [this, id = pages[i].first] { showPage(id); });
        // With Shift, the digit keys give other characters on many keyboards: both are bound.
        const QKeySequence shifted[] = {
            QKeySequence(QStringLiteral("Ctrl+!")), QKeySequence(QStringLiteral("Ctrl+@")),
            QKeySequence(QStringLiteral("Ctrl+#")), QKeySequence(QStringLiteral("Ctrl+$"))};
        a->setShortcuts({QKeySequence(Qt::CTRL | Qt::SHIFT | static_cast<Qt::Key>(Qt::Key_1 + i)), shifted[i]});
    }
    action(QStringLiteral("record"), tr("Start or stop recording"), QKeySequence(Qt::CTRL | Qt::Key_R),
           [this] { toggleRecording(); });
    action(QStringLiteral("newReading"), tr("New reading"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_N),
           [this] { newReading(); });
    action(QStringLiteral("removeReading"), tr("Remove this reading (can be undone)"), {}, [this] {
        if (!m_context.reading()) return;
        const std::string id = m_context.readingId();
        m_session.edit(tr("Remove reading"), [&](Bench& bench) {
            std::erase_if(bench.readings, [&](const Reading& r) { return r.id == id; });
        });
        showStop(m_stop);
    });
    action(QStringLiteral("help"), tr("Help beside the work"), QKeySequence(Qt::Key_F1), [this] { toggleHelp(); });
    action(QStringLiteral("walk"), tr("Walk through the demo, in ten stations"), {}, [this] { walk(); });
    action(QStringLiteral("find"), tr("Find a command"), QKeySequence(Qt::CTRL | Qt::Key_K), [this] { find(); });
    action(QStringLiteral("dark"), tr("Light or dark"), QKeySequence(Qt::CTRL | Qt::Key_D), [this] {
        m_theme.setDark(!m_theme.isDark());
        QSettings().setValue(QStringLiteral("dark"), m_theme.isDark());
    });
    const auto scale = [this](double by) {
        m_theme.setScale(m_theme.scale() + by);
        QSettings().setValue(QStringLiteral("scale"), m_theme.scale());
    };
    action(QStringLiteral("larger"), tr("Larger text"), QKeySequence(QStringLiteral("Ctrl++")),
           [scale] { scale(0.1); });
    action(QStringLiteral("smaller"), tr("Smaller text"), QKeySequence(QStringLiteral("Ctrl+-")),
           [scale] { scale(-0.1); });
    action(QStringLiteral("foldSide"), tr("Fold or unfold the side panel"), QKeySequence(Qt::Key_F9), [this] {
        m_side_folded = !m_side_folded;
        if (m_shown) put(m_shown);
    });
    QAction* undo = m_session.undoStack()->createUndoAction(this, tr("Undo"));
    undo->setObjectName(QStringLiteral("undo"));
    undo->setShortcut(QKeySequence::Undo);
    addAction(undo);
    QAction* redo = m_session.undoStack()->createRedoAction(this, tr("Redo"));
    redo->setObjectName(QStringLiteral("redo"));
    redo->setShortcuts({QKeySequence(QStringLiteral("Ctrl+Shift+Z")), QKeySequence(QStringLiteral("Ctrl+Y"))});
    addAction(redo);
    // Space takes the point from wherever the hand is, but only while the Calibrate stop is shown.
    auto* space = new QShortcut(QKeySequence(Qt::Key_Space), this);
    space->setObjectName(QStringLiteral("captureKey"));
    space->setEnabled(false);
    connect(space, &QShortcut::activated, this, [this] { m_calibrate->takePoint(); });
    connect(&m_context, &Context::refreshed, this,
            [this, space] { space->setEnabled(m_calibrate && m_shown == m_calibrate); });
}

void MainWindow::makeBenchMenu() {
    m_menu->setObjectName(QStringLiteral("benchMenuItems"));
    m_menu->addAction(action(QStringLiteral("new"), tr("New bench …"), QKeySequence::New, [this] { newBench(); }));
    m_menu->addAction(action(QStringLiteral("open"), tr("Open …"), QKeySequence::Open,
                             [this] { openFile(m_dialogs.open_bench(this)); }));
    m_menu->addMenu(m_recent);
    m_menu->addAction(action(QStringLiteral("demo"), tr("Demo bench of Whelk Point"), {}, [this] { openDemo(); }));
    m_menu->addAction(
        action(QStringLiteral("saveCopy"), tr("Save a copy …"), QKeySequence::SaveAs, [this] { saveCopy(); }));
    m_menu->addSeparator();
    m_menu->addAction(action(QStringLiteral("import"), tr("Import a file …"), QKeySequence(Qt::CTRL | Qt::Key_I),
                             [this] { importCsv(); }));
    m_menu->addAction(action(QStringLiteral("exportCsv"), tr("Export as CSV …"), QKeySequence(Qt::CTRL | Qt::Key_E),
                             [this] { exportAs(ExportFormat::csv, QStringLiteral(".csv")); }));
    m_menu->addAction(
        action(QStringLiteral("benchReport"), tr("Report of the bench …"), {}, [this] { reportOfBench(); }));
    m_menu->addAction(action(QStringLiteral("exportJson"), tr("Export as JSON …"), {},
                             [this] { exportAs(ExportFormat::json, QStringLiteral(".json")); }));
    m_menu->addSeparator();
    for (const char* name : {"undo", "redo", "record", "find", "help", "walk", "dark", "larger", "smaller"})
        if (auto* a = findChild<QAction*>(QLatin1String(name))) m_menu->addAction(a);
    m_menu->addSeparator();
    m_menu->addAction(action(QStringLiteral("quit"), tr("Quit"), QKeySequence::Quit, [this] { close(); }));
    connect(m_recent, &QMenu::aboutToShow, this, [this] {
        m_recent->clear();
        for (const QString& path : QSettings().value(QStringLiteral("recent")).toStringList())
            connect(m_recent->addAction(path), &QAction::triggered, this, [this, path] { openFile(path); });
        if (m_recent->isEmpty()) m_recent->addAction(tr("nothing yet"))->setEnabled(false);
    });
}

void MainWindow::remember(const QString& path) {
    QStringList list = QSettings().value(QStringLiteral("recent")).toStringList();
    list.removeAll(path);
    list.prepend(path);
    while (list.size() > 8)
        list.removeLast();
    QSettings().setValue(QStringLiteral("recent"), list);
}

void MainWindow::newBench() {
    const QString path = m_dialogs.new_bench(this);
    if (path.isEmpty()) return;
    if (const auto made = m_session.createBench(path, QFileInfo(path).completeBaseName()); !made)
        complain(made.error());
}

void MainWindow::openFile(const QString& path) {
    if (path.isEmpty()) return;
    if (const auto opened = m_session.openBench(path); !opened) complain(opened.error());
}

void MainWindow::openDemo(Making making) {
    const QString folder =
        QStandardPaths::writableLocation(QStandardPaths::GenericDataLocation) + QStringLiteral("/cognitum");
    QDir().mkpath(folder);
    const QString path = folder + QStringLiteral("/whelk-point.cognitum");
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
    promise->future().then(this, [this, open](const Result<void>& made) {
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
    const QString path = m_dialogs.import_from(this);
    if (path.isEmpty()) return;
    auto* dialog = new ImportDialog(m_context, path, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

/// Everything that was recorded of all readings but those about somebody's health.
void MainWindow::reportOfBench() {
    if (!m_session.isOpen()) return;
    m_session.archive()
        .ask<std::optional<Interval>>(
            [bench = m_session.bench()](BenchFile& file) { return recorded_span(file, bench); })
        .then(this, [this](const Result<std::optional<Interval>>& span) {
            if (!span || !*span) {
                m_status->say(span ? tr("Nothing is recorded yet.") : from_std(span.error().text()));
                return;
            }
            ReportRequest request{tr("Report of the bench").toStdString(), **span, {}};
            for (const Reading& r : m_session.bench().readings)
                if (!r.quantity.about().is_private) request.readings.push_back(r.id);
            request.stretch.to = std::max(request.stretch.to, request.stretch.from) + 1;
            request.periods = Period::month;
            save_report(m_context, this, request);
        });
}

/// Names of the readings about somebody's health.
QStringList MainWindow::privateReadings() const {
    QStringList names;
    for (const Reading& r : m_session.bench().readings)
        if (const QuantityKind* kind = find_quantity_kind(r.quantity.kind); kind && kind->is_private)
            names << from_std(r.name);
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
    if (options.readings.empty() && !about_health.isEmpty() && m_dialogs.with_private &&
        m_dialogs.with_private(this, about_health))
        for (const Reading& r : m_session.bench().readings)
            options.readings.push_back(r.id); // asked for by name
    m_status->say(tr("Exporting to %1 …").arg(path));
    m_session.exports()
        .ask<ExportReport>([bench = m_session.bench(), options, path](BenchFile& file) {
            return export_to_file(file, bench, options, path);
        })
        .then(this, [this, path, about_health](const Result<ExportReport>& report) {
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
            {what.toStdString(), path.toStdString(), "cognitum-cli verify --mend saves what can be read."});
    }
    m_status->say(report.private_readings.empty()
                      ? tr("Exported to %1.").arg(path)
                      : tr("Exported to %1, without %2.").arg(path, about_health.join(QStringLiteral(", "))));
}

void MainWindow::find() {
    std::vector<Command> commands;
    for (QAction* a : actions())
        if (a->isEnabled() && a->objectName() != QStringLiteral("find"))
            commands.push_back(
                {a->text(), a->shortcut().toString(QKeySequence::NativeText), [a] { a->trigger(); }});
    for (const Reading& r : m_session.bench().readings)
        commands.push_back({tr("Reading %1").arg(from_std(r.name)), {}, [this, id = r.id] {
                                m_context.selectReading(id);
                                showStop(m_stop);
                            }});
    CommandFinder finder(m_theme, std::move(commands), this);
    finder.exec();
}

} // namespace cognitum
