#include "core/physics/battery.h"

#include "core/base/phrase.h"

#include <cmath>

namespace cognitum::physics {

namespace {

constexpr double hours_in_a_year = 365.25 * 24;

Result<void> check(const BatteryUse& use) {
    const auto not_below = [](double value, double least) { return std::isfinite(value) && value >= least; };
    if (!not_below(use.capacity_mAh, 0) || use.capacity_mAh == 0)
        return failure(phrase("a battery's capacity is above zero."), "capacity");
    if (!not_below(use.sleep_mA, 0)) return failure(phrase("a current is zero or more."), "sleep_current");
    if (!not_below(use.active_mA, 0)) return failure(phrase("a current is zero or more."), "active_current");
    if (!not_below(use.interval_s, 0) || use.interval_s == 0)
        return failure(phrase("an interval is longer than nothing."), "interval");
    if (!not_below(use.active_s, 0) || use.active_s > use.interval_s)
        return failure(phrase("a board is awake for no less than nothing and no longer than its interval."),
                       "active_time");
    if (!not_below(use.self_discharge_per_year, 0) || use.self_discharge_per_year > 12)
        return failure(phrase("between 0 and 100 % of the capacity go by themselves in a month."),
                       "self_discharge");
    if (!not_below(use.reserve, 0) || use.reserve >= 1)
        return failure(phrase("a reserve is 0 % or more, and less than 100 %."), "reserve");
    return {};
}

} // namespace

Result<BatteryLife> battery_life(const BatteryUse& use) {
    if (const auto sound = check(use); !sound) return tl::make_unexpected(sound.error());
    const double awake = use.active_s / use.interval_s;
    const double sleep_mA = use.sleep_mA * (1 - awake), active_mA = use.active_mA * awake;
    const double self_mA = use.capacity_mAh * use.self_discharge_per_year / hours_in_a_year;
    const double all_mA = sleep_mA + active_mA + self_mA;
    if (!(all_mA > 0))
        return failure(phrase("nothing draws from the battery: it would last for ever."), "active_current");
    BatteryLife out;
    out.days = use.capacity_mAh * (1 - use.reserve) / all_mA / 24;
    out.average_mA = sleep_mA + active_mA;
    out.sleep_share = sleep_mA / all_mA;
    out.active_share = active_mA / all_mA;
    out.self_discharge_share = self_mA / all_mA;
    return out;
}

} // namespace cognitum::physics
