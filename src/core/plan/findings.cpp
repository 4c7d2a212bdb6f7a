#include "core/plan/findings.h"

#include "core/plan/rules/rules.h"

#include <algorithm>

namespace cognitum {

namespace {

using ReadingTable = std::span<const ReadingRule>;
using BoardTable = std::span<const BoardRule>;

std::vector<ReadingTable> reading_tables() {
    return {supply_rules(),  level_rules(),  pin_rules(),   bus_rules(),     sensor_rules(),
            convert_rules(), timing_rules(), cable_rules(), caution_rules(), watch_rules()};
}
std::vector<BoardTable> board_tables() {
    return {board_supply_rules(), board_bus_rules(), board_line_rules(), board_module_rules(),
            board_acting_rules()};
}

void sort_by_severity(std::vector<Finding>& findings) {
    std::stable_sort(findings.begin(), findings.end(),
                     [](const Finding& a, const Finding& b) { return a.severity > b.severity; });
}

} // namespace

std::string severity_name(Severity severity) {
    switch (severity) {
    case Severity::note: return "note";
    case Severity::look: return "look";
    case Severity::error: return "error";
    }
    return "note";
}

std::vector<std::string> rule_ids() {
    std::vector<std::string> out;
    for (const ReadingTable& table : reading_tables())
        for (const ReadingRule& rule : table)
            out.emplace_back(rule.id);
    for (const BoardTable& table : board_tables())
        for (const BoardRule& rule : table)
            out.emplace_back(rule.id);
    return out;
}

std::vector<Finding> check_reading(const Bench& bench, const Catalog& catalog, const Reading& reading) {
    const Placed placed = place(bench, catalog, reading);
    std::vector<Finding> findings;
    for (const ReadingTable& table : reading_tables())
        for (const ReadingRule& rule : table)
            if (Found found = rule.check(placed)) {
                found->id = rule.id;
                found->reading = reading.id;
                found->board = reading.wiring.board;
                findings.push_back(std::move(*found));
            }
    sort_by_severity(findings);
    return findings;
}

std::vector<Finding> check_board(const Bench& bench, const Catalog& catalog, const BoardUse& use) {
    const BoardScene scene{bench,
                           catalog,
                           use,
                           catalog.board(use.card),
                           board_budget(bench, catalog, use),
                           bus_devices(bench, catalog, use)};
    std::vector<Finding> findings;
    for (const BoardTable& table : board_tables())
        for (const BoardRule& rule : table)
            for (Finding& found : rule.check(scene)) {
                found.id = rule.id;
                found.board = use.id;
                findings.push_back(std::move(found));
            }
    sort_by_severity(findings);
    return findings;
}

std::vector<Finding> check_bench(const Bench& bench, const Catalog& catalog) {
    std::vector<Finding> all;
    const auto take = [&](std::vector<Finding> found) {
        all.insert(all.end(), std::make_move_iterator(found.begin()), std::make_move_iterator(found.end()));
    };
    for (const Reading& reading : bench.readings)
        take(check_reading(bench, catalog, reading));
    for (const BoardUse& use : bench.boards)
        take(check_board(bench, catalog, use));
    sort_by_severity(all);
    return all;
}

bool mend(Bench& bench, const Catalog& catalog, const Finding& finding) {
    if (!finding.action || !finding.action->change) return false;
    const Bench before = bench;
    finding.action->change(bench);
    refresh_changed_paths(before, catalog, bench);
    if (Reading* r = bench.reading(finding.reading)) r->wiring.mended.push_back(finding.message);
    return true;
}

} // namespace cognitum
