// Rules about time, and about a plan whose constants or calibration no longer fit it.
#include "core/base/phrase.h"
#include "core/plan/rules/rules.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

Found sampling_too_slow(const Placed& p) {
    if (!p.part || p.part->sample_s <= 0) return {};
    const Quantity& q = p.reading->quantity;
    const double sample = q.sample_s > 0 ? q.sample_s : q.interval_s;
    if (sample <= p.part->sample_s * 1.0001) return {};
    Finding f = finding(Severity::error, Stop::quantity,
                        phrase("The board looks every {}; this signal needs a look every {}.",
                               format_measure(sample, "s"), format_measure(p.part->sample_s, "s")),
                        phrase("Beats and gusts fall between two looks; what is left looks plausible."),
                        phrase("Let the board sample faster than it sends."));
    f.action = change_reading(phrase("Sample every {}", format_measure(p.part->sample_s, "s")), p.reading->id,
                              [s = p.part->sample_s](Reading& r) { r.quantity.sample_s = s; });
    return f;
}

Found interval_too_short(const Placed& p) {
    if (!p.part || p.part->interface.speech == Speech::radio) return {};
    const double asked = p.reading->quantity.interval_s;
    if (p.part->minimum_interval_s <= asked * 1.0001) return {};
    Finding f = finding(Severity::error, Stop::quantity,
                        phrase("A value every {}; this part gives one every {} at most.",
                               format_measure(asked, "s"), format_measure(p.part->minimum_interval_s, "s")),
                        phrase("It repeats itself, or hears its own last echo."), phrase("Ask for it less often."));
    f.action = change_reading(phrase("Every {}", format_measure(p.part->minimum_interval_s, "s")), p.reading->id,
                              [s = p.part->minimum_interval_s](Reading& r) { r.quantity.interval_s = s; });
    return f;
}

Found stale_before_report(const Placed& p) {
    if (!p.part || p.part->interface.speech != Speech::radio) return {};
    const Quantity& q = p.reading->quantity;
    const double stale = silent_after_s(q);
    if (stale >= p.part->minimum_interval_s) return {};
    const double wanted = 2.5 * p.part->minimum_interval_s;
    Finding f = finding(Severity::error, Stop::quantity,
                        phrase("It counts as silent after {}; it reports every {}.", format_measure(stale, "s"),
                               format_measure(p.part->minimum_interval_s, "s")),
                        phrase("It would be called silent between any two reports."),
                        phrase("Give it two and a half of its own intervals."));
    f.action = change_reading(phrase("Silent after {}", format_measure(wanted, "s")), p.reading->id,
                              [wanted](Reading& r) { r.quantity.stale_s = wanted; });
    return f;
}

/// Something that happens when it likes, and is over before the board looks again.
bool happens_at_once(const Placed& p) {
    return p.part->interface.speech == Speech::pulse || p.reading->quantity.about().is_state();
}

Found sleep_misses_pulses(const Placed& p) {
    if (!p.part || !p.use || !p.board || p.use->sleep_s <= 0 || !happens_at_once(p)) return {};
    const Pin* pin = p.board->pin(p.reading->wiring.pin());
    if (!pin || pin->can("wake")) return {};
    Finding f = finding(Severity::error, Stop::wiring,
                        phrase("{} sleeps {} at a time, and pin {} does not wake it.", p.use->name,
                               format_measure(p.use->sleep_s, "s"), pin->label),
                        phrase("What happens in its sleep is lost, and nothing says so."),
                        phrase("Use a pin that wakes it, or keep it awake."));
    f.action = move_leg(p, p.reading->wiring.pins.front().leg, sleep_misses_pulses);
    if (!f.action)
        f.action = FixAction{phrase("Keep it awake"),
                             [id = p.use->id](Bench& bench) {
                                 if (BoardUse* use = bench.board(id)) use->sleep_s = 0;
                             },
                             -1,
                             {}};
    return f;
}

Found interval_in_sleep(const Placed& p) {
    if (!p.part || !p.use || p.use->sleep_s <= 0 || happens_at_once(p) || p.part->interface.speech == Speech::radio)
        return {};
    const double round = p.use->sleep_s + p.use->wake_s;
    if (p.reading->quantity.interval_s >= 0.99 * p.use->sleep_s) return {};
    Finding f = finding(Severity::error, Stop::quantity,
                        phrase("A value is wanted every {}; {} sleeps {} at a time.",
                               format_measure(p.reading->quantity.interval_s, "s"), p.use->name,
                               format_measure(p.use->sleep_s, "s")),
                        phrase("Between two wakings there is no value, and it counts as silent."),
                        phrase("Ask for it less often, or let the board sleep for less."));
    f.action = change_reading(phrase("Every {}", format_measure(round, "s")), p.reading->id,
                              [round](Reading& r) { r.quantity.interval_s = round; });
    return f;
}

Found conversion_in_sleep(const Placed& p) {
    if (!p.part || !p.use || p.use->sleep_s <= 0) return {};
    const double needs = std::max(p.part->interface.conversion_ms / 1000, p.part->minimum_interval_s);
    const bool waits = p.part->interface.speech != Speech::radio && !happens_at_once(p);
    if (!waits || needs <= p.use->wake_s || p.part->warm_up_s > p.use->wake_s) return {};
    Finding f = finding(Severity::error, Stop::wiring,
                        phrase("One measurement takes {}; {} is awake for {}.", format_measure(needs, "s"),
                               p.use->name, format_measure(p.use->wake_s, "s")),
                        phrase("It falls asleep before the number is there, and sends the old one."),
                        phrase("Stay awake longer."));
    f.action = FixAction{phrase("Stay awake for {}", format_measure(needs + 1, "s")),
                         [id = p.use->id, s = needs + 1](Bench& bench) {
                             if (BoardUse* use = bench.board(id)) use->wake_s = s;
                         },
                         -1,
                         {}};
    return f;
}

Found warm_up_too_long(const Placed& p) {
    if (!p.part || !p.use || p.use->sleep_s <= 0 || p.part->warm_up_s <= p.use->wake_s) return {};
    Finding f =
        finding(Severity::error, Stop::wiring,
                phrase("It needs {} after power; {} is awake for {}.", format_measure(p.part->warm_up_s, "s"),
                       p.use->name, format_measure(p.use->wake_s, "s")),
                phrase("Every value is taken before it counts."),
                phrase("Stay awake longer, or keep the part fed while it sleeps."));
    f.action = FixAction{phrase("Stay awake for {}", format_measure(p.part->warm_up_s + 1, "s")),
                         [id = p.use->id, s = p.part->warm_up_s + 1](Bench& bench) {
                             if (BoardUse* use = bench.board(id)) use->wake_s = s;
                         },
                         -1,
                         {}};
    return f;
}

Found reference_constant_differs(const Placed& p) {
    if (!p.board || !(p.full_scale_V() > 0)) return {};
    for (const Stage& stage : p.reading->path.stages) {
        const auto* adc = std::get_if<Adc>(&stage);
        if (!adc) continue;
        const double typed = adc->reference_V.value;
        const double card = p.full_scale_V();
        const double room = std::max(3 * p.full_scale_tolerance_V(), 0.02 * card);
        if (std::abs(typed - card) <= room) return {};
        Finding f =
            finding(Severity::error, Stop::convert,
                    phrase("The path counts with {}; the converter is full at {}.", volts(typed), volts(card)),
                    phrase("Every voltage is wrong by {:.0f} %.", 100 * std::abs(typed / card - 1)),
                    phrase("Take the card's value, or measure it and type it in."));
        f.action = change_reading(
            phrase("Take the card’s value"), p.reading->id,
            [card, tolerance = p.full_scale_tolerance_V(), stability = p.full_scale_stability_V()](Reading& r) {
                for (Stage& s : r.path.stages)
                    if (auto* converter = std::get_if<Adc>(&s))
                        converter->reference_V = {card, tolerance, Spread::rectangular, phrase("data sheet"), {},
                                                  {},   stability};
            });
        return f;
    }
    return {};
}

Found calibration_outdated(const Placed& p) {
    if (!correction_is_stale(*p.reading)) return {};
    Finding f = finding(Severity::look, Stop::calibrate,
                        phrase("The wiring or the constants changed after the calibration of {}.",
                               iso_time(p.reading->correction->time).substr(0, 10)),
                        phrase("A correction holds for the path that it was found with."),
                        phrase("Calibrate again: two points take ten minutes."));
    f.action = open_stop(phrase("Calibrate again"), Stop::calibrate);
    return f;
}

Found moved_since_calibration(const Placed& p) {
    const auto& correction = p.reading->correction;
    const BringUp& b = p.reading->bring_up;
    if (!correction || b.disturbed <= correction->time) return {};
    Finding f = finding(Severity::look, Stop::calibrate,
                        phrase("It was {} on {}, after its calibration.",
                               b.disturbed_how.empty() ? phrase("moved") : phrase_of(b.disturbed_how),
                               iso_time(b.disturbed).substr(0, 10)),
                        phrase("Sealing and any mechanical change bend a part, and move its zero."),
                        phrase("Check it against a reference: one point tells whether it still holds."));
    f.action = open_stop(phrase("Check it"), Stop::calibrate);
    return f;
}

constexpr ReadingRule all_timing_rules[] = {{"sampling-too-slow", sampling_too_slow},
                                            {"interval-too-short", interval_too_short},
                                            {"stale-before-report", stale_before_report},
                                            {"sleep-misses-pulses", sleep_misses_pulses},
                                            {"warm-up-too-long", warm_up_too_long},
                                            {"interval-shorter-than-sleep", interval_in_sleep},
                                            {"conversion-longer-than-wake", conversion_in_sleep},
                                            {"reference-constant-differs", reference_constant_differs},
                                            {"calibration-outdated", calibration_outdated},
                                            {"moved-since-calibration", moved_since_calibration}};

} // namespace

std::span<const ReadingRule> timing_rules() {
    return all_timing_rules;
}

} // namespace cognitum
