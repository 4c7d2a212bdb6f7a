#include "ui/stops/calibrate_page.h"

#include "core/decode/table_decoder.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/plots/plot.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QGridLayout>
#include <QKeyEvent>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

CalibratePage::CalibratePage(Context& context) : Page(context, tr("Against what, and how far off")) {
    m_empty = new TextLabel(theme(), TextLabel::Role::body);
    body()->addWidget(m_empty);
    m_content = new QWidget;
    auto* columns = new QHBoxLayout(m_content);
    stackWhenNarrow(columns);
    columns->setContentsMargins(0, 0, 0, 0);
    columns->setSpacing(theme().px(24));
    auto* left = new QVBoxLayout;
    left->setSpacing(theme().px(6));
    columns->addLayout(left, 4);
    buildCapture(left);
    auto* right = new QVBoxLayout;
    right->setSpacing(theme().px(8));
    columns->addLayout(right, 7);
    buildPlots(right);
    body()->addWidget(m_content, 1);
    buildSide();
}

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
    m_trend->setFixedHeight(theme().px(64));
    m_trend->xAxis->setVisible(false);
    m_trend->yAxis->setVisible(false);
    m_trend->axisRect()->setAutoMargins(QCP::msNone);
    m_trend->axisRect()->setMargins(QMargins(0, 2, 0, 2));
    m_trend_line = m_trend->addGraph();
    m_window = new QCPItemRect(m_trend);
    layout->addWidget(m_trend);
    m_steady = new TextLabel(theme(), TextLabel::Role::name);
    m_steady->setObjectName(QStringLiteral("steadyText"));
    m_steady_figures = new TextLabel(theme(), TextLabel::Role::soft);
    layout->addWidget(m_steady);
    layout->addWidget(m_steady_figures);
    layout->addSpacing(theme().px(6));

    layout->addWidget(new TextLabel(theme(), TextLabel::Role::soft, tr("The reference")));
    m_reference = new QComboBox;
    m_reference->setObjectName(QStringLiteral("referenceKind"));
    m_reference->setAccessibleName(tr("Kind of reference"));
    layout->addWidget(m_reference);
    auto* value = new QHBoxLayout;
    m_value = new NumberField(theme(), QStringLiteral("referenceValue"), tr("The reference says"), 18);
    m_doubt = new NumberField(theme(), QStringLiteral("referenceDoubt"), tr("Its standard uncertainty"), 13);
    m_doubt->setToolTip(tr("standard uncertainty of the reference"));
    value->addWidget(m_value, 3);
    value->addWidget(new TextLabel(theme(), TextLabel::Role::mono, QStringLiteral("±")));
    value->addWidget(m_doubt, 2);
    layout->addLayout(value);
    m_value->installEventFilter(this);
    m_doubt->installEventFilter(this);
    auto* take = new QHBoxLayout;
    m_take = make_button(tr("Take the point"), QStringLiteral("takePoint"), true);
    m_take_hint = new TextLabel(theme(), TextLabel::Role::soft, tr("Space"));
    m_take_hint->setWordWrap(true);
    take->addWidget(m_take);
    take->addWidget(m_take_hint, 1);
    layout->addLayout(take);
    m_how = new TextLabel(theme(), TextLabel::Role::soft);
    layout->addWidget(m_how);
    m_caution = new TextLabel(theme(), TextLabel::Role::body);
    m_caution->setObjectName(QStringLiteral("calibrateCaution"));
    layout->addWidget(m_caution);

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
    layout->addStretch(1);

    connect(m_reference, &QComboBox::activated, this, &CalibratePage::chooseReference);
    connect(m_take, &QPushButton::clicked, this, &CalibratePage::takePoint);
    connect(m_probe, &QComboBox::activated, this, [this] {
        if (const Reading* r = context().reading())
            context().session().sendCommand(r->feed(), m_probe->currentData().toString());
    });
    connect(read, &QPushButton::clicked, this, [this] {
        if (const Reading* r = context().reading())
            context().session().sendCommand(r->feed(), QStringLiteral("thermometer"));
    });
}

void CalibratePage::chooseReference() {
    const int index = m_reference->currentIndex();
    if (index < 0 || index >= static_cast<int>(m_references.size())) return;
    const ReferenceKind& kind = m_references[static_cast<std::size_t>(index)];
    m_value->show(std::isfinite(kind.value) ? from_std(format_fixed(kind.value, 2)) : QString());
    m_value->setPlaceholderText(std::isfinite(kind.value) ? QString() : tr("type it"));
    m_doubt->show(from_std(format_constant(kind.u)));
    set_text(m_how, from_std(kind.how));
    set_text(m_caution, kind.caution.empty() ? QString() : QStringLiteral("▲ ") + from_std(kind.caution));
    m_caution->setVisible(!kind.caution.empty());
}

void CalibratePage::readingChanged() {
    if (!m_reading.empty()) m_drafts[m_reading] = m_points;
    m_reading = context().readingId();
    m_points = m_drafts[m_reading];
    m_gate.reset();
    m_fed = 0;
    m_model.reset();
    m_side_key.clear();
    const Reading* r = context().reading();
    if (!r) return;
    m_references = references_for(r->quantity.kind, 12);
    m_reference->clear();
    for (const ReferenceKind& kind : m_references)
        m_reference->addItem(from_std(kind.title));
    chooseReference();
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
    for (const LivePoint& p : live->points) {
        if (p.time <= m_fed) continue;
        m_fed = p.time;
        const Value v = forward(r.path, p.raw);
        if (v.ok()) m_gate->push({p.time, v.number});
    }
}

void CalibratePage::refreshGate() {
    const Reading& r = *context().reading();
    const Tokens& t = theme().colours();
    const std::string& unit = r.quantity.unit;
    const Freshness fresh = context().state(r.id).freshness;
    const LiveReading* live = context().liveReading();
    const Value now = live && fresh != Freshness::silent && fresh != Freshness::none ? forward(r.path, live->raw)
                                                                                     : Value::none(Cause::missing);
    m_state = m_gate->state(context().session().now());
    if (!now.ok()) m_state.steady = false;
    const int decimals = decimals_for(std::max(meanStep(), 0.02));
    set_text(m_number, now.ok() ? from_std(format_fixed(m_state.n > 2 ? m_state.mean : now.number, decimals))
                                : QStringLiteral("—"));
    set_text(m_number_unit, from_std(unit_symbol(unit)));
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
        m_trend->yAxis->setRange(comfortable_range(*low, *high, r.quantity.accuracy));
        m_window->topLeft->setCoords(-window, m_trend->yAxis->range().upper);
        m_window->bottomRight->setCoords(0, m_trend->yAxis->range().lower);
    }
    m_trend->replot(QCustomPlot::rpQueuedReplot);
    if (!now.ok())
        set_text(m_steady,
                 tr("◆ no value: %1")
                     .arg(live && !live->cause.empty() ? from_std(live->cause) : context().state(r.id).word));
    else if (m_state.steady)
        set_text(m_steady, tr("● steady for %1 s").arg(static_cast<int>(m_state.steady_for_s)));
    else
        set_text(m_steady, tr("▲ waiting: %1").arg(from_std(m_state.waiting_for)));
    m_steady->setWordWrap(true);
    m_steady->setColour(!now.ok() ? t.bad : m_state.steady ? t.good : t.look);
    set_text(m_steady_figures, tr("slope %1 /min, scatter %2, mean of %3 values")
                                   .arg(from_std(format_value(m_state.slope_per_min, 0.05, unit)),
                                        from_std(format_value(m_state.scatter, 0.05, unit)))
                                   .arg(m_state.n));
    const bool has_reference = referenceValue().has_value();
    m_take->setEnabled(now.ok() && m_state.n > 1 && has_reference);
    m_take->setText(m_state.steady || !now.ok() ? tr("Take the point") : tr("Take it anyway"));
    set_text(m_take_hint, !has_reference                ? tr("type what the reference says")
                          : m_state.steady || !now.ok() ? tr("Space")
                                                        : tr("it will be marked as forced"));
}

double CalibratePage::meanStep() const {
    const Reading* r = context().reading();
    const LiveReading* live = context().liveReading();
    if (!r || !live || !live->value.ok()) return 0.1;
    // The mean of a window tells a tenth of a count apart where there is noise to average over.
    return std::abs(slope(r->path, live->raw)) / 5;
}

std::optional<double> CalibratePage::referenceValue() const {
    return m_value->number();
}

void CalibratePage::takePoint() {
    const Reading* r = context().reading();
    const auto reference = referenceValue();
    const auto doubt = m_doubt->number();
    if (!r || !m_gate || !m_take->isEnabled() || !reference || !doubt || *doubt < 0) return;
    CalibrationPoint p;
    p.time = context().session().now();
    p.reference_kind = m_references[static_cast<std::size_t>(std::max(0, m_reference->currentIndex()))].id;
    p.reference = *reference;
    p.u_reference = *doubt;
    p.indication = m_state.mean;
    const Value raw = inverse(r->path, m_state.mean);
    p.raw = raw.ok() ? raw.number : 0;
    // Without noise a mean is still no better than a count divided by √12.
    const double step = std::abs(slope(r->path, p.raw)) / std::sqrt(12.0);
    p.u_indication = m_state.scatter > 0 ? std::max(m_state.u_mean, 0.1 * step) : step;
    p.forced = !m_state.steady;
    m_points.push_back(p);
    context().session().note(r->id, "calibration",
                             tr("Point taken%1: reference %2, indication %3.")
                                 .arg(p.forced ? tr(" by force") : QString(),
                                      from_std(format_with_doubt(p.reference, p.u_reference, r->quantity.unit)),
                                      from_std(format_value(p.indication, p.u_indication, r->quantity.unit))));
    m_side_key.clear();
    refresh();
}

void CalibratePage::setAside(std::size_t index) {
    CalibrationPoint& p = m_points[index];
    p.set_aside = p.counts() ? tr("set aside by hand").toStdString() : std::string();
    m_side_key.clear();
    refresh();
}

void CalibratePage::refresh() {
    const Reading* r = context().reading();
    if (!r) return;
    if (m_reading != r->id) readingChanged();
    const bool possible = !r->path.stages.empty() && !r->wiring.board.empty();
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
                .arg(m_points.size()));
    for (NumberField* field : {m_value, m_doubt})
        field->setUnit(from_std(unit_symbol(r->quantity.unit)));
    const BoardUse* use = context().session().bench().board(r->feed());
    m_simulated->setVisible(use && use->link.kind == LinkKind::simulated);
    if (const LiveBoard* board = context().liveBoard(); board && board->answers != m_answers) {
        m_answers = board->answers;
        const std::string says = comment_value(board->answer.toStdString(), "thermometer_degC");
        if (!says.empty() &&
            m_references[static_cast<std::size_t>(std::max(0, m_reference->currentIndex()))].id != "ice-point")
            m_value->show(from_std(says));
    }
    feedGate();
    refreshGate();
    std::optional<ModelChoice> choice;
    static constexpr Model applicable[] = {Model::offset, Model::line};
    if (auto chosen = choose_model(fit_points(m_points), applicable)) choice = std::move(*chosen);
    const Fit* fit = nullptr;
    if (choice)
        for (const Fit& f : choice->candidates)
            if (f.model == chosenModel(*choice)) fit = &f;
    refreshPlots(fit);
    const QString key = QStringLiteral("%1|%2|%3|%4")
                            .arg(m_points.size())
                            .arg(fit ? static_cast<int>(fit->model) : -1)
                            .arg(from_std(r->id))
                            .arg(r->correction ? r->correction->record : 0);
    if (key != m_side_key) {
        m_side_key = key;
        refreshPoints();
        refreshSide(choice);
        refreshHistory();
    }
}

Model CalibratePage::chosenModel(const ModelChoice& choice) const {
    if (m_model)
        for (const Fit& f : choice.candidates)
            if (f.model == *m_model) return *m_model;
    return choice.candidates[choice.chosen].model;
}

} // namespace cognitum
