#include "ui/stops/watch/watch_page.h"

#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/plots/history_plot.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QDateTime>
#include <QHBoxLayout>
#include <QHeaderView>
#include <cmath>

namespace cognitum {

WatchPage::WatchPage(Context& context, QWidget* parent) : Page(context, tr("Is it all right now?"), parent) {
    auto* now = new QHBoxLayout;
    now->setSpacing(theme().px(10));
    m_mark = new MarkLabel(theme());
    m_value = new TextLabel(theme(), TextLabel::Role::mono);
    m_value->setObjectName(QStringLiteral("watchValue"));
    m_word = new TextLabel(theme(), TextLabel::Role::name);
    m_word->setObjectName(QStringLiteral("watchWord"));
    m_age = new TextLabel(theme(), TextLabel::Role::soft);
    m_age->setWordWrap(false);
    now->addWidget(m_value);
    now->addWidget(m_mark);
    now->addWidget(m_word);
    now->addWidget(m_age);
    now->addStretch(1);
    body()->addLayout(now);
    m_cause = new TextLabel(theme(), TextLabel::Role::body);
    body()->addWidget(m_cause);

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
    body()->addLayout(bands);
    m_trouble = new TextLabel(theme(), TextLabel::Role::body);
    m_trouble->setColour(theme().colours().bad);
    m_trouble->hide();
    body()->addWidget(m_trouble);
    m_tried = new TextLabel(theme(), TextLabel::Role::soft);
    m_tried->setObjectName(QStringLiteral("bandsTried"));
    body()->addWidget(m_tried);

    m_plot = new HistoryPlot(context);
    m_plot->setMinimumHeight(theme().px(160));
    m_plot->showLast(12 * 3600);
    body()->addWidget(m_plot, 3);
    m_cursor =
        new TextLabel(theme(), TextLabel::Role::mono_soft, tr("the last twelve hours; wheel zooms, dragging pans"));
    body()->addWidget(m_cursor);
    connect(m_plot, &HistoryPlot::cursorMoved, this, [this](const QString& text) { set_text(m_cursor, text); });

    body()->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("Alerts")));
    m_alerts = new QTableWidget(0, 2);
    m_alerts->setObjectName(QStringLiteral("alerts"));
    m_alerts->setAccessibleName(tr("Alerts of this reading, newest first"));
    m_alerts->horizontalHeader()->setVisible(false);
    m_alerts->verticalHeader()->setVisible(false);
    m_alerts->horizontalHeader()->setStretchLastSection(true);
    m_alerts->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_alerts->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_alerts->setShowGrid(false);
    m_alerts->setMinimumHeight(theme().px(84));
    body()->addWidget(m_alerts, 2);
    m_no_alerts =
        new TextLabel(theme(), TextLabel::Role::soft,
                      tr("None so far. An alert is one line for each change of band, not one for each value."));
    body()->addWidget(m_no_alerts);

    connect(m_low, &NumberField::numberEdited, this, [this](double v) { editBands([v](Bands& b) { b.low = v; }); });
    connect(m_high, &NumberField::numberEdited, this,
            [this](double v) { editBands([v](Bands& b) { b.high = v; }); });
    connect(m_hysteresis, &NumberField::numberEdited, this,
            [this](double v) { editBands([v](Bands& b) { b.hysteresis = v; }); });
    connect(&context.session(), &Session::logChanged, this, [this] { m_alerts_key.clear(); });
}

void WatchPage::readingChanged() {
    m_alerts_key.clear();
    m_tried_key.clear();
    m_trouble->hide();
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

void WatchPage::refresh() {
    const Reading* r = context().reading();
    if (!r) return;
    const PathState& state = context().state(r->id);
    const LiveReading* live = context().liveReading();
    m_value->setStyleSheet(QStringLiteral("font-family: 'JetBrains Mono'; font-size: %1px; color: %2;")
                               .arg(theme().px(46))
                               .arg(theme().colours().ink.name()));
    const double doubt = context().budget().expanded();
    const bool has_value = live && live->value.ok() && state.reaches == 6;
    set_text(m_value,
             has_value ? from_std(format_value(live->value.number, doubt, r->quantity.unit)) : QStringLiteral("—"));
    m_mark->setMark(state.mark);
    set_text(m_word, state.word);
    m_word->setColour(mark_colour(theme(), state.mark));
    set_text(m_age,
             (has_value ? tr("± %1 · ").arg(from_std(format_measure(doubt, r->quantity.unit, 1))) : QString()) +
                 (state.age.isEmpty()                       ? tr("nothing came yet")
                  : state.age == QStringLiteral("just now") ? state.age
                                                            : tr("%1 old").arg(state.age)));
    m_cause->setVisible(!has_value && live && !live->cause.empty());
    if (live) set_text(m_cause, from_std(live->cause));
    for (NumberField* f : {m_low, m_high, m_hysteresis})
        f->setUnit(from_std(unit_symbol(r->quantity.unit)));
    m_low->show(r->bands ? from_std(format_constant(r->bands->low)) : QString());
    m_high->show(r->bands ? from_std(format_constant(r->bands->high)) : QString());
    m_hysteresis->show(r->bands ? from_std(format_constant(r->bands->hysteresis)) : QString());
    setNote(context().live().recording.on ? tr("recording · Ctrl R stops") : tr("not recording · Ctrl R starts"));
    m_plot->setReading(r->id);
    m_plot->reload();
    tryOnRecord();
    refreshAlerts();
}

/// How often these bands would have spoken on what is recorded: told before they are trusted.
void WatchPage::tryOnRecord() {
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

void WatchPage::refreshAlerts() {
    const QString key =
        from_std(context().readingId()) + QStringLiteral("|") + QString::number(context().live().log_revision);
    if (key == m_alerts_key) return;
    m_alerts_key = key;
    m_entries.ask(context().session().archive(), this, recorded_entries,
                  [this, key](const Result<std::vector<LogEntry>>& entries) {
                      if (key != m_alerts_key) return; // another reading
                      if (!entries) emit context().said(from_std(entries.error().text()));
                      showAlerts(entries.value_or(std::vector<LogEntry>{}));
                  });
}

void WatchPage::showAlerts(const std::vector<LogEntry>& entries) {
    m_alerts->setRowCount(0);
    for (const LogEntry& entry : entries) {
        const bool fine = entry.kind == log_kind::recovery;
        if ((entry.kind != log_kind::alert && !fine) || entry.reading != context().readingId()) continue;
        const int row = m_alerts->rowCount();
        m_alerts->insertRow(row);
        m_alerts->setItem(
            row, 0,
            new QTableWidgetItem(
                QDateTime::fromMSecsSinceEpoch(entry.time / 1000).toString(QStringLiteral("ddd d MMM HH:mm:ss"))));
        m_alerts->setItem(
            row, 1,
            new QTableWidgetItem((fine ? QStringLiteral("●  ") : QStringLiteral("▲  ")) + from_std(entry.text)));
    }
    m_alerts->resizeColumnToContents(0);
    const bool none = m_alerts->rowCount() == 0;
    m_alerts->setVisible(!none);
    m_no_alerts->setVisible(none);
}

} // namespace cognitum
