// What a board carries against what it can: pins, current, heat, bus, line, money. One computation for the findings
// and for the Boards page.
#pragma once

#include "core/plan/placed.h"

#include <string>
#include <vector>

namespace cognitum {

struct Draw {
    std::string name; ///< of the reading or module
    double typical_mA = 0, peak_mA = 0;
};

struct RailLoad {
    std::string rail;
    double voltage_V = 0, limit_mA = 0;
    double typical_mA = 0, peak_mA = 0;
    std::vector<Draw> draws; ///< largest first
};

struct PinCount {
    std::string function; ///< analog, digital, interrupt
    int total = 0;        ///< free for readings on this card, with the radio as planned
    int used = 0;
};

struct BoardBudget {
    std::vector<PinCount> pins;
    int analog_wanted = 0; ///< readings that want an analog input of the board, placed or not
    std::vector<RailLoad> rails;
    double board_mA = 0, board_peak_mA = 0; ///< the board itself, awake and with the radio as planned
    double total_mA = 0, total_peak_mA = 0; ///< at its supply
    double source_mA = 0;                   ///< what the USB port may give; 0: another supply, not known
    double supply_V = 0;
    double regulator_mA = 0, regulator_limit_mA = 0; ///< typical through the regulator
    double heat_W = 0, junction_degC = 0, junction_max_degC = 0;
    double headroom_V = 0, dropout_V = 0; ///< supply above the regulated rail; 0 and 0: no linear regulator
    int bus_devices = 0;
    double bus_pF = 0, bus_m = 0;
    double pull_up_ohm = 0; ///< of all in parallel; 0: none
    double rise_ns = 0, rise_limit_ns = 0;
    double bytes_per_s = 0, bytes_limit = 0; ///< of the line to the computer
};

/// True when a reading, a module or a line to another board has a wire on this pin.
bool pin_is_used(const Bench& bench, const BoardUse& use, const Pin& pin);

/// Analog inputs of a board that can be used, and how many of them are.
struct AnalogInputs {
    int total = 0, used = 0;
};
AnalogInputs analog_inputs(const Bench& bench, const BoardCard& card, const BoardUse& use);

BoardBudget board_budget(const Bench& bench, const Catalog& catalog, const BoardUse& use);

/// Bytes of one line and the time between two lines, s, as planned: eight bytes for each reading unless said.
double line_bytes(const Bench& bench, const BoardUse& use);
double line_interval_s(const Bench& bench, const BoardUse& use);

} // namespace cognitum
