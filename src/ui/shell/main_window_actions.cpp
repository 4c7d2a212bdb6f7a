// The window's actions, its bench menu, and what its pages ask of it.
#include "ui/help/help_panel.h"
#include "ui/pages/boards_page.h"
#include "ui/pages/logbook/logbook_page.h"
#include "ui/pages/sessions/sessions_page.h"
#include "ui/pages/settings_page.h"
#include "ui/shell/command_finder.h"
#include "ui/shell/everything.h"
#include "ui/shell/main_window.h"
#include "ui/stops/calibrate/calibrate_page.h"
#include "ui/stops/sensor/sensor_page.h"
#include "ui/widgets/parts.h"

#include <QAction>
#include <QShortcut>
#include <algorithm>

namespace cognitum {

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
                                                 {QStringLiteral("sessions"), tr("Sessions")},
                                                 {QStringLiteral("findings"), tr("Findings")}};
    for (int i = 0; i < 5; ++i) {
        QAction* a = action(QStringLiteral("show_") + pages[i].first, tr("Go to %1").arg(pages[i].second), {},
                            [this, id = pages[i].first] { showPage(id); });
        // With Shift, the digit keys give other characters on many keyboards: both are bound.
        const QKeySequence shifted[] = {
            QKeySequence(QStringLiteral("Ctrl+!")), QKeySequence(QStringLiteral("Ctrl+@")),
            QKeySequence(QStringLiteral("Ctrl+#")), QKeySequence(QStringLiteral("Ctrl+$")),
            QKeySequence(QStringLiteral("Ctrl+%"))};
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
    action(QStringLiteral("settings"), tr("Settings"), QKeySequence(Qt::CTRL | Qt::Key_Comma),
           [this] { showPage(QStringLiteral("settings")); });
    action(QStringLiteral("find"), tr("Find anything"), QKeySequence(Qt::CTRL | Qt::Key_K), [this] { find(); });
    action(QStringLiteral("dark"), tr("Light or dark"), QKeySequence(Qt::CTRL | Qt::Key_D), [this] {
        m_context.change(
            [dark = m_theme.isDark()](Settings& s) { s.appearance = dark ? Appearance::light : Appearance::dark; });
    });
    const auto scale = [this](double by) {
        m_context.change([size = m_theme.scale() + by](Settings& s) { s.scale = std::clamp(size, 0.8, 2.0); });
    };
    action(QStringLiteral("larger"), tr("Larger text"), QKeySequence(QStringLiteral("Ctrl++")),
           [scale] { scale(0.1); });
    action(QStringLiteral("smaller"), tr("Smaller text"), QKeySequence(QStringLiteral("Ctrl+-")),
           [scale] { scale(-0.1); });
    action(QStringLiteral("foldSide"), tr("Fold or unfold the side panel"), QKeySequence(Qt::Key_F9),
           [this] { toggleSide(); });
    action(QStringLiteral("foldRail"), tr("Show or hide readings and pages, where there is little room"),
           QKeySequence(Qt::Key_F8), [this] { toggleRail(); });
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
    for (const char* name :
         {"undo", "redo", "record", "find", "help", "walk", "settings", "dark", "larger", "smaller"})
        if (auto* a = findChild<QAction*>(QLatin1String(name))) m_menu->addAction(a);
    m_menu->addSeparator();
    m_menu->addAction(action(QStringLiteral("quit"), tr("Quit"), QKeySequence::Quit, [this] { close(); }));
    connect(m_recent, &QMenu::aboutToShow, this, &MainWindow::fillRecent);
}

void MainWindow::find() {
    std::vector<Command> commands;
    for (QAction* a : actions())
        if (a->isEnabled() && a->objectName() != QStringLiteral("find"))
            commands.push_back(
                {a->text(), a->shortcut().toString(QKeySequence::NativeText), [a] { a->trigger(); }, {}});
    if (m_session.isOpen()) {
        Ways ways;
        ways.stop = [this](int stop) { showStop(stop); };
        ways.board = [this](const std::string& id) {
            showPage(QStringLiteral("boards"));
            static_cast<BoardsPage*>(benchPage(QStringLiteral("boards")))->choose(id);
        };
        ways.part = [this](const QString& facts) {
            constexpr int sensor = 1;
            showStop(sensor);
            if (m_context.reading()) static_cast<SensorPage*>(stopPage(sensor))->find(facts);
        };
        ways.setting = [this](const QString& name) {
            showPage(QStringLiteral("settings"));
            static_cast<SettingsPage*>(benchPage(QStringLiteral("settings")))->showEntry(name);
        };
        ways.help = [this](const QString& topic) {
            if (!isHelped()) toggleHelp();
            help().showTopic(topic);
        };
        for (Command& found : everything(m_context, ways, m_stop))
            commands.push_back(std::move(found));
    }
    CommandFinder finder(m_theme, std::move(commands), this);
    finder.exec();
}

void MainWindow::connectRequests() {
    connect(&m_context, &Context::stopRequested, this, &MainWindow::showStop);
    connect(&m_context, &Context::pageRequested, this, &MainWindow::showPage);
    connect(&m_context, &Context::exportRequested, this,
            [this](TimeUs from, TimeUs to, const std::vector<std::string>& readings) {
                ExportOptions options;
                options.from = from;
                options.to = to - 1; // the stretch ends before it
                options.readings = readings;
                exportWith(options, QStringLiteral(".csv"));
            });
    connect(&m_context, &Context::stretchRequested, this,
            [this](const Interval& stretch, const std::vector<std::string>& readings) {
                showPage(QStringLiteral("logbook"));
                static_cast<LogbookPage*>(benchPage(QStringLiteral("logbook")))->showStretch(stretch, readings);
            });
    connect(&m_context, &Context::sessionRequested, this, [this](const QString& id) {
        showPage(QStringLiteral("sessions"));
        static_cast<SessionsPage*>(benchPage(QStringLiteral("sessions")))->select(id.toStdString());
    });
}

} // namespace cognitum
