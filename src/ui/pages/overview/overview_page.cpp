#include "ui/pages/overview/overview_page.h"

#include "session/language.h"
#include "ui/pages/overview/overview_sheet.h"
#include "ui/widgets/parts.h"

#include <QDateTime>
#include <QInputDialog>
#include <QMenu>
#include <QPainter>
#include <QPrinter>
#include <QSettings>
#include <algorithm>
#include <set>

namespace cognitum {

OverviewPage::OverviewPage(Context& context, QWidget* parent) : Page(context, tr("The station now"), parent) {
    m_empty = new QWidget;
    auto* none = new QVBoxLayout(m_empty);
    none->setContentsMargins(0, 0, 0, 0);
    none->addWidget(new TextLabel(
        theme(), TextLabel::Role::body,
        tr("Every reading is drawn here as what it is: a vessel with its level, rain in columns, a temperature "
           "against its bands. There is none yet.")));
    auto* first = make_button(tr("The first reading"), QStringLiteral("overviewFirst"), true);
    none->addWidget(first, 0, Qt::AlignLeft);
    connect(first, &QPushButton::clicked, this,
            [this] { emit this->context().pageRequested(QStringLiteral("new")); });
    body()->addWidget(m_empty);
    m_sheet = new OverviewSheet(context);
    body()->addWidget(m_sheet);
    m_foot = new QWidget;
    auto* foot = make_row(m_foot, theme().px(16));
    m_large = make_link(tr("Large type"), QStringLiteral("overviewLarge"));
    m_large->setCheckable(true);
    auto* paper = make_link(tr("Print"), QStringLiteral("overviewPrint"));
    auto* first_things = make_link(tr("What to do first"), QStringLiteral("overviewFindings"));
    connect(first_things, &QPushButton::clicked, this,
            [this] { emit this->context().pageRequested(QStringLiteral("findings")); });
    m_hidden = make_link({}, QStringLiteral("overviewHidden"));
    auto* about = new TextLabel(theme(), TextLabel::Role::soft,
                                tr("A right click on a row moves it, groups it or hides it."));
    about->setWordWrap(false);
    for (QWidget* w : std::initializer_list<QWidget*>{first_things, m_large, paper, m_hidden, about})
        foot->addWidget(w);
    foot->addStretch(1);
    body()->addWidget(m_foot);
    body()->addStretch(1);
    connect(m_sheet, &OverviewSheet::opened, this, [this](const QString& id) {
        this->context().selectReading(id.toStdString());
        emit this->context().stopRequested(6);
    });
    connect(m_sheet, &OverviewSheet::menuWanted, this, &OverviewPage::showMenu);
    connect(m_large, &QPushButton::toggled, this, [this](bool large) {
        QSettings().setValue(QStringLiteral("overviewLarge"), large);
        m_sheet->setLarge(large);
    });
    connect(paper, &QPushButton::clicked, this, &OverviewPage::print);
    connect(m_hidden, &QPushButton::clicked, this, [this] {
        edit(tr("Show all readings"), [](Bench& bench) {
            for (Reading& r : bench.readings)
                r.hidden = false;
        });
    });
    connect(&context.session(), &Session::benchOpened, m_sheet, &OverviewSheet::forget);
    m_large->setChecked(QSettings().value(QStringLiteral("overviewLarge"), false).toBool());
}

void OverviewPage::refresh() {
    m_sheet->refresh();
    const Bench& bench = context().session().bench();
    const bool any = !bench.readings.empty();
    m_empty->setVisible(!any);
    m_sheet->setVisible(any);
    m_foot->setVisible(any);
    const auto looks = std::count_if(m_sheet->rows().begin(), m_sheet->rows().end(),
                                     [](const OverviewRow& row) { return row.needs_look; });
    const QDateTime now = QDateTime::fromMSecsSinceEpoch(context().session().now() / 1000);
    const QString to_look = looks == 0   ? tr("nothing to look at")
                            : looks == 1 ? tr("one thing to look at")
                                         : tr("%1 things to look at").arg(looks);
    setNote(QStringLiteral("%1 · %2").arg(date_said(now, "ddd d MMM, HH:mm"), to_look));
    setTitle(tr("%1 now").arg(from_std(bench.name)));
    const auto hidden =
        std::count_if(bench.readings.begin(), bench.readings.end(), [](const Reading& r) { return r.hidden; });
    m_hidden->setVisible(hidden > 0);
    m_hidden->setText(tr("Show the %n that are hidden", nullptr, static_cast<int>(hidden)));
}

void OverviewPage::edit(const QString& text, const std::function<void(Bench&)>& change) {
    context().session().edit(text, change);
    context().refresh();
}

/// Past the next reading that is shown, in the plan's order.
void OverviewPage::move(const std::string& id, int by) {
    edit(tr("Move a reading"), [&](Bench& bench) {
        auto& all = bench.readings;
        auto at = static_cast<std::ptrdiff_t>(
            std::find_if(all.begin(), all.end(), [&](const Reading& r) { return r.id == id; }) - all.begin());
        std::ptrdiff_t to = at + by;
        while (to >= 0 && to < static_cast<std::ptrdiff_t>(all.size()) && all[static_cast<std::size_t>(to)].hidden)
            to += by;
        if (to < 0 || to >= static_cast<std::ptrdiff_t>(all.size())) return;
        for (; at != to; at += by)
            std::swap(all[static_cast<std::size_t>(at)], all[static_cast<std::size_t>(at + by)]);
    });
}

void OverviewPage::showMenu(const QString& reading, const QPoint& at) {
    const std::string id = reading.toStdString();
    const Bench& bench = context().session().bench();
    const Reading* r = bench.reading(id);
    if (!r) return;
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->setObjectName(QStringLiteral("overviewMenu"));
    menu->addAction(tr("Move %1 up").arg(from_std(r->name)), this, [this, id] { move(id, -1); });
    menu->addAction(tr("Move it down"), this, [this, id] { move(id, 1); });
    menu->addAction(tr("Hide it here"), this,
                    [this, id] { edit(tr("Hide a reading"), [&](Bench& b) { b.reading(id)->hidden = true; }); });
    menu->addSeparator();
    std::set<std::string> groups;
    for (const Reading& other : bench.readings)
        if (!other.group.empty()) groups.insert(other.group);
    const auto put = [this, id](const std::string& group) {
        edit(tr("Group a reading"), [&](Bench& b) { b.reading(id)->group = group; });
    };
    for (const std::string& group : groups)
        if (group != r->group)
            menu->addAction(tr("Under “%1”").arg(from_std(group)), this, [put, group] { put(group); });
    if (!r->group.empty()) menu->addAction(tr("Under no heading"), this, [put] { put({}); });
    menu->addAction(tr("Under a new heading …"), this, [this, put] {
        auto* ask = new QInputDialog(this);
        ask->setAttribute(Qt::WA_DeleteOnClose);
        ask->setWindowTitle(tr("Heading"));
        ask->setLabelText(tr("Readings under one heading stand together"));
        connect(ask, &QInputDialog::textValueSelected, this, [put](const QString& text) {
            if (!text.trimmed().isEmpty()) put(text.trimmed().left(60).toStdString());
        });
        ask->open();
    });
    menu->popup(at);
}

/// On one page, the bench's name and the moment above it; on white, whatever the theme.
void OverviewPage::print() {
    context().showOnPaper(this, QPageLayout::Landscape, [this](QPrinter& printer) { printOn(printer); });
}

void OverviewPage::printOn(QPrinter& printer) {
    QPainter painter(&printer);
    if (!painter.isActive()) return emit context().said(tr("The printer does not answer; nothing was printed."));
    const bool dark = theme().isDark();
    if (dark) theme().setDark(false);
    const double unit = printer.resolution() / 96.0;
    painter.scale(unit, unit);
    const QRectF page(0, 0, printer.width() / unit, printer.height() / unit);
    painter.setFont(theme().text(17, true));
    painter.setPen(theme().colours().ink);
    painter.drawText(QPointF(0, 18), from_std(context().session().bench().name));
    painter.setFont(theme().text(11));
    painter.drawText(QRectF(0, 0, page.width(), 20), Qt::AlignRight | Qt::AlignBottom,
                     QDateTime::fromMSecsSinceEpoch(context().session().now() / 1000)
                         .toString(QStringLiteral("yyyy-MM-dd HH:mm")));
    m_sheet->print(painter, page.adjusted(0, 32, 0, 0));
    painter.end();
    if (dark) theme().setDark(true);
}

} // namespace cognitum
