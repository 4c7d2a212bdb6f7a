#include "session/live/live_views.h"

#include "core/base/no_number.h"
#include "core/plan/loom/wiring_steps.h"
#include "core/plan/path.h"
#include "core/plan/reading_doubt.h"
#include "core/plan/rules/arrivals.h"
#include "core/plan/signal_about.h"
#include "core/program/program.h"
#include "session/session.h"

#include <algorithm>
#include <cmath>

namespace cognitum {

const LiveViews::OfPlan& LiveViews::ofPlan() const {
    if (m_of_plan.revision == m_session.planRevision()) return m_of_plan;
    m_of_plan = {};
    m_of_plan.revision = m_session.planRevision();
    for (const Reading& r : m_session.bench().readings) {
        m_of_plan.of_reading[r.id] = check_reading(m_session.bench(), m_session.catalog(), r);
        const Loom loom = reading_loom(m_session.bench(), m_session.catalog(), r);
        m_of_plan.steps[r.id] = wiring_steps(m_session.bench(), m_session.catalog(), r, loom).size();
    }
    for (const BoardUse& use : m_session.bench().boards) {
        m_of_plan.of_board[use.id] = check_board(m_session.bench(), m_session.catalog(), use);
        m_of_plan.programs[use.id] = {program_fingerprint(m_session.bench(), m_session.catalog(), use),
                                      constants_fingerprint(m_session.bench(), use)};
    }
    return m_of_plan;
}

std::size_t LiveViews::wiringSteps(const std::string& reading) const {
    const auto at = ofPlan().steps.find(reading);
    return at == ofPlan().steps.end() ? 0 : at->second;
}

std::vector<Finding> LiveViews::findings(const Reading& reading, const Live& live) const {
    const OfPlan& plan = ofPlan();
    std::vector<Finding> out;
    if (const auto own = plan.of_reading.find(reading.id); own != plan.of_reading.end()) out = own->second;
    for (const auto& [board, found] : plan.of_board)
        for (const Finding& f : found) // some are about what one reading switches
            if (f.reading == reading.id || (f.reading.empty() && board == reading.wiring.board)) out.push_back(f);
    std::stable_sort(out.begin(), out.end(),
                     [](const Finding& a, const Finding& b) { return a.severity > b.severity; });
    // What arrives stands before what the plan says.
    const BoardCard* card = m_session.boardCard(reading);
    if (const auto board = live.boards.find(reading.feed()); card && board != live.boards.end())
        if (auto differs = board_reference_differs(reading, *card, board->second.reference.toStdString()))
            out.insert(out.begin(), std::move(*differs));
    const auto board = live.boards.find(reading.feed());
    const BoardUse* use = m_session.bench().board(reading.feed());
    if (const auto known = use ? plan.programs.find(use->id) : plan.programs.end();
        board != live.boards.end() && known != plan.programs.end())
        if (auto other = board_runs_another_plan(reading, *use, board->second.program.toStdString(),
                                                 known->second.plan, known->second.constants))
            out.insert(out.begin(), std::move(*other));
    const std::vector<Finding> of_signal = signal_findings(reading, health(reading, live));
    out.insert(out.begin(), of_signal.begin(), of_signal.end());
    return out;
}

std::vector<RawSample> LiveViews::rawSamples(const Reading& reading, const Live& live) const {
    std::vector<RawSample> out;
    const auto known = live.readings.find(reading.id);
    if (known == live.readings.end()) return out;
    if (!reading.source.signal.empty()) return {known->second.signal.begin(), known->second.signal.end()};
    for (const LivePoint& p : known->second.points)
        out.push_back({p.time, p.raw});
    return out;
}

std::vector<RawSample> LiveViews::withLive(std::vector<RawSample> recorded, const Reading& reading, TimeUs since,
                                           const Live& live) const {
    const auto known = live.readings.find(reading.id);
    if (known == live.readings.end()) return recorded;
    for (const LivePoint& p : known->second.points)
        if (p.time >= since && (recorded.empty() || p.time > recorded.back().time))
            recorded.push_back({p.time, p.raw});
    return recorded;
}

SignalAbout LiveViews::rawAbout(const Reading& reading) const {
    return about_signal(place(m_session.bench(), m_session.catalog(), reading));
}

const std::vector<HealthVerdict>& LiveViews::health(const Reading& reading, const Live& live) const {
    Health& known = m_health[reading.id];
    const std::int64_t second = m_session.now() / second_us;
    const auto at = live.readings.find(reading.id);
    const std::uint64_t revision =
        m_session.planRevision() + (at == live.readings.end() ? 0 : at->second.points.size());
    if (known.second == second && known.revision == revision) return known.verdicts;
    StreamFacts facts;
    const auto board = live.boards.find(reading.feed());
    if (board != live.boards.end()) facts = board->second.facts;
    facts.now = m_session.now();
    known = {second, revision, judge_health(rawSamples(reading, live), rawAbout(reading), facts)};
    return known.verdicts;
}

double LiveViews::noise(const Reading& reading, const Live& live) const {
    const auto known = live.readings.find(reading.id);
    // A mean over many beats or turns is no raw number whose scatter says how good one is.
    if (known == live.readings.end() || !reading.source.collect.empty()) return 0;
    double noise = 0;
    const auto& points = known->second.points;
    std::vector<RawSample> samples;
    for (auto p = points.end() - static_cast<std::ptrdiff_t>(std::min<std::size_t>(60, points.size()));
         p != points.end(); ++p)
        samples.push_back({p->time, p->raw});
    if (samples.size() >= 10) noise = signal_figures(samples, 10).noise;
    // The quantisation is in the scatter of the codes as well, and is counted on its own.
    return std::sqrt(std::max(0.0, noise * noise - 1.0 / 12));
}

Partners LiveViews::partnersAt(const Reading& reading, const Live& live, int depth) const {
    Partners out;
    if (depth > 8) return out; // a file may hold a circle; nobody waits for it
    for (const std::string& id : followed(reading.path)) {
        const Reading* other = m_session.bench().reading(id);
        const auto at = live.readings.find(id);
        if (!other || at == live.readings.end() || !at->second.value.ok()) continue;
        const LiveReading& now_there = at->second;
        if (freshness(now_there.time, m_session.now(), other->quantity) == Freshness::silent) continue;
        const double u = now_there.by_hand ? now_there.hand_doubt / 2
                                           : budgetAt(*other, now_there.raw, live, depth + 1).standard_uncertainty;
        out[id] = {now_there.value.number, std::isfinite(u) ? u : 0, other->quantity.unit, other->name,
                   now_there.time.value_or(0)};
    }
    return out;
}

Partners LiveViews::partners(const Reading& reading, const Live& live) const {
    return partnersAt(reading, live, 0);
}

Budget LiveViews::budgetAt(const Reading& reading, double raw, const Live& live, int depth) const {
    const Partners fed = partnersAt(reading, live, depth);
    return reading_budget(reading, m_session.part(reading), raw, noise(reading, live), m_session.now(),
                          part_limit(place(m_session.bench(), m_session.catalog(), reading), raw, fed), fed);
}

Budget LiveViews::budget(const Reading& reading, double raw, const Live& live) const {
    return budgetAt(reading, raw, live, 0);
}

DoubtInputs LiveViews::doubts(const Reading& reading, double raw, const Live& live) const {
    const Partners fed = partners(reading, live);
    return reading_doubts(reading, m_session.part(reading), raw, noise(reading, live), m_session.now(),
                          part_limit(place(m_session.bench(), m_session.catalog(), reading), raw, fed), fed);
}

} // namespace cognitum
