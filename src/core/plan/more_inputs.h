// The ways out of too few analog inputs, computed for this bench and compared; one call takes one of them.
#pragma once

#include "core/bench/bench.h"
#include "core/catalog/cards.h"

#include <functional>
#include <string>
#include <vector>

namespace cognitum {

struct WayOut {
    std::string id;    ///< converter, multiplexer, second-board, bus-sensor
    std::string title; ///< "External converter, 16 bit, on I²C"
    bool possible = false;
    std::string why_not; ///< where it is not possible
    int inputs = 0;      ///< that it adds
    int wires = 0;       ///< in all, to the board and to the probes
    int pins = 0;        ///< of the board that it takes
    int bits = 0;        ///< over the full scale
    double count = 0;    ///< one code in the first reading's unit; 0: not known
    double rate = 0;     ///< samples a second, all together
    double price = 0;    ///< by class or as typed
    std::string code;    ///< what the program has to do more
    std::string brings;  ///< "0x48 on SDA and SCL, fed from 3V3", in one sentence
    std::function<void(Bench&)> apply;
};

/// For all readings of this board that want an analog input and have none; with none of those, for one more. The
/// suggested one, an external converter, comes first: it alone adds inputs and bits at once.
std::vector<WayOut> ways_to_more_inputs(const Bench& bench, const Catalog& catalog, const BoardUse& use);

/// Readings of this board that want an analog input and have none.
std::vector<std::string> readings_without_input(const Bench& bench, const Catalog& catalog, const BoardUse& use);

} // namespace cognitum
