// The tables of rules, by subject; only findings.cpp and the rules themselves need this.
#pragma once

#include "core/plan/budgets.h"
#include "core/plan/electrical.h"
#include "core/plan/findings.h"
#include "core/plan/path.h"
#include "core/plan/placed.h"

#include <span>

namespace cognitum {

using Found = std::optional<Finding>;

/// A rule that looks at one reading. `id` is what the finding carries.
struct ReadingRule {
    const char* id;
    Found (*check)(const Placed&);
};

/// What a rule about a board looks at, computed once.
struct BoardScene {
    const Bench& bench;
    const Catalog& catalog;
    const BoardUse& use;
    const BoardCard* card; ///< null: the card is gone
    BoardBudget budget;
    std::vector<BusDevice> bus;
};
struct BoardRule {
    const char* id;
    std::vector<Finding> (*check)(const BoardScene&);
};

std::span<const ReadingRule> supply_rules();
std::span<const ReadingRule> level_rules();
std::span<const ReadingRule> pin_rules();
std::span<const ReadingRule> bus_rules();
std::span<const ReadingRule> sensor_rules();
std::span<const ReadingRule> convert_rules();
std::span<const ReadingRule> timing_rules();
std::span<const ReadingRule> cable_rules();
std::span<const ReadingRule> caution_rules();
std::span<const ReadingRule> watch_rules();
std::span<const BoardRule> board_supply_rules();
std::span<const BoardRule> board_bus_rules();
std::span<const BoardRule> board_line_rules();
std::span<const BoardRule> board_module_rules();
std::span<const BoardRule> board_acting_rules();

// Short ways to say things.
Finding finding(Severity severity, Stop stop, std::string message, std::string why, std::string fix);
std::string in_unit(const Placed& placed, double value);
/// An action that changes this reading.
FixAction change_reading(std::string label, const std::string& id, std::function<void(Reading&)> change);
FixAction change_board(std::string label, const std::string& id, std::function<void(BoardUse&)> change);
FixAction open_stop(std::string label, Stop stop);
/// An action that moves one leg to a pin where the rule is quiet; nothing when there is none.
std::optional<FixAction> move_leg(const Placed& placed, const std::string& leg, Found (*rule)(const Placed&));

} // namespace cognitum
