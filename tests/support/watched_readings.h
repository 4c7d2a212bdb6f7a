// Readings for rules and outlooks.
#pragma once

#include "core/bench/bench.h"

namespace cognitum::test {

inline Reading described(const char* kind, const char* unit, double accuracy = 1) {
    Reading r;
    r.id = r.name = kind;
    r.quantity.kind = kind;
    r.quantity.unit = unit;
    r.quantity.accuracy = accuracy;
    r.quantity.interval_s = 60;
    return r;
}

inline Bench bench_of(std::vector<Reading> readings) {
    Bench out;
    out.readings = std::move(readings);
    return out;
}

inline WatchCondition looks_at(const char* reading, WatchWhen when, double value = 0) {
    WatchCondition out;
    out.reading = reading;
    out.when = when;
    out.value = value;
    return out;
}

} // namespace cognitum::test
