// What the lines themselves tell, before any number is looked at.
#include "core/analyse/health_checks.h"
#include "core/analyse/statistics.h"
#include "core/base/phrase.h"
#include "core/units/format.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum::health {

namespace {

using Verdict = std::optional<HealthVerdict>;

Verdict check_silent(const Signal& s) {
    if (!s.about.even) return {}; // a radio part that stands still says nothing, and that is no fault
    const double interval = std::max(s.about.promised_s, s.figures.interval_s);
    if (s.facts.now == 0 || s.samples.empty() || interval <= 0) return {};
    const double age = seconds(s.facts.now - s.samples.back().time);
    if (age < std::max(5 * interval, 3.0)) return {};
    return HealthVerdict{
        {},
        {},
        HealthRank::bad,
        phrase("nothing for {}, where a value belongs every {}.", age_text(s.facts.now - s.samples.back().time),
               format_measure(interval, "s")),
        {phrase("the board hangs or has no power"), phrase("the cable is out"),
         phrase("the network does not let it in")},
        phrase("Look at the board’s lamp: if it blinks, the board lives and the link is at fault.")};
}

Verdict check_wrong_speed(const Signal& s) {
    if (s.facts.odd_bytes < 64 || 4 * s.facts.odd_bytes < s.facts.bytes) return {};
    return HealthVerdict{{},
                         {},
                         HealthRank::bad,
                         phrase("{:.0f} % of the bytes are no text.",
                                100 * static_cast<double>(s.facts.odd_bytes) / static_cast<double>(s.facts.bytes)),
                         {phrase("the port runs at another speed than the board"),
                          phrase("another format: 7 bits or a parity bit"),
                          phrase("transmit and receive share a wire with something else")},
                         phrase("Let the speed be found: it is the one at which the lines read as text.")};
}

Verdict check_restarts(const Signal& s) {
    if (s.facts.restarts < 2) return {};
    return HealthVerdict{
        {},
        {},
        HealthRank::bad,
        phrase("the board started anew {} times.", s.facts.restarts),
        {phrase("its supply dips when something switches"), phrase("the watchdog ends a loop that hangs"),
         phrase("a reset line that something pulls")},
        phrase("Measure the supply at the board while it restarts: under its lowest voltage it is the supply.")};
}

Verdict check_half_lines(const Signal& s) {
    if (4 * s.facts.odd_bytes >= s.facts.bytes && s.facts.bytes > 0) return {}; // that is the speed
    const std::uint64_t cut = s.facts.rejected;
    // Against the lines that should have brought this reading: others may come a hundred times as often.
    const auto recent =
        static_cast<std::uint64_t>(std::count_if(s.samples.begin(), s.samples.end(), [&](const RawSample& r) {
            return r.time > s.facts.now - 10 * minute_us;
        }));
    if (cut < 5 || 20 * cut < std::min(s.facts.lines, recent + cut)) return {};
    return HealthVerdict{
        {},
        {},
        HealthRank::bad,
        phrase("{} of {} lines are cut or mixed.", cut, s.facts.lines),
        {phrase("two programs read one port"), phrase("the board prints from two places at once"),
         phrase("a buffer runs over: more is sent than the line carries")},
        phrase("Close every other program that has the port; if lines are still cut, ask for fewer of them.")};
}

Verdict check_clock_back(const Signal& s) {
    if (s.facts.set_back == 0) return {};
    return HealthVerdict{{},
                         {},
                         HealthRank::look,
                         phrase("the sender’s clock went back {} times.", s.facts.set_back),
                         {phrase("it was set by the network after it had begun"), phrase("its battery is empty"),
                          phrase("summer time in a clock that should have none")},
                         phrase("Compare its time with this computer’s; times of arrival are used meanwhile.")};
}

/// A part in a thousand: beyond that what the board times itself is worth less than a usual part's accuracy.
constexpr double usual_ppm = 1000;

Verdict check_clock_rate(const Signal& s) {
    const ClockFit& c = s.facts.clock;
    if (!c.known() || std::abs(c.drift_ppm) - 2 * c.u_drift_ppm < usual_ppm) return {};
    const bool fast = c.drift_ppm > 0;
    return HealthVerdict{
        {},
        {},
        HealthRank::look,
        phrase(
            "the board’s clock runs {} % {} against this computer’s: what it counts by the minute is as much too "
            "{}.",
            format_constant(std::abs(c.drift_ppm) / 1e4, 2), fast ? phrase("fast") : phrase("slow"),
            fast ? phrase("low") : phrase("high")),
        {phrase("a ceramic resonator instead of a crystal"), phrase("an oscillator that nobody trimmed"),
         phrase("a program that loses ticks while it waits")},
        phrase("Count over a time that this computer measures, or let the board set its clock by the network.")};
}

Verdict check_clock_offset(const Signal& s) {
    const ClockFit& c = s.facts.clock;
    if (!c.known() || !c.absolute || std::abs(c.offset_s) < 3 + 2 * c.u_offset_s) return {};
    return HealthVerdict{{},
                         {},
                         HealthRank::look,
                         phrase("the board’s clock is {} {}: a file that it writes is as much off.",
                                age_text(from_seconds(std::abs(c.offset_s))),
                                c.offset_s > 0 ? phrase("behind") : phrase("ahead")),
                         {phrase("it was set by hand"), phrase("it runs away and nobody sets it"),
                          phrase("this computer’s own clock is off")},
                         phrase("Compare both with a clock that the network sets, then set the board’s.")};
}

Verdict check_duplicates(const Signal& s) {
    if (s.facts.duplicates < 2) return {};
    return HealthVerdict{{},
                         {},
                         HealthRank::look,
                         phrase("{} lines came twice and were dropped.", s.facts.duplicates),
                         {phrase("the sender repeats what was not acknowledged"),
                          phrase("two subscriptions for one topic"),
                          phrase("the board keeps an old line in its buffer")},
                         phrase("Look at the sequence numbers: pairs at every gap of the network are repeats.")};
}

Verdict check_reordered(const Signal& s) {
    if (s.facts.late < 2) return {};
    return HealthVerdict{
        {},
        {},
        HealthRank::look,
        phrase("{} lines came after a later one.", s.facts.late),
        {phrase("several connections at once"), phrase("a board that sends from a queue with retries")},
        phrase("Send from one connection; times of the sender put them in order meanwhile.")};
}

Verdict check_too_fast(const Signal& s) {
    if (s.about.promised_s <= 0 || s.figures.interval_s <= 0 || s.figures.n < 30) return {};
    if (s.figures.interval_s * 5 > s.about.promised_s || !s.about.even) return {};
    return HealthVerdict{{},
                         {},
                         HealthRank::note,
                         phrase("{} values a second, where one every {} was promised.",
                                format_fixed(s.figures.rate_hz, 1), format_measure(s.about.promised_s, "s")),
                         {phrase("the program’s pause is missing or in the wrong unit"),
                          phrase("an interval that was set for a test")},
                         phrase("Ask the board for its interval.")};
}

Verdict check_gaps(const Signal& s) {
    const bool by_number = s.facts.lost >= 3 && 50 * s.facts.lost > s.facts.lines;
    const bool by_time = s.about.even && s.figures.gaps >= 3 && 50 * s.figures.gaps > s.figures.n;
    if (!by_number && !by_time) return {};
    return HealthVerdict{{},
                         {},
                         HealthRank::look,
                         by_number ? phrase("{} lines are missing by their sequence numbers.", s.facts.lost)
                                   : phrase("{} gaps longer than the usual {}.", s.figures.gaps,
                                            format_measure(std::round(s.figures.interval_s * 1000) / 1000, "s")),
                         {phrase("the network drops them"), phrase("more is sent than the line carries"),
                          phrase("the board is busy with something longer")},
                         phrase("Count what the board says it sent: if it sent all, it is the link.")};
}

Verdict check_jitter(const Signal& s) {
    if (!s.about.even || s.figures.n < 40 || s.figures.interval_s <= 0) return {};
    std::vector<double> steps; // of late: what came before may have been well
    const auto tail = s.samples.last(std::min<std::size_t>(s.samples.size(), 80));
    for (std::size_t i = 1; i < tail.size(); ++i)
        if (const double step = seconds(tail[i].time - tail[i - 1].time); step < 1.8 * s.figures.interval_s)
            steps.push_back(step);
    const double jitter_s = moments(steps).sd;
    if (jitter_s < 0.22 * s.figures.interval_s || jitter_s < 0.004) return {};
    return HealthVerdict{{},
                         {},
                         HealthRank::look,
                         phrase("intervals of {} scatter by {}.",
                                format_measure(std::round(s.figures.interval_s * 1000) / 1000, "s"),
                                format_measure(std::round(jitter_s * 1000) / 1000, "s")),
                         {phrase("the board measures when it finds the time"),
                          phrase("a slow sensor or display in the same loop"), phrase("a busy network")},
                         phrase("Let the board send its own milliseconds: if those are even, it is the link.")};
}

constexpr Entry all_stream_checks[] = {
    {"wrong-speed", for_people("Wrong speed"), check_wrong_speed},
    {"half-lines", for_people("Half lines"), check_half_lines, true},
    {"silent", for_people("Silent"), check_silent},
    {"restarts", for_people("Restarts"), check_restarts, true},
    {"duplicates", for_people("Doubled lines"), check_duplicates},
    {"reordered", for_people("Out of order"), check_reordered},
    {"clock-back", for_people("Clock set back"), check_clock_back},
    {"clock-rate", for_people("Clock too fast or slow"), check_clock_rate},
    {"clock-offset", for_people("Clock set wrong"), check_clock_offset},
    {"gaps", for_people("Gaps"), check_gaps},
    {"jitter", for_people("Uneven intervals"), check_jitter},
    {"too-fast", for_people("Faster than promised"), check_too_fast},
};

} // namespace

std::span<const Entry> stream_checks() {
    return all_stream_checks;
}

} // namespace cognitum::health
