#include "ui/stops/convert/transfer_curve.h"

#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/plots/plot.h"
#include "ui/widgets/parts.h"

#include <QVBoxLayout>
#include <cmath>

namespace cognitum {

namespace {

std::string unit_at(const Chain& chain, std::size_t step) {
    return step == 0 ? chain.first_unit() : output_unit(chain.stages[step - 1]);
}

int code_bits(const Chain& chain) {
    return chain.stages.empty() ? 0 : cognitum::code_bits(chain.stages.front());
}

} // namespace

std::size_t meter_step(const Chain& chain) {
    for (const char* unit : {"V", "mV", "ohm"})
        for (std::size_t i = 0; i <= chain.stages.size(); ++i)
            if (same_unit(unit_at(chain, i), unit)) return i;
    return 0;
}

std::pair<double, double> raw_span(const Chain& chain, const Quantity& q) {
    if (const int bits = code_bits(chain); bits > 0) return {0.5, std::ldexp(1.0, bits) - 1.5};
    const Value a = inverse(chain, q.low), b = inverse(chain, q.high);
    if (a.ok() && b.ok()) {
        const double air = 0.15 * std::abs(b.number - a.number);
        return {std::min(a.number, b.number) - air, std::max(a.number, b.number) + air};
    }
    for (std::size_t i = 0; i < chain.stages.size(); ++i)
        if (const auto* switches =
                std::get_if<Threshold>(&chain.stages[i])) { // around the step, far enough to see it
            const double level = switches->level.value;
            const double reach = std::max({3 * switches->hysteresis.value, 0.6 * std::abs(level), 1e-6});
            Chain before = chain;
            before.stages.resize(i);
            const Value under = inverse(before, level - reach), over = inverse(before, level + reach);
            if (under.ok() && over.ok())
                return {std::min(under.number, over.number), std::max(under.number, over.number)};
        }
    for (const Stage& stage : chain.stages)
        if (const auto* formula = std::get_if<Formula>(&stage); formula && formula->low < formula->high)
            return {formula->low, formula->high};
    return {q.low, q.high};
}

TransferCurve::TransferCurve(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(context.theme().px(6));
    m_plot = new Plot(context.theme());
    m_plot->setObjectName(QStringLiteral("transferCurve"));
    m_plot->setAccessibleName(tr("Transfer curve with the live point"));
    m_plot->setMinimumHeight(context.theme().px(200));
    m_expected = new QCPItemRect(m_plot);
    m_curve = m_plot->addGraph();
    m_point = m_plot->addGraph();
    m_point_label = m_plot->addLabel({}, context.theme().colours().ink);
    m_plot->addLayer(QStringLiteral("live"));
    m_point->setLayer(QStringLiteral("live"));
    m_point_label->setLayer(QStringLiteral("live"));
    m_point->layer()->setMode(QCPLayer::lmBuffered);
    m_expected_label = m_plot->addLabel({}, context.theme().colours().accent);
    box->addWidget(m_plot, 1);
    m_resolution = new TextLabel(context.theme(), TextLabel::Role::soft);
    m_resolution->setObjectName(QStringLiteral("curveResolution"));
    m_resolution->setWordWrap(true);
    box->addWidget(m_resolution);
    connect(m_plot, &Plot::restyled, this, &TransferCurve::restyle);
    restyle();
}

void TransferCurve::restyle() {
    const Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    m_curve->setPen(theme.pen(t.ink, 1.8));
    m_point->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, t.accent, t.accent, theme.px(10)));
    m_point->setLineStyle(QCPGraph::lsNone);
    m_expected->setBrush(t.tint);
    m_expected->setPen(Qt::NoPen);
    m_point_label->setColor(t.ink);
    m_point_label->setFont(theme.mono(12));
    m_expected_label->setColor(t.accent);
    m_expected_label->setFont(theme.text(11));
}

void TransferCurve::show(const Chain& chain, const Reading& r, const Walk& steps, double doubt) {
    const Quantity& q = r.quantity;
    const std::string key = chain_json(chain).dump() + std::to_string(q.low) + "…" + std::to_string(q.high);
    const bool is_new = key != m_key;
    if (is_new) {
        m_key = key;
        m_meter = meter_step(chain);
        m_x.clear();
        m_y.clear();
        const auto [from, to] = raw_span(chain, q);
        for (int i = 0; i <= 400; ++i) {
            const Walk w = walk(chain, from + (to - from) * i / 400.0);
            if (!w.result().ok()) continue;
            m_x.append(w.result().number);
            m_y.append(w.steps[m_meter].number);
        }
        // Where what comes in is nearly what goes out, a line says nothing: what is added does.
        m_difference = m_meter == 0 && same_unit(chain.first_unit(), chain.last_unit()) && m_x.size() > 1 &&
                       (m_y.back() > m_y.front()) == (m_x.back() > m_x.front());
        if (m_difference)
            for (qsizetype i = 0; i < m_x.size(); ++i)
                m_y[i] = m_x[i] - m_y[i];
        m_curve->setData(m_x, m_y, false);
    }
    if (m_x.isEmpty()) return;
    const auto [low, high] = std::minmax_element(m_x.begin(), m_x.end());
    // A steep curve's far ends would flatten what matters.
    const double width = q.high - q.low;
    const double from = std::max(*low, q.low - 3 * width), to = std::min(*high, q.high + 3 * width);
    double y_low = INFINITY, y_high = -INFINITY;
    for (qsizetype i = 0; i < m_x.size(); ++i)
        if (m_x[i] >= from && m_x[i] <= to) {
            y_low = std::min(y_low, m_y[i]);
            y_high = std::max(y_high, m_y[i]);
        }
    if (!(y_low < y_high)) return;
    const bool codes = code_bits(chain) > 0;
    const double y_top = y_high + 0.08 * (y_high - y_low);
    const double y_bottom = m_difference         ? y_low - 0.08 * (y_high - y_low)
                            : codes || y_low > 0 ? std::max(0.0, y_low - 0.08 * (y_high - y_low))
                                                 : y_low;
    const bool same_axes = m_plot->xAxis->range() == QCPRange(from, to) &&
                           m_plot->yAxis->range() == QCPRange(y_bottom, y_top) && !is_new;
    m_plot->xAxis->setRange(from, to);
    m_plot->yAxis->setRange(y_bottom, y_top);
    m_plot->xAxis->setLabel(from_std(unit_symbol(q.unit)));
    const std::string y_unit = unit_at(chain, m_meter);
    m_plot->setYUnit(m_difference        ? tr("added, %1").arg(from_std(unit_symbol(y_unit)))
                     : y_unit == "count" ? tr("counts")
                                         : from_std(unit_symbol(y_unit)));
    m_expected->topLeft->setCoords(q.low, y_top);
    m_expected->bottomRight->setCoords(q.high, y_bottom);
    m_expected_label->setText(
        tr("expected %1…%2").arg(from_std(format_constant(q.low)), from_std(format_measure(q.high, q.unit))));
    m_expected_label->setPositionAlignment(Qt::AlignRight | Qt::AlignVCenter);
    m_expected_label->position->setCoords(std::min(q.high, to), y_bottom + (y_top - y_bottom) * 0.955);

    const bool ok = steps.steps.front().ok() && steps.result().ok();
    m_point->setVisible(ok);
    m_point_label->setVisible(ok);
    if (ok) {
        const double sent = steps.steps[m_meter].number;
        const double py = m_difference ? steps.result().number - sent : sent;
        m_point->setData({steps.result().number}, {py});
        m_point_label->setText(
            QStringLiteral("%1 → %2").arg(from_std(format_measure(sent, y_unit, 4)),
                                          from_std(format_value(steps.result().number, doubt, q.unit))));
        const bool right = steps.result().number > (from + to) / 2;
        // Beside the line, on the side that it leaves free.
        const bool rising = m_y.size() < 2 || (m_y.back() > m_y.front()) == (m_x.back() > m_x.front());
        m_point_label->setPositionAlignment((right ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter);
        const double away = (y_top - y_bottom) * 0.05 * (right == rising ? 1 : -1);
        m_point_label->position->setCoords(steps.result().number, py + away);
    }
    if (ok && codes) {
        const double code = steps.steps.front().number;
        const double here = std::abs(slope(chain, code));
        set_text(m_resolution, tr("One count is %1 here.").arg(from_std(format_measure(here, q.unit, 2))));
    } else {
        set_text(m_resolution, {});
    }
    m_resolution->setVisible(!m_resolution->text().isEmpty());
    if (same_axes)
        m_point->layer()->replot(); // what moves with each value; the rest stays as it is drawn
    else
        m_plot->drawLater();
}

} // namespace cognitum
