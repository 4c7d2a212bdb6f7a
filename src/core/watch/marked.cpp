#include "core/watch/marked.h"

#include "core/base/phrase.h"
#include "core/units/format.h"
#include "core/watch/offers.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

/// Raised at any time in [from, to].
bool speaks_in(const RuleTrial& trial, const MarkedStretch& stretch) {
    bool raised = false;
    for (const WatchEvent& e : trial.events) {
        if (e.time > stretch.to) break;
        if (e.kind == WatchKind::raised) raised = true;
        if (e.kind == WatchKind::cleared && e.time < stretch.from) raised = false;
        if (e.kind == WatchKind::raised && e.time >= stretch.from) return true;
    }
    return raised;
}

} // namespace

MarkScore score_marks(const RuleTrial& trial, std::span<const MarkedStretch> marked) {
    MarkScore out;
    for (const MarkedStretch& m : marked) {
        const bool speaks = speaks_in(trial, m);
        if (m.is_alarm)
            ++(speaks ? out.caught : out.missed);
        else
            ++(speaks ? out.false_alarms : out.right);
    }
    return out;
}

std::string score_says(const MarkScore& score) {
    std::string out;
    if (const int alarms = score.caught + score.missed; alarms > 0)
        out = phrase("{} of {} marked alarms {} caught.", score.caught, alarms,
                     score.caught == 1 ? phrase("is") : phrase("are"));
    if (const int none = score.false_alarms + score.right; none > 0)
        out += phrase("{}{} of {} that were none would be told.", out.empty() ? "" : " ", score.false_alarms, none);
    return out;
}

LimitProposal propose_limit(const WatchRule& rule, std::span<const MarkExtremes> extremes, double doubt,
                            const std::string& unit) {
    if (rule.conditions.size() != 1 ||
        (rule.conditions[0].when != WatchWhen::above && rule.conditions[0].when != WatchWhen::below))
        return {{}, phrase("A limit is only proposed for a rule with one limit, above or below.")};
    const bool above = rule.conditions[0].when == WatchWhen::above;
    // Mirrored, so that an alarm is always the larger.
    const double sign = above ? 1 : -1;
    double alarm = INFINITY;
    double fine = -INFINITY;
    for (std::size_t i = 0; i < rule.marked.size() && i < extremes.size(); ++i) {
        const double far = above ? extremes[i].most : -extremes[i].least;
        if (!std::isfinite(far)) continue;
        if (rule.marked[i].is_alarm)
            alarm = std::min(alarm, far);
        else
            fine = std::max(fine, far);
    }
    if (!std::isfinite(alarm) && !std::isfinite(fine)) return {{}, phrase("Nothing is marked that has a value.")};
    double limit = 0;
    if (!std::isfinite(fine))
        limit = alarm - std::max(doubt, std::abs(alarm) / 100);
    else if (!std::isfinite(alarm))
        limit = fine + std::max(doubt, std::abs(fine) / 100);
    else if (alarm <= fine)
        return {{},
                phrase("No limit tells them apart: what was no alarm went to {}, an alarm only to {}. Ask for "
                       "more lines in a row, or for another condition beside it.",
                       format_measure(sign * fine, unit), format_measure(sign * alarm, unit))};
    else
        limit = (alarm + fine) / 2;
    const double room = std::isfinite(alarm) && std::isfinite(fine) ? (alarm - fine) / 4 : std::max(doubt, 1e-9);
    WatchRule out = rule;
    WatchCondition& c = out.conditions[0];
    c.value = round_for_person(sign * limit, room);
    c.clear = round_for_person(c.value - sign * std::max(doubt, room / 2), room);
    if (!defect_of(out).empty()) c.clear.reset();
    std::string why = phrase("{} {} lies between what was marked.", above ? phrase("Above") : phrase("Below"),
                             format_measure(c.value, unit));
    if (std::isfinite(alarm) && std::isfinite(fine) && alarm - fine < 2 * doubt)
        why += phrase(" The two are closer than the doubt: expect mistakes.");
    return {out, why};
}

} // namespace cognitum
