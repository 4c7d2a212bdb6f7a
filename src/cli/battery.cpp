#include "cli/arguments.h"
#include "cli/cli.h"

#include "core/physics/battery.h"
#include "core/units/format.h"

#include <cstdio>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace cognitum::cli {

namespace {

struct Key {
    const char *name, *unit;
    double physics::BatteryUse::*value;
    bool needed = true;
};
const std::vector<Key> keys = {{"capacity", "mAh", &physics::BatteryUse::capacity_mAh},
                               {"sleep_current", "mA", &physics::BatteryUse::sleep_mA},
                               {"active_current", "mA", &physics::BatteryUse::active_mA},
                               {"active_time", "s", &physics::BatteryUse::active_s},
                               {"interval", "s", &physics::BatteryUse::interval_s},
                               {"reserve", "1", &physics::BatteryUse::reserve, false}};

/// "2%/month" or "1%/year": share of the capacity in a year.
Result<double> read_self_discharge(const std::string& text) {
    const auto solidus = std::min(text.rfind('/'), text.size());
    const std::string period = text.substr(solidus);
    if (period != "/month" && period != "/year")
        return failure(fmt::format("\"{}\" does not say in which time.", text), "self_discharge",
                       "Write it with one of these units: %/month, %/year.");
    const std::string key = "self_discharge";
    COGNITUM_TRY(share, measure_of({{key, text.substr(0, solidus)}}, key, "1"));
    return period == "/year" ? share : 12 * share;
}

Result<physics::BatteryUse> read_use(const std::vector<std::string>& arguments) {
    COGNITUM_TRY(given, read_arguments(arguments));
    physics::BatteryUse out;
    for (const Key& key : keys) {
        if (!given.contains(key.name)) {
            if (!key.needed) continue;
            return failure("it is missing.", key.name,
                           "Write capacity=2000mAh sleep_current=50uA active_current=80mA active_time=2s "
                           "interval=10min, and where it is known self_discharge=2%/month and reserve=20%.");
        }
        COGNITUM_TRY(value, measure_of(given, key.name, key.unit));
        out.*key.value = value;
        given.erase(key.name);
    }
    if (const auto self = given.find("self_discharge"); self != given.end()) {
        COGNITUM_TRY(share, read_self_discharge(self->second));
        out.self_discharge_per_year = share;
        given.erase(self);
    }
    if (!given.empty())
        return failure(
            "battery does not take it.", given.begin()->first,
            "It takes capacity, sleep_current, active_current, active_time, interval, self_discharge and "
            "reserve.");
    return out;
}

} // namespace

int run_battery(const std::vector<std::string>& arguments, bool json) {
    const auto use = read_use(arguments);
    if (!use) return complain(use.error(), usage);
    const auto life = physics::battery_life(*use);
    if (!life) return complain(life.error());
    if (json) {
        print_json({{"life_days", life->days},
                    {"average_current_mA", life->average_mA},
                    {"shares",
                     {{"sleep", life->sleep_share},
                      {"active", life->active_share},
                      {"self_discharge", life->self_discharge_share}}}});
        return done;
    }
    const auto percent = [](double share) { return format_measure(100 * share, "%", 2); };
    std::puts(fmt::format(
                  "Lasts about {} days: {} at {} on average. Of what goes, {} is sleep, {} is measuring and {} "
                  "goes by itself. Cold, age and a board that stops at a higher voltage make it shorter.",
                  format_constant(life->days, 3), format_measure(use->capacity_mAh * (1 - use->reserve), "mAh", 4),
                  format_measure(life->average_mA, "mA", 3), percent(life->sleep_share),
                  percent(life->active_share), percent(life->self_discharge_share))
                  .c_str());
    return done;
}

} // namespace cognitum::cli
