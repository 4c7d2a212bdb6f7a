#include "ui/stops/convert_page.h"

#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/plots/plot.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QDateTime>
#include <QGridLayout>
#include <QMessageBox>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

ConvertPage::ConvertPage(Context& context) : Page(context, tr("From a count to a temperature")) {
    m_empty = new TextLabel(theme(), TextLabel::Role::body,
                            tr("The steps follow from the part and the board: choose a part at stop 2 first."));
    body()->addWidget(m_empty);
    m_content = new QWidget;
    auto* columns = new QHBoxLayout(m_content);
    stackWhenNarrow(columns);
    columns->setContentsMargins(0, 0, 0, 0);
    columns->setSpacing(theme().px(26));
    auto* left = new QVBoxLayout;
    left->setSpacing(theme().px(6));
    columns->addLayout(left, 1);
    m_ladder = new StepLadder(context);
    left->addWidget(m_ladder);
    m_cause = new TextLabel(theme(), TextLabel::Role::body);
    m_cause->setObjectName(QStringLiteral("convertCause"));
    left->addWidget(m_cause);
    m_live = make_link(tr("Back to live"), QStringLiteral("backToLive"));
    left->addWidget(m_live, 0, Qt::AlignLeft);
    left->addWidget(new RuleLine(theme()));
    left->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("Where the constants come from")));
    m_constants = new QGridLayout;
    m_constants->setHorizontalSpacing(theme().px(10));
    m_constants->setVerticalSpacing(theme().px(4));
    left->addLayout(m_constants);
    left->addStretch(1);

    auto* right = new QVBoxLayout;
    right->setSpacing(theme().px(8));
    columns->addLayout(right, 1);
    right->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("Transfer curve")));
    m_plot = new Plot(theme());
    m_plot->setObjectName(QStringLiteral("transferCurve"));
    m_plot->setAccessibleName(tr("Transfer curve with the live point"));
    m_plot->setMinimumHeight(theme().px(240));
    m_expected = new QCPItemRect(m_plot);
    m_curve = m_plot->addGraph();
    m_point = m_plot->addGraph();
    m_point_label = m_plot->addLabel({}, theme().colours().ink);
    m_expected_label = m_plot->addLabel({}, theme().colours().accent);
    right->addWidget(m_plot, 1);
    right->addWidget(new RuleLine(theme()));
    right->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("What your meter should show at the pin")));
    m_table = new QGridLayout;
    m_table->setVerticalSpacing(theme().px(6));
    m_table->setHorizontalSpacing(theme().px(10));
    right->addLayout(m_table);
    auto* why = make_button(tr("Why this number"), QStringLiteral("whyThisNumber"));
    right->addWidget(why, 0, Qt::AlignLeft);
    right->addStretch(0);
    body()->addWidget(m_content, 1);

    connect(m_ladder, &StepLadder::typed, this, [this](std::size_t step, double value) {
        m_typed = {step, value};
        refresh();
    });
    connect(m_live, &QPushButton::clicked, this, [this] {
        m_typed.reset();
        refresh();
    });
    connect(why, &QPushButton::clicked, this, &ConvertPage::explain);
    const auto restyle = [this] {
        const Tokens& t = theme().colours();
        m_curve->setPen(theme().pen(t.ink, 1.8));
        m_point->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, t.accent, t.accent, theme().px(10)));
        m_point->setLineStyle(QCPGraph::lsNone);
        m_expected->setBrush(t.tint);
        m_expected->setPen(Qt::NoPen);
        m_point_label->setColor(t.ink);
        m_point_label->setFont(theme().mono(12));
        m_expected_label->setColor(t.accent);
        m_expected_label->setFont(theme().text(11));
    };
    connect(m_plot, &Plot::restyled, this, restyle);
    restyle();
}

void ConvertPage::readingChanged() {
    m_typed.reset();
    m_table_key.clear();
    m_constants_key.clear();
}

void ConvertPage::refresh() {
    const Reading* r = context().reading();
    if (!r) return;
    const Chain chain = effective_path(*r);
    m_content->setVisible(!chain.stages.empty());
    m_empty->setVisible(chain.stages.empty());
    if (chain.stages.empty()) return;
    setTitle(tr("From a %1 to a %2")
                 .arg(chain.first_unit() == "count" ? tr("count") : from_std(chain.first_unit()),
                      r->quantity.kind == "temperature" ? tr("temperature") : tr("value")));
    setNote(m_typed ? tr("following what you typed") : tr("type at any step: the others follow, both ways"));
    m_live->setVisible(m_typed.has_value());

    Walk steps;
    const LiveReading* live = context().liveReading();
    const bool fresh = live && context().state(r->id).freshness != Freshness::silent &&
                       context().state(r->id).freshness != Freshness::none;
    if (m_typed && m_typed->first <= chain.stages.size())
        steps = walk_through(chain, m_typed->first, m_typed->second);
    else if (fresh)
        steps = walk(chain, live->raw);
    else {
        steps = walk(chain, std::numeric_limits<double>::quiet_NaN());
        steps.cause = tr("No fresh value. Type one at any step to follow it.").toStdString();
    }
    set_text(m_cause, from_std(steps.cause));
    m_cause->setVisible(!steps.cause.empty());
    m_cause->setColour(m_typed || fresh ? theme().colours().bad : theme().colours().soft);

    std::vector<double> doubts(chain.stages.size() + 1, 0);
    if (steps.steps.front().ok()) {
        const double code = steps.steps.front().number;
        const Budget whole = context().session().budget(*r, code, context().live());
        // Before the correction, the data sheet's tolerances hold; the noise goes through every step.
        DoubtInputs noise;
        if (const Contribution* n = whole.find("noise")) noise.noise = n->u / std::abs(slope(chain, code));
        for (std::size_t i = 1; i <= r->path.stages.size(); ++i) {
            const Chain head{"",
                             chain.input_unit,
                             {r->path.stages.begin(), r->path.stages.begin() + static_cast<std::ptrdiff_t>(i)}};
            doubts[i] = budget(head, code, noise).expanded();
        }
        doubts.back() = whole.expanded();
    }
    m_ladder->show(chain, steps, doubts, m_typed ? std::optional<std::size_t>(m_typed->first) : std::nullopt);
    refreshCurve(chain, steps);
    refreshTable(chain);
    refreshConstants(*r);
}

void ConvertPage::refreshCurve(const Chain& chain, const Walk& steps) {
    const Reading& r = *context().reading();
    // What a meter sees at the pin is the value behind the converter; without one, the raw value itself.
    const bool has_volts = std::holds_alternative<Adc>(chain.stages.front());
    QVector<double> x, y;
    const auto* adc = std::get_if<Adc>(&chain.stages.front());
    const int bits = adc ? adc->bits
                     : std::holds_alternative<RatioDivider>(chain.stages.front())
                         ? std::get<RatioDivider>(chain.stages.front()).bits
                         : 10;
    const double top = std::ldexp(1.0, bits) - 1;
    for (int i = 0; i <= 400; ++i) {
        const double code = 0.5 + (top - 1) * i / 400.0;
        const Walk w = walk(chain, code);
        if (!w.result().ok()) continue;
        x.append(w.result().number);
        y.append(has_volts ? w.steps[1].number : code);
    }
    if (x.isEmpty()) return;
    m_curve->setData(x, y, false);
    const auto [low, high] = std::minmax_element(x.begin(), x.end());
    const double y_top =
        has_volts ? (adc->reference_V.value > 2 ? std::ceil(adc->reference_V.value) : 1.1 * adc->reference_V.value)
                  : top + 1;
    // A steep curve's far ends would flatten what matters.
    const double width = r.quantity.high - r.quantity.low;
    const double from = std::max(*low, r.quantity.low - 9 * width);
    const double to = std::min(*high, r.quantity.high + 9 * width);
    m_plot->xAxis->setRange(from, to);
    m_plot->yAxis->setRange(0, y_top);
    m_plot->xAxis->setLabel(from_std(unit_symbol(r.quantity.unit)));
    m_plot->setYUnit(has_volts ? QStringLiteral("V") : tr("counts"));
    m_expected->topLeft->setCoords(r.quantity.low, y_top);
    m_expected->bottomRight->setCoords(r.quantity.high, 0);
    m_expected_label->setText(tr("expected %1…%2")
                                  .arg(from_std(format_constant(r.quantity.low)),
                                       from_std(format_measure(r.quantity.high, r.quantity.unit))));
    m_expected_label->position->setCoords(r.quantity.high, y_top * 0.955);
    const bool ok = steps.steps.front().ok() && steps.result().ok();
    m_point->setVisible(ok);
    m_point_label->setVisible(ok);
    if (ok) {
        const double py = has_volts ? steps.steps[1].number : steps.steps[0].number;
        m_point->setData({steps.result().number}, {py});
        m_point_label->setText(QStringLiteral("%1 → %2").arg(
            from_std(has_volts ? format_measure(py, "V", 4) : format_measure(py, "count", 4)),
            from_std(format_value(steps.result().number, context().budget().expanded(), r.quantity.unit))));
        const bool right_half = steps.result().number > (from + to) / 2;
        m_point_label->setPositionAlignment((right_half ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter);
        m_point_label->position->setCoords(steps.result().number, py + y_top * (right_half ? 0.04 : -0.03));
    }
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

void ConvertPage::refreshTable(const Chain& chain) {
    const Reading& r = *context().reading();
    const QString key =
        from_std(chain_json(chain).dump()) + QString::number(r.quantity.low) + QString::number(r.quantity.high);
    if (key == m_table_key) return;
    m_table_key = key;
    clear_layout(m_table);
    const bool has_volts = std::holds_alternative<Adc>(chain.stages.front());
    m_table->addWidget(new TextLabel(theme(), TextLabel::Role::mono_soft, from_std(unit_symbol(r.quantity.unit))),
                       0, 0);
    if (has_volts)
        m_table->addWidget(new TextLabel(theme(), TextLabel::Role::mono_soft, QStringLiteral("V")), 1, 0);
    m_table->addWidget(new TextLabel(theme(), TextLabel::Role::mono_soft, tr("code")), 2, 0);
    for (int i = 0; i < 6; ++i) {
        const double value = std::round((r.quantity.low + (r.quantity.high - r.quantity.low) * i / 5) * 10) / 10;
        const Walk w = walk_back(chain, value);
        const auto cell = [&](int row, const std::string& text, TextLabel::Role role) {
            auto* label = new TextLabel(theme(), role, from_std(text));
            label->setAlignment(Qt::AlignRight);
            m_table->addWidget(label, row, i + 1);
        };
        cell(0, format_constant(value), TextLabel::Role::mono_soft);
        if (has_volts)
            cell(1, w.steps[1].ok() ? format_fixed(w.steps[1].number, 3) : "—", TextLabel::Role::mono_small);
        cell(2, w.steps[0].ok() ? format_fixed(std::round(w.steps[0].number), 0) : "—",
             TextLabel::Role::mono_small);
    }
}

void ConvertPage::refreshConstants(const Reading& reading) {
    Chain chain = effective_path(reading);
    const QString key = from_std(chain_json(chain).dump() + chain_json(reading.path).dump());
    if (key == m_constants_key) return;
    m_constants_key = key;
    clear_layout(m_constants);
    int row = 0;
    for (std::size_t s = 0; s < chain.stages.size(); ++s)
        for (const NamedConstant& named : constants(chain.stages[s])) {
            const bool own = s < reading.path.stages.size();
            if (!own && named.key == "gain" && named.constant->value == 1) continue;
            auto* field = new NumberField(theme(), QStringLiteral("constant_%1").arg(from_std(named.key)),
                                          from_std(named.key), 12);
            field->setFixedWidth(theme().px(128));
            std::string unit = named.unit;
            if (const auto slash = unit.find('/'); slash != std::string::npos)
                unit = unit_symbol(unit.substr(0, slash)) + "/" + unit_symbol(unit.substr(slash + 1));
            else
                unit = unit_symbol(unit);
            field->setUnit(from_std(unit));
            field->show(from_std(format_constant(named.constant->value, own ? 6 : 3)));
            field->setReadOnly(!own);
            connect(field, &NumberField::numberEdited, this,
                    [this, s, k = named.key](double value) { editConstant(s, k, value); });
            m_constants->addWidget(field, row, 0);
            std::string origin = named.constant->origin.empty() ? "origin unknown" : named.constant->origin;
            // What a calibration went through keeps its card's tolerance in the note, though it no longer counts.
            if (named.constant->doubt > 0)
                origin += ", ± " + format_constant(named.constant->doubt, 3);
            else if (own && reading.correction)
                origin += ", now held by the calibration";
            m_constants->addWidget(new TextLabel(theme(), TextLabel::Role::soft, from_std(origin)), row++, 1);
        }
    m_constants->setColumnStretch(1, 1);
}

void ConvertPage::editConstant(std::size_t stage, const std::string& key, double value) {
    const Reading* r = context().reading();
    if (!r || stage >= r->path.stages.size()) return;
    const std::string today = iso_time(context().session().now()).substr(0, 10);
    context().session().editReading(r->id, tr("Type constant"), [&](Reading& reading) {
        Stage candidate = reading.path.stages[stage];
        for (const NamedConstant& named : constants(candidate)) {
            if (named.key != key || named.constant->value == value) continue;
            const bool volts = named.unit == "V" && std::holds_alternative<Adc>(candidate);
            named.constant->value = value;
            named.constant->origin = volts ? "measured with a meter, " + today : "typed by hand, " + today;
            if (volts) { // what a hand-held meter is good for
                named.constant->spread = Spread::rectangular;
                named.constant->doubt = 0.005;
            }
        }
        // The same rules as for a file: a slope of zero or a negative reference is not taken.
        const auto text = JsonText::parse("typed", stage_json(candidate).dump());
        const auto checked = text ? read_stage(JsonReader(*text)) : tl::make_unexpected(text.error());
        if (checked)
            reading.path.stages[stage] = candidate;
        else
            emit context().said(from_std(checked.error().what + " Nothing was changed."));
    });
    m_constants_key.clear();
    refresh();
}

void ConvertPage::explain() {
    const Reading* r = context().reading();
    const LiveReading* live = context().liveReading();
    if (!r || !live) return;
    const Chain chain = effective_path(*r);
    const Walk w = m_typed ? walk_through(chain, m_typed->first, m_typed->second) : walk(chain, live->raw);
    std::string text = fmt::format(
        "{}\n\n", w.steps[0].ok() ? "The board sent " + format_measure(w.steps[0].number, chain.first_unit()) + "."
                                  : w.cause);
    for (std::size_t i = 0; i < chain.stages.size() && w.steps[i].ok() && w.steps[i + 1].ok(); ++i)
        text += fmt::format("{}: {} = {}\n", stage_title(chain.stages[i]),
                            arithmetic_text(chain.stages[i], w.steps[i].number),
                            format_measure(w.steps[i + 1].number, output_unit(chain.stages[i]), 5));
    if (w.result().ok()) {
        const Budget b = context().session().budget(*r, w.steps[0].number, context().live());
        text += fmt::format("\nSo it is {}, at 95 %.",
                            format_with_doubt(w.result().number, b.expanded(), r->quantity.unit));
        if (!b.contributions.empty()) text += " Most of the doubt: " + b.contributions.front().label + ".";
    }
    QMessageBox box(QMessageBox::NoIcon, tr("Why this number"), from_std(text), QMessageBox::Close, this);
    box.setObjectName(QStringLiteral("whyBox"));
    box.exec();
}

} // namespace cognitum
