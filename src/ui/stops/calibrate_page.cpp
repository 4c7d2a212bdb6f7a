#include "ui/stops/calibrate_page.h"

#include "core/decode/table_decoder.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "link/remote_key.h"
#include "ui/plots/plot.h"
#include "ui/stops/calibration_history.h"
#include "ui/stops/point_table.h"
#include "ui/stops/recipe_strip.h"
#include "ui/stops/reference_box.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QCheckBox>
#include <QKeyEvent>
#include <QPushButton>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

CalibratePage::CalibratePage(Context& context) : Page(context, tr("Against what, and how far off")) {
    m_empty = new TextLabel(theme(), TextLabel::Role::body);
    body()->addWidget(m_empty);
    m_content = new QWidget;
    auto* whole = new QVBoxLayout(m_content);
    whole->setContentsMargins(0, 0, 0, 0);
    whole->setSpacing(theme().px(10));
    m_strip = new RecipeStrip(context);
    whole->addWidget(m_strip);
    whole->addWidget(new RuleLine(theme()));
    auto* columns = new QHBoxLayout;
    stackWhenNarrow(columns);
    columns->setSpacing(theme().px(24));
    auto* left = new QVBoxLayout;
    left->setSpacing(theme().px(6));
    columns->addLayout(left, 4);
    buildCapture(left);
    auto* right = new QVBoxLayout;
    right->setSpacing(theme().px(8));
    columns->addLayout(right, 8);
    buildPlots(right);
    whole->addLayout(columns, 1);
    body()->addWidget(m_content, 1);
    buildSide();
    connect(m_strip, &RecipeStrip::chosen, this, &CalibratePage::stepChosen);
    m_keep_soon.setSingleShot(true);
    m_keep_soon.setInterval(150);
    connect(&m_keep_soon, &QTimer::timeout, this, &CalibratePage::keepDraft);
}

CalibratePage::~CalibratePage() = default;

void CalibratePage::readingChanged() {
    if (m_keep_soon.isActive()) keepDraft();
    m_reading = context().readingId();
    m_remote->setChecked(false); // a press must not take a point of another reading
    m_gate.reset();
    m_fed = 0;
    m_model.reset();
    m_at_step = 0;
    const Reading* r = context().reading();
    if (!r) return;
    m_draft = context().session().draft(r->id);
    m_plan_seen = 0;
    const auto recipes = recipes_for(context().session().recipes(), *r, context().session().part(*r));
    m_strip->setRecipes(recipes, m_draft.recipe, m_draft.step);
    m_reference->setReading(*r, recipes);
    if (const RecipeStep* step = m_strip->current()) m_reference->choose(step->reference);
    watchFields();
    m_by->setText(from_std(m_draft.by));
    m_conditions->setText(from_std(m_draft.conditions));
    m_adjusted->setText(from_std(m_draft.adjusted));
    m_as_left->setChecked(!m_draft.points.empty() && m_draft.points.back().as_left);
    m_history->setReading(r->id);
    refreshFit();
}

void CalibratePage::stepChosen() {
    m_at_step = 0;
    m_draft.started.reset();
    if (const RecipeStep* step = m_strip->current()) m_reference->choose(step->reference);
    keepDraft();
    refresh();
}

/// What a person did so far is in the file before the next thing happens.
void CalibratePage::keepDraft() {
    m_keep_soon.stop();
    if (m_reading.empty()) return;
    m_draft.recipe = m_strip->recipe() ? m_strip->recipe()->id : std::string();
    m_draft.step = m_strip->step();
    m_draft.by = m_by->text().trimmed().toStdString();
    m_draft.conditions = m_conditions->text().trimmed().toStdString();
    m_draft.adjusted = m_adjusted->text().trimmed().toStdString();
    const bool begun = !m_draft.points.empty() || m_draft.started;
    context().session().saveDraft(m_reading, begun ? m_draft : CalibrationDraft{});
}

bool CalibratePage::isChange() const {
    return m_strip->recipe() && m_strip->recipe()->capture == Capture::change;
}

bool CalibratePage::isState() const {
    const std::string& kind = context().reading()->quantity.kind;
    return kind == "contact" || kind == "motion";
}

Chain CalibratePage::path() const {
    const Reading& r = *context().reading();
    return uncorrected_path(r, context().session().partners(r, context().live()));
}

void CalibratePage::feedGate() {
    const Reading& r = *context().reading();
    const LiveReading* live = context().liveReading();
    if (!m_gate) {
        const PartCard* part = context().session().part(r);
        m_gate = std::make_unique<SteadinessGate>(
            gate_settings(part ? part->response_s : 0, r.quantity.interval_s, r.quantity.accuracy));
        m_fed = 0;
    }
    if (!live) return;
    const Chain chain = path();
    for (const LivePoint& p : live->points) {
        if (p.time <= m_fed) continue;
        m_fed = p.time;
        const Value v = forward(chain, p.raw);
        if (v.ok()) m_gate->push({p.time, v.number});
    }
}

double CalibratePage::indicationStep() const {
    const LiveReading* live = context().liveReading();
    if (!live || !live->value.ok() || context().reading()->path.stages.empty()) return 0;
    return std::abs(slope(path(), live->raw));
}

double CalibratePage::meanRaw() const {
    const TimeUs from = context().session().now() - from_seconds(m_gate->settings().window_s);
    double sum = 0, n = 0;
    for (const LivePoint& p : context().liveReading()->points)
        if (p.time >= from && std::isfinite(p.raw)) {
            sum += p.raw;
            ++n;
        }
    return n > 0 ? sum / n : context().liveReading()->raw;
}

void CalibratePage::refreshTrend() {
    QVector<double> x, y;
    for (const TimedValue& s : m_gate->samples()) {
        x.append(seconds(s.time - context().session().now()));
        y.append(s.value);
    }
    m_trend_line->setData(x, y, true);
    const double window = m_gate->settings().window_s;
    m_trend->xAxis->setRange(-3 * window, 0);
    if (!y.isEmpty()) {
        const auto [low, high] = std::minmax_element(y.begin(), y.end());
        m_trend->yAxis->setRange(comfortable_range(*low, *high, context().reading()->quantity.accuracy));
        m_window->topLeft->setCoords(-window, m_trend->yAxis->range().upper);
        m_window->bottomRight->setCoords(0, m_trend->yAxis->range().lower);
    }
    m_trend->replot(QCustomPlot::rpQueuedReplot);
}

void CalibratePage::refreshGate() {
    const Reading& r = *context().reading();
    const Tokens& t = theme().colours();
    const std::string& unit = r.quantity.unit;
    const Freshness fresh = context().state(r.id).freshness;
    const LiveReading* live = context().liveReading();
    // A failed measurement has a raw number as well: it is not followed.
    const bool failed = live && live->value.cause == Cause::failed;
    const bool arrives = live && fresh != Freshness::silent && fresh != Freshness::none;
    const Value now = failed    ? Value::none(Cause::failed)
                      : arrives ? forward(path(), live->raw)
                                : Value::none(Cause::missing);
    m_now = now.number;
    m_state = m_gate->state(context().session().now());
    const bool change = isChange();
    const bool back = change && m_draft.started && m_now < m_draft.started->value - 1e-9;
    if (!now.ok()) m_state.steady = false;
    if (isState() && now.ok()) { // on or off is what it is now: it may not have said so again for hours
        m_state = GateState{};
        m_state.steady = true;
        m_state.mean = now.number;
        m_state.n = 2;
    }
    const double step = indicationStep();
    const double resolved = step > 0 ? (change ? step : step / 2) : r.quantity.accuracy / 20;
    const double shown = now.ok() ? (change && m_draft.started   ? now.number - m_draft.started->value
                                     : m_state.steady && !change ? m_state.mean
                                                                 : now.number)
                                  : now.number;
    set_text(m_number,
             !now.ok() ? QStringLiteral("—")
             : isState()
                 ? from_std(format_constant(now.number, 4))
                 : from_std(format_fixed(shown, decimals_for(std::max(resolved, r.quantity.accuracy / 200)))));
    set_text(m_number_unit, !isState()        ? from_std(unit_symbol(unit))
                            : now.number == 1 ? tr("on")
                            : now.number == 0 ? tr("off")
                                              : QString());
    refreshTrend();
    if (!now.ok())
        set_text(m_steady,
                 tr("◆ no value: %1")
                     .arg(live && !live->cause.empty() ? from_std(live->cause) : context().state(r.id).word));
    else if (back)
        set_text(m_steady, tr("◆ the total went back since the start: the board began anew. Start again."));
    else if (change)
        set_text(m_steady, m_draft.started
                               ? tr("● since the start, %1 s ago")
                                     .arg(seconds(context().session().now() - m_draft.started->time), 0, 'f', 0)
                               : tr("▲ start before you pour"));
    else if (isState())
        set_text(m_steady, tr("● as it is now"));
    else if (m_state.steady)
        set_text(m_steady, tr("● steady for %1 s").arg(static_cast<int>(m_state.steady_for_s)));
    else
        set_text(m_steady, tr("▲ waiting: %1").arg(from_std(m_state.waiting_for)));
    m_steady->setColour(!now.ok() || back                               ? t.bad
                        : m_state.steady || (change && m_draft.started) ? t.good
                                                                        : t.look);
    m_steady_figures->setVisible(!isState());
    set_text(m_steady_figures,
             tr("slope %1/min, scatter %2, mean of %3 values")
                 .arg(from_std(format_value(m_state.slope_per_min, r.quantity.accuracy / 20, unit)),
                      from_std(format_value(m_state.scatter, r.quantity.accuracy / 20, unit)))
                 .arg(m_state.n));
    m_reference->refresh(now.ok() ? shown : now.number);
    const QString trouble = m_reference->trouble();
    const bool ready = now.ok() && (change ? m_draft.started && !back : m_state.n > 1);
    m_begin->setVisible(change);
    m_begin->setEnabled(now.ok());
    m_begin->setText(m_draft.started ? tr("Start again") : tr("Start here"));
    m_take->setEnabled(ready && trouble.isEmpty());
    const bool calm = change || m_state.steady || !now.ok();
    m_take->setText(change ? tr("End and take it") : calm ? tr("Take the point") : tr("Take it anyway"));
    set_text(m_take_hint, !trouble.isEmpty() ? trouble : calm ? tr("Space") : tr("it will be marked as forced"));
    if (m_remote_key)
        m_remote_key->say(
            tr("%1: %2 %3 · %4").arg(from_std(r.name), m_number->text(), m_number_unit->text(), m_steady->text()));
}

void CalibratePage::takePoint() {
    const Reading* r = context().reading();
    const auto reference = m_reference->value();
    if (!r || !m_gate || !m_take->isEnabled() || !reference || !m_reference->trouble().isEmpty()) return;
    CalibrationPoint p;
    p.time = context().session().now();
    p.reference_kind = m_reference->kind();
    p.instrument = m_reference->instrument();
    p.reference = reference->value;
    p.u_reference = reference->u;
    p.as_left = m_as_left->isChecked();
    if (const RecipeStep* step = m_strip->current()) {
        p.run = step->run;
        p.check = step->check;
    }
    const double step = indicationStep();
    if (isChange()) {
        p.indication = m_now - m_draft.started->value;
        p.u_indication = std::max(step / std::sqrt(6.0), 1e-9); // a step more or less at either end
        m_draft.started.reset();
        const Value raw = inverse(path(), p.indication);
        p.raw = raw.ok() ? raw.number : 0;
    } else {
        p.indication = m_state.mean;
        p.u_indication = indication_u(m_state, step);
        p.forced = !m_state.steady;
        p.raw = meanRaw();
    }
    m_draft.points.push_back(p);
    ++m_at_step;
    context().session().note(r->id, "calibration",
                             tr("Point taken%1: reference %2, indication %3.")
                                 .arg(p.forced ? tr(" by force") : QString(),
                                      from_std(format_with_doubt(p.reference, p.u_reference, r->quantity.unit)),
                                      from_std(format_value(p.indication, p.u_indication, r->quantity.unit))));
    m_strip->pointTaken(m_at_step); // goes on, and keeps the draft then
    keepDraft();
    refreshFit();
    refresh();
}

void CalibratePage::setAside(int row, const QString& reason) {
    m_draft.points[static_cast<std::size_t>(row)].set_aside = reason.toStdString();
    refreshFit();
    m_keep_soon.start();
}

void CalibratePage::hideEvent(QHideEvent* event) {
    if (m_keep_soon.isActive()) keepDraft();
    Page::hideEvent(event);
}

void CalibratePage::refresh() {
    const Reading* r = context().reading();
    if (!r) return;
    if (m_reading != r->id) readingChanged();
    const bool possible = !r->feed().empty();
    m_content->setVisible(possible);
    showSide(m_side, possible);
    m_empty->setVisible(!possible);
    if (!possible) {
        set_text(m_empty, tr("A calibration compares what the whole path says with something that is known. First "
                             "choose a part and connect the board."));
        setNote({});
        return;
    }
    setNote(tr("limit ± %1 · %2 points")
                .arg(from_std(format_measure(r->quantity.accuracy, r->quantity.unit)))
                .arg(m_draft.points.size()));
    const BoardUse* use = context().session().bench().board(r->feed());
    m_simulated->setVisible(use && use->link.kind == LinkKind::simulated && r->quantity.kind == "temperature");
    if (const LiveBoard* board = context().liveBoard(); board && board->answers != m_answers) {
        m_answers = board->answers;
        const std::string says = comment_value(board->answer.toStdString(), "thermometer_degC");
        if (const auto value = typed_number(from_std(says)); value && !says.empty()) m_reference->offer(*value);
    }
    m_strip->refresh(*r);
    feedGate();
    refreshGate();
    const std::uint64_t plan = r->correction ? static_cast<std::uint64_t>(r->correction->record) + 1 : 1;
    if (plan != m_plan_seen) {
        m_plan_seen = plan;
        refreshFit();
        m_history->refresh();
    }
}

const Fit* CalibratePage::chosenFit() const {
    if (!m_choice) return nullptr;
    for (const Fit& f : m_choice->candidates)
        if (m_model && f.model == *m_model) return &f;
    return &m_choice->candidates[m_choice->chosen];
}

void CalibratePage::refreshFit() {
    const Reading* r = context().reading();
    if (!r) return;
    m_choice.reset();
    const std::vector<Model> models =
        m_strip->recipe() ? m_strip->recipe()->models : std::vector{Model::offset, Model::line};
    if (auto chosen = choose_model(fit_points(m_draft.points), models, r->quantity.unit))
        m_choice = std::move(*chosen);
    else
        m_no_fit = from_std(chosen.error().text());
    const Fit* fit = chosenFit();
    refreshPlots(fit);
    m_table->points()->show(*r, m_draft.points, fit);
    m_table->setVisible(!m_draft.points.empty());
    m_no_points->setVisible(m_draft.points.empty());
    refreshSide();
}

} // namespace cognitum
