#include "ui/plots/reading_picture.h"

#include "core/plan/vessel_view.h"
#include "core/units/unit.h"
#include "core/watch/bands.h"

#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace cognitum {

namespace {

/// What every picture is drawn with.
struct Brush {
    QPainter& p;
    const Theme& theme;
    QRectF box;
    const ReadingPicture& what;

    [[nodiscard]] const Quantity& quantity() const { return what.reading->quantity; }
    [[nodiscard]] const Tokens& t() const { return theme.colours(); }
    [[nodiscard]] bool has_value() const { return std::isfinite(what.value()); }
    /// Place of a value in the expected range, 0…1.
    [[nodiscard]] double share(double value) const {
        const Quantity& q = quantity();
        return std::clamp((value - q.low) / (q.high - q.low), 0.0, 1.0);
    }
    [[nodiscard]] QColor fill() const {
        QColor out = t().accent;
        out.setAlphaF(0.6F);
        return out;
    }
    void ink(double width = 1.6) const {
        QPen pen = theme.pen(t().ink, width);
        if (!has_value()) pen.setStyle(Qt::DashLine);
        p.setPen(pen);
        p.setBrush(Qt::NoBrush);
    }
    void filled(const QPainterPath& path) const { p.fillPath(path, fill()); }
    [[nodiscard]] QRectF square() const {
        const double side = std::min(box.width(), box.height());
        return {box.center().x() - side / 2, box.center().y() - side / 2, side, side};
    }
    [[nodiscard]] double px(double v) const { return theme.px(v); }
};

/// The tube of a thermometer lying, its band below.
void draw_scale(const Brush& b) {
    const QRectF tube(b.box.left() + b.px(4), b.box.center().y() - b.px(7), b.box.width() - b.px(8), b.px(14));
    const double r = tube.height() / 2;
    if (b.has_value()) {
        QPainterPath inside;
        const double width = std::max(2 * r - 6, (tube.width() - 6) * b.share(b.what.value()));
        inside.addRoundedRect(QRectF(tube.left() + 3, tube.top() + 3, width, tube.height() - 6), r - 3, r - 3);
        b.filled(inside);
    }
    b.ink();
    b.p.drawRoundedRect(tube, r, r);
    b.p.setPen(b.theme.pen(b.t().soft, 1.4));
    for (const double limit : band_limits(*b.what.reading)) {
        const double x = tube.left() + tube.width() * b.share(limit);
        b.p.drawLine(QPointF(x, tube.bottom() + 3), QPointF(x, tube.bottom() + 8));
    }
}

/// The vessel in its own shape, filled to its level, a line at each end of its band.
void draw_vessel(const Brush& b) {
    const Vessel& v = b.quantity().vessel;
    const physics::VesselShape shape = vessel_shape(v);
    const bool sound = !v.shape.empty() && physics::check_vessel(shape).has_value();
    const double top = sound ? 1000 * physics::vessel_height(shape)
                             : std::max({v.full_mm, v.height_mm, v.mount_mm, b.quantity().high, 1.0});
    double widest = 0;
    constexpr int steps = 48;
    std::vector<double> half(steps + 1);
    for (int i = 0; i <= steps; ++i) {
        const double w = sound ? vessel_half_width_mm(v, top * i / steps) : 1;
        half[static_cast<std::size_t>(i)] = std::isfinite(w) ? w : 0;
        widest = std::max(widest, half[static_cast<std::size_t>(i)]);
    }
    const QRectF room = b.box.adjusted(b.px(4), b.px(1), -b.px(4), -b.px(1));
    const double scale = std::min(room.height() / top, room.width() / (2 * std::max(widest, 1e-9)));
    const double height = sound ? std::max(top * scale, 0.5 * room.height()) : room.height();
    const double width_scale =
        sound ? std::max(scale, 0.2 * room.width() / std::max(widest, 1e-9)) : room.width() / 3;
    const double bottom = room.center().y() + height / 2;
    const auto y = [&](double mm) { return bottom - height * std::clamp(mm / top, 0.0, 1.0); };
    const auto outline = [&](double up_to_mm) {
        QPolygonF right, left;
        for (int i = 0; i <= steps; ++i) {
            const double mm = std::min(top * i / steps, up_to_mm);
            const double w = std::min(half[static_cast<std::size_t>(i)] * width_scale, room.width() / 2);
            right << QPointF(room.center().x() + w, y(mm));
            left.prepend(QPointF(room.center().x() - w, y(mm)));
            if (mm >= up_to_mm) break;
        }
        return right + left;
    };
    if (b.has_value()) {
        const double level = vessel_level_mm(b.quantity(), b.what.value());
        QPainterPath water;
        water.addPolygon(outline(std::isfinite(level) ? std::clamp(level, 0.0, top) : 0));
        b.filled(water);
    }
    b.ink();
    b.p.drawPolygon(outline(top));
    b.p.setPen(b.theme.pen(b.t().soft, 1.4));
    for (const double limit : band_limits(*b.what.reading)) {
        const double mm = vessel_level_mm(b.quantity(), limit);
        if (!std::isfinite(mm) || mm <= 0 || mm >= top) continue;
        const double x = std::min(room.center().x() + widest * width_scale + b.px(3), b.box.right() - b.px(4));
        b.p.drawLine(QPointF(x, y(mm)), QPointF(x + b.px(6), y(mm)));
    }
}

/// Columns of hours.
void draw_rain(const Brush& b) {
    const QRectF room = b.box.adjusted(b.px(2), b.px(4), -b.px(2), -b.px(4));
    if (b.what.day) {
        double most = 1;
        TimeUs end = 0;
        for (const Growth& hour : b.what.day->hours) {
            most = std::max(most, hour.amount);
            end = std::max(end, hour.to);
        }
        for (const Summary& s : b.what.day->parts)
            end = std::max(end, s.to);
        const double width = room.width() / 24;
        for (const Growth& hour : b.what.day->hours) {
            const double right =
                room.right() - static_cast<double>(end - hour.to) / static_cast<double>(hour_us) * width;
            const double height = hour.amount / most * room.height();
            if (right > room.left())
                b.p.fillRect(
                    QRectF(std::max(room.left(), right - width + 1), room.bottom() - height, width - 1, height),
                    b.t().accent);
        }
    }
    b.ink(1);
    b.p.drawLine(room.bottomLeft(), room.bottomRight());
}

/// Beds beside each other, filled as wet as they are; what is below its band in the colour of a look.
void draw_beds(const Brush& b) {
    const auto n = static_cast<double>(b.what.values.size());
    const double step = std::min(b.box.width() / n, b.px(18.0));
    const double left = b.box.center().x() - step * n / 2;
    for (std::size_t i = 0; i < b.what.values.size(); ++i) {
        const QRectF bed(left + step * static_cast<double>(i) + b.px(2), b.box.top() + b.px(3), step - b.px(4),
                         b.box.height() - b.px(6));
        b.p.fillRect(bed, b.t().selected);
        const double v = b.what.values[i];
        if (std::isfinite(v)) {
            const bool dry = b.what.reading->bands && v < b.what.reading->bands->low;
            const double height = bed.height() * b.share(v);
            b.p.fillRect(QRectF(bed.left(), bed.bottom() - height, bed.width(), height),
                         dry ? b.t().look : b.t().accent);
        }
        QPen edge = b.theme.pen(b.t().soft);
        if (!std::isfinite(v)) edge.setStyle(Qt::DashLine);
        b.p.setPen(edge);
        b.p.setBrush(Qt::NoBrush);
        b.p.drawRect(bed);
    }
}

/// The signal itself where it comes; else a line at rest.
void draw_wave(const Brush& b) {
    const QRectF room = b.box.adjusted(0, b.px(6), 0, -b.px(6));
    b.ink(1.4);
    if (b.what.wave.size() < 8) {
        b.p.drawLine(QPointF(room.left(), room.center().y()), QPointF(room.right(), room.center().y()));
        return;
    }
    const auto [low, high] = std::minmax_element(b.what.wave.begin(), b.what.wave.end());
    const double span = std::max(*high - *low, 1e-9);
    QPolygonF line;
    for (std::size_t i = 0; i < b.what.wave.size(); ++i)
        line << QPointF(room.left() +
                            room.width() * static_cast<double>(i) / static_cast<double>(b.what.wave.size() - 1),
                        room.bottom() - room.height() * (b.what.wave[i] - *low) / span);
    b.p.drawPolyline(line);
}

/// A door in its frame.
void draw_door(const Brush& b) {
    const QRectF frame = b.square().adjusted(b.px(8), b.px(1), -b.px(8), -b.px(1));
    b.ink(1.2);
    b.p.drawRect(frame);
    if (!b.has_value()) return;
    if (b.what.value() > 0.5) {
        QPainterPath shut;
        shut.addRect(frame.adjusted(2, 2, -2, -2));
        b.filled(shut);
    } else {
        b.p.drawPolygon(QPolygonF(
            {frame.topLeft(), QPointF(frame.left() + frame.width() * 0.45, frame.top() + b.px(6)),
             QPointF(frame.left() + frame.width() * 0.45, frame.bottom() + b.px(3)), frame.bottomLeft()}));
    }
}

/// Somebody passes: arcs before the detector.
void draw_motion(const Brush& b) {
    const bool moves = b.has_value() && b.what.value() > 0.5;
    const QPointF eye(b.box.left() + b.box.width() * 0.3, b.box.center().y());
    b.ink(1.6);
    b.p.setBrush(b.has_value() ? b.t().ink : QBrush(Qt::NoBrush));
    b.p.drawEllipse(eye, b.px(4), b.px(4));
    b.p.setBrush(Qt::NoBrush);
    for (int i = 1; i <= 3; ++i) {
        const double r = b.px(8.0 * i);
        b.p.setPen(b.theme.pen(moves ? b.t().accent : b.t().rule, moves ? 3 : 1.4));
        b.p.drawArc(QRectF(eye.x() - r, eye.y() - r, 2 * r, 2 * r), -40 * 16, 80 * 16);
    }
}

/// A tyre on the road, flatter with less in it; air pressure is a column.
void draw_pressure(const Brush& b) {
    const double hPa = convert_unit(b.quantity().high, b.quantity().unit, "hPa").value_or(0);
    if (hPa > 0 && hPa < 1200) {
        const QRectF tube(b.box.center().x() - b.px(6), b.box.top() + b.px(2), b.px(12), b.box.height() - b.px(4));
        if (b.has_value()) {
            QPainterPath mercury;
            const double h = std::max(b.px(4.0), (tube.height() - 4) * b.share(b.what.value()));
            mercury.addRect(QRectF(tube.left() + 2, tube.bottom() - 2 - h, tube.width() - 4, h));
            b.filled(mercury);
        }
        b.ink();
        b.p.drawRoundedRect(tube, b.px(3), b.px(3));
        return;
    }
    const QRectF s = b.square().adjusted(b.px(2), b.px(2), -b.px(2), -b.px(2));
    const double flat = b.has_value() ? 0.22 * (1 - b.share(b.what.value())) : 0;
    QPainterPath tyre;
    tyre.addEllipse(s.adjusted(0, s.height() * flat / 2, 0, 0));
    QPainterPath rim;
    rim.addEllipse(s.center() + QPointF(0, s.height() * flat / 4), s.width() * 0.24, s.height() * 0.24);
    if (b.has_value()) b.filled(tyre.subtracted(rim));
    b.ink();
    b.p.drawPath(tyre);
    b.p.drawPath(rim);
    b.p.drawLine(QPointF(s.left() - b.px(6), s.bottom()), QPointF(s.right() + b.px(6), s.bottom()));
}

/// The sun, as full as it is bright; brightness goes by powers of ten.
void draw_light(const Brush& b) {
    const QRectF s = b.square();
    const double r = s.width() * 0.26;
    const double lx = convert_unit(std::max(b.what.value(), 0.0), b.quantity().unit, "lx").value_or(0);
    const double share = b.has_value() ? std::clamp(std::log10(1 + lx) / 5, 0.0, 1.0) : 0;
    QPainterPath disc, part;
    disc.addEllipse(s.center(), r, r);
    part.addRect(QRectF(s.center().x() - r, s.center().y() + r - 2 * r * share, 2 * r, 2 * r * share));
    b.filled(disc.intersected(part));
    b.ink();
    b.p.drawPath(disc);
    for (int i = 0; i < 8; ++i) {
        const QPointF way(std::cos(i * M_PI / 4), std::sin(i * M_PI / 4));
        b.p.drawLine(s.center() + way * (r + b.px(4)), s.center() + way * (r + b.px(4) + b.px(7) * share + 1));
    }
}

/// A drop, filled to its share.
void draw_drop(const Brush& b) {
    const QRectF s = b.square().adjusted(b.px(8), b.px(2), -b.px(8), -b.px(2));
    QPainterPath drop(QPointF(s.center().x(), s.top()));
    drop.cubicTo(QPointF(s.right() + s.width() * 0.2, s.center().y()), QPointF(s.right(), s.bottom()),
                 QPointF(s.center().x(), s.bottom()));
    drop.cubicTo(QPointF(s.left(), s.bottom()), QPointF(s.left() - s.width() * 0.2, s.center().y()),
                 QPointF(s.center().x(), s.top()));
    if (b.has_value()) {
        QPainterPath part;
        const double h = s.height() * b.share(b.what.value());
        part.addRect(QRectF(s.left() - s.width(), s.bottom() - h, 3 * s.width(), h));
        b.filled(drop.intersected(part));
    }
    b.ink();
    b.p.drawPath(drop);
}

/// Two electrodes in water.
void draw_electrodes(const Brush& b) {
    const QRectF s = b.square().adjusted(b.px(5), b.px(3), -b.px(5), -b.px(1));
    QPainterPath water;
    water.addRect(s.adjusted(1, s.height() * 0.35, -1, -1));
    if (b.has_value()) b.filled(water);
    b.ink();
    b.p.drawPolyline(QPolygonF({s.topLeft(), s.bottomLeft(), s.bottomRight(), s.topRight()}));
    for (const double x : {0.35, 0.65}) {
        b.p.setPen(b.theme.pen(b.t().ink, 2.4));
        b.p.drawLine(QPointF(s.left() + s.width() * x, s.top() - b.px(1)),
                     QPointF(s.left() + s.width() * x, s.bottom() - s.height() * 0.25));
    }
}

/// A cell, as full as it is.
void draw_battery(const Brush& b) {
    const QRectF cell(b.box.left() + b.px(8), b.box.center().y() - b.px(11), b.box.width() - b.px(22), b.px(22));
    if (b.has_value()) {
        QPainterPath charge;
        charge.addRect(cell.adjusted(3, 3, -3 - (cell.width() - 6) * (1 - b.share(b.what.value())), -3));
        b.filled(charge);
    }
    b.ink();
    b.p.drawRect(cell);
    b.p.drawRect(QRectF(cell.right(), cell.center().y() - b.px(5), b.px(4), b.px(10)));
}

/// Now, and the gusts of the last day behind it.
void draw_wind(const Brush& b) {
    const auto bar = [&](double y, double share, const QColor& colour) {
        b.p.setPen(b.theme.pen(colour, 3));
        b.p.drawLine(QPointF(b.box.left(), y), QPointF(b.box.left() + std::max(0.05, share) * b.box.width(), y));
    };
    if (b.what.day && b.what.day->any) bar(b.box.center().y() + b.px(7), b.share(b.what.day->high), b.t().soft);
    if (b.has_value()) bar(b.box.center().y() - b.px(3), b.share(b.what.value()), b.t().accent);
    b.ink(1);
    b.p.drawLine(QPointF(b.box.left(), b.box.top() + b.px(6)), QPointF(b.box.left(), b.box.bottom() - b.px(6)));
}

using Draw = void (*)(const Brush&);
/// By kind of quantity; what is not here is a scale.
constexpr std::pair<const char*, Draw> pictures[] = {
    {"level", draw_vessel},       {"volume", draw_vessel},           {"rain", draw_rain},
    {"soil-moisture", draw_beds}, {"pulse-rate", draw_wave},         {"contact", draw_door},
    {"motion", draw_motion},      {"pressure", draw_pressure},       {"light", draw_light},
    {"humidity", draw_drop},      {"conductivity", draw_electrodes}, {"voltage", draw_battery},
    {"wind", draw_wind}};

} // namespace

void paint_reading(QPainter& painter, const Theme& theme, const QRectF& box, const ReadingPicture& picture) {
    const Brush brush{painter, theme, box, picture};
    const auto* const own = std::find_if(std::begin(pictures), std::end(pictures), [&](const auto& known) {
        return picture.reading->quantity.kind == known.first;
    });
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    (own == std::end(pictures) ? &draw_scale : own->second)(brush);
    painter.restore();
}

} // namespace cognitum
