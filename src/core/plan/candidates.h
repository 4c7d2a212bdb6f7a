// Parts side by side for one quantity: what fits, what fits with a change, what does not, because of which number.
#pragma once

#include "core/bench/bench.h"
#include "core/catalog/cards.h"

#include <string>
#include <vector>

namespace cognitum {

enum class Fitness { fits, fits_with_change, does_not };

struct Candidate {
    std::string part; ///< id of the card
    double doubt = 0; ///< ± at 95 % in the middle of the expected range as bought, quantity's unit; NaN: none
    Fitness fitness = Fitness::does_not;
    std::string because; ///< one sentence with numbers
};

/// Every card that measures this kind of quantity, best first.
std::vector<Candidate> candidates(const Reading& reading, const BoardUse& use, const BoardCard& board,
                                  const Bench& bench, const Catalog& catalog);

/// Cards whose facts hold every word of the query: "10 mV", "3 legs 5 V", "ntc".
bool matches_facts(const PartCard& part, std::string_view query);

} // namespace cognitum
