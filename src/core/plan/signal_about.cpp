#include "core/plan/signal_about.h"

#include "core/units/unit.h"

#include <algorithm>

namespace cognitum {

namespace {

SignalKind kind_of(const Placed& p) {
    const QuantityKind& quantity = p.reading->quantity.about();
    if (quantity.events == Events::beats)
        return p.reading->source.signal.empty() ? SignalKind::measured : SignalKind::wave;
    if (quantity.is_counted) return SignalKind::counter;
    if (quantity.is_state()) return SignalKind::contact;
    if (p.is_voltage() && p.reading->path.first_unit() == "count") return SignalKind::codes;
    const std::string family = p.part ? p.part->family : "";
    if (family == "ranger" && quantity.from_level.empty()) return SignalKind::distance;
    return SignalKind::measured;
}

/// Where the expected range lies in the raw signal; through the path when there is one.
void expect(const Placed& p, SignalAbout& out) {
    const Quantity& q = p.reading->quantity;
    if (p.reading->path.stages.empty()) {
        if (p.part && !p.reading->source.unit.empty() && p.reading->source.unit != q.unit) return;
        out.expect_low = q.low;
        out.expect_high = q.high;
        return;
    }
    const Value a = inverse(p.reading->path, q.low);
    const Value b = inverse(p.reading->path, q.high);
    if (!a.ok() || !b.ok()) return;
    out.expect_low = std::min(a.number, b.number);
    out.expect_high = std::max(a.number, b.number);
}

} // namespace

SignalAbout about_signal(const Placed& p) {
    SignalAbout out;
    const Reading& r = *p.reading;
    out.kind = kind_of(p);
    out.quantity = r.quantity.kind;
    out.promised_s =
        out.kind == SignalKind::wave && r.quantity.sample_s > 0 ? r.quantity.sample_s : r.quantity.interval_s;
    out.even = !p.part || p.part->interface.speech != Speech::radio;
    out.never_negative = r.quantity.about().never_negative;
    if (out.kind == SignalKind::codes || out.kind == SignalKind::wave) {
        const int bits = out.kind == SignalKind::wave && p.board ? p.board->bits : p.bits();
        const SignalAbout codes = about_codes(bits > 0 ? bits : 10);
        out.bits = codes.bits;
        out.low = codes.low;
        out.high = codes.high;
        out.resolution = codes.resolution;
    } else {
        out.unit =
            r.path.stages.empty() ? (r.source.unit.empty() ? r.quantity.unit : r.source.unit) : r.path.first_unit();
        if (out.unit == "count" || out.kind == SignalKind::counter || out.kind == SignalKind::contact)
            out.unit.clear();
        if (p.measurand && out.kind == SignalKind::measured && same_unit(out.unit, p.measurand->unit)) {
            out.high = p.measurand->high;
            out.resolution = p.measurand->resolution;
        }
    }
    if (out.kind != SignalKind::wave) expect(p, out);
    // What the thing itself does: said by the plan as a time constant, else a quarter of the range an hour.
    const double span = std::abs(out.expect_high - out.expect_low);
    if (std::isfinite(span) && r.quantity.kind != "light")
        out.fastest_per_hour = r.quantity.change_s > 0 ? span * 3600 / r.quantity.change_s : 0.4 * span;
    return out;
}

std::vector<FailureRule> failure_rules_of(const Placed& p) {
    if (!p.part) return {};
    return failure_rules(*p.part);
}

double part_span(const Placed& p) {
    return p.measurand ? p.measurand->high - p.measurand->low : 0;
}

} // namespace cognitum
