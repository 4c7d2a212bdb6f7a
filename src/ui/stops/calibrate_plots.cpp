// The plots of the Calibrate stop: reference against indication with the fit, and what is left over below.
#include "core/uncertainty/budget.h"
#include "core/units/unit.h"
#include "ui/plots/plot.h"
#include "ui/stops/calibrate_page.h"
#include "ui/stops/point_table.h"
#include "ui/stops/reference_box.h"
#include "ui/widgets/parts.h"

#include <cmath>

namespace cognitum {

void CalibratePage::buildPlots(QVBoxLayout* layout) {
    m_fit_plot = new Plot(theme());
    m_fit_plot->setObjectName(QStringLiteral("fitPlot"));
    m_fit_plot->setAccessibleName(tr("Reference against indication, with the fit"));
    m_fit_plot->setMinimumHeight(theme().px(150));
    m_band_low = m_fit_plot->addGraph();
    m_band_high = m_fit_plot->addGraph();
    m_band_high->setChannelFillGraph(m_band_low);
    m_fit_line = m_fit_plot->addGraph();
    m_fit_points = m_fit_plot->addGraph();
    m_aside_points = m_fit_plot->addGraph();
    m_fit_now = m_fit_plot->addGraph();
    m_checks = m_fit_plot->addGraph();
    layout->addWidget(m_fit_plot, 3);
    m_residual_plot = new Plot(theme());
    m_residual_plot->setObjectName(QStringLiteral("residualPlot"));
    m_residual_plot->setAccessibleName(tr("What is left over at each point, within the limit"));
    m_residual_plot->setMinimumHeight(theme().px(96));
    m_limit = new QCPItemRect(m_residual_plot);
    m_residuals = m_residual_plot->addGraph();
    m_check_residuals = m_residual_plot->addGraph();
    m_residual_bars = new QCPErrorBars(m_residual_plot->xAxis, m_residual_plot->yAxis);
    m_residual_bars->setDataPlottable(m_residuals);
    layout->addWidget(m_residual_plot, 2);
    // One margin for both, so that a point stands above what it leaves over.
    for (Plot* plot : {m_fit_plot, m_residual_plot}) {
        plot->axisRect()->setAutoMargins(QCP::msTop | QCP::msBottom | QCP::msRight);
        plot->axisRect()->setMargins(QMargins(theme().px(48), 0, 0, 0));
    }
    m_table = new PointTable(context());
    layout->addWidget(m_table);
    m_no_points = new TextLabel(theme(), TextLabel::Role::soft,
                                tr("No point yet. Follow the recipe’s steps, or take one wherever you know better "
                                   "than the reading what is true."));
    m_no_points->setWordWrap(true);
    layout->addWidget(m_no_points);
    connect(m_table->points(), &PointModel::setAside, this, &CalibratePage::setAside);

    const auto restyle = [this] {
        const Tokens& t = theme().colours();
        const auto ring = [&](const QColor& colour, const QColor& fill) {
            return QCPScatterStyle(QCPScatterStyle::ssCircle, theme().pen(colour, 1.8), fill, theme().px(10));
        };
        m_fit_line->setPen(theme().pen(t.accent, 2));
        for (QCPGraph* g : {m_band_low, m_band_high})
            g->setPen(Qt::NoPen);
        QColor band = t.accent;
        band.setAlphaF(0.16F);
        m_band_high->setBrush(band);
        for (QCPGraph* g : {m_fit_points, m_aside_points, m_fit_now, m_residuals, m_checks, m_check_residuals})
            g->setLineStyle(QCPGraph::lsNone);
        for (QCPGraph* g : {m_checks, m_check_residuals})
            g->setScatterStyle(
                QCPScatterStyle(QCPScatterStyle::ssDiamond, theme().pen(t.accent, 1.8), t.sheet, theme().px(12)));
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
    };
    connect(m_fit_plot, &Plot::restyled, this, restyle);
    restyle();
}

/// On and off over the number that makes them: where the threshold belongs is seen at once.
void CalibratePage::plotStates() {
    const Reading& r = *context().reading();
    QVector<double> x, y, ax, ay, cx, cy;
    double low = std::numeric_limits<double>::infinity(), high = -low;
    const LiveReading* live = context().liveReading();
    if (live && std::isfinite(live->raw)) low = high = live->raw;
    for (const CalibrationPoint& p : m_draft.points) {
        const bool used = p.counts();
        (p.check && used ? cx : used ? x : ax).append(p.raw);
        (p.check && used ? cy : used ? y : ay).append(p.reference);
        low = std::min(low, p.raw);
        high = std::max(high, p.raw);
    }
    if (!(high >= low)) low = 0, high = 1;
    const double air = std::max(0.15 * (high - low), 0.5);
    m_fit_points->setData(x, y);
    m_aside_points->setData(ax, ay);
    m_checks->setData(cx, cy);
    for (QCPGraph* g : {m_fit_line, m_band_low, m_band_high, m_fit_now})
        g->data()->clear();
    if (live && std::isfinite(live->raw)) m_fit_now->setData({live->raw}, {0.5});
    m_fit_plot->xAxis->setRange(low - air, high + air);
    m_fit_plot->yAxis->setRange(-0.2, 1.2);
    const QString unit = from_std(unit_symbol(uncorrected_path(r).first_unit()));
    m_fit_plot->xAxis->setLabel(unit.isEmpty() ? tr("what the board sends; the cross is now")
                                               : tr("what the board sends, %1; the cross is now").arg(unit));
    m_fit_plot->setYUnit(tr("1 is on, 0 is off, as seen"));
    m_fit_plot->replot(QCustomPlot::rpQueuedReplot);
}

void CalibratePage::refreshPlots(const Fit* fit) {
    m_residual_plot->setVisible(!isState() && !m_draft.points.empty());
    if (isState()) return plotStates();
    const Reading& r = *context().reading();
    const double limit = r.quantity.accuracy;
    QVector<double> x, y, ax, ay, left, bars, checked, known, off;
    double low = r.quantity.low, high = r.quantity.high;
    if (!m_draft.points.empty()) { // what was taken fills the picture; a little beyond is shown as extrapolated
        low = std::numeric_limits<double>::infinity();
        high = -low;
        for (const CalibrationPoint& p : m_draft.points) {
            low = std::min({low, p.indication, p.reference});
            high = std::max({high, p.indication, p.reference});
        }
        const double air = std::max(0.12 * (high - low), 0.05 * (r.quantity.high - r.quantity.low));
        low -= air;
        high += air;
    }
    const bool after = adjusted_between(m_draft.points);
    for (const CalibrationPoint& p : m_draft.points) {
        if (p.check && p.counts()) {
            checked.append(p.indication);
            known.append(p.reference);
            off.append((fit ? fit->at(p.indication) : p.indication) - p.reference);
            continue;
        }
        const bool used = p.fitted(after);
        (used ? x : ax).append(p.indication);
        (used ? y : ay).append(p.reference);
        if (!used) continue;
        left.append(fit ? fit->at(p.indication) - p.reference : p.indication - p.reference);
        bars.append(coverage_factor(std::numeric_limits<double>::infinity()) *
                    std::hypot(p.u_reference, p.u_indication));
    }
    // Hundreds of rings would be a thick line anyway, and slow to draw: dots then.
    const bool many = m_draft.points.size() > 200;
    for (QCPGraph* g : {m_fit_points, m_residuals}) {
        QCPScatterStyle style = g->scatterStyle();
        style.setShape(many ? QCPScatterStyle::ssDot : QCPScatterStyle::ssCircle);
        style.setSize(theme().px(10));
        g->setScatterStyle(style);
        g->setAntialiasedScatters(!many);
    }
    m_residual_bars->setAntialiased(!many);
    m_fit_points->setData(x, y, false);
    m_aside_points->setData(ax, ay, false);
    m_residuals->setData(x, left, false);
    m_checks->setData(checked, known, false);
    m_check_residuals->setData(checked, off, false);
    m_residual_bars->setData(bars);
    QVector<double> at, line, under, over;
    constexpr int steps = 60;
    for (int i = 0; i <= steps; ++i) {
        const double here = low + (high - low) * i / steps;
        const double value = fit ? fit->at(here) : here;
        at.append(here);
        line.append(value);
        const double half = fit ? fit->prediction_band(here) : std::nan("");
        under.append(value - (std::isfinite(half) ? half : 0));
        over.append(value + (std::isfinite(half) ? half : 0));
    }
    m_fit_line->setData(at, line, true);
    m_band_low->setData(at, under, true);
    m_band_high->setData(at, over, true);
    const auto reference = m_reference->value();
    if (reference && m_state.n > 0 && !isChange())
        m_fit_now->setData({m_state.mean}, {reference->value});
    else
        m_fit_now->data()->clear();
    m_fit_plot->xAxis->setRange(low, high);
    m_fit_plot->yAxis->setRange(low, high);
    m_residual_plot->xAxis->setRange(low, high);
    double tallest = 1.25 * limit;
    for (int i = 0; i < left.size(); ++i)
        tallest = std::max(tallest, std::abs(left[i]) + bars[i]);
    for (const double error : off)
        tallest = std::max(tallest, std::abs(error));
    m_residual_plot->yAxis->setRange(-1.1 * tallest, 1.1 * tallest);
    m_limit->topLeft->setCoords(low, limit);
    m_limit->bottomRight->setCoords(high, -limit);
    const QString symbol = from_std(unit_symbol(r.quantity.unit));
    const QString unit = symbol.isEmpty() ? QString() : QStringLiteral(", ") + symbol;
    m_fit_plot->xAxis->setLabel({});
    m_fit_plot->setYUnit(tr("reference%1").arg(unit));
    m_residual_plot->xAxis->setLabel(tr("indication%1").arg(unit));
    m_residual_plot->setYUnit(tr("left over%1, and the limit").arg(unit));
    m_fit_plot->replot(QCustomPlot::rpQueuedReplot);
    m_residual_plot->replot(QCustomPlot::rpQueuedReplot);
}

} // namespace cognitum
