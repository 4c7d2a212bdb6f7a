// What a session works out from its plan and the live values: findings, health, budgets.
#include "session/session.h"

#include "core/plan/path.h"
#include "core/plan/signal_about.h"
#include "core/plan/wiring_steps.h"
#include "core/uncertainty/reading_doubt.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

const Session::PlanView& Session::planView() const {
    if (m_plan_view.revision == m_plan_revision) return m_plan_view;
    m_plan_view = {};
    m_plan_view.revision = m_plan_revision;
    for (const Reading& r : m_bench.readings) {
        m_plan_view.of_reading[r.id] = check_reading(m_bench, catalog(), r);
        const Loom loom = reading_loom(m_bench, catalog(), r);
        m_plan_view.steps[r.id] = wiring_steps(m_bench, catalog(), r, loom).size();
    }
    for (const BoardUse& use : m_bench.boards)
        m_plan_view.of_board[use.id] = check_board(m_bench, catalog(), use);
    return m_plan_view;
}

std::size_t Session::wiringSteps(const std::string& reading) const {
    const auto at = planView().steps.find(reading);
    return at == planView().steps.end() ? 0 : at->second;
}

std::vector<Finding> Session::findings(const Reading& reading, const Live& live) const {
    const PlanView& plan = planView();
    std::vector<Finding> out;
    for (const auto& [list, id] :
         {std::pair{&plan.of_reading, reading.id}, std::pair{&plan.of_board, reading.wiring.board}})
        if (const auto at = list->find(id); at != list->end())
            out.insert(out.end(), at->second.begin(), at->second.end());
    std::stable_sort(out.begin(), out.end(),
                     [](const Finding& a, const Finding& b) { return a.severity > b.severity; });
    const BoardCard* card = boardCard(reading);
    const auto board = live.boards.find(reading.feed());
    if (card && board != live.boards.end() && !board->second.reference.isEmpty()) {
        const std::string says = board->second.reference.toStdString();
        const VoltageReference* planned = card->reference(reading.wiring.reference);
        const VoltageReference* real = card->reference(says);
        if (planned && real && planned != real) {
            Finding f;
            f.id = "board-reference-differs";
            f.severity = Severity::error;
            f.reading = reading.id;
            f.stop = Stop::raw;
            f.message = fmt::format("The board says that it measures against {}; the plan says {}.", real->name,
                                    planned->name);
            f.why =
                fmt::format("Every voltage is wrong by a factor of {:.1f}.", planned->voltage_V / real->voltage_V);
            f.fix = "Tell the board, or change the plan at Wiring.";
            f.action = FixAction{"Tell the board", {}, -1, "reference " + planned->id};
            out.insert(out.begin(), f);
        }
    }
    std::size_t place = 0; // of the first verdict; they stand before what the plan says
    for (const HealthVerdict& v : health(reading, live)) {
        if (v.rank == HealthRank::note || v.id == "silent") continue; // the path line tells of silence itself
        Finding f;
        f.id = v.id;
        f.severity = v.bad() ? Severity::error : Severity::look;
        f.reading = reading.id;
        f.stop = Stop::raw;
        f.message = v.title + ": " + v.evidence;
        for (const std::string& cause : v.causes)
            f.why += (f.why.empty() ? "Likely, in this order: " : "; ") + cause;
        if (!f.why.empty()) f.why += ".";
        f.fix = v.next_test;
        f.action = FixAction{"Look at the raw signal", {}, static_cast<int>(Stop::raw), {}};
        out.insert(out.begin() + static_cast<std::ptrdiff_t>(place++), f);
    }
    return out;
}

std::vector<RawSample> Session::rawSamples(const Reading& reading, const Live& live) const {
    std::vector<RawSample> out;
    const auto known = live.readings.find(reading.id);
    if (known == live.readings.end()) return out;
    if (!reading.source.signal.empty()) return {known->second.signal.begin(), known->second.signal.end()};
    for (const LivePoint& p : known->second.points)
        out.push_back({p.time, p.raw});
    return out;
}

std::vector<RawSample> Session::history(const Reading& reading, TimeUs since, const Live& live) {
    constexpr std::size_t most = 500'000;
    std::vector<RawSample> out;
    if (m_file)
        (void)for_each_sample(*m_file, reading.id, since, now(), [&](std::span<const Sample> samples) {
            for (const Sample& s : samples)
                out.push_back({s.time, s.cause == Cause::failed ? std::nan("") : s.raw});
            return out.size() < most;
        });
    const auto known = live.readings.find(reading.id);
    if (known == live.readings.end()) return out;
    for (const LivePoint& p : known->second.points)
        if (p.time >= since && (out.empty() || p.time > out.back().time)) out.push_back({p.time, p.raw});
    return out;
}

SignalAbout Session::rawAbout(const Reading& reading) const {
    return about_signal(place(m_bench, catalog(), reading));
}

const std::vector<HealthVerdict>& Session::health(const Reading& reading, const Live& live) const {
    Health& known = m_health[reading.id];
    const std::int64_t second = now() / second_us;
    const auto at = live.readings.find(reading.id);
    const std::uint64_t revision = m_plan_revision + (at == live.readings.end() ? 0 : at->second.points.size());
    if (known.second == second && known.revision == revision) return known.verdicts;
    StreamFacts facts;
    const auto board = live.boards.find(reading.feed());
    if (board != live.boards.end()) facts = board->second.facts;
    facts.now = now();
    known = {second, revision, judge_health(rawSamples(reading, live), rawAbout(reading), facts)};
    return known.verdicts;
}

double Session::noise(const Reading& reading, const Live& live) const {
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

Partners Session::partners(const Reading& reading, const Live& live, int depth) const {
    Partners out;
    if (depth > 8) return out; // a file may hold a circle; nobody waits for it
    for (const std::string& id : followed(reading.path)) {
        const Reading* other = m_bench.reading(id);
        const auto at = live.readings.find(id);
        if (!other || at == live.readings.end() || !at->second.value.ok()) continue;
        const LiveReading& now_there = at->second;
        if (freshness(now_there.time, now(), other->quantity) == Freshness::silent) continue;
        const double u = now_there.by_hand ? now_there.hand_doubt / 2
                                           : budgetAt(*other, now_there.raw, live, depth + 1).standard_uncertainty;
        out[id] = {now_there.value.number, std::isfinite(u) ? u : 0, other->quantity.unit, other->name,
                   now_there.time.value_or(0)};
    }
    return out;
}

Partners Session::partners(const Reading& reading, const Live& live) const {
    return partners(reading, live, 0);
}

Budget Session::budgetAt(const Reading& reading, double raw, const Live& live, int depth) const {
    const Partners fed = partners(reading, live, depth);
    return reading_budget(reading, part(reading), raw, noise(reading, live), now(),
                          part_limit(place(m_bench, catalog(), reading), raw, fed), fed);
}

Budget Session::budget(const Reading& reading, double raw, const Live& live) const {
    return budgetAt(reading, raw, live, 0);
}

DoubtInputs Session::doubts(const Reading& reading, double raw, const Live& live) const {
    const Partners fed = partners(reading, live);
    return reading_doubts(reading, part(reading), raw, noise(reading, live), now(),
                          part_limit(place(m_bench, catalog(), reading), raw, fed), fed);
}

} // namespace cognitum
