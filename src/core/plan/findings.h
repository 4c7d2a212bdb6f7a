// What will go wrong, said before power: one rule a function, all of them in tables by subject (rules_*.cpp).
// Adding a rule: docs/extending.md. Every rule has a test that fires it and one that must not.
#pragma once

#include "core/bench/bench.h"
#include "core/catalog/cards.h"

#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace cognitum {

enum class Severity { note, look, error };
enum class Stop { quantity, sensor, wiring, raw, convert, calibrate, watch };

/// A way out that the application can take by itself: exactly one of the three is set.
struct FixAction {
    std::string label;                  ///< on the link: "Use the internal 1.1 V reference"
    std::function<void(Bench&)> change; ///< of the plan; the path is built anew behind it
    int stop = -1;                      ///< to open, from 0
    std::string send;                   ///< line to the board: "reference internal"
};

struct Finding {
    std::string id; ///< of the rule: "output-uses-little-of-full-scale"
    Severity severity = Severity::note;
    std::string reading; ///< id; empty for what concerns a board or a module
    Stop stop = Stop::wiring;
    std::string message; ///< what will happen, with numbers
    std::string why;
    std::string fix;
    std::optional<FixAction> action;
    std::string board;             ///< id of the board that it is about, where there is one
    bool is_caution = false;       ///< where somebody can be hurt: nothing to mend, said where it matters
    bool measures_nothing = false; ///< what arrives is no value of the quantity: a pin that floats, sticks or clips
};

std::string severity_name(Severity severity);

/// All findings of the bench, errors first, in the order of readings and boards.
std::vector<Finding> check_bench(const Bench& bench, const Catalog& catalog);
/// Those of one reading, without those of its board.
std::vector<Finding> check_reading(const Bench& bench, const Catalog& catalog, const Reading& reading);
/// Those of one board: rails, bus, line, what is wired to it that is no reading.
std::vector<Finding> check_board(const Bench& bench, const Catalog& catalog, const BoardUse& use);

/// Ids of all rules, in the order in which they are tried.
std::vector<std::string> rule_ids();

/// Takes a finding's way out of the plan: changes the bench, builds the path of what changed anew and keeps a note
/// of what was mended. False when the finding has no such way.
bool mend(Bench& bench, const Catalog& catalog, const Finding& finding);

} // namespace cognitum
