// What the rules that are offered for one reading are made from.
#pragma once

#include "core/base/phrase.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "core/watch/offers.h"

#include <algorithm>
#include <string>
#include <vector>

namespace cognitum {

constexpr double half_day_s = 12 * 3600;

/// What the offers of one reading are made from.
struct OfferGround {
    const Bench& bench;
    const Reading& reading;
    const HourlyRecord& record;
    double doubt;
    const ZoneOffset& zone;
    std::vector<RuleOffer>& out;

    [[nodiscard]] const Quantity& quantity() const { return reading.quantity; }
    [[nodiscard]] double step() const { return std::max({doubt, quantity().accuracy / 2, 1e-9}); }
    [[nodiscard]] std::string text(double value) const { return format_measure(value, quantity().unit, 4); }
    /// A temperature of the scale °C, or a length of mm, in the reading's unit.
    [[nodiscard]] double from(double value, const char* unit) const {
        return convert_unit(value, unit, quantity().unit).value_or(value);
    }
    [[nodiscard]] std::string record_text() const {
        return phrase("{:.0f} days of record", std::max(1.0, record.days()));
    }
    [[nodiscard]] bool has_record() const { return !record.hours.empty(); }

    RuleOffer& offer(const std::string& name, WatchWhen when, double value, std::string why) {
        WatchCondition condition;
        condition.reading = reading.id;
        condition.when = when;
        condition.value = value;
        WatchRule rule;
        rule.name = name;
        rule.conditions = {condition};
        rule.repeat_s = half_day_s;
        if (when == WatchWhen::above) rule.conditions[0].clear = value - step();
        if (when == WatchWhen::below) rule.conditions[0].clear = value + step();
        out.push_back({rule, std::move(why)});
        return out.back();
    }
    RuleOffer& over_time(const std::string& name, WatchWhen when, double value, double over_s, std::string why) {
        RuleOffer& made = offer(name, when, value, std::move(why));
        made.rule.conditions[0].over_s = over_s;
        return made;
    }
};

/// Of a vessel that is filled, by level or by volume.
void offer_of_vessel(OfferGround& g);
/// Of a rain gauge.
void offer_of_rain(OfferGround& g);

} // namespace cognitum
