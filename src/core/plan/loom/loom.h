// The drawing of the wires as values: blocks with legs in rows, wires in the order of work, resistors between rows.
// The interface only paints it. One reading with what stands between it and the board, or everything on a board.
#pragma once

#include "core/plan/placed.h"

#include <string>
#include <vector>

namespace cognitum {

/// Words as in bench files and on screen.
const std::vector<std::string>& wire_colours();
/// The colour that habit gives a leg with this role: red feeds, black is ground.
const std::string& usual_colour(std::string_view role);

struct LoomLeg {
    std::string label;
    std::string note; ///< "supply out", "reads", "drives 3.3 V"; beside the label, inside the block
    int row = 0;
    bool right = false; ///< on the right side of its block
};

struct LoomBlock {
    std::string title, note;
    int column = 0; ///< 0 board, 1 between, 2 part
    int first_row = 0, last_row = 0;
    std::vector<LoomLeg> legs;
};

struct LoomEnd {
    int block = -1; ///< −1: no block; the wire ends at a resistor or at a flag
    int leg = -1;
};

struct LoomWire {
    int order = 0; ///< in which it is connected, from 1
    std::string colour;
    LoomEnd from, to; ///< from the board's side
    int from_row = 0, to_row = 0;
    std::string net;          ///< wires of one net are joined: "GND", "5V", "A2"
    std::string flag;         ///< where it goes when it is not drawn to there: "to 3V3"
    std::string volts;        ///< at the pin, what a meter shows; empty for ground
    double in_line_ohm = 0;   ///< resistor in the wire
    std::string source_volts; ///< in front of that resistor
    bool own_supply = false;  ///< comes from the part's own supply, not from the board
    double length_m = 0;      ///< of the cable that it is part of, said once for each part; 0: not here
};

/// A resistor between the wires of two rows, in the gap on the left of `column`.
struct LoomResistor {
    double ohm = 0;
    int from_row = 0, to_row = 0;
    int column = 2;
    std::string from = {}, to = {}; ///< names of its ends where the rows' wires do not say them
};

struct Loom {
    std::string title; ///< "4 wires, 2 resistors"
    int rows = 0;
    bool between = false; ///< has blocks in column 1
    std::vector<LoomBlock> blocks;
    std::vector<LoomWire> wires;
    std::vector<LoomResistor> resistors;
    std::string note; ///< what is said under the drawing
};

/// Empty (no blocks) when the reading has no part, board or pin yet.
Loom reading_loom(const Bench& bench, const Catalog& catalog, const Reading& reading);
/// Everything that is wired to a board.
Loom board_loom(const Bench& bench, const Catalog& catalog, const BoardUse& use);

} // namespace cognitum
