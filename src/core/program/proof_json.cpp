#include "core/program/proof_json.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

Json finite(double value) {
    return std::isfinite(value) ? Json(value) : Json();
}

Json result_json(const ProofResult& r) {
    return {{"from_s", r.point.from_s},       {"to_s", r.point.to_s},   {"given", finite(r.point.input)},
            {"truth", finite(r.point.truth)}, {"sent", r.sent},         {"said", finite(r.said)},
            {"off_by", finite(r.off_by)},     {"step", finite(r.step)}, {"board_said", r.board_said},
            {"doubt", finite(r.doubt)},       {"holds", r.holds}};
}

} // namespace

bool all_hold(const std::vector<ProofRow>& rows) {
    return std::all_of(rows.begin(), rows.end(), [](const ProofRow& row) { return row.held == row.points; });
}

Json proof_json(const ProofPlan& plan, const std::vector<ProofRow>& rows) {
    Json readings = Json::array(), left = Json::array();
    for (const ProofRow& row : rows) {
        Json points = Json::array();
        for (const ProofResult& r : row.all)
            points.push_back(result_json(r));
        readings.push_back({{"reading", row.reading},
                            {"points", row.points},
                            {"held", row.held},
                            {"worst", result_json(row.worst)},
                            {"all", points}});
    }
    for (const auto& [reading, why] : plan.not_proven)
        left.push_back({{"reading", reading}, {"why", why}});
    return {{"readings", readings}, {"not_proven", left}};
}

std::string proof_text(const ProofPlan& plan, const std::vector<ProofRow>& rows) {
    std::string out;
    for (const ProofRow& row : rows)
        out += fmt::format("{:<14} {} of {} hold; worst: truth {:.4g}, sent {}, said {:.4g}\n", row.reading,
                           row.held, row.points, row.worst.point.truth, row.worst.sent, row.worst.said);
    for (const auto& [reading, why] : plan.not_proven)
        out += fmt::format("{:<14} not proven: {}\n", reading, why);
    return out;
}

} // namespace cognitum
