// How one part is wired: which leg goes to which pin, over which resistors, and what was ticked.
#pragma once

#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace cognitum {

/// Two resistors that lower a level: top between source and pin, bottom between pin and ground. 0 and 0: none.
struct LevelDivider {
    double top_ohm = 0, bottom_ohm = 0;
    [[nodiscard]] bool there() const { return bottom_ohm > 0; }
    [[nodiscard]] double ratio() const { return there() ? bottom_ohm / (top_ohm + bottom_ohm) : 1; }
    bool operator==(const LevelDivider&) const = default;
};

struct Connection {
    std::string leg;    ///< label on the part
    std::string pin;    ///< label on the board, or channel of the module
    bool fixed = false; ///< chosen by the person: pin assignment leaves it
    LevelDivider divider = {};
    bool operator==(const Connection&) const = default;
};

struct Wiring {
    std::string board;            ///< id of a BoardUse; empty: not placed
    std::string rail;             ///< label of the rail that feeds the part
    std::string reference;        ///< id of the board's reference
    std::vector<Connection> pins; ///< of the signal legs; the first carries the reading
    std::string module;           ///< id of the converter, multiplexer or bus switch in between; empty: none
    int address = 0;              ///< 7-bit bus address; 0: the one it comes with
    double pull_up_ohm = 0;       ///< added on its signal; 0: none
    double cable_m = 0.3;
    bool decoupled = false;       ///< the capacitor that its card asks for is fitted
    bool parasite = false;        ///< one-wire part without its supply leg
    double own_supply_V = 0;      ///< fed from elsewhere; 0: from the rail
    bool ground_joined = true;    ///< with the board's ground
    bool input_protected = false; ///< 10 kΩ before the pin and two diodes to the rails behind it
    bool turned = false;          ///< its legs stand the other way round than the card draws them
    std::vector<std::pair<std::string, std::string>> colours; ///< leg → colour, where the person chose one
    std::vector<int> ticked;                                  ///< numbers of the steps that are done
    std::vector<std::string> mended;                          ///< what was mended here, newest last

    /// Pin of the leg that carries the reading; empty: not placed.
    [[nodiscard]] std::string pin() const { return pins.empty() ? std::string() : pins.front().pin; }
    [[nodiscard]] const Connection* connection(std::string_view leg) const;
    [[nodiscard]] Connection* connection(std::string_view leg);
    /// Moves the leg that carries the reading.
    void set_pin(const std::string& pin);
    bool operator==(const Wiring&) const = default;
};

} // namespace cognitum
