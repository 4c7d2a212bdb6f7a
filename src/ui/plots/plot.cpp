#include "ui/plots/plot.h"

#include "core/units/format.h"

#include <QDateTime>
#include <algorithm>
#include <cmath>

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

QString Plot::spoken() const {
    const auto across = [this](double x) {
        return m_is_time ? QDateTime::fromMSecsSinceEpoch(qint64(1000 * x))
                               .toString(QStringLiteral("yyyy-MM-dd HH:mm:ss"))
                         : QString::fromStdString(format_constant(x, 4));
    };
    const auto up = [](double y) { return QString::fromStdString(format_constant(y, 4)); };
    QString out = tr("Across from %1 to %2.").arg(across(xAxis->range().lower), across(xAxis->range().upper));
    if (!xAxis->label().isEmpty()) out += tr(" Across: %1.").arg(xAxis->label());
    const QString unit = m_y_unit ? m_y_unit->text() : yAxis->label();
    if (!unit.isEmpty()) out += tr(" Up: %1.").arg(unit);
    int lines = 0;
    for (int i = 0; i < graphCount(); ++i) {
        const QCPGraph* line = graph(i);
        if (!line->visible() || line->pen().style() == Qt::NoPen) continue;
        double first = 0, last = 0, least = 0, most = 0;
        int n = 0;
        for (auto at = line->data()->findBegin(xAxis->range().lower);
             at != line->data()->findEnd(xAxis->range().upper); ++at) {
            if (!std::isfinite(at->value)) continue;
            if (n++ == 0) first = least = most = at->value;
            last = at->value;
            least = std::min(least, at->value);
            most = std::max(most, at->value);
        }
        if (n == 0) continue;
        ++lines;
        out += tr(" Line %1: %2 at first, %3 at last, from %4 to %5.")
                   .arg(QString::number(lines), up(first), up(last), up(least), up(most));
    }
    return lines == 0 ? out + tr(" Nothing is drawn yet.") : out;
}

void Plot::useTimeAxis() {
    m_is_time = true;
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

void Plot::drawLater() {
    m_stale = true;
    update();
}

void Plot::paintEvent(QPaintEvent* event) {
    if (m_stale) {
        m_stale = false;
        setViewport(rect());
        setAttribute(Qt::WA_UpdatesDisabled); // it is being painted: the base would ask for that once more
        replot(QCustomPlot::rpQueuedRefresh);
        setAttribute(Qt::WA_UpdatesDisabled, false);
    }
    QCustomPlot::paintEvent(event);
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
    drawLater();
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
