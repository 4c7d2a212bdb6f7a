// Values that measure nothing: failed, clipped, stuck, floating, a loose contact, a counter that bounces.
#include "core/analyse/health_checks.h"
#include "core/analyse/statistics.h"
#include "core/base/phrase.h"
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
    const std::string evidence = phrase("{} of the last {} measurements brought no value.", failed, recent);
    if (s.is(SignalKind::distance))
        return HealthVerdict{{},
                             {},
                             HealthRank::bad,
                             evidence,
                             {phrase("the face is wet, frosted or dirty"),
                              phrase("the target is beyond its reach or slanted"),
                              phrase("the wall of the tube answers, or foam swallows the sound")},
                             phrase("Hold a flat board at 1 m: if it answers there, the target is at fault.")};
    return HealthVerdict{
        {},
        {},
        HealthRank::bad,
        evidence,
        {phrase("a wire of the sensor is open"), phrase("its supply dips below what it needs"),
         phrase("it was asked before it was ready")},
        phrase("Move each wire of the sensor in turn: the one at which the values come back is loose.")};
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
        phrase("{} jumps between {} and the end of the range in {} lines.", flips, s.amount(mid), tail.size()),
        {phrase("a plug or a screw is loose"), phrase("a cold solder joint"),
         phrase("a wire is broken inside its sleeve")},
        phrase("Wiggle the wire in three places: the place that answers is the broken one.")};
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
                         phrase("{} of {} values are exactly {}, {} exactly {}: flat at both ends.", high,
                                s.v.size(), format_constant(*most, 7), low, format_constant(*least, 7)),
                         {phrase("the signal is larger than the converter’s range"),
                          phrase("an amplifier is at its supply"), phrase("a step in the path cuts it off")},
                         phrase("Make it smaller, or take a wider range: its top must become round.")};
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
    std::vector<std::string> causes = {phrase("the supply wire is off"), phrase("the pin is shorted to ground"),
                                       phrase("the output lies below 0 V")};
    std::string next = phrase("Measure the supply at the part’s own leg.");
    if (s.is(SignalKind::wave)) {
        causes = {phrase("the finger presses too hard"), phrase("light from outside"),
                  phrase("the probe’s gain is too high")};
        next = phrase("Hold it as lightly as a butterfly: the top of the wave must become round.");
    } else if (!s.of_codes()) {
        causes = {phrase("there is more than the part can say"), phrase("condensation on the sensor"),
                  phrase("a part that has died at its end")};
        next = phrase("Bring it to a place where you know the value: a part that stays at its end is dead.");
    } else if (is_high) {
        causes = {phrase("the ground wire is off"), phrase("the output is above the reference"),
                  phrase("the pin is shorted to the supply")};
        next = phrase(
            "Measure the pin against ground: at the reference or above, it is a wire; far below, it is the board.");
    }
    return HealthVerdict{{},
                         {},
                         HealthRank::bad,
                         phrase("{} of the last {} lines are at the {} {} ({}).", is_high ? high : low, recent,
                                is_high ? phrase("upper") : phrase("lower"),
                                s.of_codes() ? phrase("rail") : phrase("end"),
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
                         phrase("{} for {} lines; before that {:.0f} % of the lines changed.",
                                format_constant(s.v.back()), run, 100 * share),
                         {phrase("the sensor has died or lost its supply"),
                          phrase("the board repeats an old value"),
                          phrase("the output is shorted to a steady voltage")},
                         phrase("Warm the sensor with two fingers: within 20 s the code must move.")};
}

Verdict check_floating(const Signal& s) {
    if (!s.is(SignalKind::codes) || !std::isfinite(s.full()) || s.v.size() < 15) return {};
    const auto tail = s.last(60);
    const double noise = difference_sd(tail);
    const Moments m = moments(tail);
    if (noise < 0.008 * s.full() || m.high - m.low < 0.03 * s.full()) return {};
    // A level with a few strays is a loose contact or spikes; a floating pin has no level.
    if (!hampel_outliers(tail, 5, 8, 3).empty() && noise < 0.03 * s.full()) return {};
    return HealthVerdict{
        {},
        {},
        HealthRank::bad,
        phrase("jumps of {:.0f} counts from line to line, over {:.0f} counts in all: nothing "
               "holds the pin.",
               noise, m.high - m.low),
        {phrase("the signal wire is off"), phrase("the sensor has no supply"), phrase("a cold solder joint")},
        phrase("Touch the bare signal wire: if the jumps grow, the pin is open.")};
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
            ? phrase("{} jumps by about 65 536.", jumps)
            : phrase("{} of the last {} values are below zero, which this cannot be.", negative, tail.size()),
        {phrase("the program counts in 16 bits and the sum does not fit"),
         phrase("a signed type for an unsigned value")},
        phrase("Look for the multiplication in the program: it needs a longer type on its first factor.")};
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
                             phrase("{} events brought {} counts: one tip counts {} times.", events,
                                    format_constant(counts), format_fixed(counts / static_cast<double>(events), 1)),
                             {phrase("the contact bounces and the program waits for nothing"),
                              phrase("both edges are counted"),
                              phrase("the cable picks up pulses: the pull-up is too weak")},
                             phrase("Tip it once by hand: the count must grow by one.")};
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
                         phrase("{} changes in {} lines.", flips, tail.size()),
                         {phrase("the contact bounces, or its hold time is at its shortest"),
                          phrase("sun, warm air or a curtain in sight"), phrase("the supply ripples")},
                         phrase("Cover it for a minute: if it still changes, it is electrical.")};
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
        return HealthVerdict{{},
                             {},
                             HealthRank::bad,
                             phrase("{} where {} or more belong: nothing conducts.",
                                    s.amount(median({tail.begin(), tail.end()})), s.amount(low)),
                             {phrase("the probe is not in the water"), phrase("an air bubble sits in its cell"),
                              phrase("its cable is off")},
                             phrase("Dip it and shake it: the value must jump at once.")};
    return HealthVerdict{{},
                         {},
                         HealthRank::look,
                         phrase("{}, where {} to {} belong.", s.amount(median({tail.begin(), tail.end()})),
                                s.amount(low), s.amount(high)),
                         {phrase("the path has another constant than the part"),
                          phrase("the sensor is not in its place"),
                          phrase("the thing itself is outside what was expected")},
                         phrase("Hold a second instrument beside it.")};
}

constexpr Entry all_values_checks[] = {
    {"overflow", for_people("Ran over"), check_overflow},
    {"failed", for_people("No value"), check_failed, true},
    {"loose-contact", for_people("Loose contact"), check_loose},
    {"clipped", for_people("Clipped"), check_clipped},
    {"clipped", for_people("Clipped"), check_flat_ends},
    {"stuck", for_people("Stuck"), check_stuck},
    {"floating", for_people("Floating"), check_floating},
    {"bounce", for_people("Bounces"), check_bounce},
    {"outside", for_people("Out of place"), check_outside},
};

} // namespace

std::span<const Entry> value_checks() {
    return all_values_checks;
}

} // namespace cognitum::health
