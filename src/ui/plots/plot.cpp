#include "ui/plots/plot.h"

#include "core/units/format.h"

#include <algorithm>

namespace cognitum {

namespace {

/// Tick labels with a true minus and thin spaces.
class PlainTicker : public QCPAxisTicker {
  protected:
    QString getTickLabel(double tick, const QLocale&, QChar, int) override {
        return QString::fromStdString(format_constant(std::abs(tick) < 1e-12 ? 0 : tick, 7));
    }
};

} // namespace

Plot::Plot(Theme& theme, QWidget* parent) : QCustomPlot(parent), m_theme(theme) {
    setNotAntialiasedElements(QCP::aeAxes | QCP::aeGrid);
    xAxis->setTicker(QSharedPointer<QCPAxisTicker>(new PlainTicker));
    yAxis->setTicker(QSharedPointer<QCPAxisTicker>(new PlainTicker));
    xAxis->ticker()->setTickCount(5);
    yAxis->ticker()->setTickCount(5);
    xAxis->grid()->setVisible(false);
    connect(&theme, &Theme::changed, this, &Plot::restyle);
    restyle();
}

void Plot::useTimeAxis() {
    const QSharedPointer<QCPAxisTickerDateTime> ticker(new QCPAxisTickerDateTime);
    ticker->setDateTimeFormat(QStringLiteral("HH:mm"));
    ticker->setTickCount(6);
    xAxis->setTicker(ticker);
    // The format follows the zoom.
    connect(xAxis, qOverload<const QCPRange&>(&QCPAxis::rangeChanged), this, [ticker](const QCPRange& range) {
        const double span = range.size();
        ticker->setDateTimeFormat(span < 300         ? QStringLiteral("HH:mm:ss")
                                  : span < 20 * 3600 ? QStringLiteral("HH:mm")
                                  : span < 6 * 86400 ? QStringLiteral("d MMM HH:mm")
                                                     : QStringLiteral("d MMM yyyy"));
    });
}

void Plot::restyle() {
    const Tokens& t = m_theme.colours();
    setBackground(QBrush(t.sheet));
    for (QCPAxis* axis : {xAxis, yAxis}) {
        axis->setBasePen(Qt::NoPen);
        axis->setTickPen(Qt::NoPen);
        axis->setSubTickPen(Qt::NoPen);
        axis->setTickLabelFont(m_theme.text(11));
        axis->setTickLabelColor(t.soft);
        axis->setLabelFont(m_theme.text(11));
        axis->setLabelColor(t.soft);
        axis->grid()->setPen(m_theme.pen(t.rule));
        axis->grid()->setZeroLinePen(Qt::NoPen);
        axis->setTickLength(0, 0);
        axis->setSubTickLength(0, 0);
        axis->setTickLabelPadding(m_theme.px(6));
    }
    emit restyled();
    replot(QCustomPlot::rpQueuedReplot);
}

void Plot::setYUnit(const QString& unit) {
    if (!m_y_unit) {
        m_y_unit = addLabel(unit, m_theme.colours().soft);
        m_y_unit->position->setType(QCPItemPosition::ptAxisRectRatio);
        m_y_unit->position->setCoords(0, 0);
        m_y_unit->setPositionAlignment(Qt::AlignLeft | Qt::AlignBottom);
        axisRect()->setMinimumMargins(QMargins(0, m_theme.px(16), 0, 0));
    }
    m_y_unit->setText(unit);
    m_y_unit->setColor(m_theme.colours().soft);
    m_y_unit->setFont(m_theme.text(11));
}

QCPItemText* Plot::addLabel(const QString& text, const QColor& colour) {
    auto* label = new QCPItemText(this);
    label->setText(text);
    label->setFont(m_theme.text(11));
    label->setColor(colour);
    label->setPositionAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    label->setPadding(QMargins(m_theme.px(6), 0, m_theme.px(6), 0));
    label->setClipToAxisRect(false);
    return label;
}

QCPRange comfortable_range(double low, double high, double smallest) {
    const double middle = (low + high) / 2;
    const double half = std::max((high - low) * 0.6, smallest / 2);
    return {middle - half, middle + half};
}

} // namespace cognitum
