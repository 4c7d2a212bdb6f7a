#include "ui/stops/watch/watch_page.h"

#include "core/units/format.h"
#include "core/units/unit.h"
#include "core/watch/rule_words.h"
#include "session/language.h"
#include "ui/plots/history_plot.h"
#include "ui/plots/reading_picture.h"
#include "ui/stops/watch/band_names.h"
#include "ui/stops/watch/load_view.h"
#include "ui/stops/watch/rule_table.h"
#include "ui/stops/watch/telling_view.h"
#include "ui/stops/watch/watch_rule_dialog.h"
#include "ui/stops/watch/watch_side.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

namespace cognitum {

namespace {

constexpr TimeUs tried_again_after = 5 * minute_us; ///< the record grows

Mark mark_of_rank(WatchRank rank) {
    return rank == WatchRank::note ? Mark::done : rank == WatchRank::look ? Mark::look : Mark::bad;
}

QString short_time(TimeUs time) {
    return date_said(time, "d MMM HH:mm");
}

} // namespace

/// The reading as what it is, beside its number.
class PictureOfReading : public QWidget {
  public:
    explicit PictureOfReading(Theme& theme) : m_theme(theme) { setFixedSize(theme.px(80), theme.px(64)); }
    void show(const Reading& reading, double value) {
        m_reading = reading;
        m_value = value;
        update();
    }

  protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        // Rain and waves are in the chart below.
        const QuantityKind& kind = m_reading.quantity.about();
        if (!kind.is_total && kind.events != Events::beats)
            paint_reading(painter, m_theme, QRectF(rect()).adjusted(2, 2, -2, -2),
                          {&m_reading, {m_value}, nullptr, {}});
    }

  private:
    Theme& m_theme;
    Reading m_reading;
    double m_value = no_number;
};

WatchPage::WatchPage(Context& context, QWidget* parent) : Page(context, tr("Is it all right now?"), parent) {
    auto* now = new QHBoxLayout;
    now->setSpacing(theme().px(10));
    m_mark = new MarkLabel(theme());
    m_value = new TextLabel(theme(), TextLabel::Role::mono);
    m_value->setObjectName(QStringLiteral("watchValue"));
    m_word = new TextLabel(theme(), TextLabel::Role::name);
    m_word->setObjectName(QStringLiteral("watchWord"));
    m_word->setWordWrap(true);
    m_age = new TextLabel(theme(), TextLabel::Role::soft);
    m_age->setObjectName(QStringLiteral("watchAge"));
    now->addWidget(m_value);
    now->addWidget(m_mark);
    auto* words = new QVBoxLayout; // below each other: there is room for them in a small window as well
    words->setSpacing(theme().px(2));
    words->addStretch(1);
    words->addWidget(m_word);
    words->addWidget(m_age);
    words->addStretch(1);
    now->addLayout(words, 1);
    m_picture = new PictureOfReading(theme());
    now->addWidget(m_picture);
    body()->addLayout(now);
    m_cause = new TextLabel(theme(), TextLabel::Role::body);
    body()->addWidget(m_cause);

    auto* tabs = new QHBoxLayout;
    auto* of_values = new QHBoxLayout;
    auto* of_people = new QHBoxLayout;
    for (QHBoxLayout* row : {tabs, of_values, of_people})
        row->setSpacing(theme().px(6));
    m_tabs = new QButtonGroup(this);
    const std::pair<const char*, QString> names[] = {{"watchTabRules", tr("Rules")},
                                                     {"watchTabBands", tr("Band")},
                                                     {"watchTabLoads", tr("What it switches")},
                                                     {"watchTabTold", tr("Told so far")},
                                                     {"watchTabTelling", tr("Who is told")}};
    for (const auto& [name, title] : names) {
        QPushButton* tab = make_button(title, QLatin1String(name));
        tab->setCheckable(true);
        m_tabs->addButton(tab, static_cast<int>(m_tabs->buttons().size()));
        (m_tabs->buttons().size() <= 3 ? of_values : of_people)->addWidget(tab);
    }
    of_values->addStretch(0);
    of_people->addStretch(1);
    tabs->addLayout(of_values);
    tabs->addLayout(of_people, 1);
    stackWhenNarrow(tabs);
    body()->addLayout(tabs);
    buildRules();
    buildBands();
    m_loads = new LoadView(context);
    connect(m_loads, &LoadView::tried, this, &WatchPage::showChosen);
    addView(m_loads);
    buildTold();
    m_telling = new TellingView(context);
    addView(m_telling);
    m_plot = new HistoryPlot(context);
    m_plot->setMinimumHeight(theme().px(170));
    m_plot->showLast(0);
    body()->addWidget(m_plot, 3);
    m_cursor =
        new TextLabel(theme(), TextLabel::Role::mono_soft, tr("all that was recorded; wheel zooms, dragging pans"));
    m_cursor->setWordWrap(true);
    body()->addWidget(m_cursor);
    connect(m_plot, &HistoryPlot::cursorMoved, this, [this](const QString& text) { set_text(m_cursor, text); });
    connect(&context.session(), &Session::logChanged, this, [this] { m_alerts_key.clear(); });
    connect(m_tabs, &QButtonGroup::idClicked, this, [this](int tab) {
        showView(tab);
        refresh();
    });
    m_tabs->button(0)->setChecked(true);
    showView(0);
}

void WatchPage::addView(QWidget* view) {
    m_views.push_back(view);
    body()->addWidget(view);
}

/// No stack of widgets: one is as high as its highest page.
void WatchPage::showView(int view) {
    for (std::size_t i = 0; i < m_views.size(); ++i)
        m_views[i]->setVisible(static_cast<int>(i) == view);
    const bool with_chart = m_views[static_cast<std::size_t>(view)] != m_telling;
    m_plot->setVisible(with_chart);
    m_cursor->setVisible(with_chart);
}

QWidget* WatchPage::side() {
    if (!m_side) {
        m_side = new WatchSide(context());
        connect(m_side, &WatchSide::wanted, this, &WatchPage::editRule);
        m_side->show(m_record ? &*m_record : nullptr);
    }
    return m_side;
}

void WatchPage::readingChanged() {
    m_alerts_key.clear();
    m_tried_key.clear();
    m_record_key.clear();
    m_record.reset();
    m_trouble->hide();
}

void WatchPage::refresh() {
    const Reading* r = context().reading();
    if (!r) return;
    showNow();
    setNote(context().live().recording.on ? tr("recording · Ctrl R stops") : tr("not recording · Ctrl R starts"));
    m_plot->setReading(r->id);
    m_plot->reload();
    askRecord();
    showRules();
    for (NumberField* f : {m_low, m_high, m_hysteresis})
        f->setUnit(from_std(unit_symbol(r->quantity.unit)));
    m_low->show(r->bands ? from_std(format_constant(r->bands->low)) : QString());
    m_high->show(r->bands ? from_std(format_constant(r->bands->high)) : QString());
    m_hysteresis->show(r->bands ? from_std(format_constant(r->bands->hysteresis)) : QString());
    m_band_names->refresh();
    tryBands();
    refreshTold();
    if (!m_telling->isHidden()) m_telling->refresh();
    if (!m_loads->isHidden()) m_loads->refresh();
}

void WatchPage::showNow() {
    const Reading* r = context().reading();
    const PathState& state = context().state(r->id);
    const LiveReading* live = context().liveReading();
    m_value->setStyleSheet(QStringLiteral("font-family: 'JetBrains Mono'; font-size: %1px; color: %2;")
                               .arg(theme().px(46))
                               .arg(theme().colours().ink.name()));
    const double doubt = context().budget().expanded();
    const bool has_value = live && live->value.ok() && state.reaches == 6;
    const QuantityKind& kind = r->quantity.about();
    const bool is_state = kind.is_state();
    set_text(m_value, !has_value ? QStringLiteral("—")
                      : is_state ? from_std(live->value.number > 0.5 ? kind.on_word : kind.off_word)
                                 : from_std(format_value(live->value.number, doubt, r->quantity.unit)));
    m_mark->setMark(state.mark);
    const QString headline = m_record ? from_std(m_record->outlook.headline) : QString();
    set_text(m_word, headline.isEmpty()       ? state.word
                     : has_value && !r->bands ? headline
                                              : state.word + QStringLiteral(", ") + headline);
    m_picture->show(*r, has_value ? live->value.number : no_number);
    m_word->setColour(mark_colour(theme(), state.mark));
    const QString beside = has_value && !is_state ? context().beside(*r, live->value.number, doubt) : QString();
    set_text(m_age,
             (has_value && !is_state ? tr("± %1 · ").arg(from_std(format_measure(doubt, r->quantity.unit, 1)))
                                     : QString()) +
                 (beside.isEmpty() ? beside : beside + QStringLiteral(" · ")) +
                 (state.age.isEmpty() ? tr("nothing came yet") : tr("%1 old").arg(state.age)));
    m_cause->setVisible(!has_value && live && !live->cause.empty());
    if (live) set_text(m_cause, from_std(live->cause));
}

/// The rules on the record: asked when a rule changed, and again while the record grows.
void WatchPage::askRecord() {
    const Reading* r = context().reading();
    Session& session = context().session();
    const TimeUs now = session.now();
    const QString key =
        QStringLiteral("%1 %2 %3").arg(from_std(r->id)).arg(session.planRevision()).arg(now / tried_again_after);
    if (key == m_record_key) return;
    m_record_key = key;
    m_question.ask(
        session.exports(), this,
        [id = r->id, bench = session.bench(), catalog = session.catalog(), now,
         live = context().live().recording.on](BenchFile& file) {
            return watch_record(file, bench, catalog, id, now, live);
        },
        [this, key](const Result<WatchRecord>& record) {
            if (key != m_record_key) return; // another reading, or another rule
            if (!record) {
                emit context().said(from_std(record.error().text()));
                m_record.reset();
            } else {
                m_record = *record;
            }
            showNow();
            showRules();
            if (m_side) m_side->show(m_record ? &*m_record : nullptr);
        });
    if (m_side && !m_record) m_side->show(nullptr);
}

void WatchPage::showRules() {
    const Reading* r = context().reading();
    const Bench& bench = context().session().bench();
    std::vector<RuleRow> rows;
    for (const WatchRule& rule : bench.watch_rules) {
        if (rule.reading() != r->id) continue;
        RuleRow row;
        row.id = rule.id;
        row.name = from_std(rule.name);
        row.mark = rule.on ? mark_of_rank(rule.rank) : Mark::not_begun;
        const auto live = context().live().rules.find(rule.id);
        row.raised = rule.on && live != context().live().rules.end() && live->second.raised;
        row.state = !rule.on     ? tr("off")
                    : row.raised ? tr("raised %1%2")
                                       .arg(short_time(live->second.since),
                                            live->second.unseen ? tr(", not seen") : QString())
                                 : tr("on");
        row.when = from_std(conditions_say(rule, bench));
        row.how = from_std(rule.hours.whole_day() ? confirmation_says(rule)
                                                  : hours_say(rule.hours) + ", " + confirmation_says(rule));
        if (m_record)
            for (const TriedRule& tried : m_record->rules)
                if (tried.rule == rule) {
                    const RuleTrial& t = tried.trial;
                    const auto told = static_cast<int>(t.raised + t.repeated);
                    row.too_often = speaks_too_often(rule, t);
                    row.spoke = !t.trouble.empty() ? tr("not tried")
                                : t.lines == 0     ? tr("no record yet")
                                : told == 0        ? tr("never")
                                                   : tr("%n time(s)", nullptr, told);
                    row.about = !t.trouble.empty() ? from_std(t.trouble)
                                : t.lines == 0     ? QString()
                                : row.too_often    ? tr("%1 a week: ignored").arg(qRound(t.told_a_week()))
                                : t.events.empty() ? tr("in %1").arg(from_std(duration_text(t.last - t.first)))
                                                   : tr("last %1").arg(short_time(t.events.back().time));
                }
        rows.push_back(std::move(row));
    }
    m_rules->setRows(rows);
    m_rules->setVisible(!rows.empty());
    m_no_rules->setVisible(rows.empty());
    showChosen();
}

const TriedRule* WatchPage::chosen() const {
    const WatchRule* rule = context().session().bench().watch_rule(m_rules->chosen());
    if (!m_record || !rule) return nullptr;
    for (const TriedRule& tried : m_record->rules)
        if (tried.rule == *rule) return &tried;
    return nullptr;
}

/// What belongs to the chosen rule: where it would have spoken, and what can be done with it.
void WatchPage::showChosen() {
    const Bench& bench = context().session().bench();
    const WatchRule* rule = bench.watch_rule(m_rules->chosen());
    const TriedRule* tried = rule ? chosen() : nullptr;
    for (QWidget* w : std::initializer_list<QWidget*>{m_edit, m_toggle, m_is_alarm, m_is_none})
        w->setVisible(rule != nullptr);
    if (rule) m_toggle->setText(rule->on ? tr("Switch it off") : tr("Switch it on"));
    const auto live = rule ? context().live().rules.find(rule->id) : context().live().rules.end();
    m_seen->setVisible(rule && live != context().live().rules.end() && live->second.unseen);
    m_calm->setVisible(tried && tried->calmer);
    m_propose->setVisible(rule && !rule->marked.empty());
    std::string advice;
    std::vector<HistoryMark> marks;
    if (tried) {
        advice = trial_says(*rule, tried->trial);
        if (const std::string score = score_says(tried->score); !score.empty()) advice += " " + score;
        if (tried->calmer) advice += "\n" + calmer_says(*tried, bench);
        for (const WatchEvent& e : tried->trial.events)
            if (e.kind == WatchKind::raised)
                marks.push_back({e.time, rule->rank == WatchRank::bad ? Mark::bad : Mark::look});
        for (const MarkedStretch& m : rule->marked)
            if (!m.is_alarm) marks.push_back({m.from / 2 + m.to / 2, Mark::not_begun});
    }
    if (!m_loads->isHidden()) { // of what is switched, when that is looked at
        marks.clear();
        for (const TimeUs run : m_loads->runs())
            marks.push_back({run, Mark::look});
    }
    m_plot->setMarks(marks);
    set_text(m_advice, from_std(advice));
    m_advice->setVisible(!advice.empty());
}

} // namespace cognitum
