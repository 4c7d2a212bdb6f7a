#include "core/plan/rules/arrivals.h"

#include "core/base/phrase.h"
#include "core/units/format.h"

#include <fmt/format.h>
#include <fmt/ranges.h>

namespace cognitum {

std::optional<Finding> board_reference_differs(const Reading& reading, const BoardCard& card,
                                               const std::string& says) {
    const VoltageReference* planned = card.reference(reading.wiring.reference);
    const VoltageReference* real = card.reference(says);
    if (!planned || !real || planned == real) return {};
    Finding f;
    f.id = "board-reference-differs";
    f.severity = Severity::error;
    f.reading = reading.id;
    f.stop = Stop::raw;
    f.message = phrase("The board says that it measures against {}; the plan says {}.", real->name, planned->name);
    f.why =
        phrase("Every voltage is wrong by a factor of {}.", format_fixed(planned->voltage_V / real->voltage_V, 1));
    f.fix = phrase("Tell the board, or change the plan at Wiring.");
    f.action = FixAction{phrase("Tell the board"), {}, -1, phrase("reference {}", planned->id)};
    return f;
}

std::optional<Finding> board_runs_another_plan(const Reading& reading, const BoardUse& board,
                                               const std::string& says, const std::string& planned,
                                               const std::string& constants) {
    if (says.empty() || planned.empty()) return {};
    const auto hyphen = says.find('-');
    const bool same_plan = says.substr(0, hyphen) == planned;
    const bool same_constants = hyphen == std::string::npos || says.substr(hyphen + 1) == constants;
    if (same_plan && same_constants) return {};
    Finding f;
    f.id = "board-runs-another-plan";
    f.severity = Severity::look;
    f.reading = reading.id;
    f.stop = Stop::raw;
    if (same_plan) {
        f.message = phrase("The program on {} has the constants of before.", board.name);
        f.why = phrase(
            "The values that it sends beside the raw numbers are not those of this plan; the raw numbers are "
            "right.");
    } else {
        f.message = phrase("The program on {} was written from another plan ({}; this one is {}).", board.name,
                           says.substr(0, hyphen), planned);
        f.why = phrase("Pins, parts, intervals or names of fields were changed since.");
    }
    f.fix = phrase("Write its program again (page Boards, Program), or undo the change.");
    return f;
}

std::vector<Finding> signal_findings(const Reading& reading, std::span<const HealthVerdict> verdicts) {
    std::vector<Finding> out;
    for (const HealthVerdict& v : verdicts) {
        if (v.rank == HealthRank::note || v.id == "silent") continue;
        Finding f;
        f.id = v.id;
        f.severity = v.bad() ? Severity::error : Severity::look;
        f.reading = reading.id;
        f.stop = Stop::raw;
        f.message = v.title + ": " + v.evidence;
        if (!v.causes.empty()) f.why = phrase("Likely, in this order: {}.", fmt::join(v.causes, "; "));
        f.fix = v.next_test;
        f.action = FixAction{phrase("Look at the raw signal"), {}, static_cast<int>(Stop::raw), {}};
        f.measures_nothing = v.bad() && !v.leaves_value;
        out.push_back(std::move(f));
    }
    return out;
}

} // namespace cognitum
