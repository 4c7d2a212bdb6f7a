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

void CalibratePage::buildCapture(QVBoxLayout* layout) {
    layout->addWidget(new TextLabel(theme(), TextLabel::Role::soft, tr("The probe says, uncorrected")));
    auto* big = new QHBoxLayout;
    m_number = new TextLabel(theme(), TextLabel::Role::mono, QStringLiteral("—"));
    m_number->setObjectName(QStringLiteral("indication"));
    m_number->setAccessibleName(tr("Indication of the probe"));
    m_number_unit = new TextLabel(theme(), TextLabel::Role::mono);
    big->addWidget(m_number);
    big->addWidget(m_number_unit, 1, Qt::AlignBottom);
    layout->addLayout(big);
    m_trend = new Plot(theme());
    m_trend->setObjectName(QStringLiteral("steadinessTrend"));
    m_trend->setAccessibleName(tr("The last minute of the indication; the box is the window that must be steady"));
    m_trend->setFixedHeight(theme().px(58));
    m_trend->xAxis->setVisible(false);
    m_trend->yAxis->setVisible(false);
    m_trend->axisRect()->setAutoMargins(QCP::msNone);
    m_trend->axisRect()->setMargins(QMargins(0, 2, 0, 2));
    m_trend_line = m_trend->addGraph();
    m_window = new QCPItemRect(m_trend);
    layout->addWidget(m_trend);
    m_steady = new TextLabel(theme(), TextLabel::Role::name);
    m_steady->setObjectName(QStringLiteral("steadyText"));
    m_steady->setWordWrap(true);
    m_steady_figures = new TextLabel(theme(), TextLabel::Role::soft);
    m_steady_figures->setWordWrap(true);
    layout->addWidget(m_steady);
    layout->addWidget(m_steady_figures);
    layout->addSpacing(theme().px(4));
    m_reference = new ReferenceBox(context());
    layout->addWidget(m_reference);
    auto* take = new QHBoxLayout;
    m_begin = make_button(tr("Start here"), QStringLiteral("beginChange"));
    m_take = make_button(tr("Take the point"), QStringLiteral("takePoint"), true);
    m_take_hint = new TextLabel(theme(), TextLabel::Role::soft, tr("Space"));
    m_take_hint->setObjectName(QStringLiteral("takeHint"));
    m_take_hint->setWordWrap(true);
    take->addWidget(m_begin);
    take->addWidget(m_take);
    take->addStretch(1);
    layout->addLayout(take);
    layout->addWidget(m_take_hint);
    m_as_left = make_check("asLeft", tr("something was turned: as left"));
    m_as_left->setToolTip(tr("Points from here on are taken after an adjustment; those before stay as found."));
    layout->addWidget(m_as_left);
    m_remote = make_check("remoteKey", tr("take points with a phone"));
    m_remote->setToolTip(tr("Opens a page with one button in your own network until you switch it off."));
    m_remote_where = new TextLabel(theme(), TextLabel::Role::mono_small);
    m_remote_where->setObjectName(QStringLiteral("remoteWhere"));
    m_remote_where->setWordWrap(true);
    m_remote_where->setTextInteractionFlags(Qt::TextSelectableByMouse);
    m_remote_where->hide();
    layout->addWidget(m_remote);
    layout->addWidget(m_remote_where);
    buildBench(layout);
    layout->addStretch(1);
    connect(m_take, &QPushButton::clicked, this, &CalibratePage::takePoint);
    connect(m_begin, &QPushButton::clicked, this, [this] {
        m_start = CalibrationPoint{};
        m_start->time = context().session().now();
        m_start->indication = m_state.n > 0 ? m_gate->samples().back().value : 0;
        refresh();
    });
    connect(m_reference, &ReferenceBox::changed, this, [this] {
        watchFields();
        if (context().reading() && m_gate) refreshGate();
    });
    connect(m_remote, &QCheckBox::toggled, this, &CalibratePage::setRemoteKey);
}

void CalibratePage::buildBench(QVBoxLayout* layout) {
    m_simulated = new QWidget;
    auto* bench = new QVBoxLayout(m_simulated);
    bench->setContentsMargins(0, 0, 0, 0);
    bench->addWidget(new RuleLine(theme()));
    bench->addWidget(new TextLabel(theme(), TextLabel::Role::soft, tr("Simulated bench: put the probe")));
    m_probe = new QComboBox;
    m_probe->setObjectName(QStringLiteral("simulatedProbe"));
    m_probe->setAccessibleName(tr("Where the simulated probe is"));
    for (const auto& [text, command] : {std::pair{tr("in the air"), QStringLiteral("probe air")},
                                        std::pair{tr("into ice and water"), QStringLiteral("probe ice")},
                                        std::pair{tr("into a bath of 12 °C"), QStringLiteral("probe bath 12.1")},
                                        std::pair{tr("into a bath of 21 °C"), QStringLiteral("probe bath 21.4")},
                                        std::pair{tr("into a bath of 33 °C"), QStringLiteral("probe bath 32.7")}})
        m_probe->addItem(text, command);
    bench->addWidget(m_probe);
    auto* read = make_link(tr("Read the thermometer in it"), QStringLiteral("readThermometer"));
    bench->addWidget(read, 0, Qt::AlignLeft);
    layout->addWidget(m_simulated);
    connect(m_probe, &QComboBox::activated, this, [this] {
        if (const Reading* r = context().reading())
            context().session().sendCommand(r->feed(), m_probe->currentData().toString());
    });
    connect(read, &QPushButton::clicked, this, [this] {
        if (const Reading* r = context().reading())
            context().session().sendCommand(r->feed(), QStringLiteral("thermometer"));
    });
}

void CalibratePage::watchFields() {
    for (NumberField* field : m_reference->fields()) {
        field->removeEventFilter(this);
        field->installEventFilter(this);
    }
}

bool CalibratePage::eventFilter(QObject* watched, QEvent* event) {
    // A reference has no spaces: the key takes the point from here as well.
    if (event->type() == QEvent::ShortcutOverride && static_cast<QKeyEvent*>(event)->key() == Qt::Key_Space)
        return true;
    if (event->type() == QEvent::KeyPress && static_cast<QKeyEvent*>(event)->key() == Qt::Key_Space) {
        takePoint();
        return true;
    }
    return Page::eventFilter(watched, event);
}

void CalibratePage::readingChanged() {
    if (m_keep_soon.isActive()) keepDraft();
    m_reading = context().readingId();
    m_gate.reset();
    m_fed = 0;
    m_model.reset();
    m_start.reset();
    m_at_step = 0;
    const Reading* r = context().reading();
    if (!r) return;
    m_draft = context().session().draft(r->id);
    m_plan_seen = 0;
    const auto recipes = recipes_for(context().session().recipes(), r->quantity.kind);
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
    m_start.reset();
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
    const bool begun = !m_draft.points.empty();
    context().session().saveDraft(m_reading, begun ? m_draft : CalibrationDraft{});
}

bool CalibratePage::isChange() const {
    return m_strip->recipe() && m_strip->recipe()->capture == Capture::change;
}

Chain CalibratePage::path() const {
    const Reading& r = *context().reading();
    return uncorrected_path(r, context().session().partners(r, context().live()));
}

void CalibratePage::feedGate() {
    const Reading& r = *context().reading();
    const LiveReading* live = context().liveReading();
    if (!m_gate) {
        // Two time constants of the part, but never fewer than eight values.
        const PartCard* part = context().session().part(r);
        GateSettings settings;
        settings.window_s = std::max({part ? 2 * part->response_s : 20, 8 * r.quantity.interval_s, 1.0});
        settings.slope_limit = 0.25 * r.quantity.accuracy / settings.window_s;
        settings.scatter_limit = std::max(r.quantity.accuracy, 0.0);
        settings.min_samples = 8;
        m_gate = std::make_unique<SteadinessGate>(settings);
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
    const Value now = live && fresh != Freshness::silent && fresh != Freshness::none ? forward(path(), live->raw)
                                                                                     : Value::none(Cause::missing);
    m_state = m_gate->state(context().session().now());
    const bool change = isChange();
    if (!now.ok()) m_state.steady = false;
    const double step = indicationStep();
    const double resolved = step > 0 ? (change ? step : step / 2) : r.quantity.accuracy / 20;
    const double shown = now.ok() ? (change && m_start           ? now.number - m_start->indication
                                     : m_state.steady && !change ? m_state.mean
                                                                 : now.number)
                                  : now.number;
    set_text(m_number,
             now.ok() ? from_std(format_fixed(shown, decimals_for(std::max(resolved, r.quantity.accuracy / 200))))
                      : QStringLiteral("—"));
    set_text(m_number_unit, from_std(unit_symbol(unit)));
    refreshTrend();
    if (!now.ok())
        set_text(m_steady,
                 tr("◆ no value: %1")
                     .arg(live && !live->cause.empty() ? from_std(live->cause) : context().state(r.id).word));
    else if (change)
        set_text(m_steady, m_start ? tr("● since the start, %1 s ago")
                                         .arg(seconds(context().session().now() - m_start->time), 0, 'f', 0)
                                   : tr("▲ start before you pour"));
    else if (m_state.steady)
        set_text(m_steady, tr("● steady for %1 s").arg(static_cast<int>(m_state.steady_for_s)));
    else
        set_text(m_steady, tr("▲ waiting: %1").arg(from_std(m_state.waiting_for)));
    m_steady->setColour(!now.ok() ? t.bad : m_state.steady || (change && m_start) ? t.good : t.look);
    set_text(m_steady_figures,
             tr("slope %1 /min, scatter %2, mean of %3 values")
                 .arg(from_std(format_value(m_state.slope_per_min, r.quantity.accuracy / 20, unit)),
                      from_std(format_value(m_state.scatter, r.quantity.accuracy / 20, unit)))
                 .arg(m_state.n));
    m_reference->refresh(now.ok() ? shown : now.number);
    const QString trouble = m_reference->trouble();
    const bool ready = now.ok() && (change ? m_start.has_value() : m_state.n > 1);
    m_begin->setVisible(change);
    m_begin->setEnabled(now.ok());
    m_begin->setText(m_start ? tr("Start again") : tr("Start here"));
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
    if (const RecipeStep* step = m_strip->current()) p.run = step->run;
    const double step = indicationStep() / std::sqrt(12.0);
    if (isChange()) {
        const double end = m_gate->samples().back().value;
        p.indication = end - m_start->indication;
        p.u_indication = std::max(step * std::sqrt(2.0), 1e-9); // a step more or less at either end
        m_start.reset();
    } else {
        p.indication = m_state.mean;
        // Without noise a mean is still no better than a step divided by √12.
        p.u_indication = m_state.scatter > 0 ? std::max(m_state.u_mean, 0.1 * step) : std::max(step, 1e-9);
        p.forced = !m_state.steady;
    }
    const Value raw = inverse(path(), p.indication);
    p.raw = raw.ok() ? raw.number : 0;
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

void CalibratePage::setRemoteKey(bool on) {
    m_remote_key.reset();
    m_remote_where->setVisible(on);
    if (!on) return;
    m_remote_key = std::make_unique<RemoteKey>();
    connect(m_remote_key.get(), &RemoteKey::pressed, this, [this] {
        if (isVisible()) takePoint();
    });
    const auto where = m_remote_key->open();
    set_text(m_remote_where,
             where ? tr("On a phone in this network: %1").arg(*where) : from_std(where.error().text()));
    if (!where) m_remote_key.reset();
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
    const Fit* fit = chosenFit();
    refreshPlots(fit);
    m_table->points()->show(*r, m_draft.points, fit);
    m_table->setVisible(!m_draft.points.empty());
    m_no_points->setVisible(m_draft.points.empty());
    refreshSide();
}

} // namespace cognitum
