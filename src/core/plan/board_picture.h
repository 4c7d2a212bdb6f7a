// One board as a picture: who sits on which of its pins, and what hangs on its rails. Pins stand by what they can
// do, not where they are on the board: a card does not know that.
#pragma once

#include "core/plan/budgets.h"

#include <string>
#include <vector>

namespace cognitum {

struct PicturedPin {
    enum class Use { free, reading, other, board }; ///< other: a module, a line; board: taken by the board itself
    std::string label;
    Use use = Use::free;
    std::string user;    ///< "Hut air", "Bay switch SDA"; empty: free
    std::string reading; ///< id of the reading that it leads to; empty: none
    bool shared = false; ///< several of them are on it: a bus
    std::string can;     ///< "analog, digital"
};

struct BoardPicture {
    std::string name;                     ///< of the board in this bench
    std::string kind;                     ///< name of its card
    std::vector<PicturedPin> left, right; ///< digital ones, and those that measure a voltage
    std::vector<RailLoad> rails;
    int free = 0; ///< pins
    [[nodiscard]] std::string spoken() const;
};

/// Empty sides when there is no card of that kind.
BoardPicture board_picture(const Bench& bench, const Catalog& catalog, const BoardUse& use);

/// Readings and modules that could stand on this pin, as their sentence would name the pin: "free", a name, or what
/// the board does with it.
std::string pin_user(const Bench& bench, const Catalog& catalog, const BoardUse& use, const Pin& pin);

} // namespace cognitum
