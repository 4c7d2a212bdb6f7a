#include "ui/pages/budget_bars.h"

#include "core/base/phrase.h"
#include "core/plan/electrical.h"
#include "core/units/format.h"
#include "ui/widgets/parts.h"

#include <QPainter>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

Mark mark_for(double share) {
    return share > 1 ? Mark::bad : share > 0.9 ? Mark::look : Mark::done;
}

BudgetRow row(const QString& name, const std::string& numbers, double share, double peak = 0) {
    return {name, from_std(numbers), share, peak, mark_for(std::max(share, peak))};
}

std::string mA(double value) {
    return format_constant(value, 3);
}

} // namespace

std::vector<BudgetRow> budget_rows(const BoardBudget& b, double money, const std::string& currency) {
    std::vector<BudgetRow> out;
    for (const PinCount& pins : b.pins) {
        if (pins.total == 0) continue;
        const QString name = pins.function == "analog"      ? BudgetBars::tr("Analog inputs")
                             : pins.function == "interrupt" ? BudgetBars::tr("Pins that interrupt")
                                                            : BudgetBars::tr("Digital pins");
        const bool analog = pins.function == "analog";
        const int wanted = analog ? std::max(pins.used, b.analog_wanted) : pins.used;
        BudgetRow r = row(name, phrase("{} of {}", wanted, pins.total), double(wanted) / pins.total);
        if (wanted <= pins.total) r.mark = Mark::done; // full is no trouble
        out.push_back(r);
    }
    for (const RailLoad& load : b.rails)
        out.push_back(row(
            BudgetBars::tr("%1 rail").arg(from_std(load.rail)),
            phrase("{} of {}, peak {}", mA(load.typical_mA), format_measure(load.limit_mA, "mA"), mA(load.peak_mA)),
            load.typical_mA / load.limit_mA, load.peak_mA / load.limit_mA));
    if (b.source_mA > 0)
        out.push_back(
            row(BudgetBars::tr("USB port"),
                phrase("{} of {}, peak {}", mA(b.total_mA), format_measure(b.source_mA, "mA"), mA(b.total_peak_mA)),
                b.total_mA / b.source_mA, b.total_peak_mA / b.source_mA));
    if (b.regulator_mA > 0 && b.regulator_limit_mA > 0) {
        out.push_back(row(BudgetBars::tr("Regulator"),
                          phrase("{} of {}, {}{}W", mA(b.regulator_mA), format_measure(b.regulator_limit_mA, "mA"),
                                 format_fixed(b.heat_W, 2), thin_space),
                          b.regulator_mA / b.regulator_limit_mA));
        out.push_back(row(BudgetBars::tr("Inside it"),
                          phrase("{:.0f} of {}", b.junction_degC, format_measure(b.junction_max_degC, "degC")),
                          b.junction_degC / b.junction_max_degC));
    }
    if (b.bus_devices > 0) {
        out.push_back(
            row(BudgetBars::tr("I²C addresses"), phrase("{} of 112", b.bus_devices), b.bus_devices / 112.0));
        out.push_back(row(BudgetBars::tr("I²C wires"),
                          phrase("{:.0f} of {:.0f}{}pF", b.bus_pF, bus_limit_pF, thin_space),
                          b.bus_pF / bus_limit_pF));
        if (b.pull_up_ohm > 0)
            out.push_back(row(BudgetBars::tr("I²C rise"),
                              phrase("{:.0f} of {:.0f}{}ns", b.rise_ns, b.rise_limit_ns, thin_space),
                              b.rise_ns / b.rise_limit_ns));
    }
    if (b.bytes_per_s > 0)
        out.push_back(
            row(BudgetBars::tr("Line"),
                phrase("{} of {} bytes/s", format_constant(b.bytes_per_s, 3), format_constant(b.bytes_limit, 6)),
                b.bytes_per_s / b.bytes_limit));
    if (money > 0)
        out.push_back(
            {BudgetBars::tr("Money"), from_std(fmt::format("{} {:.2f}", currency, money)), 0, 0, Mark::done});
    return out;
}

BudgetBars::BudgetBars(Theme& theme, QWidget* parent) : QWidget(parent), m_theme(theme) {
    setObjectName(QStringLiteral("budgetBars"));
    setAccessibleName(tr("Budgets of the board"));
    setMinimumWidth(theme.px(330));
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    connect(&theme, &Theme::changed, this, qOverload<>(&QWidget::update));
}

void BudgetBars::setRows(std::vector<BudgetRow> rows) {
    m_rows = std::move(rows);
    QString spoken;
    for (const BudgetRow& r : m_rows)
        spoken += r.name + QStringLiteral(": ") + r.numbers + QStringLiteral("; ");
    setAccessibleDescription(spoken);
    setMinimumHeight(sizeHint().height());
    updateGeometry();
    update();
}

QSize BudgetBars::sizeHint() const {
    return {m_theme.px(340), static_cast<int>(m_rows.size()) * m_theme.px(32)};
}

void BudgetBars::paintEvent(QPaintEvent*) {
    const Tokens& t = m_theme.colours();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    for (std::size_t i = 0; i < m_rows.size(); ++i) {
        const BudgetRow& r = m_rows[i];
        const int top = static_cast<int>(i) * m_theme.px(32);
        paint_mark(p, m_theme, QPointF(m_theme.px(6), top + m_theme.px(9)), m_theme.px(9), r.mark);
        p.setFont(m_theme.text(12));
        p.setPen(t.ink);
        // The numbers are whole; a name that does not fit beside them is cut.
        const int room = width() - m_theme.px(28) - QFontMetrics(m_theme.mono(12)).horizontalAdvance(r.numbers);
        p.drawText(QRect(m_theme.px(18), top, room, m_theme.px(18)), Qt::AlignLeft | Qt::AlignVCenter,
                   p.fontMetrics().elidedText(r.name, Qt::ElideRight, room));
        p.setFont(m_theme.mono(12));
        p.setPen(r.mark == Mark::done ? t.soft : mark_colour(m_theme, r.mark));
        p.drawText(QRect(0, top, width() - 1, m_theme.px(18)), Qt::AlignRight | Qt::AlignVCenter, r.numbers);
        if (r.share <= 0 && r.peak <= 0) continue;
        const double left = m_theme.px(18);
        const double whole = width() - left - 1;
        const QRectF track(left, top + m_theme.px(20), whole, m_theme.px(5));
        p.fillRect(track, t.selected);
        const QColor colour = r.mark == Mark::done ? t.accent : mark_colour(m_theme, r.mark);
        p.fillRect(QRectF(left, track.top(), whole * std::min(1.0, r.share), track.height()), colour);
        if (r.peak > 0) { // how far it goes now and then
            p.setPen(m_theme.pen(colour, 2));
            const double x = left + whole * std::min(1.0, r.peak) - 1;
            p.drawLine(QPointF(x, track.top() - 2), QPointF(x, track.bottom() + 2));
        }
    }
}

} // namespace cognitum
