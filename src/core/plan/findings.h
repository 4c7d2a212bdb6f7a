// What will go wrong, said before power: one rule a function, all of them in one table.
// Adding a rule: docs/extending.md. Every rule has a test that fires it and one that must not.
#pragma once

#include "core/bench/bench.h"
#include "core/catalog/cards.h"

#include <optional>
#include <string>
#include <vector>

namespace cognitum {

enum class Severity { note, look, error };
enum class Stop { quantity, sensor, wiring, raw, convert, calibrate, watch };

/// A way out that the application can take by itself.
struct FixAction {
    enum class Kind { use_reference, use_rail, open_stop, tell_board_reference } kind;
    std::string value; ///< id of the reference, label of the rail, number of the stop
    std::string label; ///< on the link: "Use the internal 1.1 V reference"
};

struct Finding {
    std::string id; ///< of the rule: "output-uses-little-of-full-scale"
    Severity severity = Severity::note;
    std::string reading; ///< id
    Stop stop = Stop::wiring;
    std::string message; ///< what will happen, with numbers
    std::string why;
    std::string fix;
    std::optional<FixAction> action;
};

std::string severity_name(Severity severity);

/// All findings of the bench, errors first, in the order of the readings.
std::vector<Finding> check_bench(const Bench& bench, const Catalog& catalog);
/// Those of one reading.
std::vector<Finding> check_reading(const Bench& bench, const Catalog& catalog, const Reading& reading);

} // namespace cognitum
