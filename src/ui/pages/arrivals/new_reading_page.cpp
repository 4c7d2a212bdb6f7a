#include "ui/pages/arrivals/new_reading_page.h"

#include "core/units/quantity_kind.h"
#include "link/serial_link.h"
#include "ui/pages/arrivals/arriving_view.h"
#include "ui/widgets/parts.h"

#include <QFileInfo>
#include <QGridLayout>
#include <QInputDialog>
#include <set>

namespace cognitum {

namespace {
constexpr int looks_every_ms = 500;
constexpr int kinds_in_a_row = 4;
constexpr double stacked_below = 660; ///< design pixels
} // namespace

NewReadingPage::NewReadingPage(Context& context, QWidget* parent)
    : Page(context, tr("What do you want to know?"), parent) {
    auto* arriving = new QVBoxLayout;
    arriving->setSpacing(theme().px(8));
    arriving->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("From what a board sends already")));
    m_nothing = new TextLabel(
        theme(), TextLabel::Role::body,
        tr("No port is there that the bench does not know. Plug the board in: it is found by itself, with its "
           "speed and its format. Some cables carry power only."));
    m_nothing->setObjectName(QStringLiteral("nothingArrives"));
    arriving->addWidget(m_nothing);
    m_boards = new QVBoxLayout;
    m_boards->setSpacing(theme().px(16));
    arriving->addLayout(m_boards);
    body()->addLayout(arriving);
    buildWays();
    body()->addWidget(new RuleLine(theme()));
    buildKinds();
    body()->addStretch(1);
    m_often.setInterval(looks_every_ms);
    connect(&m_often, &QTimer::timeout, this, &NewReadingPage::look);
}

void NewReadingPage::buildWays() {
    auto* ways = new QHBoxLayout;
    ways->setSpacing(theme().px(14));
    auto* label = new TextLabel(theme(), TextLabel::Role::soft, tr("Listen as well to"));
    label->setWordWrap(false);
    ways->addWidget(label);
    const auto way = [&](const QString& text, const char* name, const std::function<void()>& run) {
        QPushButton* link = make_link(text, QLatin1String(name));
        connect(link, &QPushButton::clicked, this, run);
        ways->addWidget(link);
    };
    Arrivals& arrivals = context().session().arrivals();
    way(tr("another port"), "listenPort", [this] { listenToPort(); });
    way(tr("a broker in the network"), "listenBroker", [this] { listenToBroker(); });
    way(tr("posts from boards"), "listenPosts", [this, &arrivals] {
        const LinkPlan link = LinkPlan::posts();
        arrivals.listenTo(link, tr("posts to port %1").arg(link.http.port));
        look();
    });
    way(tr("a file"), "listenFile", [this] { listenToFile(); });
    way(tr("a simulated board"), "listenSimulated", [this, &arrivals] {
        arrivals.listenTo(LinkPlan::simulated_board(1), tr("simulated board"));
        look();
    });
    ways->addStretch(1);
    body()->addLayout(ways);
    stackWhenNarrow(ways);
}

void NewReadingPage::listenToPort() {
    QStringList ports;
    for (const PortInfo& port : list_ports())
        ports << port.path;
    bool given = false;
    const QString path =
        QInputDialog::getItem(this, tr("Another port"), tr("Port, or its path"), ports, 0, true, &given).trimmed();
    if (!given || path.isEmpty()) return;
    context().session().arrivals().listenTo(LinkPlan::port_of_unknown_speed(path.toStdString()), path);
    look();
}

void NewReadingPage::listenToBroker() {
    const MqttPlan usual;
    bool given = false;
    const QString where = QInputDialog::getText(this, tr("A broker in the network"), tr("Its name or address"),
                                                QLineEdit::Normal, from_std(usual.host), &given)
                              .trimmed();
    if (!given || where.isEmpty()) return;
    const int port = where.section(QLatin1Char(':'), 1).toInt();
    const LinkPlan link = LinkPlan::broker(where.section(QLatin1Char(':'), 0, 0).toStdString(),
                                           port > 0 && port < 65536 ? port : usual.port);
    context().session().arrivals().listenTo(link, tr("broker at %1").arg(where));
    look();
}

void NewReadingPage::listenToFile() {
    const QString path =
        context().askOpenPath(this, tr("A file that a board or a logger wrote"), tr("All files (*)"));
    if (path.isEmpty()) return;
    context().session().arrivals().listenTo(LinkPlan::growing_file(path.toStdString()), QFileInfo(path).fileName());
    look();
}

/// In fewer columns where there is little room for the size of the text.
void NewReadingPage::placeKinds() {
    const int columns = width() < theme().px(stacked_below) ? kinds_in_a_row / 2 : kinds_in_a_row;
    if (columns == m_kind_columns) return;
    m_kind_columns = columns;
    int at = 0;
    for (QPushButton* button : m_kind_buttons) {
        m_kinds->addWidget(button, at / columns, at % columns, Qt::AlignLeft);
        ++at;
    }
    for (int column = 0; column < kinds_in_a_row; ++column)
        m_kinds->setColumnStretch(column, column < columns ? 1 : 0);
}

void NewReadingPage::resizeEvent(QResizeEvent* event) {
    Page::resizeEvent(event);
    placeKinds();
}

void NewReadingPage::buildKinds() {
    body()->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("Or plan it before anything is wired")));
    m_kinds = new QGridLayout;
    m_kinds->setHorizontalSpacing(theme().px(8));
    m_kinds->setVerticalSpacing(theme().px(10));
    for (const QuantityKind& kind : quantity_kinds()) {
        QPushButton* button = make_link(from_std(kind.title), QStringLiteral("kind_") + from_std(kind.id));
        connect(button, &QPushButton::clicked, this, [this, id = from_std(kind.id)] { emit planned(id); });
        m_kind_buttons.push_back(button);
    }
    placeKinds();
    body()->addLayout(m_kinds);
}

void NewReadingPage::showEvent(QShowEvent* event) {
    if (context().session().isOpen() && context().session().lookOnly().isEmpty())
        context().session().arrivals().begin();
    m_often.start();
    Page::showEvent(event);
}

void NewReadingPage::hideEvent(QHideEvent* event) {
    m_often.stop();
    context().session().arrivals().end(); // the ports are free for whoever wants them
    Page::hideEvent(event);
}

void NewReadingPage::refresh() {
    setNote(context().session().bench().boards.empty()
                ? tr("a board on the table, or only an idea: both begin here")
                : QString());
    look();
}

void NewReadingPage::look() {
    if (!isVisible() || !context().session().isOpen()) return;
    const std::vector<ArrivingBoard> now = context().session().arrivals().look(context().live());
    std::set<std::string> there;
    for (const ArrivingBoard& board : now) {
        there.insert(board.id);
        ArrivingView*& view = m_views[board.id];
        if (!view) {
            view = new ArrivingView(theme(), context().session().catalog());
            m_boards->addWidget(view);
            connect(view, &ArrivingView::taken, this,
                    [this, id = board.id](const QString& field, const QString& kind) { take(id, field, kind); });
        }
        view->show(board);
    }
    for (auto it = m_views.begin(); it != m_views.end();) {
        if (there.contains(it->first)) {
            ++it;
            continue;
        }
        it->second->deleteLater();
        it = m_views.erase(it);
    }
    m_nothing->setVisible(now.empty());
}

void NewReadingPage::take(const std::string& arriving, const QString& field, const QString& kind) {
    const auto view = m_views.find(arriving);
    if (view == m_views.end()) return;
    const std::string id = context().session().arrivals().take(arriving, field.toStdString(), view->second->card(),
                                                               kind.toStdString());
    if (id.empty()) {
        const QString why = context().session().lookOnly();
        emit context().said(why.isEmpty() ? tr("It does not come any more.") : why);
        return;
    }
    context().selectReading(id);
    const Reading& made = *context().session().bench().reading(id);
    const bool is_said = made.quantity.kind != "number";
    emit context().said(
        is_said ? tr("%1 is a reading now. Next: which part measures it?").arg(from_std(made.name))
                : tr("%1 is a reading now. Next: what kind of quantity is it?").arg(from_std(made.name)));
    emit context().stopRequested(is_said ? 1 : 0);
}

} // namespace cognitum
