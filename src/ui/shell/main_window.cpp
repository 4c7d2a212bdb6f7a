#include "ui/shell/main_window.h"

#include "core/units/quantity_kind.h"
#include "session/live/arriving.h"
#include "session/recorder/recorder_control.h"
#include "ui/help/help_panel.h"
#include "ui/pages/arrivals/new_reading_page.h"
#include "ui/pages/boards_page.h"
#include "ui/pages/findings_page.h"
#include "ui/pages/logbook/logbook_page.h"
#include "ui/pages/overview/overview_page.h"
#include "ui/pages/sessions/sessions_page.h"
#include "ui/pages/settings_page.h"
#include "ui/pages/start_page.h"
#include "ui/paper/on_paper.h"
#include "ui/plain_text.h"
#include "ui/shell/navigation_rail.h"
#include "ui/shell/path_line.h"
#include "ui/shell/side_panel.h"
#include "ui/shell/status_line.h"
#include "ui/stops/calibrate/calibrate_page.h"
#include "ui/stops/convert/convert_page.h"
#include "ui/stops/quantity/quantity_page.h"
#include "ui/stops/raw/raw_page.h"
#include "ui/stops/sensor/sensor_page.h"
#include "ui/stops/watch/watch_page.h"
#include "ui/stops/wiring/wiring_page.h"
#include "ui/widgets/parts.h"
#include "ui/widgets/spoken.h"
#include "ui/window_memory.h"

#include <QCloseEvent>
#include <QHBoxLayout>
#include <QMessageBox>
#include <QSettings>
#include <QTimer>

namespace cognitum {

namespace {

/// The first page of a stack is laid out at once, at a size that it will not have: not before it is seen.
void add_page(QStackedWidget& stack, QWidget& page) {
    const bool later = !stack.isVisible() && page.layout();
    if (later) page.layout()->setEnabled(false);
    stack.addWidget(&page);
    if (later) page.layout()->setEnabled(true);
}

} // namespace

MainWindow::MainWindow(Session& session, Theme& theme, FileDialogs dialogs)
    : m_session(session), m_theme(theme), m_dialogs(std::move(dialogs)), m_context(session, theme) {
    PlainTexts::install();
    install_spoken();
    setObjectName(QStringLiteral("mainWindow"));
    setWindowTitle(QStringLiteral("Cognitum"));
    resize(theme.px(1280), theme.px(800));
    setMinimumSize(860, 560);
    setAcceptDrops(true);
    m_menu = new QMenu(this);
    m_recent = new QMenu(tr("Recent"), this);
    makeActions();
    makeBenchMenu();

    // Everything is made inside its parent: a part that moves into one later is given its style once more.
    m_views = new QStackedWidget(this);
    setCentralWidget(m_views);
    m_bench_view = new QWidget(m_views);
    auto* rows = new QVBoxLayout(m_bench_view);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(0);
    auto* columns = new QHBoxLayout;
    columns->setSpacing(0);
    rows->addLayout(columns, 1);
    m_rail = new NavigationRail(m_context, m_menu, m_bench_view);
    columns->addWidget(m_rail);
    auto* main = new QVBoxLayout;
    main->setSpacing(0);
    columns->addLayout(main, 1);
    m_path = new PathLine(m_context, m_bench_view);
    main->addWidget(m_path);
    auto* below = new QHBoxLayout;
    below->setSpacing(0);
    main->addLayout(below, 1);
    m_stack = new QStackedWidget(m_bench_view);
    below->addWidget(m_stack, 1);
    m_side = new SidePanel(m_context, m_bench_view);
    below->addWidget(m_side);
    m_beside = below;
    m_status = new StatusLine(m_context, m_bench_view);
    rows->addWidget(m_status);
    add_page(*m_views, *m_bench_view);

    m_context.showOnPaper = preview;
    connectRequests();
    connect(m_path, &PathLine::stopChosen, this, &MainWindow::showStop);
    connect(m_rail, &NavigationRail::pageChosen, this, &MainWindow::showPage);
    connect(m_rail, &NavigationRail::readingChosen, this, [this] { showStop(m_stop); });
    connect(m_rail, &NavigationRail::newReadingAsked, this, &MainWindow::newReading);
    connect(m_status, &StatusLine::railWanted, this, &MainWindow::toggleRail);
    connect(m_status, &StatusLine::sideWanted, this, &MainWindow::toggleSide);
    connect(&theme, &Theme::changed, this, &MainWindow::arrange);
    connect(&m_context, &Context::said, m_status, &StatusLine::say);
    connect(&session, &Session::trouble, m_status, &StatusLine::say);
    connect(&session.messenger(), &Messenger::told, m_status,
            [this](const ToldNotice& notice) { m_status->say(notice.title + QStringLiteral(". ") + notice.text); });
    connect(&session.messenger(), &Messenger::readingWanted, this, &MainWindow::showReading);
    connect(&session.secrets(), &Secrets::said, m_status, &StatusLine::say);
    connect(&session, &Session::benchOpened, this, &MainWindow::benchOpened);
    connect(&m_context, &Context::selectionChanged, this, [this] {
        if (m_session.isOpen() && m_context.reading() && !m_page.isEmpty() && m_page != QStringLiteral("boards") &&
            m_page != QStringLiteral("new"))
            return;
        if (m_session.isOpen() && m_page.isEmpty()) showStop(m_stop);
    });
    // Said once the window stands: the cards are read on another thread meanwhile, and nobody waits for them here.
    QTimer::singleShot(0, this, [this] {
        for (const Error& problem : m_session.catalogProblems())
            m_status->say(from_std(problem.text()));
    });
}

/// Only a window that is seen without a bench has one.
void MainWindow::showStart() {
    m_start = new StartPage(m_theme, m_views);
    m_start->setObjectName(QStringLiteral("page"));
    connect(m_start, &StartPage::demoAsked, this, [this] { openDemo(); });
    connect(m_start, &StartPage::walkAsked, this, &MainWindow::walk);
    connect(m_start, &StartPage::newAsked, this, &MainWindow::newBench);
    connect(m_start, &StartPage::openAsked, this, [this] { openFile(m_dialogs.open_bench(this)); });
    connect(m_start, &StartPage::recentAsked, this, &MainWindow::openFile);
    add_page(*m_views, *m_start);
    m_views->setCurrentWidget(m_start);
}

/// Pages are made when they are first shown: a start pays for one of them.
Page* MainWindow::stopPage(int stop) {
    m_stops.resize(7, nullptr);
    Page*& page = m_stops[static_cast<std::size_t>(stop)];
    if (page) return page;
    switch (stop) {
    case 0: page = new QuantityPage(m_context, m_stack); break;
    case 1: page = new SensorPage(m_context, m_stack); break;
    case 2: page = new WiringPage(m_context, m_stack); break;
    case 3: page = new RawPage(m_context, m_stack); break;
    case 4: page = new ConvertPage(m_context, m_stack); break;
    case 5: page = m_calibrate = new CalibratePage(m_context, m_stack); break;
    default: page = new WatchPage(m_context, m_stack);
    }
    add_page(*m_stack, *page);
    return page;
}

/// Null when there is no page of that name.
Page* MainWindow::benchPage(const QString& id) {
    Page*& page = m_pages[id];
    if (!page) {
        if (id == QStringLiteral("overview"))
            page = new OverviewPage(m_context, m_stack);
        else if (id == QStringLiteral("boards"))
            page = new BoardsPage(m_context, m_stack);
        else if (id == QStringLiteral("logbook"))
            page = new LogbookPage(m_context, m_stack);
        else if (id == QStringLiteral("sessions"))
            page = new SessionsPage(m_context, m_stack);
        else if (id == QStringLiteral("findings"))
            page = new FindingsPage(m_context, m_stack);
        else if (id == QStringLiteral("settings"))
            page = new SettingsPage(m_context, m_stack);
        else if (id == QStringLiteral("new")) {
            auto* made = new NewReadingPage(m_context, m_stack);
            connect(made, &NewReadingPage::planned, this, &MainWindow::plan);
            page = made;
        }
        if (page) add_page(*m_stack, *page);
    }
    return page;
}

/// Beside the work, in the place of the side panel; made when it is wanted first.
HelpPanel& MainWindow::help() {
    if (!m_help) {
        m_help = new HelpPanel(m_context, m_bench_view);
        m_help->hide();
        connect(m_help, &HelpPanel::closed, this, &MainWindow::toggleHelp);
        connect(m_help, &HelpPanel::stationReached, this, &MainWindow::showStation);
        m_beside->addWidget(m_help);
    }
    return *m_help;
}

bool MainWindow::isHelped() const {
    return m_help && !m_help->isHidden();
}

void MainWindow::toggleHelp() {
    if (!m_session.isOpen()) return;
    help().setVisible(!isHelped());
    if (m_shown) put(m_shown);
    if (isHelped()) return;
    if (m_shown) m_shown->setFocus();
    help().leaveTopic();
}

void MainWindow::walk() {
    m_walk_wanted = true;
    if (!m_session.isOpen() || !m_session.bench().reading("hut-air")) return openDemo();
    m_walk_wanted = false;
    const int station = std::clamp(QSettings().value(QStringLiteral("walk"), 1).toInt(), 1, walk_stations);
    help().show();
    help().showTopic(QStringLiteral("walk-%1").arg(station));
}

void MainWindow::showStation(int station) {
    struct Station {
        const char* reading; ///< null: a page of the bench
        int stop;
        const char* page;
    };
    static const Station stations[walk_stations] = {
        {nullptr, 0, "overview"}, {"hut-air", 0, nullptr}, {"hut-air", 1, nullptr}, {"tide-pool", 2, nullptr},
        {"hut-air", 3, nullptr},  {"hut-air", 4, nullptr}, {"hut-air", 5, nullptr}, {"cistern", 6, nullptr},
        {nullptr, 0, "logbook"},  {nullptr, 0, "boards"}};
    const Station& at = stations[std::clamp(station, 1, walk_stations) - 1];
    QSettings().setValue(QStringLiteral("walk"), station < walk_stations ? station : 1);
    if (!at.reading) return showPage(QLatin1String(at.page));
    if (!m_session.bench().reading(at.reading)) return; // another bench, or it was removed
    m_context.selectReading(at.reading);
    showStop(at.stop);
}

void MainWindow::put(Page* page) {
    m_shown = page;
    static const char* stops[] = {"quantity", "sensor", "wiring", "raw", "convert", "calibrate", "watch"};
    // The walk stays until it is left.
    if (isHelped() && !m_help->topic().startsWith(QStringLiteral("walk-")))
        m_help->showTopic(m_page.isEmpty() ? QLatin1String(stops[m_stop]) : m_page);
    m_side_instead = false;
    m_side->setPageSection(page->wantsSide() ? page->side() : nullptr, page->sideAlone());
    m_stack->setCurrentWidget(page);
    arrange();
}

/// Which parts stand beside each other. With little room for the size of the text, the side panel takes the page's
/// place when it is asked for, and the rail stands there only as long as something is chosen in it.
void MainWindow::arrange() {
    if (!m_shown) return;
    constexpr double with_side = 940, with_rail = 820; // design pixels
    const bool narrow = width() < m_theme.px(with_side), slim = width() < m_theme.px(with_rail);
    const bool helped = isHelped();
    const bool side = m_shown->wantsSide() && !helped && (narrow ? m_side_instead : !m_side_folded);
    const bool rail_alone = slim && m_rail_wanted;
    show_part(m_rail, !slim || m_rail_wanted);
    show_part(m_side, side && !rail_alone);
    m_side->setWide(narrow);
    show_part(m_stack, !(narrow && side) && !rail_alone && !(slim && helped));
    show_part(m_path, m_page.isEmpty() && !rail_alone);
    m_status->offer(slim, narrow && m_shown->wantsSide() && !helped && !rail_alone);
}

void MainWindow::toggleSide() {
    if (width() < m_theme.px(940))
        m_side_instead = !m_side_instead;
    else
        m_side_folded = !m_side_folded;
    arrange();
}

void MainWindow::toggleRail() {
    m_rail_wanted = !m_rail_wanted;
    arrange();
}

void MainWindow::showStop(int stop) {
    if (!m_session.isOpen()) return;
    if (!m_context.reading()) {
        showPage(QStringLiteral("new"));
        return;
    }
    m_stop = stop;
    m_page.clear();
    m_rail_wanted = false;
    m_path->setStop(stop);
    m_rail->setPage({});
    put(stopPage(stop));
    if (stop == 2 || stop == 3) m_shown->setFocus(); // their single keys work at once
}

void MainWindow::showPage(const QString& id) {
    Page* page = m_session.isOpen() ? benchPage(id) : nullptr;
    if (!page) return;
    m_page = id;
    m_rail_wanted = false;
    m_rail->setPage(id);
    put(page);
}

void MainWindow::benchOpened() {
    setWindowTitle(tr("%1 – Cognitum").arg(from_std(m_session.bench().name)));
    m_views->setCurrentWidget(m_bench_view);
    m_context.refresh();
    returnToPlace();
    constexpr int later_ms = 100; // it writes to the disk: first the window
    QTimer::singleShot(later_ms, this, &MainWindow::rememberPlace);
    if (m_shown) m_shown->setFocus(Qt::OtherFocusReason); // no button is marked before somebody goes to one
    if (std::exchange(m_walk_wanted, false) && m_session.bench().reading("hut-air")) walk();
}

void MainWindow::newReading() {
    if (m_session.isOpen()) showPage(QStringLiteral("new"));
}

void MainWindow::plan(const QString& kind_id) {
    const QuantityKind& kind = quantity_kind(kind_id.toStdString());
    std::string id;
    m_session.edit(tr("New reading"), [&](Bench& bench) {
        const Reading r = new_reading(bench, kind, kind.title);
        id = r.id;
        bench.readings.push_back(r);
    });
    m_context.selectReading(id);
    showStop(0);
    if (auto* name = findChild<QLineEdit*>(QStringLiteral("quantityName"))) {
        name->setFocus();
        name->selectAll();
    }
}

void MainWindow::toggleRecording() {
    if (!m_session.isOpen()) return;
    if (m_context.live().recording.on)
        m_session.worker().stopRecording();
    else if (m_session.lookOnly().isEmpty())
        m_session.worker().startRecording();
    else
        emit m_context.said(m_session.lookOnly());
}

void MainWindow::complain(const Error& error) {
    QMessageBox box(QMessageBox::NoIcon, tr("That did not work"), from_std(error.text()), QMessageBox::Ok, this);
    box.setObjectName(QStringLiteral("complaint"));
    box.exec();
}

void MainWindow::closeEvent(QCloseEvent* event) {
    remember_window(*this);
    rememberPlace();
    if (m_context.settings().at_close == AtClose::hand_over && m_session.worker().live().recording.on)
        RecorderControl(m_session).startAndLeave();
    m_session.closeBench(); // saves the plan and what is being recorded
    event->accept();
}

void MainWindow::setVisible(bool visible) {
    if (visible && !m_session.isOpen() && !m_start) showStart();
    QMainWindow::setVisible(visible);
}

void MainWindow::showEvent(QShowEvent* event) {
    QMainWindow::showEvent(event);
    m_context.setSeen(!isMinimized());
}

void MainWindow::hideEvent(QHideEvent* event) {
    QMainWindow::hideEvent(event);
    m_context.setSeen(false);
}

void MainWindow::changeEvent(QEvent* event) {
    QMainWindow::changeEvent(event);
    if (event->type() == QEvent::WindowStateChange) m_context.setSeen(isVisible() && !isMinimized());
}

void MainWindow::resizeEvent(QResizeEvent* event) {
    QMainWindow::resizeEvent(event);
    arrange();
}

} // namespace cognitum
