#include "ui/pages/findings_page.h"

#include "core/plan/findings_order.h"
#include "session/overview.h"
#include "ui/widgets/finding_row.h"
#include "ui/widgets/parts.h"

#include <algorithm>

namespace cognitum {

namespace {

struct GroupWords {
    QString title, about;
};

GroupWords words_of(Need need) {
    switch (need) {
    case Need::beware:
        return {FindingsPage::tr("Before you touch anything"),
                FindingsPage::tr("Where somebody can be hurt. Local codes and licensed practice come first.")};
    case Need::first:
        return {FindingsPage::tr("Mend first"),
                FindingsPage::tr("It cannot work as planned, breaks something, or sends what is no value.")};
    case Need::then:
        return {FindingsPage::tr("Then look at"),
                FindingsPage::tr("It works, with numbers that are worse than they look or need be.")};
    case Need::know: return {FindingsPage::tr("Good to know"), FindingsPage::tr("Nothing to mend.")};
    }
    return {};
}

/// Where it leads: a stop of a reading, or the boards.
FindingPlace place_of(Context& context, const Finding& finding) {
    const Bench& bench = context.session().bench();
    if (const Reading* r = bench.reading(finding.reading))
        return {QStringLiteral("%1 · %2").arg(from_std(r->name), stop_name(static_cast<int>(finding.stop))),
                [&context, id = r->id, stop = static_cast<int>(finding.stop)] {
                    context.selectReading(id);
                    emit context.stopRequested(stop);
                }};
    const BoardUse* board = bench.board(finding.board);
    return {board ? from_std(board->name) : FindingsPage::tr("Boards"),
            [&context] { emit context.pageRequested(QStringLiteral("boards")); }};
}

} // namespace

FindingsPage::FindingsPage(Context& context, QWidget* parent)
    : Page(context, tr("What to look at, and what to do first"), parent) {
    m_nothing = new TextLabel(theme(), TextLabel::Role::body,
                              tr("Nothing to look at: the rules find nothing in the plan, and every reading that "
                                 "should arrive does."));
    m_nothing->setObjectName(QStringLiteral("nothingFound"));
    body()->addWidget(m_nothing);
    auto* columns = new QHBoxLayout;
    columns->setSpacing(theme().px(36));
    stackWhenNarrow(columns, 900);
    auto* left = new QVBoxLayout;
    left->setSpacing(theme().px(22));
    m_now = new QWidget;
    m_now->setObjectName(QStringLiteral("findingsNow"));
    m_now_rows = new QVBoxLayout(m_now);
    m_now_rows->setContentsMargins(0, 0, 0, 0);
    m_now_rows->setSpacing(theme().px(8));
    left->addWidget(m_now);
    m_groups = new QVBoxLayout;
    m_groups->setSpacing(theme().px(22));
    left->addLayout(m_groups);
    left->addStretch(1);
    columns->addLayout(left, 3);
    m_beware = new QVBoxLayout; // beside the work, so that it is seen with it
    m_beware->setAlignment(Qt::AlignTop);
    columns->addLayout(m_beware, 2);
    body()->addLayout(columns);
    body()->addStretch(1);
}

void FindingsPage::refresh() {
    refreshPlan();
    refreshNow();
    m_nothing->setVisible(m_now->isHidden() && m_groups->isEmpty() && m_beware->isEmpty());
}

/// What the readings themselves say at this moment.
void FindingsPage::refreshNow() {
    std::vector<OverviewRow> looks;
    for (OverviewRow& row :
         overview_rows(context().session(), context().live(),
                       [this](const std::string& id) -> const PathState& { return context().state(id); }, {}))
        if (row.needs_look && !m_in_plan.count(row.why)) looks.push_back(std::move(row));
    QString key;
    for (const OverviewRow& row : looks)
        key += row.name + row.why + QLatin1Char('\n');
    if (key == m_now_key && m_now->isHidden() == looks.empty()) return;
    m_now_key = key;
    clear_layout(m_now_rows);
    m_now->setVisible(!looks.empty());
    if (looks.empty()) return;
    m_now_rows->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("Now")));
    m_now_rows->addWidget(new RuleLine(theme()));
    for (const OverviewRow& row : looks) {
        auto* line = new QHBoxLayout;
        line->setSpacing(theme().px(6));
        line->addWidget(new MarkLabel(theme(), row.mark), 0, Qt::AlignTop);
        auto* texts = new QVBoxLayout;
        texts->setSpacing(theme().px(2));
        QPushButton* there =
            make_link(on_button(row.name), QStringLiteral("now_") + from_std(row.readings.front()));
        connect(there, &QPushButton::clicked, this, [this, id = row.readings.front()] {
            context().selectReading(id);
            emit context().stopRequested(static_cast<int>(Stop::watch));
        });
        texts->addWidget(there, 0, Qt::AlignLeft);
        texts->addWidget(new TextLabel(theme(), TextLabel::Role::body, row.why));
        line->addLayout(texts, 1);
        m_now_rows->addLayout(line);
    }
}

void FindingsPage::refreshPlan() {
    const Session& session = context().session();
    if (session.planRevision() == m_plan) return;
    m_plan = session.planRevision();
    clear_layout(m_groups);
    clear_layout(m_beware);
    m_in_plan.clear();
    const std::vector<Finding> all = check_bench(session.bench(), session.catalog());
    for (const Finding& f : all)
        m_in_plan.insert(from_std(f.message));
    for (const FindingGroup& group : by_need(all))
        fill(group, group.need == Need::beware ? m_beware : m_groups);
    const int to_do = count_to_do(all);
    setNote(to_do == 0 ? tr("nothing to mend") : tr("%n thing(s) to mend", nullptr, to_do));
}

void FindingsPage::fill(const FindingGroup& group, QVBoxLayout* list) {
    const GroupWords words = words_of(group.need);
    auto* rows = new QVBoxLayout;
    rows->setSpacing(theme().px(10));
    auto* title = new TextLabel(theme(), TextLabel::Role::name, words.title);
    rows->addWidget(title);
    rows->addWidget(new TextLabel(theme(), TextLabel::Role::soft, words.about));
    rows->addWidget(new RuleLine(theme()));
    const auto same = [](const Finding& a, const Finding& b) {
        return a.message == b.message && a.why == b.why && a.fix == b.fix && !a.action && !b.action;
    };
    for (auto f = group.findings.begin(); f != group.findings.end(); ++f) {
        if (std::any_of(group.findings.begin(), f, [&](const Finding& before) { return same(before, *f); }))
            continue;
        std::vector<FindingPlace> places;
        for (auto other = f; other != group.findings.end(); ++other)
            if (other == f || same(*f, *other)) places.push_back(place_of(context(), *other));
        add_finding(rows, context(), *f, places);
    }
    list->addLayout(rows);
}

} // namespace cognitum
