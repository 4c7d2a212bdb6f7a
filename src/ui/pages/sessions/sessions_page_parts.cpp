// The parts of the sessions page: what can be begun, the list with its rules, and the summary of one.
#include "ui/pages/logbook/figures_table.h"
#include "ui/pages/logbook/report.h"
#include "ui/pages/sessions/sessions_page.h"
#include "ui/pages/sessions/since_start_plot.h"
#include "ui/widgets/parts.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QMenu>

namespace cognitum {

SessionsPage::SessionsPage(Context& context, QWidget* parent)
    : Page(context, tr("Drives, fermentations, swims"), parent) {
    body()->setSpacing(theme().px(8));
    body()->addLayout(makeBar());
    m_empty =
        new TextLabel(theme(), TextLabel::Role::body,
                      tr("A session is a stretch of time that you look at as one: a drive, a fermentation, a "
                         "swim, an evening’s fire. Begin one now, let a rule begin it (the stove is above 60 °C, "
                         "a finger is on the sensor), or find them in what was recorded: New rule. In the "
                         "logbook, a stretch that you take becomes one as well."),
                      this);
    m_empty->setObjectName(QStringLiteral("sessionsEmpty"));
    m_empty->setWordWrap(true);
    body()->addWidget(m_empty);
    auto* columns = new QHBoxLayout;
    columns->setSpacing(theme().px(28));
    columns->addLayout(makeList(), 5);
    m_summary = new QWidget(this);
    m_summary->setLayout(makeSummary());
    columns->addWidget(m_summary, 9);
    body()->addLayout(columns, 1);
    body()->addStretch(0);
}

QLayout* SessionsPage::makeBar() {
    auto* bar = new QHBoxLayout;
    auto* begin_button = make_button(tr("Begin …"), QStringLiteral("sessionBegin"), true);
    auto* menu = new QMenu(begin_button);
    menu->setObjectName(QStringLiteral("sessionKinds"));
    for (const auto& [kind, word] : session_kind_words()) {
        QAction* action = menu->addAction(QString::fromUtf8(session_title(kind)));
        action->setObjectName(QStringLiteral("begin_") + QLatin1String(word));
        connect(action, &QAction::triggered, this, [this, kind = kind] { begin(kind); });
    }
    begin_button->setMenu(menu);
    bar->addWidget(begin_button);
    m_going = new TextLabel(theme(), TextLabel::Role::soft, {}, this);
    bar->addWidget(m_going);
    bar->addStretch(1);
    return bar;
}

QLayout* SessionsPage::makeList() {
    auto* column = new QVBoxLayout;
    column->setSpacing(theme().px(2));
    m_list_part = new QWidget(this);
    auto* part = new QVBoxLayout(m_list_part);
    part->setContentsMargins(0, 0, 0, 0);
    m_list = new QTableWidget(m_list_part);
    m_list->setObjectName(QStringLiteral("sessionList"));
    m_list->setAccessibleName(tr("Sessions, newest first"));
    make_plain(m_list, {tr("Session"), tr("Began"), tr("Length")});
    m_list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_list->horizontalHeader()->setStretchLastSection(false);
    m_list->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    m_list->horizontalHeader()->setSectionResizeMode(0, QHeaderView::Stretch);
    m_list->setSelectionMode(QAbstractItemView::SingleSelection);
    m_list->setMinimumWidth(theme().px(300)); // a few words of the name
    part->addWidget(m_list, 1);
    column->addWidget(m_list_part, 1);
    auto* head = new QHBoxLayout;
    head->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("Rules that begin them"), this));
    head->addStretch(1);
    auto* add = make_link(tr("New rule …"), QStringLiteral("newRule"));
    connect(add, &QPushButton::clicked, this, [this] { editRule({}); });
    head->addWidget(add);
    column->addLayout(head);
    m_rules = new QVBoxLayout;
    m_rules->setSpacing(theme().px(2));
    column->addLayout(m_rules);
    connect(m_list, &QTableWidget::itemSelectionChanged, this, &SessionsPage::choose);
    return column;
}

QLayout* SessionsPage::makeSummary() {
    auto* column = new QVBoxLayout;
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(theme().px(6));
    auto* head = new QHBoxLayout;
    m_name = make_field("sessionName", tr("Name of the session"), tr("name"));
    m_name->setFont(theme().text(16, true));
    head->addWidget(m_name, 1);
    const auto choice = [&](const char* name, const QString& about) {
        auto* box = new QComboBox(this);
        box->setObjectName(QLatin1String(name));
        box->setAccessibleName(about);
        return box;
    };
    m_kind = choice("sessionKind", tr("What it is"));
    for (const auto& [kind, word] : session_kind_words())
        m_kind->addItem(QString::fromUtf8(session_title(kind)), static_cast<int>(kind));
    head->addWidget(m_kind);
    m_end = make_button(tr("End now"), QStringLiteral("sessionEnd"), true);
    head->addWidget(m_end);
    column->addLayout(head);
    m_when = new TextLabel(theme(), TextLabel::Role::soft, {}, this);
    m_when->setObjectName(QStringLiteral("sessionWhen"));
    column->addWidget(m_when);
    m_facts = new QTableWidget(this);
    m_facts->setObjectName(QStringLiteral("sessionFacts"));
    m_facts->setAccessibleName(tr("What the session amounts to"));
    make_plain(m_facts, {tr("Reading"), QString(), QString()});
    m_facts->horizontalHeader()->hide();
    column->addWidget(m_facts);
    auto* over = new QHBoxLayout;
    m_reading = choice("sessionReading", tr("Reading in the picture"));
    over->addWidget(m_reading);
    over->addWidget(new TextLabel(theme(), TextLabel::Role::soft, tr("laid over it:"), this));
    m_other = choice("sessionOther", tr("Another session over it"));
    over->addWidget(m_other);
    over->addStretch(1);
    column->addLayout(over);
    m_plot = new SinceStartPlot(theme(), this);
    m_plot->setAccessibleName(tr("The reading over the time since the start"));
    column->addWidget(m_plot, 5);
    m_days = new QTableWidget(this);
    m_days->setObjectName(QStringLiteral("sessionDays"));
    m_days->setAccessibleName(tr("Day by day"));
    make_plain(m_days, {tr("Day"), tr("least"), tr("mean"), tr("most"), tr("measured")});
    column->addWidget(m_days, 3);
    m_caution = new TextLabel(theme(), TextLabel::Role::small, {}, this);
    m_caution->setWordWrap(true);
    column->addWidget(m_caution);
    auto* foot = new QHBoxLayout;
    auto* log = make_link(tr("Show in the logbook"), QStringLiteral("sessionInLogbook"));
    auto* report = make_link(tr("Report …"), QStringLiteral("sessionReport"));
    auto* print = make_link(tr("Print …"), QStringLiteral("sessionPrint"));
    auto* remove = make_link(tr("Remove"), QStringLiteral("sessionRemove"));
    remove->setToolTip(tr("The session alone: what was recorded stays."));
    for (QPushButton* link : {log, report, print})
        foot->addWidget(link);
    foot->addStretch(1);
    foot->addWidget(remove);
    column->addLayout(foot);
    connect(m_name, &QLineEdit::editingFinished, this, [this] {
        const std::string name = m_name->text().trimmed().toStdString();
        const TimedSession* session = chosen();
        if (session && !name.empty() && name != session->name)
            edit(tr("Name the session"), [&](TimedSession& s) { s.name = name; });
    });
    connect(m_kind, &QComboBox::activated, this, [this] {
        edit(tr("What the session is"),
             [&](TimedSession& s) { s.kind = static_cast<SessionKind>(m_kind->currentData().toInt()); });
    });
    connect(m_end, &QPushButton::clicked, this, &SessionsPage::end);
    for (QComboBox* box : {m_reading, m_other})
        connect(box, &QComboBox::activated, this, &SessionsPage::ask);
    connect(log, &QPushButton::clicked, this, [this] {
        if (const TimedSession* s = chosen())
            emit this->context().stretchRequested({s->from, s->end(this->context().session().now())}, s->readings);
    });
    connect(report, &QPushButton::clicked, this, [this] {
        if (chosen()) save_report(this->context(), this, reportRequest());
    });
    connect(print, &QPushButton::clicked, this, [this] {
        if (chosen()) print_report(this->context(), this, reportRequest());
    });
    connect(remove, &QPushButton::clicked, this, [this] {
        this->context().session().edit(tr("Remove the session"), [this](Bench& bench) {
            std::erase_if(bench.sessions, [this](const TimedSession& s) { return s.id == m_chosen; });
        });
        this->context().refresh();
    });
    return column;
}

} // namespace cognitum
