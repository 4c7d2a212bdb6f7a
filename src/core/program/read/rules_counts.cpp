#include "core/program/read/reading_rules.h"

#include "core/base/phrase.h"
#include "core/plan/path.h"
#include "core/program/read/mended_text.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum::program {

namespace {

/// Where a count grows.
CodePlace counted_at(const SentNumber& s) {
    return s.last()->value.trace->origin->place;
}

void count(const Trial& t, const SentNumber& s, ReadFindings& out) {
    const Reading& r = *s.reading;
    if (s.series.size() < 2) return;
    const double slope = s.last()->value.trace->origin->is_source ? s.last()->value.trace->slope : 1;
    if (slope == 0) return;
    for (const InterruptUse& u : t.usual().interrupts)
        if (u.pin == s.source->key && u.comes_again) {
            out.push_back(found(
                t, "level-interrupt", Severity::error, u.place,
                phrase("The interrupt of pin {} comes again and again for as long as it is low.", u.pin),
                phrase(
                    "LOW asks for a level: nothing else runs meanwhile, and without a pause one pulse counts many "
                    "times. FALLING asks for the moment at which it falls."),
                t.mended(u.mode_place, "FALLING"), r.id));
            return;
        }
    bool total = true;
    double sum = 0;
    for (std::size_t i = 0; i < s.series.size(); ++i) {
        sum += s.series[i].second / slope;
        if (i > 0 && s.series[i].second < s.series[i - 1].second) total = false;
    }
    const auto there = [](double at_s) { return std::floor(at_s * trial_pulses_per_s) + 1; };
    const double first = s.series.front().second / slope, last = s.series.back().second / slope;
    // A count that begins anew with each line is the sum of them; one that goes on is its own end.
    const bool grows = total && last > 1.5 * std::max(1.0, first);
    const double counted = grows ? last : sum;
    const double given = there(s.series.back().first);
    const double each = counted / given;
    if (each > 1.3) {
        const bool both = std::any_of(t.usual().interrupts.begin(), t.usual().interrupts.end(),
                                      [&](const InterruptUse& u) { return u.pin == s.source->key && u.mode == 4; });
        out.push_back(found(
            t, "debounce-missing", Severity::error, counted_at(s),
            phrase("It counts {} for each pulse of {}.", format_constant(each, 2), r.name),
            both ? phrase(
                       "A contact rings for some milliseconds, and its interrupt comes at closing and at opening.")
                 : phrase("A contact rings for some milliseconds when it closes. Count only when the last one is "
                          "longer ago."),
            {}, r.id));
    } else if (each < 0.8 && given >= 5) {
        const Waited* wait = longest_wait(t.usual());
        const bool by_interrupt = std::any_of(t.usual().interrupts.begin(), t.usual().interrupts.end(),
                                              [&](const InterruptUse& u) { return u.pin == s.source->key; });
        const CodePlace place = wait && !by_interrupt ? wait->place : counted_at(s);
        out.push_back(
            found(t, "pulses-lost", Severity::error, place,
                  phrase("Of {} pulses of {} it counts {}.", format_constant(given), r.name,
                         format_constant(std::round(counted))),
                  wait && !by_interrupt
                      ? phrase("It looks at the pin between waits of {}. Count by interrupt, or do not wait.",
                               wait_text(wait->longest_ms))
                      : phrase("What stands between two of them is lost."),
                  {}, r.id));
    }
    // The amount of one pulse.
    if (slope == 1 || r.path.stages.empty()) return;
    const double planned = forward(r.path, 1001).number - forward(r.path, 1000).number;
    if (!std::isfinite(planned) || std::abs(slope - planned) <= 0.01 * std::abs(planned)) return;
    const std::vector<Literal> literals = literals_of(s.last()->value.trace);
    const auto at = std::find_if(literals.begin(), literals.end(),
                                 [&](const Literal& l) { return std::abs(l.value - std::abs(slope)) < 1e-6; });
    out.push_back(found(
        t, "constant-differs", Severity::error, at != literals.end() ? at->place : counted_at(s),
        phrase("It takes {} for one pulse of {}; the plan has {}.", format_measure(slope, r.quantity.unit), r.name,
               format_measure(planned, r.quantity.unit)),
        phrase("Every total is wrong by the same share."),
        at != literals.end() ? t.mended(at->place, written_as(text_at(t, at->place), planned)) : std::string(),
        r.id));
}

} // namespace

void look_at_counts(const Trial& t, ReadFindings& out) {
    for (const SentNumber& s : t.sent) {
        if (!s.reading || !s.source || !s.asked || s.asked->input != ProofInput::pulses) continue;
        if (s.source->kind == SourceKind::pulses) count(t, s, out);
    }
}

} // namespace cognitum::program
