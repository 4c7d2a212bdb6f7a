// How one kind of part is read by a program: pieces of its text, for one reading. Between $ signs stand names that
// write.cpp fills in; the pieces follow one another in the program in the order in which they stand here.
#pragma once

#include "core/plan/placed.h"
#include "core/program/program.h"

#include <set>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace cognitum::program {

/// A shared piece of the program that some drivers need.
enum class Help { converter, one_wire, bits_of_wire, i2c, converter_i2c, spi, steady };

using Names = std::vector<std::pair<std::string_view, std::string>>;
/// Every $name$ replaced. A name that is not there stays, which a test looks for.
std::string fill(std::string_view text, const Names& names);
/// Text of a person or a card for a comment: on one line, without what would end it or reach into the next. A name
/// may come from a stranger, and the program runs on somebody's board.
std::string comment_text(std::string_view text);
/// Letters, digits, _ . and -: what stands between quotes as it is.
bool is_plain_word(std::string_view text);
/// The end of a name for C++, from an id: letters, digits and underscores.
std::string code_name(std::string_view id);

struct Driver {
    std::string about; ///< one sentence for a comment: what is on which pin
    std::string unit;  ///< of the number that it sends: "count", "degC", "us"
    std::vector<std::pair<std::string, std::string>>
        shared;             ///< key and text, once in a program: of two readings' part
    std::string globals;    ///< text before setup()
    std::string setup;      ///< statements
    std::string every_turn; ///< statements of each turn of loop(), for what cannot wait
    std::string ask;        ///< statements when it is due, where the part needs time to measure; empty: none
    double wait_ms = 0;     ///< from there to its answer
    std::string send;       ///< statements that print the value behind "name="
    std::set<Help> needs;
    std::string left_out;   ///< why it is not in the program; empty: it is
    bool must_look = false; ///< its pin is looked at in each turn, which must come soon
    bool own_lines = false; ///< it sends lines of its own from every_turn, and none when it is due
    bool counts = false;    ///< it counts pulses at any time
};

/// One that is not in the program, and why.
Driver left_out(std::string why);

/// The driver of a placed reading. `name`: the end of its names in code.
Driver driver_for(const Placed& placed, const std::string& name, const ProgramOptions& options);

// By how the part talks; each returns one that is left out where the plan does not suffice.
Driver analog_driver(const Placed& placed, const std::string& name, const ProgramOptions& options);
Driver wave_driver(const Placed& placed, const std::string& name);
Driver pulse_driver(const Placed& placed, const std::string& name);
Driver contact_driver(const Placed& placed, const std::string& name);
Driver echo_driver(const Placed& placed, const std::string& name);
Driver bus_driver(const Placed& placed, const std::string& name); ///< by the card's `driver`
// Of single parts.
Driver air_pressure_driver(const Placed& placed, const std::string& name);
Driver carbon_dioxide_driver(const Placed& placed, const std::string& name);
Driver infrared_driver(const Placed& placed, const std::string& name);
Driver couple_on_bus_driver(const Placed& placed, const std::string& name);
Driver platinum_driver(const Placed& placed, const std::string& name);

/// Text of a shared piece, and what it needs in setup().
struct HelpText {
    std::string_view includes, globals, setup;
};
const HelpText& help_text(Help help);

/// Readings whose part is on this board and whose numbers come from it, in the plan's order.
std::vector<const Reading*> readings_of(const Bench& bench, const BoardUse& board);

/// For a comment: which reading by which part, and where it is.
std::string wired(const Placed& placed, std::string_view where);
/// Address of its part on I²C, in code.
std::string address_of(const Placed& placed);
/// Number of a pin in code: its port, or its label; "" : no such pin.
std::string pin_code(const Placed& placed, std::string_view leg);
std::string pin_code(const BoardCard& board, std::string_view label);

} // namespace cognitum::program
