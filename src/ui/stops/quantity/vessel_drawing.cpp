#include "ui/stops/quantity/vessel_drawing.h"

#include "core/base/no_number.h"
#include "core/physics/vessel.h"
#include "core/plan/vessel_view.h"
#include "core/pulses/rain.h"
#include "core/units/format.h"
#include "ui/widgets/parts.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>
#include <numbers>

namespace cognitum {

namespace {

QString mm_text(double mm) {
    return from_std(format_measure(mm, "mm", 5));
}

} // namespace

VesselDrawing::VesselDrawing(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("vesselDrawing"));
    setAccessibleName(tr("The vessel in section, with sensor, dead zone, full and empty"));
    setMinimumSize(context.theme().px(230), context.theme().px(300));
}

QSize VesselDrawing::sizeHint() const {
    return {m_context.theme().px(250), m_context.theme().px(310)};
}

double VesselDrawing::levelNow() const {
    const Reading* r = m_context.reading();
    const LiveReading* now = m_context.liveReading();
    if (!r || !now || !now->value.ok() || m_context.state(r->id).freshness == Freshness::silent) return no_number;
    return vessel_level_mm(r->quantity, now->value.number);
}

QString VesselDrawing::words() const {
    const Reading* r = m_context.reading();
    if (!r) return {};
    if (r->quantity.vessel.shape.empty()) return tr("Say which shape it has, and Cognitum knows its volume.");
    const auto figures = vessel_figures(r->quantity, m_context.session().part(*r), levelNow());
    if (!figures) return from_std(figures.error().what);
    QString text = tr("Up to %1 it holds %2. ")
                       .arg(mm_text(figures->top_mm), from_std(format_measure(figures->holds_L, "L", 4)));
    if (std::isfinite(figures->here_L))
        text += tr("A millimetre is %1 at this level, ").arg(from_std(format_measure(figures->here_L, "L", 3)));
    text += tr("at worst %1, at %2.")
                .arg(from_std(format_measure(figures->worst_L, "L", 3)), mm_text(std::round(figures->worst_mm)));
    if (figures->part_mm)
        text += tr(" The part’s ±\u00a0%1 are ±\u00a0%2 there.")
                    .arg(mm_text(*figures->part_mm),
                         from_std(format_measure(*figures->part_mm * figures->worst_L, "L", 2)));
    if (figures->percent_full)
        text += *figures->percent_full < 0 ? tr(" The level lies below empty.")
                : *figures->percent_full > 100
                    ? tr(" The level lies above full.")
                    : tr(" It is %1 % full by its level.").arg(std::lround(*figures->percent_full));
    return text;
}

void VesselDrawing::paintEvent(QPaintEvent*) {
    const Reading* r = m_context.reading();
    if (!r) return;
    const Vessel& v = r->quantity.vessel;
    const physics::VesselShape shape = vessel_shape(v);
    const bool sound = !v.shape.empty() && physics::check_vessel(shape).has_value();
    const double height_mm = sound ? 1000 * physics::vessel_height(shape) : std::max(v.mount_mm, v.full_mm);
    const double top_mm = std::max(height_mm, v.mount_mm);
    const PartCard* part = m_context.session().part(*r);
    const Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);

    double widest = 0;
    for (int i = 0; i <= 50; ++i)
        widest = std::max(widest, 2 * vessel_half_width_mm(v, height_mm * i / 50));
    const double label_w = theme.px(80), head = theme.px(14), foot = theme.px(40), left = theme.px(4);
    const double scale = std::min((width() - label_w - left) / widest, (height() - head - foot) / top_mm);
    const double cx = left + (width() - label_w - left) / 2, bottom = head + top_mm * scale;
    const auto y = [&](double mm) { return bottom - mm * scale; };

    QPainterPath wall; // finer at the top and at the bottom, where round vessels turn
    for (const int side : {-1, 1})
        for (int i = 0; i <= 80; ++i) {
            const double share = (1 - std::cos(std::numbers::pi * i / 80)) / 2;
            const double mm = height_mm * (side < 0 ? share : 1 - share);
            const QPointF at(cx + side * vessel_half_width_mm(v, mm) * scale, y(mm));
            wall.elementCount() == 0 ? wall.moveTo(at) : wall.lineTo(at);
        }
    wall.closeSubpath();
    const auto fill = [&](double from, double to, const QColor& colour) {
        p.save();
        p.setClipPath(wall);
        p.fillRect(QRectF(0, y(to), width(), y(from) - y(to)), colour);
        p.restore();
    };
    const double now = levelNow();
    if (v.full_mm > 0) fill(v.empty_mm, v.full_mm, t.tint);
    if (std::isfinite(now)) {
        QColor water = t.accent;
        water.setAlphaF(0.38F);
        fill(0, std::clamp(now, 0.0, height_mm), water);
    }
    // Dead zone under the face, hatched; the beam down to the least level.
    if (v.mount_mm > 0 && part && part->dead_zone_mm > 0) {
        p.save();
        p.setClipRect(QRectF(0, y(v.mount_mm), width(), part->dead_zone_mm * scale));
        p.setPen(theme.pen(t.look, 1));
        const double half =
            std::max(vessel_half_width_mm(v, std::min(v.mount_mm, height_mm)), widest * 0.2) * scale;
        for (double x = cx - half - part->dead_zone_mm * scale; x < cx + half; x += theme.px(7))
            p.drawLine(QPointF(x, y(v.mount_mm - part->dead_zone_mm)),
                       QPointF(x + part->dead_zone_mm * scale, y(v.mount_mm)));
        p.restore();
    }
    const auto beam = part ? beam_in_vessel(r->quantity, *part) : std::nullopt;
    const bool meets = beam && beam->meets_wall();
    if (beam) {
        QPen pen = theme.pen(meets ? t.bad : t.accent, 1.2);
        pen.setDashPattern({4, 3});
        p.setPen(pen);
        for (const int side : {-1, 1})
            p.drawLine(QPointF(cx, y(beam->from_mm)), QPointF(cx + side * beam->half_mm * scale, y(beam->to_mm)));
    }
    p.setBrush(Qt::NoBrush);
    p.setPen(theme.pen(t.ink, 1.8));
    p.drawPath(wall);
    if (v.mount_mm > 0) {
        p.setBrush(t.ink);
        p.setPen(Qt::NoPen);
        p.drawRect(QRectF(cx - theme.px(12), y(v.mount_mm) - theme.px(8), theme.px(24), theme.px(8)));
    }
    // Levels with their words at the right, from below upwards.
    p.setFont(theme.text(11));
    double last = 1e9;
    const auto mark = [&](double mm, const QString& text, const QColor& colour) {
        const double half =
            std::max(vessel_half_width_mm(v, std::clamp(mm, 0.0, height_mm)) * scale, theme.px(14) * 1.0);
        const double edge = cx + half, column = cx + widest * scale / 2 + theme.px(12);
        p.setPen(theme.pen(colour, 1));
        double ty = y(mm);
        if (last - ty < theme.px(30)) ty = last - theme.px(30); // words do not stand on each other
        last = ty;
        p.drawLine(QPointF(edge, y(mm)), QPointF(column - theme.px(4), ty));
        p.setPen(colour);
        p.drawText(QRectF(column, ty - theme.px(15), label_w, theme.px(30)), Qt::AlignLeft | Qt::AlignVCenter,
                   text);
    };
    struct Level {
        double mm;
        QString text;
        QColor colour;
    };
    std::vector<Level> levels;
    if (v.empty_mm > 0) levels.push_back({v.empty_mm, tr("empty\n%1").arg(mm_text(v.empty_mm)), t.soft});
    if (v.full_mm > 0) levels.push_back({v.full_mm, tr("full\n%1").arg(mm_text(v.full_mm)), t.soft});
    if (std::isfinite(now)) levels.push_back({now, tr("now\n%1").arg(mm_text(std::round(now))), t.accent});
    if (part && part->dead_zone_mm > 0 && v.mount_mm > 0 && part->dead_zone_mm * scale > theme.px(8))
        levels.push_back(
            {v.mount_mm - part->dead_zone_mm / 2, tr("dead zone\n%1").arg(mm_text(part->dead_zone_mm)), t.look});
    if (v.mount_mm > 0) levels.push_back({v.mount_mm, tr("sensor’s face\n%1").arg(mm_text(v.mount_mm)), t.ink});
    std::sort(levels.begin(), levels.end(), [](const Level& a, const Level& b) { return a.mm < b.mm; });
    for (const Level& level : levels)
        mark(level.mm, level.text, level.colour);
    // Its width below, and its length where the section does not show it.
    p.setPen(theme.pen(t.soft, 1));
    const double half = widest * scale / 2, line = bottom + theme.px(14);
    p.drawLine(QPointF(cx - half, line), QPointF(cx + half, line));
    for (const double x : {cx - half, cx + half})
        p.drawLine(QPointF(x, line - theme.px(4)), QPointF(x, line + theme.px(4)));
    p.setPen(t.soft);
    QString below = mm_text(widest);
    const auto kind = physics::vessel_kind(v.shape);
    if (sound && v.length_mm > 0 && kind && physics::lies(*kind))
        below += tr(" across, %1 long").arg(mm_text(v.length_mm));
    if (meets) below += tr(" · the beam meets the wall");
    p.drawText(QRectF(0, line + theme.px(5), width(), theme.px(18)), Qt::AlignLeft | Qt::AlignTop, below);
}

FunnelDrawing::FunnelDrawing(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("funnelDrawing"));
    setAccessibleName(tr("Funnel and bucket, with millimetres for each tip"));
    setMinimumSize(context.theme().px(230), context.theme().px(300));
}

QSize FunnelDrawing::sizeHint() const {
    return {m_context.theme().px(250), m_context.theme().px(300)};
}

QString FunnelDrawing::words() const {
    const Reading* r = m_context.reading();
    if (!r) return {};
    const Funnel& f = r->quantity.funnel;
    const double mm = millimetres_per_tip(f.tip_mL, f.area_cm2);
    if (!std::isfinite(mm))
        return tr("Type the funnel’s area and what one side of the bucket holds: 1 mm of rain is 1 litre on a "
                  "square metre.");
    return tr("One tip is %1: %2 on %3. An hour of drizzle, 1 mm, is %4 tips; a cloudburst of 60 mm/h one every "
              "%5. A ladder "
              "stands on firm ground, and somebody holds it.")
        .arg(from_std(format_measure(mm, "mm", 3)), from_std(format_measure(f.tip_mL, "mL", 3)),
             from_std(format_measure(f.area_cm2, "cm2", 4)), from_std(format_fixed(1 / mm, 1)),
             from_std(format_measure(3600 * mm / 60, "s", 2)));
}

void FunnelDrawing::paintEvent(QPaintEvent*) {
    const Reading* r = m_context.reading();
    if (!r) return;
    const Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    const Funnel& f = r->quantity.funnel;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const double cx = width() / 2.0, unit = std::min(width() / 280.0, height() / 320.0);
    const auto at = [&](double x, double y) { return QPointF(cx + x * unit, 30 * unit + y * unit); };
    // Rain, funnel, spout.
    p.setPen(theme.pen(t.accent, 1.2));
    for (int i = -4; i <= 4; ++i)
        p.drawLine(at(i * 22 + 3, -22 + 5 * (i % 2)), at(i * 22, -8 + 5 * (i % 2)));
    p.setPen(theme.pen(t.ink, 1.8));
    p.setBrush(t.sheet);
    QPainterPath funnel(at(-110, 0));
    for (const QPointF& point :
         {at(-110, 26), at(-8, 92), at(-8, 112), at(8, 112), at(8, 92), at(110, 26), at(110, 0)})
        funnel.lineTo(point);
    p.drawPath(funnel);
    p.setPen(theme.pen(t.accent, 1.6));
    p.setBrush(t.accent);
    p.drawEllipse(at(0, 124), 2.6 * unit, 4 * unit);
    // The bucket on its axle, one side up.
    p.save();
    p.translate(at(0, 186));
    p.rotate(9);
    p.scale(unit, unit);
    QPainterPath bucket(QPointF(-74, -6));
    for (const QPointF& point : {QPointF(-62, 16), QPointF(62, 16), QPointF(74, -6)})
        bucket.lineTo(point);
    p.setPen(QPen(t.ink, 1.8));
    p.setBrush(t.sheet);
    p.drawPath(bucket);
    p.drawLine(QPointF(0, 16), QPointF(0, -34));
    QPainterPath water(QPointF(-68.5, 4));
    for (const QPointF& point : {QPointF(-62, 16), QPointF(0, 16), QPointF(0, -6)})
        water.lineTo(point);
    water.closeSubpath();
    QColor blue = t.accent;
    blue.setAlphaF(0.4F);
    p.setPen(Qt::NoPen);
    p.setBrush(blue);
    p.drawPath(water);
    p.restore();
    p.setPen(theme.pen(t.ink, 1.8));
    p.setBrush(t.ink);
    p.drawEllipse(at(0, 204), 4 * unit, 4 * unit);
    p.drawLine(at(-96, 226), at(96, 226));
    for (const int side : {-1, 1})
        p.drawLine(at(side * 66, 226), at(side * 66, 214)); // the stops
    p.setFont(theme.text(11));
    p.setPen(t.soft);
    const auto label = [&](double x, double y, const QString& text, Qt::Alignment align) {
        const QPointF c = at(x, y);
        p.drawText(QRectF(c.x() - (align & Qt::AlignRight     ? 160
                                   : align & Qt::AlignHCenter ? 120
                                                              : 0) *
                                      unit,
                          c.y() - 10 * unit, (align & Qt::AlignHCenter ? 240 : 160) * unit, 22 * unit),
                   static_cast<int>(align | Qt::AlignVCenter), text);
    };
    const double diameter = 2 * std::sqrt(f.area_cm2 * 100 / std::numbers::pi);
    if (f.area_cm2 > 0)
        label(0, 38,
              tr("%1, ⌀ %2").arg(from_std(format_measure(f.area_cm2, "cm2", 4)), mm_text(std::round(diameter))),
              Qt::AlignHCenter);
    if (f.tip_mL > 0) label(-92, 150, from_std(format_measure(f.tip_mL, "mL", 3)), Qt::AlignHCenter);
    label(72, 216, tr("stop"), Qt::AlignLeft);
    const double mm = millimetres_per_tip(f.tip_mL, f.area_cm2);
    if (std::isfinite(mm)) {
        p.setFont(theme.mono(18, true));
        p.setPen(t.ink);
        label(0, 256, tr("%1 a tip").arg(from_std(format_measure(mm, "mm", 3))), Qt::AlignHCenter);
    }
}

} // namespace cognitum
