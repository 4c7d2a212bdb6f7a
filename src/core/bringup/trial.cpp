#include "core/bringup/trial_judge.h"

#include "core/analyse/statistics.h"
#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/plan/signal_about.h"
#include "core/units/format.h"
#include "core/units/quantity_kind.h"
#include "core/units/unit.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr std::size_t most_before = 40;
} // namespace

Parted part(const Trial& trial, std::span<const RawSample> samples, double interval_s, bool gathers) {
    Parted out;
    const TimeUs from = trial.started - from_seconds(std::max(30.0, 40 * interval_s));
    TimeUs start = trial.started;
    const auto fill = [&] {
        out.before.clear();
        for (const RawSample& s : samples)
            if (s.time >= from && s.time < start && std::isfinite(s.code)) out.before.push_back(s.code);
    };
    fill();
    // Too little came before: the first values after the start are the level, and the stimulus waits for them.
    if (gathers && out.before.size() < least_before)
        for (const RawSample& s : samples) {
            if (s.time < trial.started || !std::isfinite(s.code)) continue;
            start = s.time + 1;
            if (out.before.push_back(s.code); out.before.size() >= least_before) break;
        }
    if (out.before.size() > most_before)
        out.before.erase(out.before.begin(), out.before.end() - static_cast<std::ptrdiff_t>(most_before));
    for (const RawSample& s : samples)
        if (s.time >= start) {
            out.after.push_back(s);
            if (std::isfinite(s.code)) out.after_good.push_back(s.code);
        }
    if (out.before.empty()) return out;
    out.level = median(out.before);
    out.noise = out.before.size() > 2 ? difference_sd(out.before) : 0;
    out.scatter = moments(out.before).sd;
    return out;
}

std::string Judge::amount(double raw) const {
    const SignalAbout& a = m_about.signal;
    const bool codes = a.kind == SignalKind::codes || a.kind == SignalKind::wave;
    const double noise = std::max(m_parted.noise, a.resolution);
    const int decimals = codes                           ? (std::abs(raw) < 10 ? 1 : 0)
                         : a.kind == SignalKind::counter ? 0
                         : a.kind == SignalKind::contact ? 1
                         : noise > 0                     ? decimals_for(2 * noise)
                                                         : 2;
    std::string out = format_fixed(raw, std::min(decimals, 4));
    if (codes) return phrase("{} counts", out);
    if (const std::string symbol = a.unit.empty() ? std::string() : unit_symbol(a.unit); !symbol.empty())
        out += std::string(thin_space) + symbol;
    return out;
}

/// A change of the quantity, in its kind's first unit, as a change of the raw signal from the level on; signed.
double Judge::raw_step(double change) const {
    const QuantityKind* kind = find_quantity_kind(m_about.kind);
    const std::string first = kind && !kind->units.empty() ? kind->units.front() : m_about.unit;
    const auto in = [&](const std::string& unit) {
        const auto a = convert_unit(0, first, unit);
        const auto b = convert_unit(change, first, unit);
        return a && b ? *b - *a : no_number;
    };
    if (m_about.path.stages.empty()) {
        const double step = in(m_about.signal.unit.empty() ? m_about.unit : m_about.signal.unit);
        return m_about.signal.kind == SignalKind::distance && m_about.kind == "level" ? -step : step;
    }
    const Value here = forward(m_about.path, m_parted.level);
    if (!here.ok()) return no_number;
    const Value there = inverse(m_about.path, here.number + in(m_about.unit));
    return there.ok() ? there.number - m_parted.level : no_number;
}

/// Median of the last three, so that one spike is no answer.
double Judge::recent() const {
    const auto& good = m_parted.after_good;
    if (good.empty()) return no_number;
    return median({good.end() - static_cast<std::ptrdiff_t>(std::min<std::size_t>(3, good.size())), good.end()});
}

/// Least movement that counts, raw, without a sign: what is asked, and never less than five times the noise or two
/// steps of the converter.
double Judge::size() const {
    const double asked = s.least > 0 ? std::abs(raw_step(s.least)) : 0;
    // Events are whole: one of a counter, more than half a step of a contact.
    const SignalKind kind = m_about.signal.kind;
    const double step = kind == SignalKind::counter   ? 1
                        : kind == SignalKind::contact ? 0.5
                                                      : 2 * m_about.signal.resolution;
    return std::max({std::isfinite(asked) ? asked : 0, 5 * m_parted.noise, step, 1e-12});
}

std::string Judge::seen_move() const {
    const double r = recent();
    if (!std::isfinite(r)) return phrase("no value yet");
    const double change = r - m_parted.level;
    return phrase("from {} to {} ({}{})", amount(m_parted.level), amount(r), change > 0 ? "+" : "", amount(change));
}

TrialView Judge::judge() {
    v.seconds_left = std::max(0.0, m_limit - elapsed());
    v.level = m_parted.level;
    v.now = s.act;
    if (needs_level() && m_parted.before.size() < least_before) {
        v.now = phrase("Do nothing yet: the level before is being measured.");
        v.seen = phrase("{} of {} values", m_parted.before.size(), least_before);
        if (late()) {
            v.seen = phrase("nothing comes: no test can be judged. Start with the question tree.");
            end(false);
        }
        return v;
    }
    v.phase = TrialPhase::acting;
    switch (s.movement) {
    case Movement::rises: move(1); break;
    case Movement::falls: move(-1); break;
    case Movement::moves: move(0); break;
    case Movement::returns: come_back(); break;
    case Movement::sweeps: sweep(); break;
    case Movement::counts: count(); break;
    case Movement::stands: stand(); break;
    case Movement::calms: calm(); break;
    case Movement::agrees: agree(); break;
    case Movement::arrives: arrive(); break;
    case Movement::beats: beat(); break;
    case Movement::breaks: break_off(); break;
    }
    if (!v.over() && late()) end(false);
    if (v.over()) v.now = v.phase == TrialPhase::passed ? s.yes : s.no;
    return v;
}

Chain read_off_path(const Stimulus& stimulus, const Chain& path) {
    if (!stimulus.raw) return path;
    for (std::size_t i = 0; i < path.stages.size(); ++i)
        if (std::holds_alternative<Echo>(path.stages[i]))
            return {path.name,
                    path.input_unit,
                    {path.stages.begin(), path.stages.begin() + static_cast<std::ptrdiff_t>(i + 1)}};
    return {};
}

TrialAbout trial_about(const Placed& p) {
    TrialAbout out;
    out.signal = about_signal(p);
    if (p.reading->source.signal.empty()) out.path = effective_path(*p.reading);
    out.kind = p.reading->quantity.kind;
    out.unit = p.reading->quantity.unit;
    out.accuracy = p.reading->quantity.accuracy;
    out.response_s = p.part ? p.part->response_s : 0;
    return out;
}

StimulusFor stimulus_for(const Placed& p) {
    return {p.reading->quantity.kind, p.part ? p.part->family : "", about_signal(p).kind};
}

TrialView judge_trial(const Trial& trial, const TrialAbout& about, std::span<const RawSample> samples,
                      LineCount lines, TimeUs now) {
    return Judge(trial, about, samples, lines, now).judge();
}

} // namespace cognitum
