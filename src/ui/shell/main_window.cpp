#include "ui/shell/main_window.h"

#include "ui/pages/boards_page.h"
#include "ui/pages/logbook/logbook_page.h"
#include "ui/pages/overview/overview_page.h"
#include "ui/pages/sessions/sessions_page.h"
#include "ui/pages/start_page.h"
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

#include <QCloseEvent>
#include <QHBoxLayout>
#include <QMessageBox>
#include <QTimer>

namespace cognitum {

MainWindow::MainWindow(Session& session, Theme& theme, FileDialogs dialogs)
    : m_session(session), m_theme(theme), m_dialogs(std::move(dialogs)), m_context(session, theme) {
    PlainTexts::install();
    setObjectName(QStringLiteral("mainWindow"));
    setWindowTitle(QStringLiteral("Cognitum"));
    resize(theme.px(1280), theme.px(800));
    setMinimumSize(860, 560);
    m_menu = new QMenu(this);
    m_recent = new QMenu(tr("Recent"), this);
    makeActions();
    makeBenchMenu();

    // Everything is made inside its parent: a part that moves into one later is given its style once more.
    m_views = new QStackedWidget(this);
    setCentralWidget(m_views);
    m_start = new StartPage(theme, m_views);
    m_start->setObjectName(QStringLiteral("page"));
    connect(static_cast<StartPage*>(m_start), &StartPage::demoAsked, this, [this] { openDemo(); });
    connect(static_cast<StartPage*>(m_start), &StartPage::newAsked, this, &MainWindow::newBench);
    connect(static_cast<StartPage*>(m_start), &StartPage::openAsked, this,
            [this] { openFile(m_dialogs.open_bench(this)); });
    m_views->addWidget(m_start);

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
    m_status = new StatusLine(m_context, m_bench_view);
    rows->addWidget(m_status);
    m_views->addWidget(m_bench_view);

    connect(m_path, &PathLine::stopChosen, this, &MainWindow::showStop);
    connect(m_rail, &NavigationRail::pageChosen, this, &MainWindow::showPage);
    connect(m_rail, &NavigationRail::readingChosen, this, [this] { showStop(m_stop); });
    connect(m_rail, &NavigationRail::newReadingAsked, this, &MainWindow::newReading);
    connect(&m_context, &Context::stopRequested, this, &MainWindow::showStop);
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
    connect(&m_context, &Context::said, m_status, &StatusLine::say);
    connect(&session, &Session::trouble, m_status, &StatusLine::say);
    connect(&session.messenger(), &Messenger::told, m_status,
            [this](const ToldNotice& notice) { m_status->say(notice.title + QStringLiteral(". ") + notice.text); });
    connect(&session, &Session::benchOpened, this, &MainWindow::benchOpened);
    connect(&m_context, &Context::selectionChanged, this, [this] {
        if (m_session.isOpen() && m_context.reading() && !m_page.isEmpty() && m_page != QStringLiteral("boards"))
            return;
        if (m_session.isOpen() && m_page.isEmpty()) showStop(m_stop);
    });
    // Said once the window stands: the cards are read on another thread meanwhile, and nobody waits for them here.
    QTimer::singleShot(0, this, [this] {
        for (const Error& problem : m_session.catalogProblems())
            m_status->say(from_std(problem.text()));
    });
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
    m_stack->addWidget(page);
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
        if (page) m_stack->addWidget(page);
    }
    return page;
}

void MainWindow::put(Page* page) {
    m_shown = page;
    const bool side = page->wantsSide() && !m_side_folded;
    m_side->setPageSection(side ? page->side() : nullptr, page->sideAlone());
    m_stack->setCurrentWidget(page);
    m_side->setVisible(side);
}

void MainWindow::showStop(int stop) {
    if (!m_session.isOpen()) return;
    if (!m_context.reading()) {
        showPage(m_session.bench().boards.empty() ? QStringLiteral("boards") : QStringLiteral("overview"));
        return;
    }
    m_stop = stop;
    m_page.clear();
    m_path->show();
    m_path->setStop(stop);
    m_rail->setPage({});
    put(stopPage(stop));
    if (stop == 2 || stop == 3) m_shown->setFocus(); // their single keys work at once
}

void MainWindow::showPage(const QString& id) {
    Page* page = m_session.isOpen() ? benchPage(id) : nullptr;
    if (!page) return;
    m_page = id;
    m_path->hide();
    m_rail->setPage(id);
    put(page);
}

void MainWindow::benchOpened() {
    setWindowTitle(tr("%1 – Cognitum").arg(from_std(m_session.bench().name)));
    m_views->setCurrentWidget(m_bench_view);
    remember(m_session.path());
    m_context.refresh();
    if (m_context.reading())
        showStop(m_stop);
    else
        showPage(QStringLiteral("boards"));
}

void MainWindow::newReading() {
    if (!m_session.isOpen()) return;
    std::string id;
    m_session.edit(tr("New reading"), [&](Bench& bench) {
        Reading r;
        r.name = tr("New reading").toStdString();
        r.id = id = bench.free_id(r.name);
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
    m_session.closeBench(); // saves the plan and what is being recorded
    event->accept();
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
    // Below this the side panel would leave no page; it folds by itself and unfolds again.
    if (!m_shown) return;
    const bool narrow = width() < m_theme.px(940);
    m_side->setVisible(m_shown->wantsSide() && !m_side_folded && !narrow);
}

} // namespace cognitum
