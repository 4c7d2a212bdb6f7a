#include "ui/pages/sessions/since_start_plot.h"

#include "core/units/unit.h"
#include "ui/widgets/parts.h"

#include <algorithm>
#include <cmath>

namespace cognitum {

namespace {

struct TimeUnit {
    double seconds;
    QString since;
};

/// The unit in which such a length is read: minutes, hours or days since the start.
TimeUnit unit_for(double length_s) {
    if (length_s < 3 * 3600) return {60, SinceStartPlot::tr("minutes since the start")};
    if (length_s < 4 * 86400) return {3600, SinceStartPlot::tr("hours since the start")};
    return {86400, SinceStartPlot::tr("days since the start")};
}

/// A gap is longer than so many of the usual steps between parts.
constexpr double parts_to_a_gap = 6;

} // namespace

SinceStartPlot::SinceStartPlot(Theme& theme, QWidget* parent) : Plot(theme, parent) {
    setObjectName(QStringLiteral("sessionPlot"));
    m_band = new QCPItemRect(this);
    m_band->setPen(Qt::NoPen);
    m_band->setLayer(QStringLiteral("grid"));
    for (QCPGraph** graph : {&m_low, &m_high, &m_second_low, &m_second_high, &m_second, &m_first})
        *graph = addGraph();
    m_high->setChannelFillGraph(m_low);
    m_second_high->setChannelFillGraph(m_second_low);
    m_first_name = addLabel({}, theme.colours().ink);
    m_second_name = addLabel({}, theme.colours().accent);
    connect(this, &Plot::restyled, this, &SinceStartPlot::restyleCurves);
    restyleCurves();
}

void SinceStartPlot::restyleCurves() {
    const Tokens& t = theme().colours();
    const auto pale = [](QColor colour, float alpha) {
        colour.setAlphaF(alpha);
        return colour;
    };
    for (QCPGraph* edge : {m_low, m_high, m_second_low, m_second_high})
        edge->setPen(Qt::NoPen);
    m_high->setBrush(pale(t.ink, 0.13F));
    m_second_high->setBrush(pale(t.accent, 0.16F));
    m_first->setPen(theme().pen(t.ink, 1.6));
    m_second->setPen(theme().pen(t.accent, 1.6));
    m_band->setBrush(pale(t.good, 0.10F));
    for (QCPItemText* name : {m_first_name, m_second_name})
        name->setBrush(t.sheet);
    m_first_name->setColor(t.ink);
    m_second_name->setColor(t.accent);
}

void SinceStartPlot::fill(QCPGraph* curve, QCPGraph* low, QCPGraph* high, const std::vector<SinceStart>& parts,
                          double unit_s) {
    std::vector<double> steps;
    for (std::size_t i = 1; i < parts.size(); ++i)
        steps.push_back(parts[i].seconds - parts[i - 1].seconds);
    double usual = 0;
    if (!steps.empty()) {
        const auto middle = steps.begin() + static_cast<std::ptrdiff_t>(steps.size() / 2);
        std::nth_element(steps.begin(), middle, steps.end());
        usual = *middle;
    }
    QVector<double> x, mean, least, most;
    const auto add = [&](double s, double a, double b, double c) {
        x.append(s / unit_s);
        mean.append(a);
        least.append(b);
        most.append(c);
    };
    for (std::size_t i = 0; i < parts.size(); ++i) {
        const double nothing = std::nan("");
        if (i > 0 && parts[i].seconds - parts[i - 1].seconds > parts_to_a_gap * usual)
            add((parts[i].seconds + parts[i - 1].seconds) / 2, nothing, nothing, nothing);
        add(parts[i].seconds, parts[i].mean, parts[i].least, parts[i].most);
    }
    curve->setData(x, mean, true);
    low->setData(x, least, true);
    high->setData(x, most, true);
    m_points += static_cast<int>(parts.size());
}

void SinceStartPlot::show(const Reading& reading, const std::vector<SinceStart>& first, const QString& first_name,
                          const std::vector<SinceStart>& second, const QString& second_name) {
    m_points = 0;
    double longest = 1, low = INFINITY, high = -INFINITY;
    for (const auto* parts : {&first, &second})
        for (const SinceStart& p : *parts) {
            longest = std::max(longest, p.seconds);
            low = std::min(low, p.least);
            high = std::max(high, p.most);
        }
    const TimeUnit unit = unit_for(longest);
    fill(m_first, m_low, m_high, first, unit.seconds);
    fill(m_second, m_second_low, m_second_high, second, unit.seconds);
    xAxis->setLabel(unit.since);
    xAxis->setRange(0, longest / unit.seconds * 1.02);
    setYUnit(from_std(unit_symbol(reading.quantity.unit)));
    if (low > high) {
        low = reading.quantity.low;
        high = reading.quantity.high;
    }
    yAxis->setRange(comfortable_range(low, high, 4 * reading.quantity.accuracy));
    m_band->setVisible(reading.bands.has_value());
    if (reading.bands) {
        m_band->topLeft->setCoords(0, std::min(reading.bands->high, yAxis->range().upper));
        m_band->bottomRight->setCoords(xAxis->range().upper, std::max(reading.bands->low, yAxis->range().lower));
    }
    const auto name = [&](QCPItemText* label, const std::vector<SinceStart>& parts, const QString& text, double y) {
        label->setVisible(!parts.empty() && !text.isEmpty());
        label->setText(text);
        label->position->setType(QCPItemPosition::ptAxisRectRatio);
        label->position->setCoords(1, y);
        label->setPositionAlignment(Qt::AlignRight | Qt::AlignTop);
    };
    name(m_first_name, first, second.empty() ? QString() : first_name, 0);
    name(m_second_name, second, second_name, 0.1);
    drawLater();
}

} // namespace cognitum
