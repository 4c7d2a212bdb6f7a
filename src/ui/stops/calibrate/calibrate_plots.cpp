// The plots of the Calibrate stop: reference against indication with the fit, and what is left over below.
#include "core/calibrate/pictures.h"
#include "core/units/unit.h"
#include "ui/plots/plot.h"
#include "ui/stops/calibrate/calibrate_page.h"
#include "ui/stops/calibrate/point_table.h"
#include "ui/stops/calibrate/reference_box.h"
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

namespace {

void set_dots(QCPGraph* graph, const std::vector<Dot>& dots) {
    QVector<double> x, y;
    for (const Dot& dot : dots) {
        x.append(dot.x);
        y.append(dot.y);
    }
    graph->setData(x, y);
}

} // namespace

void CalibratePage::plotStates() {
    const Reading& r = *context().reading();
    const LiveReading* live = context().liveReading();
    const bool there = live && std::isfinite(live->raw);
    const StatePicture picture = state_picture(m_run.points(), there ? std::optional(live->raw) : std::nullopt);
    set_dots(m_fit_points, picture.used);
    set_dots(m_aside_points, picture.aside);
    set_dots(m_checks, picture.checks);
    for (QCPGraph* g : {m_fit_line, m_band_low, m_band_high, m_fit_now})
        g->data()->clear();
    if (there) m_fit_now->setData({live->raw}, {0.5});
    m_fit_plot->xAxis->setRange(picture.low, picture.high);
    m_fit_plot->yAxis->setRange(-0.2, 1.2);
    const QString unit = from_std(unit_symbol(uncorrected_path(r).first_unit()));
    m_fit_plot->xAxis->setLabel(unit.isEmpty() ? tr("what the board sends; the cross is now")
                                               : tr("what the board sends, %1; the cross is now").arg(unit));
    m_fit_plot->setYUnit(tr("1 is on, 0 is off, as seen"));
    m_fit_plot->drawLater();
}

void CalibratePage::refreshPlots() {
    m_residual_plot->setVisible(!m_run.is_state() && !m_run.points().empty());
    if (m_run.is_state()) return plotStates();
    const Quantity& quantity = context().reading()->quantity;
    const FitPicture picture = fit_picture(quantity, m_run.points(), m_run.fit());
    // Hundreds of rings would be a thick line anyway, and slow to draw: dots then.
    const bool many = m_run.points().size() > 200;
    for (QCPGraph* g : {m_fit_points, m_residuals}) {
        QCPScatterStyle style = g->scatterStyle();
        style.setShape(many ? QCPScatterStyle::ssDot : QCPScatterStyle::ssCircle);
        style.setSize(theme().px(10));
        g->setScatterStyle(style);
        g->setAntialiasedScatters(!many);
    }
    m_residual_bars->setAntialiased(!many);
    set_dots(m_fit_points, picture.used);
    set_dots(m_aside_points, picture.aside);
    set_dots(m_residuals, picture.left_over);
    set_dots(m_checks, picture.checks);
    set_dots(m_check_residuals, picture.checks_left_over);
    QVector<double> bars, at, line, under, over;
    for (const Dot& dot : picture.left_over)
        bars.append(dot.half);
    m_residual_bars->setData(bars);
    for (const FitPicture::Curve& here : picture.curve) {
        at.append(here.at);
        line.append(here.value);
        under.append(here.low);
        over.append(here.high);
    }
    m_fit_line->setData(at, line, true);
    m_band_low->setData(at, under, true);
    m_band_high->setData(at, over, true);
    const auto reference = m_reference->value();
    if (reference && m_shown.gate.n > 0 && !m_run.is_change())
        m_fit_now->setData({m_shown.gate.mean}, {reference->value});
    else
        m_fit_now->data()->clear();
    m_fit_plot->xAxis->setRange(picture.low, picture.high);
    m_fit_plot->yAxis->setRange(picture.low, picture.high);
    m_residual_plot->xAxis->setRange(picture.low, picture.high);
    m_residual_plot->yAxis->setRange(-1.1 * picture.tallest, 1.1 * picture.tallest);
    m_limit->topLeft->setCoords(picture.low, quantity.accuracy);
    m_limit->bottomRight->setCoords(picture.high, -quantity.accuracy);
    const QString symbol = from_std(unit_symbol(quantity.unit));
    const QString unit = symbol.isEmpty() ? QString() : QStringLiteral(", ") + symbol;
    m_fit_plot->xAxis->setLabel({});
    m_fit_plot->setYUnit(tr("reference%1").arg(unit));
    m_residual_plot->xAxis->setLabel(tr("indication%1").arg(unit));
    m_residual_plot->setYUnit(tr("left over%1, and the limit").arg(unit));
    m_fit_plot->drawLater();
    m_residual_plot->drawLater();
}

} // namespace cognitum
