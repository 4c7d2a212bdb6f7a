// A proof of a board's program: what every part is made to give, when, and what must come out of the serial port.
// Who runs the program (a simulator, a board on the bench) is told the inputs and brings the lines.
#pragma once

#include "core/bench/bench.h"
#include "core/catalog/cards.h"
#include "core/plan/placed.h"

#include <string>
#include <vector>

namespace cognitum {

/// What is done to a part's pins or bus.
enum class ProofInput {
    volts,  ///< at the pin
    number, ///< what a part on a bus has measured: °C, lx, its own count
    echo_us,
    pulses, ///< so many, one after another, each with its bouncing
    level,  ///< 0 or 1
};

struct ProofPoint {
    std::string reading; ///< id
    double from_s = 0, to_s = 0;
    double truth = 0; ///< what is to come out at the end of the path, unit of the reading
    double input = 0; ///< in the sense of ProofReading::input
};

struct ProofReading {
    std::string reading; ///< id
    ProofInput input = ProofInput::volts;
    std::string unit;   ///< of what is given: "V", "degC", "us", "tips"
    std::string pin;    ///< label on the board, of the leg that carries the reading
    std::string driver; ///< of the card, for parts on a bus
    int address = 0;
    std::string select, trigger, clock; ///< labels of its other legs, where it has them
    int channel = -1;                   ///< of a converter in between, which then has `driver` and `address`
};

struct ProofPlan {
    std::vector<ProofReading> readings;
    std::vector<ProofPoint> points;
    std::vector<std::pair<std::string, std::string>> not_proven; ///< reading and why
    std::string command; ///< sent before it begins, so that it does not take an hour
    double begin_s = 0, end_s = 0, point_s = 0.6;
    double pulses_per_s = 0;
    double bounce_ms = 0; ///< after each closing and each opening
    bool opening_rings = true;
};

struct ProofOptions {
    int points = 21;
    double pulses_per_s = 40, bounce_ms = 3;
    double point_s = 0;     ///< a point lasts so long at least
    double inset = 0;       ///< share of a range by which the first and the last value lie inside of it
    bool any_board = false; ///< not only the one that the instruction-level simulator knows
};

/// Error: no such board or card, or nothing of it can be proven.
Result<ProofPlan> plan_proof(const Bench& bench, const Catalog& catalog, const std::string& board,
                             const ProofOptions& options = {});

/// What a part must be given for this value at the end of its reading's path, in the sense of ProofReading::input.
/// Of volts the middle of the converter's step.
double input_for(const Placed& placed, const ProofReading& asked, double value);

/// The board that the instruction-level simulator plays, by its pins.
bool is_simulated(const BoardCard& card);

/// A line that the board sent.
struct ProofLine {
    double at_s = 0;
    std::string text;
};

struct ProofResult {
    ProofPoint point;
    std::string sent;       ///< as it stood in the line; empty: nothing came
    double said = 0;        ///< at the end of the path; NaN: no value
    double off_by = 0;      ///< said less truth
    std::string board_said; ///< the value that the board itself sent; empty: it sent none
    double step = 0;        ///< what one step of the number that was sent amounts to: it may be off by that
    double doubt = 0;       ///< ± at 95 % of the reading, by its budget; NaN: not known
    bool holds = false;
};

struct ProofRow {
    std::string reading;
    std::size_t points = 0, held = 0;
    ProofResult worst; ///< largest distance for its step
    std::vector<ProofResult> all;
};

/// One row for each reading of the plan, in its order.
std::vector<ProofRow> judge_proof(const ProofPlan& plan, const Bench& bench, const Catalog& catalog,
                                  const std::vector<ProofLine>& lines);

} // namespace cognitum
