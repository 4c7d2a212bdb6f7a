#include "core/plan/source_ohm.h"

#include "core/plan/path.h"

#include <algorithm>

namespace cognitum {

double divider_source_ohm(const Placed& p) {
    const double fixed = p.part->divider->fixed_ohm.value;
    double low = 0;
    double high = 0;
    if (!p.expected(low, high)) return fixed / 2;
    const Chain transfer{"", "ohm", p.measurand->transfer};
    double most = fixed / 2;
    for (const double end : {std::max(low, p.measurand->low), std::min(high, p.measurand->high)})
        if (const Value ohm = inverse(transfer, end); ohm.ok())
            most = std::max(most, fixed * ohm.number / (fixed + ohm.number));
    return most;
}

double source_ohm(const Placed& p) {
    if (!p.is_voltage() || !p.board || !p.part || p.module_part) return 0;
    const Connection* wire = p.reading->wiring.pins.empty() ? nullptr : &p.reading->wiring.pins.front();
    if (!wire || wire->pin.empty()) return 0;
    if (wire->divider.there())
        return wire->divider.top_ohm * wire->divider.bottom_ohm /
               (wire->divider.top_ohm + wire->divider.bottom_ohm);
    return p.part->divider ? divider_source_ohm(p) : 0;
}

} // namespace cognitum
