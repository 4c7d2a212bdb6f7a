// What was seen while a program was evaluated: what it sent, did to its pins, waited for and lost.
#pragma once

#include "core/program/read/value.h"

#include <map>
#include <optional>
#include <set>

namespace cognitum::program {

/// Where a number of the board's types is not what real arithmetic gives.
struct Loss {
    enum class Kind : std::uint8_t { division, overflow, cut, map, text };
    Kind kind = Kind::division;
    CodePlace place;
    int bits = 0;                ///< of the type that overflowed
    double board = 0, ideal = 0; ///< the first time
    CodePlace declared;          ///< of the variable that it did not fit into; line 0: it was none
};

/// One number in what it sent.
struct Printed {
    CodePlace place;
    CodeValue value;
    int digits = -1;   ///< behind the point; −1: a whole number
    std::string label; ///< the text before it
    std::string text;  ///< as it stood there
};

struct Line {
    double at_s = 0;  ///< when it ended; of one that never did, when it began
    std::string port; ///< "Serial", or what else it was sent through
    std::string text;
    CodePlace last_call; ///< that wrote to it
    std::vector<Printed> numbers;
    std::vector<TraceRef> said_about; ///< pins on whose level it hung that this text was sent
};

struct Waited {
    CodePlace place;
    double longest_ms = 0;
    bool in_interrupt = false, in_loop = false;
    CodePlace argument; ///< of what says how long
};

struct PinUse {
    std::optional<int> mode; ///< of pinMode()
    CodePlace mode_place;
    std::vector<std::pair<CodePlace, Literals>> analog_reads, reads, writes;
    int alone = 0, repeated = 0; ///< conversions after another input's: one and no more, several one after another
    bool driven_high = false, was_output = false, was_input = false;
    double rose_us = 0, shortest_high_us = 1e18; ///< that it was driven high for
    CodePlace fell;                              ///< where the shortest ended
};

struct CallSeen {
    std::string name;
    CodePlace place;
    std::vector<CodeValue> given;
    std::vector<bool> by_default; ///< the argument was left out
    double at_s = 0;
};

struct InterruptUse {
    std::string pin;
    int function = nothing, mode = 0;
    CodePlace place, mode_place;
    Literals pin_literals;
    bool comes_again = false; ///< at a low level: it was still asked for when it had run, and the pin still low
};

/// Time between two readings of one source.
struct Asked {
    CodePlace place;
    double last_us = -1, shortest_us = 1e18;
    int times = 0;
};

struct Observed {
    std::vector<Loss> losses;
    std::vector<Line> lines;
    std::size_t lines_sent = 0;                  ///< also those that were not kept
    std::map<std::pair<int, int>, Waited> waits; ///< by file and line
    std::map<std::string, PinUse> pins;
    std::vector<CallSeen> calls; ///< begin(), analogReference(), pulseIn(), addresses, sleep: one for each place
    std::vector<InterruptUse> interrupts;
    std::map<std::string, Asked> asked;                              ///< by kind and key of the source
    std::map<std::pair<int, int>, std::pair<CodePlace, int>> narrow; ///< a converter's code put into so many bits
    std::map<int, std::string> not_followed;                         ///< by line: text of it
    std::optional<CodePlace> first_transfer;                         ///< on SPI
    CodePlace interrupts_off; ///< where they were switched off, and a turn of loop() ended so; line 0: never
    CodePlace read_unasked;   ///< where a byte of I²C was read that had not been asked for; line 0: nowhere
    std::vector<CodePlace> prints_in_interrupt;
    std::map<int, CodePlace> unprinted; ///< by line: a pattern asked for a number with a point, and got "?"
    std::map<long, CodePlace> unknown_pins;
    std::map<int, std::pair<CodePlace, Literals>> addresses; ///< of I²C, as given
    std::map<std::string, Line> unended; ///< by port: what stood there without its end when the run was over
    CodePlace last_loop;                 ///< in which the run was over; line 0: in none
    double loop_turns = 0, longest_turn_ms = 0, end_s = 0;
    std::string stopped; ///< why it could not be followed to its end; empty: it could
    CodePlace stopped_at;

    [[nodiscard]] const CallSeen* call(std::string_view name) const;
};

} // namespace cognitum::program
