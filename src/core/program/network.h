// The part of a written program that sends over a wireless network instead of a wire: lines wait on the board until
// the broker or this computer has taken them. Names and passwords stand in a file of its own that is never read or
// kept here.
#pragma once

#include "core/bench/bench.h"
#include "core/catalog/cards.h"

#include <string>

namespace cognitum::program {

enum class NetworkWay {
    none,   ///< the lines go to the serial port
    broker, ///< MQTT 3.1.1
    post,   ///< HTTP
};

struct NetworkPlan {
    NetworkWay way = NetworkWay::none;
    std::string refusal =
        {};                 ///< why a program of this link goes to the serial port all the same; empty: it need not
    std::string topic = {}; ///< of the records
};
/// By the kind of the board's link and what the board can.
NetworkPlan network_plan(const BoardUse& use, const BoardCard& card);

/// What stands before the first line that is sent: the lines that wait. `longest`: bytes of the longest line.
std::string outbox_text(std::size_t longest);
/// What sends them, with `radio_begin()` and `network_turn()`.
std::string sender_text(const NetworkPlan& network, const BoardUse& use);
/// The file of names and passwords, to be filled in by a person.
std::string secrets_text(const NetworkPlan& network, const BoardUse& use);

/// All that a program prints goes to the outbox instead of the serial port.
std::string through_the_outbox(std::string text);

} // namespace cognitum::program
