// The parts of the Watch stop: rules and what a person may do with them, the band, and what was told so far.
#include "ui/stops/watch/watch_page.h"

#include "core/units/format.h"
#include "session/language.h"
#include "ui/plots/history_plot.h"
#include "ui/stops/watch/band_names.h"
#include "ui/stops/watch/rule_table.h"
#include "ui/stops/watch/watch_rule_dialog.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QHeaderView>

namespace cognitum {

void WatchPage::buildRules() {
    auto* box = new QWidget;
    auto* rows = new QVBoxLayout(box);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(theme().px(8));
    m_rules = new RuleTable(theme());
    rows->addWidget(m_rules);
    m_no_rules =
        new TextLabel(theme(), TextLabel::Role::soft,
                      tr("No rule yet. Beside this page stand those that such a reading needs, with numbers "
                         "from its record; each is tried on the record before you trust it."));
    rows->addWidget(m_no_rules);
    auto* all_links = new QHBoxLayout;
    all_links->setSpacing(theme().px(16));
    auto* links = new QHBoxLayout;
    links->setSpacing(theme().px(16));
    auto* add = make_button(tr("New rule"), QStringLiteral("watchNewRule"));
    m_edit = make_link(tr("Change it"), QStringLiteral("watchEditRule"));
    m_toggle = make_link(tr("Switch it off"), QStringLiteral("watchToggleRule"));
    m_seen = make_link(tr("I have seen it"), QStringLiteral("watchSeen"));
    m_calm = make_link(tr("Make it calmer"), QStringLiteral("watchCalm"));
    m_is_alarm = make_link(tr("Tell me when it is like this"), QStringLiteral("watchIsAlarm"));
    m_is_none = make_link(tr("This was no alarm"), QStringLiteral("watchIsNone"));
    m_propose = make_link(tr("Propose a limit"), QStringLiteral("watchPropose"));
    m_is_alarm->setToolTip(tr("Marks the stretch that the chart shows: zoom and pan to it first."));
    m_is_none->setToolTip(m_is_alarm->toolTip());
    links->addWidget(add);
    for (QPushButton* link : {m_edit, m_toggle, m_seen, m_calm})
        links->addWidget(link);
    auto* marks = new QHBoxLayout;
    marks->setSpacing(theme().px(16));
    for (QPushButton* link : {m_is_alarm, m_is_none, m_propose})
        marks->addWidget(link);
    links->addStretch(1);
    marks->addStretch(1);
    all_links->addLayout(links);
    all_links->addLayout(marks, 1);
    stackWhenNarrow(all_links);
    rows->addLayout(all_links);
    m_advice = new TextLabel(theme(), TextLabel::Role::soft);
    m_advice->setObjectName(QStringLiteral("watchAdvice"));
    rows->addWidget(m_advice);
    addView(box);

    connect(m_rules, &QTableWidget::itemSelectionChanged, this, &WatchPage::showChosen);
    const auto edit = [this] {
        if (const WatchRule* rule = context().session().bench().watch_rule(m_rules->chosen())) editRule(*rule);
    };
    connect(m_rules, &RuleTable::opened, this, edit);
    connect(m_edit, &QPushButton::clicked, this, edit);
    connect(add, &QPushButton::clicked, this, [this] {
        if (const Reading* r = context().reading())
            editRule(first_rule(*r, m_record ? m_record->record : HourlyRecord{}));
    });
    connect(m_toggle, &QPushButton::clicked, this,
            [this] { changeRule(tr("Switch a rule"), [](WatchRule& rule) { rule.on = !rule.on; }); });
    connect(m_seen, &QPushButton::clicked, this, [this] { context().session().worker().seen(m_rules->chosen()); });
    connect(m_calm, &QPushButton::clicked, this, [this] {
        const TriedRule* tried = chosen();
        if (tried && tried->calmer)
            changeRule(tr("Make a rule calmer"), [calm = *tried->calmer](WatchRule& rule) { rule = calm; });
    });
    connect(m_is_alarm, &QPushButton::clicked, this, [this] { markStretch(true); });
    connect(m_is_none, &QPushButton::clicked, this, [this] { markStretch(false); });
    connect(m_propose, &QPushButton::clicked, this, &WatchPage::proposeLimit);
}

void WatchPage::editRule(const WatchRule& rule) {
    auto* dialog = new WatchRuleDialog(context(), rule, window());
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void WatchPage::changeRule(const QString& text, const std::function<void(WatchRule&)>& change) {
    context().session().edit(text, [&, id = m_rules->chosen()](Bench& bench) {
        if (WatchRule* rule = bench.watch_rule(id)) change(*rule);
    });
    context().refresh();
}

void WatchPage::markStretch(bool is_alarm) {
    const Interval shown = m_plot->shownStretch();
    bool full = false;
    changeRule(is_alarm ? tr("Mark an alarm") : tr("Mark what was none"), [&](WatchRule& rule) {
        full = rule.marked.size() >= most_marked;
        if (!full) rule.marked.push_back({shown.from, shown.to, is_alarm});
    });
    emit context().said(full ? tr("A rule keeps %1 marked stretches; propose a limit from them.").arg(most_marked)
                             : tr("Marked: what the chart shows, %1 long. Ctrl Z takes it back.")
                                   .arg(from_std(duration_text(shown.to - shown.from))));
}

void WatchPage::proposeLimit() {
    const WatchRule* rule = context().session().bench().watch_rule(m_rules->chosen());
    if (!rule) return;
    Session& session = context().session();
    m_proposal.ask(
        session.exports(), this,
        [rule = *rule, bench = session.bench(), catalog = session.catalog(), now = session.now()](BenchFile& file) {
            return proposed_limit(file, bench, catalog, rule, now);
        },
        [this](const Result<LimitProposal>& proposal) {
            if (!proposal) return emit context().said(from_std(proposal.error().text()));
            emit context().said(from_std(proposal->why));
            if (proposal->rule) editRule(*proposal->rule);
        });
}

void WatchPage::buildBands() {
    auto* box = new QWidget;
    auto* rows = new QVBoxLayout(box);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(theme().px(10));
    auto* bands = new QHBoxLayout;
    auto* limits = new QHBoxLayout;
    auto* back = new QHBoxLayout;
    for (QHBoxLayout* row : {bands, limits, back})
        row->setSpacing(theme().px(8));
    const auto field = [&](QHBoxLayout* row, const QString& label, const QString& name) {
        auto* f = new NumberField(theme(), name, label);
        f->setFixedWidth(theme().px(96));
        auto* text = new TextLabel(theme(), TextLabel::Role::soft, label);
        text->setWordWrap(false);
        row->addWidget(text);
        row->addWidget(f);
        return f;
    };
    m_low = field(limits, tr("low below"), QStringLiteral("bandLow"));
    m_high = field(limits, tr("high above"), QStringLiteral("bandHigh"));
    m_hysteresis = field(back, tr("back in range when inside by"), QStringLiteral("bandHysteresis"));
    limits->addStretch();
    back->addStretch();
    bands->addLayout(limits, 0);
    bands->addLayout(back, 1);
    stackWhenNarrow(bands);
    rows->addLayout(bands);
    m_trouble = new TextLabel(theme(), TextLabel::Role::body);
    m_trouble->setColour(theme().colours().bad);
    m_trouble->hide();
    rows->addWidget(m_trouble);
    m_tried = new TextLabel(theme(), TextLabel::Role::soft);
    m_tried->setObjectName(QStringLiteral("bandsTried"));
    rows->addWidget(m_tried);
    rows->addWidget(new RuleLine(theme()));
    rows->addWidget(new TextLabel(theme(), TextLabel::Role::soft,
                                  tr("Or with names of your own, as many as it takes, from the lowest:")));
    m_band_names = new BandNames(context());
    rows->addWidget(m_band_names);
    addView(box);
    connect(m_low, &NumberField::numberEdited, this, [this](double v) { editBands([v](Bands& b) { b.low = v; }); });
    connect(m_high, &NumberField::numberEdited, this,
            [this](double v) { editBands([v](Bands& b) { b.high = v; }); });
    connect(m_hysteresis, &NumberField::numberEdited, this,
            [this](double v) { editBands([v](Bands& b) { b.hysteresis = v; }); });
}

void WatchPage::editBands(const std::function<void(Bands&)>& change) {
    const Reading* r = context().reading();
    if (!r) return;
    Bands bands = r->bands.value_or(Bands{r->quantity.low, r->quantity.high, r->quantity.accuracy / 2});
    change(bands);
    const bool fits = bands.low < bands.high && bands.hysteresis >= 0 && bands.hysteresis < bands.high - bands.low;
    m_trouble->setVisible(!fits);
    if (fits)
        context().session().editReading(r->id, tr("Change band"), [&](Reading& reading) { reading.bands = bands; });
    else
        set_text(m_trouble, bands.low < bands.high
                                ? tr("The step back must be smaller than the band: nothing was changed.")
                                : tr("Low must be below high: nothing was changed."));
    refresh();
}

/// How often this band would have been left on what is recorded: told before it is trusted.
void WatchPage::tryBands() {
    const Reading* r = context().reading();
    if (!r) return;
    if (!r->bands) {
        m_tried_key.clear();
        set_text(m_tried,
                 tr("No band yet: type what is too low and too high, and it is tried on what was recorded."));
        return;
    }
    const QString key = QStringLiteral("%1 %2 %3 %4")
                            .arg(from_std(r->id))
                            .arg(r->bands->low)
                            .arg(r->bands->high)
                            .arg(r->bands->hysteresis);
    if (key == m_tried_key) return;
    m_tried_key = key;
    const TimeUs to = context().session().now();
    m_trial.ask(
        context().session().archive(), this,
        [id = r->id, bands = *r->bands, to](BenchFile& file) {
            return try_bands(file, id, bands, to - 2 * day_us, to);
        },
        [this, key](const Result<BandTrial>& trial) {
            if (key != m_tried_key) return; // another band, or another reading
            if (!trial)
                set_text(m_tried, from_std(trial.error().text()));
            else if (trial->values == 0)
                set_text(m_tried, tr("Nothing is recorded in the last two days to try this band on."));
            else
                set_text(m_tried, tr("Tried on the last two days (%1 values): it would have spoken %2.")
                                      .arg(from_std(format_constant(static_cast<double>(trial->values), 9)),
                                           trial->raised == 1 ? tr("once") : tr("%1 times").arg(trial->raised)));
        });
}

void WatchPage::buildTold() {
    auto* box = new QWidget;
    auto* rows = new QVBoxLayout(box);
    rows->setContentsMargins(0, 0, 0, 0);
    m_alerts = new QTableWidget(0, 2);
    m_alerts->setObjectName(QStringLiteral("alerts"));
    m_alerts->setAccessibleName(tr("What was told of this reading, newest first"));
    m_alerts->horizontalHeader()->setVisible(false);
    m_alerts->verticalHeader()->setVisible(false);
    m_alerts->horizontalHeader()->setStretchLastSection(true);
    m_alerts->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_alerts->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_alerts->setShowGrid(false);
    m_alerts->setMinimumHeight(theme().px(200));
    rows->addWidget(m_alerts);
    m_no_alerts = new TextLabel(
        theme(), TextLabel::Role::soft,
        tr("Nothing so far. A rule is one line when it is raised and one when it is over, never one for "
           "each value."));
    rows->addWidget(m_no_alerts);
    addView(box);
}

void WatchPage::refreshTold() {
    const QString key =
        from_std(context().readingId()) + QStringLiteral("|") + QString::number(context().live().log_revision);
    if (key == m_alerts_key) return;
    m_alerts_key = key;
    m_entries.ask(context().session().archive(), this, recorded_entries,
                  [this, key](const Result<std::vector<LogEntry>>& entries) {
                      if (key != m_alerts_key) return; // another reading
                      if (!entries) emit context().said(from_std(entries.error().text()));
                      showTold(entries.value_or(std::vector<LogEntry>{}));
                  });
}

void WatchPage::showTold(const std::vector<LogEntry>& entries) {
    m_alerts->setRowCount(0);
    for (const LogEntry& entry : entries) {
        const bool fine = entry.kind == log_kind::recovery;
        if ((entry.kind != log_kind::alert && !fine) || entry.reading != context().readingId()) continue;
        const int row = m_alerts->rowCount();
        m_alerts->insertRow(row);
        m_alerts->setItem(row, 0, new QTableWidgetItem(date_said(entry.time, "ddd d MMM HH:mm:ss")));
        m_alerts->setItem(
            row, 1,
            new QTableWidgetItem((fine ? QStringLiteral("●  ") : QStringLiteral("▲  ")) + from_std(entry.said())));
    }
    m_alerts->resizeColumnToContents(0);
    const bool none = m_alerts->rowCount() == 0;
    m_alerts->setVisible(!none);
    m_no_alerts->setVisible(none);
}

} // namespace cognitum
