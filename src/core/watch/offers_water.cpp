#include "core/physics/vessel.h"
#include "core/watch/offer_ground.h"

#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr int night_from = 1, night_to = 5; ///< hours at which nobody draws water

} // namespace

void offer_of_vessel(OfferGround& g) {
    const physics::VesselShape shape = vessel_shape(g.quantity().vessel);
    double full = g.quantity().high;
    if (g.quantity().about().from_level.empty()) {
        if (g.quantity().vessel.full_mm > 0) full = g.from(g.quantity().vessel.full_mm, "mm");
    } else if (physics::check_vessel(shape)) {
        const double height =
            g.quantity().vessel.full_mm > 0 ? g.quantity().vessel.full_mm / 1000 : physics::vessel_height(shape);
        full = g.from(physics::vessel_volume(shape, height), "L");
    }
    const double low = round_for_person(0.15 * full, full / 100);
    RuleOffer& empty = g.offer(phrase("Nearly empty"), WatchWhen::below, low,
                               phrase("15 % of what it holds when full, {}.", g.text(full)));
    empty.rule.conditions[0].clear = round_for_person(0.18 * full, full / 100);
    empty.rule.count = 3;
    RuleOffer& brim = g.offer(phrase("Nearly full"), WatchWhen::above, round_for_person(0.95 * full, full / 100),
                              phrase("95 % of {}.", g.text(full)));
    brim.rule.conditions[0].clear = round_for_person(0.9 * full, full / 100);
    brim.rule.count = 3;
    brim.rule.rank = WatchRank::note;
    const NightFalls nights = night_falls(g.record, night_from, night_to, g.zone);
    const double smallest = smallest_leak(nights, g.record.noise);
    if (!(smallest > 0)) return;
    const double limit = round_for_person(smallest, smallest / 10);
    RuleOffer& leak = g.over_time(
        phrase("A leak"), WatchWhen::falls, limit, 2 * 3600,
        phrase("Between {:02}:00 and {:02}:00 it moves by {}/h on most of {} hours, with the walls’ cold in "
               "it: the smallest leak that can be told from that is {}/h.",
               night_from, night_to, g.text(nights.median), nights.hours, g.text(smallest)));
    leak.rule.rank = WatchRank::bad;
    leak.rule.hours = {night_from * 60, night_to * 60};
    leak.rule.for_s = 1800;
    leak.rule.conditions[0].hysteresis = limit / 2;
    leak.rule.breaks_quiet = true;
}

void offer_of_rain(OfferGround& g) {
    RuleOffer& starts = g.over_time(
        phrase("Rain starts"), WatchWhen::grows, g.from(0.3, "mm"), 3 * 3600,
        phrase("Two tips of a bucket in three hours: a single one may be dew or a spider. It is over when there "
               "were none for so long."));
    starts.rule.rank = WatchRank::note;
    starts.rule.repeat_s = 0;
    g.over_time(phrase("Heavy rain"), WatchWhen::grows, g.from(10, "mm"), 3600,
                phrase("10 mm in an hour. What counts as heavy differs from country to country: set your own."))
        .rule.repeat_s = 3600;
    g.over_time(phrase("Dry for days"), WatchWhen::unchanged, 0, 7 * 86400, phrase("No tip in a week.")).rule.rank =
        WatchRank::note;
    for (const Reading& other : g.bench.readings) {
        if (other.quantity.kind != "humidity") continue;
        RuleOffer& blocked = g.over_time(
            phrase("Funnel blocked?"), WatchWhen::unchanged, 0, 12 * 3600,
            phrase("No tip in 12 hours while {} says above 97 %: rain, or fog, that does not reach the bucket.",
                   other.name));
        WatchCondition wet;
        wet.reading = other.id;
        wet.when = WatchWhen::above;
        wet.value = 97;
        wet.clear = 90;
        wet.join = WatchJoin::all;
        blocked.rule.conditions.push_back(wet);
        blocked.rule.for_s = 6 * 3600;
        blocked.rule.repeat_s = 86400;
        return;
    }
}

} // namespace cognitum
