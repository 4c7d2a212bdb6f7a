// The wires between one part and one board, in the order of work, with what a meter must show at each step.
#pragma once

#include "core/bench/bench.h"
#include "core/catalog/cards.h"

#include <optional>
#include <string>
#include <vector>

namespace cognitum {

enum class WireColour { red, black, yellow };
std::string colour_word(WireColour colour);

struct Wire {
    int order = 0; ///< in which it is connected, from 1
    WireColour colour = WireColour::yellow;
    std::string board_label; ///< as printed on the board
    std::string board_note;  ///< "supply out", "reads 0…5 V"
    int row = 0;             ///< place from the top
    int leg = -1;            ///< index of the part's leg; −1: ends at the resistor
    std::string volts;       ///< at the point a meter touches, empty for ground
};

/// A resistor from the wire in one row to the wire in another, on the board's side.
struct LoomResistor {
    double ohm = 0;
    int from_row = 0, to_row = 0;
};

struct WiringStep {
    int number = 0; ///< from 1; ticked steps are kept by it
    std::string text;
    std::string meter;
    int wire = 0; ///< order of the wire it is about; 0: none
};

struct Loom {
    std::string title; ///< "Three wires"
    std::string board_title, board_note, part_title, part_note;
    std::vector<Wire> wires;
    std::vector<Leg> legs;
    std::optional<LoomResistor> resistor;
    std::vector<WiringStep> steps;
    std::string if_mirrored; ///< what would be seen, and what to do; empty when the part has no polarity
};

/// Nothing when the reading has no part, board, rail or pin yet.
std::optional<Loom> make_loom(const Reading& reading, const PartCard& part, const BoardUse& use,
                              const BoardCard& board);

} // namespace cognitum
