// Values that measure nothing: failed, clipped, stuck, floating, a loose contact, a counter that bounces.
#include "core/analyse/health_checks.h"
#include "core/analyse/statistics.h"
#include "core/units/format.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>

namespace cognitum::health {

namespace {

using Verdict = std::optional<HealthVerdict>;

/// Echoes that never came, and other measurements that failed by their own word.
Verdict check_failed(const Signal& s) {
    const std::size_t recent = std::min<std::size_t>(s.samples.size(), 60);
    const auto tail = s.samples.last(recent);
    const auto failed =
        std::count_if(tail.begin(), tail.end(), [](const RawSample& r) { return !std::isfinite(r.code); });
    if (failed < 3 || 20 * failed < static_cast<std::ptrdiff_t>(recent)) return {};
    const std::string evidence = fmt::format("{} of the last {} measurements brought no value.", failed, recent);
    if (s.is(SignalKind::distance))
        return HealthVerdict{{},
                             {},
                             HealthRank::bad,
                             evidence,
                             {"the face is wet, frosted or dirty", "the target is beyond its reach or slanted",
                              "the wall of the tube answers, or foam swallows the sound"},
                             "Hold a flat board at 1 m: if it answers there, the target is at fault."};
    return HealthVerdict{
        {},
        {},
        HealthRank::bad,
        evidence,
        {"a wire of the sensor is open", "its supply dips below what it needs", "it was asked before it was ready"},
        "Move each wire of the sensor in turn: the one at which the values come back is loose."};
}

/// Jumps between a plausible level and an end: a contact that opens and closes.
Verdict check_loose(const Signal& s) {
    if (!s.of_codes() || s.v.size() < 30 || !std::isfinite(s.full())) return {};
    const auto tail = s.last(240);
    const double edge = 0.01 * s.full();
    int flips = 0;
    std::size_t away = 0;
    std::vector<double> level;
    const auto at_end = [&](double x) { return x <= s.about.low + edge || x >= s.about.high - edge; };
    for (std::size_t i = 0; i < tail.size(); ++i) {
        away += at_end(tail[i]);
        flips += i > 0 && at_end(tail[i]) != at_end(tail[i - 1]);
        if (!at_end(tail[i])) level.push_back(tail[i]);
    }
    if (flips < 4 || away < 3 || level.size() < 10) return {};
    const double mid = median(level);
    std::vector<double> off;
    off.reserve(level.size());
    for (const double x : level)
        off.push_back(std::abs(x - mid));
    if (median(off) > 0.05 * s.full()) return {}; // no level to come back to
    return HealthVerdict{
        {},
        {},
        HealthRank::bad,
        fmt::format("{} jumps between {} and the end of the range in {} lines.", flips, s.amount(mid), tail.size()),
        {"a plug or a screw is loose", "a cold solder joint", "a wire is broken inside its sleeve"},
        "Wiggle the wire in three places: the place that answers is the broken one."};
}

/// Numbers of samples at the lowest and at the highest value, where both are flat ends: values far more frequent
/// than their neighbours. A sine read in steps has 2.4 times as many at its top step as at the next. Zero
/// otherwise.
std::pair<std::size_t, std::size_t> flat_ends(const std::vector<double>& values) {
    std::map<double, std::size_t> count;
    for (const double x : values)
        ++count[x];
    if (count.size() < 10) return {}; // states and steps have ends without being clipped
    const auto many = [&](auto at) {
        const std::size_t here = at->second;
        std::size_t beside = 0;
        for (int i = 0; i < 3; ++i)
            beside = std::max(beside, (++at)->second);
        return here >= 5 * beside && here >= std::max<std::size_t>(6, values.size() / 50) ? here : 0;
    };
    // A total that rests before and after the rain has flat ends as well, but never comes back to one.
    const auto visits = [&](double end) {
        std::size_t n = 0;
        for (std::size_t i = 0; i < values.size(); ++i)
            n += values[i] == end && (i == 0 || values[i - 1] != end);
        return n;
    };
    const std::size_t low = many(count.begin());
    const std::size_t high = many(count.rbegin());
    if (low == 0 || high == 0 || visits(count.begin()->first) < 2 || visits(count.rbegin()->first) < 2) return {};
    return {low, high};
}

/// Clipping shows by itself where the ends of the range are not known.
Verdict check_flat_ends(const Signal& s) {
    if (s.is(SignalKind::counter) || s.is(SignalKind::contact) || std::isfinite(s.about.high)) return {};
    const auto [low, high] = flat_ends(s.v);
    if (low == 0) return {};
    const auto [least, most] = std::minmax_element(s.v.begin(), s.v.end());
    return HealthVerdict{{},
                         {},
                         HealthRank::bad,
                         fmt::format("{} of {} values are exactly {}, {} exactly {}: flat at both ends.", high,
                                     s.v.size(), format_constant(*most, 7), low, format_constant(*least, 7)),
                         {"the signal is larger than the converter’s range", "an amplifier is at its supply",
                          "a step in the path cuts it off"},
                         "Make it smaller, or take a wider range: its top must become round."};
}

Verdict check_clipped(const Signal& s) {
    if (s.is(SignalKind::counter) || s.is(SignalKind::contact) || !std::isfinite(s.about.high) || s.v.empty())
        return {};
    const auto tail = s.last(s.is(SignalKind::wave) ? 300 : 30);
    const auto recent = tail.size();
    const auto high = std::count_if(tail.begin(), tail.end(), [&](double c) { return c >= s.about.high; });
    const auto low =
        std::count_if(tail.begin(), tail.end(), [&](double c) { return c <= s.about.low && s.of_codes(); });
    const auto many = static_cast<std::ptrdiff_t>(std::max<std::size_t>(4, recent / 4)); // one spike is no clipping
    if (high < many && low < many) return {};
    const bool is_high = high >= low;
    std::vector<std::string> causes = {"the supply wire is off", "the pin is shorted to ground",
                                       "the output lies below 0 V"};
    std::string next = "Measure the supply at the part’s own leg.";
    if (s.is(SignalKind::wave)) {
        causes = {"the finger presses too hard", "light from outside", "the probe’s gain is too high"};
        next = "Hold it as lightly as a butterfly: the top of the wave must become round.";
    } else if (!s.of_codes()) {
        causes = {"there is more than the part can say", "condensation on the sensor",
                  "a part that has died at its end"};
        next = "Bring it to a place where you know the value: a part that stays at its end is dead.";
    } else if (is_high) {
        causes = {"the ground wire is off", "the output is above the reference",
                  "the pin is shorted to the supply"};
        next =
            "Measure the pin against ground: at the reference or above, it is a wire; far below, it is the board.";
    }
    return HealthVerdict{{},
                         {},
                         HealthRank::bad,
                         fmt::format("{} of the last {} lines are at the {} {} ({}).", is_high ? high : low, recent,
                                     is_high ? "upper" : "lower", s.of_codes() ? "rail" : "end",
                                     format_constant(is_high ? s.about.high : s.about.low, 7)),
                         causes,
                         next};
}

/// A run of one code is implausible when the samples before it changed too often for that to be chance.
Verdict check_stuck(const Signal& s) {
    if (s.is(SignalKind::counter) || s.is(SignalKind::contact)) return {};
    const int run = s.figures.run;
    const auto before = s.v.size() - static_cast<std::size_t>(run);
    if (run < 30 || before < 20) return {};
    int changes = 0;
    for (std::size_t i = 1; i < before; ++i)
        changes += s.v[i] != s.v[i - 1];
    const double share = (changes + 0.5) / static_cast<double>(before);
    // In the middle of a code the same noise changes it about five times less often than at its edge.
    if (std::pow(1 - share / 5, run) > 1e-4) return {};
    return HealthVerdict{{},
                         {},
                         HealthRank::bad,
                         fmt::format("{} for {} lines; before that {:.0f} % of the lines changed.",
                                     format_constant(s.v.back()), run, 100 * share),
                         {"the sensor has died or lost its supply", "the board repeats an old value",
                          "the output is shorted to a steady voltage"},
                         "Warm the sensor with two fingers: within 20 s the code must move."};
}

Verdict check_floating(const Signal& s) {
    if (!s.is(SignalKind::codes) || !std::isfinite(s.full()) || s.v.size() < 15) return {};
    const auto tail = s.last(60);
    const double noise = difference_sd(tail);
    const Moments m = moments(tail);
    if (noise < 0.008 * s.full() || m.high - m.low < 0.03 * s.full()) return {};
    // A level with a few strays is a loose contact or spikes; a floating pin has no level.
    if (!hampel_outliers(tail, 5, 8, 3).empty() && noise < 0.03 * s.full()) return {};
    return HealthVerdict{{},
                         {},
                         HealthRank::bad,
                         fmt::format("jumps of {:.0f} counts from line to line, over {:.0f} counts in all: nothing "
                                     "holds the pin.",
                                     noise, m.high - m.low),
                         {"the signal wire is off", "the sensor has no supply", "a cold solder joint"},
                         "Touch the bare signal wire: if the jumps grow, the pin is open."};
}

/// A 16-bit sum that ran over: the number jumps by 65 536, or a quantity that cannot be negative is.
Verdict check_overflow(const Signal& s) {
    if (s.of_codes() || s.v.size() < 5) return {};
    int jumps = 0;
    for (std::size_t i = 1; i < s.v.size(); ++i)
        jumps += std::abs(std::abs(s.v[i] - s.v[i - 1]) - 65536) < 0.05 * 65536;
    const auto tail = s.last(60);
    const auto negative = std::count_if(tail.begin(), tail.end(), [](double x) { return x < -0.5; });
    if (jumps < 2 && !(s.about.never_negative && negative >= 5)) return {};
    return HealthVerdict{
        {},
        {},
        HealthRank::bad,
        jumps >= 2
            ? fmt::format("{} jumps by about 65 536.", jumps)
            : fmt::format("{} of the last {} values are below zero, which this cannot be.", negative, tail.size()),
        {"the program counts in 16 bits and the sum does not fit", "a signed type for an unsigned value"},
        "Look for the multiplication in the program: it needs a longer type on its first factor."};
}

/// One event that counts for several.
Verdict check_bounce(const Signal& s) {
    if (s.is(SignalKind::counter)) {
        std::size_t events = 0;
        double counts = 0;
        std::size_t doubles = 0;
        for (std::size_t i = 1; i < s.v.size(); ++i) {
            const double step = s.v[i] - s.v[i - 1];
            if (step <= 0 || step > 50) continue;
            ++events;
            counts += step;
            doubles += step >= 2;
        }
        if (events < 3 || 3 * events > s.v.size() || 2 * doubles < events) return {};
        return HealthVerdict{{},
                             {},
                             HealthRank::bad,
                             fmt::format("{} events brought {} counts: one tip counts {} times.", events,
                                         format_constant(counts),
                                         format_fixed(counts / static_cast<double>(events), 1)),
                             {"the contact bounces and the program waits for nothing", "both edges are counted",
                              "the cable picks up pulses: the pull-up is too weak"},
                             "Tip it once by hand: the count must grow by one."};
    }
    if (!s.is(SignalKind::contact) || s.v.size() < 30) return {};
    const auto tail = s.last(120);
    int flips = 0;
    for (std::size_t i = 1; i < tail.size(); ++i)
        flips += tail[i] != tail[i - 1];
    if (3 * static_cast<std::size_t>(flips) < tail.size()) return {};
    return HealthVerdict{{},
                         {},
                         HealthRank::bad,
                         fmt::format("{} changes in {} lines.", flips, tail.size()),
                         {"the contact bounces, or its hold time is at its shortest",
                          "sun, warm air or a curtain in sight", "the supply ripples"},
                         "Cover it for a minute: if it still changes, it is electrical."};
}

/// The expected range was left by all of the last values.
Verdict check_outside(const Signal& s) {
    if (!std::isfinite(s.about.expect_low + s.about.expect_high) || s.v.size() < 10) return {};
    if (s.is(SignalKind::wave) || s.is(SignalKind::counter) || s.is(SignalKind::contact)) return {};
    const double low = std::min(s.about.expect_low, s.about.expect_high);
    const double high = std::max(s.about.expect_low, s.about.expect_high);
    const auto tail = s.last(10);
    const double margin = 0.25 * (high - low);
    const bool below = std::all_of(tail.begin(), tail.end(), [&](double x) { return x < low - margin; });
    const bool above = std::all_of(tail.begin(), tail.end(), [&](double x) { return x > high + margin; });
    if (!below && !above) return {};
    if (s.about.quantity == "conductivity" && below)
        return HealthVerdict{
            {},
            {},
            HealthRank::bad,
            fmt::format("{} where {} or more belong: nothing conducts.",
                        s.amount(median({tail.begin(), tail.end()})), s.amount(low)),
            {"the probe is not in the water", "an air bubble sits in its cell", "its cable is off"},
            "Dip it and shake it: the value must jump at once."};
    return HealthVerdict{{},
                         {},
                         HealthRank::look,
                         fmt::format("{}, where {} to {} belong.", s.amount(median({tail.begin(), tail.end()})),
                                     s.amount(low), s.amount(high)),
                         {"the path has another constant than the part", "the sensor is not in its place",
                          "the thing itself is outside what was expected"},
                         "Hold a second instrument beside it."};
}

constexpr Entry all_values_checks[] = {
    {"overflow", "Ran over", check_overflow},        {"failed", "No value", check_failed, true},
    {"loose-contact", "Loose contact", check_loose}, {"clipped", "Clipped", check_clipped},
    {"clipped", "Clipped", check_flat_ends},         {"stuck", "Stuck", check_stuck},
    {"floating", "Floating", check_floating},        {"bounce", "Bounces", check_bounce},
    {"outside", "Out of place", check_outside},
};

} // namespace

std::span<const Entry> value_checks() {
    return all_values_checks;
}

} // namespace cognitum::health
