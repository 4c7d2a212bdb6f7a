// What each movement asks of a trial, and how it is seen.
#include "core/bringup/trial_judge.h"

#include "core/analyse/statistics.h"
#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <fmt/format.h>

namespace cognitum {

namespace {
constexpr double counter_quiet_s = 30; ///< without an event: a pour is over
} // namespace

void Judge::move(int direction) {
    const double mark = size();
    int sign = direction; // of the raw signal
    if (direction != 0)
        if (const double step = raw_step(s.least > 0 ? s.least : 1); std::isfinite(step) && step < 0)
            sign = -direction;
    if (sign >= 0) v.mark_high = m_parted.level + mark;
    if (sign <= 0) v.mark_low = m_parted.level - mark;
    const std::string where = sign > 0   ? phrase("up to {} or more", amount(v.mark_high))
                              : sign < 0 ? phrase("down to {} or less", amount(v.mark_low))
                                         : phrase("by {} or more", amount(mark));
    v.must = phrase("The raw signal moves {} within {}.", where, format_measure(m_limit, "s"));
    const double r = recent();
    v.seen = seen_move();
    if (std::isfinite(r) && m_parted.after_good.size() >= 2 && (r >= v.mark_high || r <= v.mark_low)) end(true);
}

void Judge::come_back() {
    const double mark = size();
    v.mark_low = m_parted.level - mark;
    v.mark_high = m_parted.level + mark;
    v.must = phrase("The raw signal moves by {} or more, and comes back, within {}.", amount(mark),
                    format_measure(m_limit, "s"));
    double farthest = 0;
    bool away = false;
    std::vector<double> last;
    for (const double x : m_parted.after_good) {
        last.push_back(x);
        if (last.size() > 3) last.erase(last.begin());
        if (last.size() < std::min<std::size_t>(3, least_before)) continue;
        const double off = std::abs(median(last) - m_parted.level);
        farthest = std::max(farthest, off);
        if (!away && off >= mark) {
            away = true;
            v.phase = TrialPhase::undoing;
            v.now = s.undo;
        } else if (away && off <= std::max(mark / 2, farthest / 5)) { // the thing itself may go on moving a little
            end(true);
            break;
        }
    }
    v.seen = away ? (v.over() ? phrase("it moved and came back") : phrase("it moved; now it must come back"))
                  : seen_move();
}

void Judge::sweep() {
    const double span = std::abs(m_about.signal.expect_high - m_about.signal.expect_low);
    const double wanted = std::isfinite(span) && span > 0 ? s.least * span : 20 * std::max(m_parted.noise, 1e-12);
    v.must =
        phrase("The raw signal sweeps over {} or more within {}.", amount(wanted), format_measure(m_limit, "s"));
    double seen = 0;
    if (!m_parted.after_good.empty()) {
        const auto [low, high] = std::minmax_element(m_parted.after_good.begin(), m_parted.after_good.end());
        seen = *high - *low;
    }
    v.seen = phrase("{} so far", amount(seen));
    if (seen >= wanted) end(true);
}

void Judge::count() {
    const bool counter = m_about.signal.kind == SignalKind::counter;
    double previous = m_parted.before.empty() ? no_number : m_parted.before.back();
    const double rest = counter ? 0 : std::isfinite(m_parted.level) ? m_parted.level : 0;
    int events = 0;
    TimeUs last = m_trial.started;
    for (const RawSample& x : m_parted.after) {
        if (!std::isfinite(x.code)) continue;
        int here = 0;
        if (std::isfinite(previous)) {
            if (counter)
                here = x.code > previous ? static_cast<int>(std::lround(std::min(x.code - previous, 1e6))) : 0;
            else
                here = x.code != rest && previous == rest ? 1 : 0;
        }
        if (here > 0) {
            events += here;
            last = x.time;
        }
        previous = x.code;
    }
    const double quiet = std::max(3.0, 3 * m_interval);
    v.must = phrase("Exactly {} within {}, and none more in the {} after.", s.count, format_measure(m_limit, "s"),
                    format_measure(quiet, "s"));
    v.seen = phrase("{} of {}", events, s.count);
    if (events > s.count)
        end(false);
    else if (events == s.count && seconds(m_now - last) >= quiet)
        end(true);
    else if (events == s.count) {
        v.now = phrase("Now leave it alone.");
        v.phase = TrialPhase::undoing;
    }
}

void Judge::stand() {
    const double mark = size();
    v.mark_low = m_parted.level - mark;
    v.mark_high = m_parted.level + mark;
    v.must = phrase("The raw signal stays within ± {} for {}.", amount(mark), format_measure(m_limit, "s"));
    double worst = 0;
    for (std::size_t i = 2; i < m_parted.after_good.size(); ++i)
        worst =
            std::max(worst, std::abs(median({m_parted.after_good.begin() + static_cast<std::ptrdiff_t>(i) - 2,
                                             m_parted.after_good.begin() + static_cast<std::ptrdiff_t>(i) + 1}) -
                                     m_parted.level));
    v.seen = phrase("off by {} at most", amount(worst));
    if (worst > mark)
        end(false);
    else if (late() && m_parted.after_good.size() >= 3)
        end(true);
}

void Judge::calm() {
    const double wanted = s.least * m_parted.scatter;
    v.must = phrase("The scatter falls below {}; it is {}.", amount(wanted), amount(m_parted.scatter));
    const std::size_t window = std::max<std::size_t>(10, static_cast<std::size_t>(3 / m_interval));
    const auto& good = m_parted.after_good;
    if (good.size() < window) {
        v.seen = phrase("too few values yet");
        return;
    }
    const double now = moments(std::span(good).last(window)).sd;
    v.seen = phrase("scatter {}", amount(now));
    if (now < wanted) end(true);
}

void Judge::agree() {
    const Chain path = read_off_path(s, m_about.path);
    const std::string unit = !path.stages.empty()          ? path.last_unit()
                             : m_about.signal.unit.empty() ? m_about.unit
                                                           : m_about.signal.unit;
    if (!std::isfinite(m_trial.read_off)) {
        v.now = phrase("Type what you read off: {}, in {}.", s.asks, unit_symbol(unit));
        return;
    }
    const auto in_unit = convert_unit(m_about.accuracy, m_about.unit, unit);
    const auto zero = convert_unit(0, m_about.unit, unit);
    const double needed = in_unit && zero ? std::abs(*in_unit - *zero) : m_about.accuracy;
    const double mark = std::hypot(needed, m_trial.read_off_doubt);
    if (s.raw && path.stages.empty()) {
        v.mark_low = m_trial.read_off - mark;
        v.mark_high = m_trial.read_off + mark;
    }
    v.must = phrase("It agrees with {} to {} within {}.", format_value(m_trial.read_off, mark, unit),
                    format_value(mark, mark / 5, unit), format_measure(m_limit, "s"));
    const auto converted = [&](double raw) { return forward(path, raw).number; };
    // A counter goes on from where it was: what counts is how far it went since the start, once it stands still.
    const bool counter = m_about.signal.kind == SignalKind::counter;
    const double from = !counter                      ? 0
                        : !m_parted.before.empty()    ? converted(m_parted.before.back())
                        : m_parted.after_good.empty() ? 0
                                                      : converted(m_parted.after_good.front());
    std::vector<double> values;
    TimeUs changed = m_trial.started;
    for (const RawSample& x : m_parted.after) {
        const double value = std::isfinite(x.code) ? converted(x.code) - from : no_number;
        if (!std::isfinite(value)) continue;
        if (counter && !values.empty() && value != values.back()) changed = x.time;
        values.push_back(value);
    }
    // The last three: those before were taken while the person was still at it.
    if (values.size() > 3) values.erase(values.begin(), values.end() - 3);
    if (values.size() < 3) {
        v.seen = phrase("{} of 3 values", values.size());
        return;
    }
    const Moments m = moments(values);
    const double mean = m.mean;
    v.seen = phrase("{}: off by {}", format_value(mean, mark / 2, unit),
                    format_value(mean - m_trial.read_off, mark / 2, unit));
    if (counter && (mean <= 0 || seconds(m_now - changed) < counter_quiet_s)) return; // it may still be pouring
    if (m.low >= m_trial.read_off - mark && m.high <= m_trial.read_off + mark) end(true);
}

void Judge::arrive() {
    const double share = m_about.signal.even ? 0.9 : 0.5;
    const auto wanted = static_cast<std::uint64_t>(std::max(1.0, std::floor(share * m_limit / m_interval)));
    const std::uint64_t came = m_lines.lines - std::min(m_lines.lines, m_trial.at_start.lines);
    const std::uint64_t lost = m_lines.lost - std::min(m_lines.lost, m_trial.at_start.lost);
    v.must = phrase("At least {} lines within {}, and none lost.", wanted, format_measure(m_limit, "s"));
    v.seen = phrase("{} lines, {} lost", came, lost);
    if (lost > 0)
        end(false);
    else if (late())
        end(came >= wanted);
}

void Judge::beat() {
    v.must = phrase("Five even beats between 40 and 200 a minute within {}.", format_measure(m_limit, "s"));
    std::vector<double> wave;
    std::vector<TimeUs> times;
    for (const RawSample& x : m_parted.after)
        if (std::isfinite(x.code) && x.time > m_now - 10 * second_us) {
            wave.push_back(x.code);
            times.push_back(x.time);
        }
    v.seen = phrase("no rhythm yet");
    if (wave.size() < 30) return;
    std::vector<double> sorted = wave;
    std::sort(sorted.begin(), sorted.end());
    const double low = sorted[sorted.size() / 10];
    const double high = sorted[sorted.size() - 1 - sorted.size() / 20];
    if (high - low < std::max(8 * difference_sd(wave), 4 * m_about.signal.resolution)) return;
    std::vector<double> gaps;
    bool up = true; // the first beat must rise from the foot
    TimeUs last = 0;
    for (std::size_t i = 0; i < wave.size(); ++i) {
        if (up && wave[i] < low + 0.35 * (high - low)) up = false;
        if (up || wave[i] < low + 0.65 * (high - low)) continue;
        up = true;
        if (last != 0) gaps.push_back(seconds(times[i] - last));
        last = times[i];
    }
    if (gaps.size() < 4) return;
    const double usual = median(gaps);
    const auto odd =
        std::count_if(gaps.begin(), gaps.end(), [&](double g) { return std::abs(g - usual) > 0.25 * usual; });
    v.seen = phrase("{:.0f} a minute, {} of {} beats even", 60 / usual, gaps.size() - static_cast<std::size_t>(odd),
                    gaps.size());
    if (gaps.size() >= 5 && odd == 0 && usual >= 0.3 && usual <= 1.5) end(true);
}

void Judge::break_off() {
    const SignalAbout& a = m_about.signal;
    v.must = phrase("The raw signal breaks off, runs to an end or wanders wildly within {}.",
                    format_measure(m_limit, "s"));
    v.seen = phrase("it goes on as before");
    if (m_parted.after.size() < 3) {
        if (late()) { // a part that says nothing any more has answered as well
            v.seen = phrase("nothing comes any more");
            end(true);
        }
        return;
    }
    const auto last = std::span(m_parted.after).last(std::min<std::size_t>(6, m_parted.after.size()));
    std::vector<double> good;
    for (const RawSample& x : last)
        if (std::isfinite(x.code)) good.push_back(x.code);
    const double edge = 0.01 * (a.high - a.low);
    if (good.size() < last.size()) {
        v.seen = phrase("values are missing");
        end(true);
    } else if (std::all_of(good.begin(), good.end(),
                           [&](double x) { return x <= a.low + edge || x >= a.high - edge; })) {
        v.seen = phrase("it stays at {}", amount(good.back()));
        end(true);
    } else if (good.size() >= 6 && moments(good).sd > std::max(10 * m_parted.noise, 8 * a.resolution)) {
        v.seen = phrase("it wanders by {}", amount(moments(good).sd));
        end(true);
    }
}

} // namespace cognitum
