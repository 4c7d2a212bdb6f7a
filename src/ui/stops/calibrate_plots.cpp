// The plots of the Calibrate stop: reference against indication with the fit, and what is left over below.
#include "core/units/unit.h"
#include "ui/plots/plot.h"
#include "ui/stops/calibrate_page.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QGridLayout>
#include <cmath>

namespace cognitum {

void CalibratePage::buildPlots(QVBoxLayout* layout) {
    m_fit_plot = new Plot(theme());
    m_fit_plot->setObjectName(QStringLiteral("fitPlot"));
    m_fit_plot->setAccessibleName(tr("Reference against indication, with the fit"));
    m_fit_plot->setMinimumHeight(theme().px(190));
    m_fit_line = m_fit_plot->addGraph();
    m_fit_points = m_fit_plot->addGraph();
    m_aside_points = m_fit_plot->addGraph();
    m_fit_now = m_fit_plot->addGraph();
    layout->addWidget(m_fit_plot, 3);
    m_residual_plot = new Plot(theme());
    m_residual_plot->setObjectName(QStringLiteral("residualPlot"));
    m_residual_plot->setAccessibleName(tr("What is left over at each point, within the limit"));
    m_residual_plot->setMinimumHeight(theme().px(110));
    m_limit = new QCPItemRect(m_residual_plot);
    m_residuals = m_residual_plot->addGraph();
    m_residual_bars = new QCPErrorBars(m_residual_plot->xAxis, m_residual_plot->yAxis);
    m_residual_bars->setDataPlottable(m_residuals);
    layout->addWidget(m_residual_plot, 2);
    // One margin for both, so that a point stands above what it leaves over.
    for (Plot* plot : {m_fit_plot, m_residual_plot}) {
        plot->axisRect()->setAutoMargins(QCP::msTop | QCP::msBottom | QCP::msRight);
        plot->axisRect()->setMargins(QMargins(theme().px(48), 0, 0, 0));
    }
    m_table = new QGridLayout;
    m_table->setHorizontalSpacing(theme().px(12));
    m_table->setVerticalSpacing(theme().px(4));
    layout->addLayout(m_table);

    const auto restyle = [this] {
        const Tokens& t = theme().colours();
        const auto ring = [&](const QColor& colour, const QColor& fill) {
            return QCPScatterStyle(QCPScatterStyle::ssCircle, theme().pen(colour, 1.8), fill, theme().px(10));
        };
        m_fit_line->setPen(theme().pen(t.accent, 2));
        for (QCPGraph* g : {m_fit_points, m_aside_points, m_fit_now, m_residuals})
            g->setLineStyle(QCPGraph::lsNone);
        m_fit_points->setScatterStyle(ring(t.ink, t.sheet));
        m_aside_points->setScatterStyle(
            QCPScatterStyle(QCPScatterStyle::ssCross, theme().pen(t.soft, 1.8), Qt::NoBrush, theme().px(9)));
        m_fit_now->setScatterStyle(
            QCPScatterStyle(QCPScatterStyle::ssPlus, theme().pen(t.look, 2), Qt::NoBrush, theme().px(12)));
        m_residuals->setScatterStyle(ring(t.ink, t.sheet));
        m_residual_bars->setPen(theme().pen(t.ink, 1.2));
        m_residual_bars->setWhiskerWidth(0);
        m_limit->setBrush(t.tint);
        m_limit->setPen(Qt::NoPen);
        m_residual_plot->yAxis->grid()->setZeroLinePen(theme().pen(t.accent, 2));
        m_trend_line->setPen(theme().pen(t.accent, 2));
        QPen dashed = theme().pen(t.good, 1.4);
        dashed.setStyle(Qt::DashLine);
        m_window->setPen(dashed);
        m_window->setBrush(Qt::NoBrush);
        m_number->setStyleSheet(QStringLiteral("font-family: 'JetBrains Mono'; font-size: %1px; color: %2;")
                                    .arg(theme().px(46))
                                    .arg(t.ink.name()));
        m_number_unit->setStyleSheet(
            QStringLiteral("font-family: 'JetBrains Mono'; font-size: %1px; color: %2; padding-bottom: %3px;")
                .arg(theme().px(20))
                .arg(t.soft.name())
                .arg(theme().px(8)));
        m_caution->setColour(t.look);
    };
    connect(m_fit_plot, &Plot::restyled, this, restyle);
    restyle();
}

void CalibratePage::refreshPlots(const Fit* fit) {
    const Reading& r = *context().reading();
    const double limit = r.quantity.accuracy;
    QVector<double> x, y, ax, ay, left, bars;
    double low = std::min(r.quantity.low, 0.0);
    double high = r.quantity.high;
    for (const CalibrationPoint& p : m_points) {
        (p.counts() ? x : ax).append(p.indication);
        (p.counts() ? y : ay).append(p.reference);
        if (!p.counts()) continue;
        left.append(fit ? p.reference - fit->at(p.indication) : p.reference - p.indication);
        bars.append(1.96 * std::hypot(p.u_reference, p.u_indication));
        low = std::min(low, p.indication);
        high = std::max(high, p.indication);
    }
    m_fit_points->setData(x, y, false);
    m_aside_points->setData(ax, ay, false);
    m_residuals->setData(x, left, false);
    m_residual_bars->setData(bars);
    if (fit)
        m_fit_line->setData({low, high}, {fit->at(low), fit->at(high)}, true);
    else
        m_fit_line->setData({low, high}, {low, high}, true);
    const auto reference = referenceValue();
    if (reference && m_state.n > 0)
        m_fit_now->setData({m_state.mean}, {*reference});
    else
        m_fit_now->data()->clear();
    m_fit_plot->xAxis->setRange(comfortable_range(low, high, 1));
    m_fit_plot->yAxis->setRange(comfortable_range(low, high, 1));
    m_residual_plot->xAxis->setRange(m_fit_plot->xAxis->range());
    double tallest = 1.25 * limit;
    for (int i = 0; i < left.size(); ++i)
        tallest = std::max(tallest, std::abs(left[i]) + bars[i]);
    m_residual_plot->yAxis->setRange(-1.1 * tallest, 1.1 * tallest);
    m_limit->topLeft->setCoords(m_fit_plot->xAxis->range().lower, limit);
    m_limit->bottomRight->setCoords(m_fit_plot->xAxis->range().upper, -limit);
    const QString unit = from_std(unit_symbol(r.quantity.unit));
    m_fit_plot->xAxis->setLabel({});
    m_fit_plot->setYUnit(tr("reference, %1").arg(unit));
    m_residual_plot->xAxis->setLabel(tr("indication, %1").arg(unit));
    m_residual_plot->setYUnit(tr("left over, %1").arg(unit));
    m_fit_plot->replot(QCustomPlot::rpQueuedReplot);
    m_residual_plot->replot(QCustomPlot::rpQueuedReplot);
}

} // namespace cognitum
