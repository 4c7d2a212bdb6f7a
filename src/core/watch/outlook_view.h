// What the files that make outlooks share; nobody else needs it.
#pragma once

#include "core/units/format.h"
#include "core/watch/outlook.h"

#include <cmath>
#include <optional>

namespace cognitum::outlooks {

inline constexpr int looks_at_days = 14;

struct View {
    const Reading& reading;
    const HourlyRecord& record;
    double doubt;
    TimeUs now;
    const ZoneOffset& zone;
    const Neighbour* air;
    Outlook& out;

    [[nodiscard]] const std::string& unit() const { return reading.quantity.unit; }
    [[nodiscard]] double last() const { return record.hours.back().last; }
    [[nodiscard]] std::string amount(double value, double u = 0) const {
        return u > 1e-4 * std::abs(value) ? format_with_doubt(value, 2 * u, unit())
                                          : format_measure(value, unit(), 3);
    }
    void say(std::string line) const { out.lines.push_back(std::move(line)); }
};

/// Slope over the last hours, a unit an hour, with its standard uncertainty from the scatter about the line; empty:
/// less than half of them are there.
struct Trend {
    double an_hour = 0, u = 0;
};
std::optional<Trend> trend(const HourlyRecord& record, TimeUs now, int hours);
/// "It rises by 0.4 °C/h." where that is beyond what its scatter would make; else that it stands.
void say_heading(const View& view, int hours, const char* rises, const char* falls);
/// Begin of the local day, local time.
TimeUs local_day(TimeUs t, const ZoneOffset& zone);

// In outlook_air.cpp.
void of_warmth(const View& view);
void of_damp(const View& view);
void of_gas(const View& view);

} // namespace cognitum::outlooks
