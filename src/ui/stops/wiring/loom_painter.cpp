#include "ui/stops/wiring/loom_painter.h"

#include "core/base/phrase.h"
#include "core/units/format.h"
#include "ui/widgets/parts.h"

#include <algorithm>
#include <set>

namespace cognitum {

QColor wire_ink(const Theme& theme, const std::string& colour) {
    struct Pair {
        QColor light, dark;
    };
    static const std::map<std::string, Pair> inks = {
        {"red", {0xB8322A, 0xE06C63}},    {"yellow", {0xB0860B, 0xD9B23C}}, {"green", {0x2F7D4F, 0x6CBF86}},
        {"blue", {0x2E5FA3, 0x7FA8E6}},   {"white", {0x8A857A, 0xF2EEE4}},  {"orange", {0xC4611A, 0xF09A55}},
        {"violet", {0x6B4A9E, 0xB79BE3}}, {"grey", {0x77736A, 0x9D9A92}},   {"brown", {0x7A4B2A, 0xC08A63}}};
    const auto at = inks.find(colour);
    if (at == inks.end()) return theme.colours().ink; // black
    return theme.isDark() ? at->second.dark : at->second.light;
}

LoomPainter::LoomPainter(const Theme& theme, const Loom& loom) : m_theme(theme), m_loom(loom) {
    const auto parts =
        std::count_if(loom.blocks.begin(), loom.blocks.end(), [](const LoomBlock& b) { return b.column == 2; });
    m_many = parts > 1 || loom.rows > 7;
    m_row_height = theme.px(m_many ? 34 : loom.rows <= 3 ? 78 : loom.rows <= 4 ? 64 : 48);
    m_head = theme.px(m_many ? 64 : 76);
    m_block_width = theme.px(loom.between ? 104 : 112);
    layLanes();
    const bool in_line =
        std::any_of(loom.wires.begin(), loom.wires.end(), [](const LoomWire& w) { return w.in_line_ohm > 0; });
    const auto lanes = static_cast<double>(m_lanes.size());
    m_gap = theme.px(loom.between ? 138 : 162) + lanes * theme.px(11);
    if (!loom.resistors.empty()) m_gap += theme.px(in_line ? 128 : 72);
    m_gap_between = loom.between ? theme.px(164) : 0;
    const double columns = loom.between ? 3 * m_block_width + m_gap + m_gap_between : 2 * m_block_width + m_gap;
    m_size = QSizeF(columns + 2, m_head + std::max(1, loom.rows) * m_row_height + theme.px(14));
}

void LoomPainter::layLanes() {
    std::set<std::string> bends;
    for (const LoomWire& w : m_loom.wires)
        if (w.from.block == 0 && w.from_row != w.to_row) bends.insert(w.net);
    int lane = 0;
    for (const LoomWire& w : m_loom.wires)
        if (bends.count(w.net) && !m_lanes.count(w.net)) m_lanes[w.net] = lane++;
}

double LoomPainter::rowY(int row) const {
    return m_head + (row + 0.5) * m_row_height;
}

double LoomPainter::columnLeft(int column) const {
    if (column == 0) return 1;
    if (column == 1) return 1 + m_block_width + m_gap;
    return m_size.width() - 1 - m_block_width;
}
double LoomPainter::columnRight(int column) const {
    return columnLeft(column) + m_block_width;
}

LoomPainter::Gap LoomPainter::gapBefore(int column) const {
    if (column == 2 && m_loom.between) return {columnRight(1), columnLeft(2)};
    return {columnRight(0), columnLeft(column)};
}

QRectF LoomPainter::box(const LoomBlock& block) const {
    const double top =
        block.column == 0 ? 1 : rowY(block.first_row) - m_row_height / 2 - m_theme.px(m_many ? 22 : 70);
    const double bottom = rowY(block.last_row) + m_row_height / 2 + (m_many ? 0 : m_theme.px(8));
    return {columnLeft(block.column), std::max(1.0, top), m_block_width, bottom - std::max(1.0, top)};
}

int LoomPainter::columnOf(const LoomWire& wire) const {
    return wire.to.block >= 0 ? m_loom.blocks[static_cast<std::size_t>(wire.to.block)].column : 2;
}

double LoomPainter::numberX(const LoomWire& wire) const {
    if (wire.from.block > 0) return gapBefore(2).left + m_theme.px(42);
    if (!wire.flag.empty() && wire.from.block < 0) return gapBefore(columnOf(wire)).right - m_theme.px(62);
    return columnRight(0) + m_theme.px(34) + static_cast<double>(m_lanes.size()) * m_theme.px(11);
}

double LoomPainter::resistorX(const LoomResistor& resistor) const {
    const Gap gap = gapBefore(resistor.column);
    const bool in_line = std::any_of(m_loom.wires.begin(), m_loom.wires.end(), [&](const LoomWire& w) {
        return w.in_line_ohm > 0 && (w.to_row == resistor.from_row || w.to_row == resistor.to_row);
    });
    return gap.right - m_theme.px(in_line ? 122 : 66);
}

void LoomPainter::line(QPainter& p, const QPolygonF& points, const std::string& colour, double width) const {
    // A white wire is seen by its edge.
    const bool edged = colour == "white" && !m_theme.isDark();
    if (edged) {
        QPen edge = m_theme.pen(m_theme.colours().soft, width + 1.6);
        edge.setJoinStyle(Qt::MiterJoin);
        p.setPen(edge);
        p.setBrush(Qt::NoBrush);
        p.drawPolyline(points);
    }
    QPen pen = m_theme.pen(edged ? m_theme.colours().sheet : wire_ink(m_theme, colour), width);
    pen.setJoinStyle(Qt::MiterJoin);
    p.setPen(pen);
    p.setBrush(Qt::NoBrush);
    p.drawPolyline(points);
}

void LoomPainter::paint(QPainter& p, int current) const {
    p.setRenderHint(QPainter::Antialiasing);
    for (const LoomBlock& block : m_loom.blocks)
        paintBlock(p, block);
    for (const LoomWire& wire : m_loom.wires)
        paintWire(p, wire, wire.order == current);
    for (const LoomResistor& resistor : m_loom.resistors)
        paintResistor(p, resistor);
    for (const LoomWire& wire : m_loom.wires)
        paintWireTexts(p, wire);
    for (const LoomBlock& block : m_loom.blocks)
        paintLabels(p, block);
}

void LoomPainter::paintBlock(QPainter& p, const LoomBlock& block) const {
    const Tokens& t = m_theme.colours();
    const QRectF outline = box(block);
    p.setPen(m_theme.pen(t.ink, 1.6));
    p.setBrush(t.paper);
    p.drawRect(outline);
    p.setPen(t.ink);
    p.setFont(m_theme.text(12, true));
    const bool brief = m_many && block.column != 0;
    const QRectF title = outline.adjusted(m_theme.px(8), m_theme.px(brief ? 4 : 8), -m_theme.px(4), 0);
    QRectF used;
    if (brief) {
        p.drawText(
            title, Qt::AlignLeft | Qt::AlignTop,
            p.fontMetrics().elidedText(from_std(block.title), Qt::ElideRight, static_cast<int>(title.width())));
        return;
    }
    p.drawText(title, Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, from_std(block.title), &used);
    p.setPen(t.soft);
    p.setFont(m_theme.text(11));
    p.drawText(QRectF(title.left(), used.bottom() + 2, title.width(), m_theme.px(48)),
               Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, from_std(block.note));
}

void LoomPainter::paintWire(QPainter& p, const LoomWire& wire, bool current) const {
    const double y = rowY(wire.to_row);
    const Gap gap = gapBefore(columnOf(wire));
    double end = gap.right - m_theme.px(22);
    if (wire.to.block < 0) // it ends at a resistor of this row
        for (const LoomResistor& r : m_loom.resistors)
            if (r.from_row == wire.to_row || r.to_row == wire.to_row) end = resistorX(r);
    const double width = current ? 5 : m_many ? 2.4 : 3;
    if (wire.from.block < 0 || (wire.from.block == 0 && !wire.flag.empty())) {
        line(p, {{numberX(wire), y}, {end, y}}, wire.colour, width);
        return;
    }
    if (wire.from.block > 0) {
        line(p, {{gap.left + m_theme.px(22), y}, {end, y}}, wire.colour, width);
        return;
    }
    const double start = columnRight(0) + m_theme.px(22);
    const auto lane = m_lanes.find(wire.net);
    if (lane == m_lanes.end()) {
        line(p, {{start, y}, {end, y}}, wire.colour, width);
        return;
    }
    const double x = start + m_theme.px(8) + lane->second * m_theme.px(11);
    const double from = rowY(wire.from_row);
    if (wire.from_row == wire.to_row)
        line(p, {{start, y}, {end, y}}, wire.colour, width);
    else
        line(p, {{x, from}, {x, y}, {end, y}}, wire.colour, width);
    p.setPen(Qt::NoPen);
    p.setBrush(wire_ink(m_theme, wire.colour));
    if (wire.from_row != wire.to_row) // where it leaves the wire that goes straight
        p.drawEllipse(QPointF(x, from), m_theme.px(3), m_theme.px(3));
}

void LoomPainter::paintWireTexts(QPainter& p, const LoomWire& wire) const {
    const Tokens& t = m_theme.colours();
    const double y = rowY(wire.to_row);
    const QPointF number(numberX(wire), y);
    const double r = m_theme.px(m_many ? 8 : 10);
    p.setBrush(t.sheet);
    p.setPen(m_theme.pen(wire_ink(m_theme, wire.colour), 2));
    p.drawEllipse(number, r, r);
    p.setPen(t.ink);
    p.setFont(m_theme.mono(m_many ? 10 : 12, true));
    p.drawText(QRectF(number.x() - 14, y - 12, 28, 24), Qt::AlignCenter, QString::number(wire.order));
    p.setPen(t.soft);
    p.setFont(m_theme.text(m_many ? 10 : 11));
    if (!wire.flag.empty()) {
        p.drawText(QRectF(number.x() - r - m_theme.px(74), y - m_theme.px(9), m_theme.px(70), m_theme.px(18)),
                   Qt::AlignRight | Qt::AlignVCenter, from_std(wire.flag));
    }
    p.drawText(QPointF(number.x() + r + m_theme.px(4), y - m_theme.px(m_many ? 3 : 6)),
               from_std(phrase_of(wire.colour)));
    p.setPen(t.accent);
    p.setFont(m_theme.mono(m_many ? 10 : 11));
    if (!wire.volts.empty())
        p.drawText(QPointF(number.x() + r + m_theme.px(4), y + m_theme.px(m_many ? 12 : 16)), from_std(wire.volts));
    if (wire.length_m > 0) {
        p.setPen(t.soft);
        const double right = gapBefore(columnOf(wire)).right - m_theme.px(26);
        p.drawText(QRectF(right - m_theme.px(60), y + m_theme.px(3), m_theme.px(58), m_theme.px(16)),
                   Qt::AlignRight | Qt::AlignVCenter, from_std(format_measure(wire.length_m, "m", 3)));
    }
    if (wire.in_line_ohm <= 0) return;
    const Gap gap = gapBefore(columnOf(wire));
    const QRectF resistor(gap.right - m_theme.px(104), y - m_theme.px(9), m_theme.px(48), m_theme.px(18));
    p.setPen(m_theme.pen(t.ink, 1.6));
    p.setBrush(t.sheet);
    p.drawRect(resistor);
    p.setPen(t.ink);
    p.setFont(m_theme.mono(11));
    p.drawText(resistor.adjusted(-10, -m_theme.px(18), 10, -m_theme.px(18)), Qt::AlignCenter,
               from_std(format_ohm(wire.in_line_ohm)));
    p.setPen(t.accent);
    p.drawText(QPointF(gap.right - m_theme.px(52), y + m_theme.px(16)), from_std(wire.source_volts));
}

void LoomPainter::paintResistor(QPainter& p, const LoomResistor& resistor) const {
    const Tokens& t = m_theme.colours();
    const double x = resistorX(resistor);
    const double top = rowY(std::min(resistor.from_row, resistor.to_row));
    const double bottom = rowY(std::max(resistor.from_row, resistor.to_row));
    const double h = std::min(m_theme.px(40) * 1.0, (bottom - top) * 0.55);
    // Between two neighbouring rows, the first of them, so that a long lead crosses plain wires only.
    const double middle =
        bottom - top > 1.6 * m_row_height ? top + m_row_height / 2 + m_theme.px(6) : (top + bottom) / 2;
    p.setPen(m_theme.pen(t.ink, 1.6));
    p.drawLine(QPointF(x, top), QPointF(x, bottom));
    p.setBrush(t.sheet);
    p.drawRect(QRectF(x - m_theme.px(9), middle - h / 2, m_theme.px(18), h));
    p.setBrush(t.ink);
    p.setPen(Qt::NoPen);
    for (const double y : {top, bottom}) {
        const int row =
            y == top ? std::min(resistor.from_row, resistor.to_row) : std::max(resistor.from_row, resistor.to_row);
        const bool ends_here = std::any_of(m_loom.wires.begin(), m_loom.wires.end(),
                                           [&](const LoomWire& w) { return w.to_row == row && w.to.block < 0; });
        if (!ends_here) p.drawEllipse(QPointF(x, y), m_theme.px(4), m_theme.px(4));
    }
    p.setPen(t.ink);
    p.setFont(m_theme.mono(m_many ? 10 : 12));
    p.drawText(QPointF(x + m_theme.px(14), middle + m_theme.px(4)), from_std(format_ohm(resistor.ohm)));
}

void LoomPainter::paintLabels(QPainter& p, const LoomBlock& block) const {
    const Tokens& t = m_theme.colours();
    const QRectF outline = box(block);
    const double h = m_theme.px(m_many ? 20 : 24);
    for (const LoomLeg& leg : block.legs) {
        const double y = rowY(leg.row);
        p.setFont(m_theme.mono(m_many ? 11 : 12));
        const double text = p.fontMetrics().horizontalAdvance(from_std(leg.label)) + m_theme.px(12);
        const double w = std::min(std::max(text, m_theme.px(44) * 1.0), outline.width() - m_theme.px(4));
        const double left = leg.right ? outline.right() + m_theme.px(22) - w : outline.left() - m_theme.px(22);
        const QRectF label(left, y - h / 2, w, h);
        p.setPen(m_theme.pen(t.ink, 1.6));
        p.setBrush(t.sheet);
        p.drawRect(label);
        p.setPen(t.ink);
        p.drawText(label, Qt::AlignCenter,
                   p.fontMetrics().elidedText(from_std(leg.label), Qt::ElideRight, static_cast<int>(w) - 4));
        if (leg.note.empty()) continue;
        p.setPen(t.soft);
        p.setFont(m_theme.text(m_many ? 10 : 11));
        p.drawText(QRectF(outline.left() + 4, y - h / 2, label.left() - outline.left() - m_theme.px(9), h),
                   Qt::AlignRight | Qt::AlignVCenter, from_std(leg.note));
    }
}

} // namespace cognitum
