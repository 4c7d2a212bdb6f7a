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

/// Every card that measures this kind of quantity, best first, each as if it were placed on that board now: what
/// the rules would find decides.
std::vector<Candidate> candidates(const Bench& bench, const Catalog& catalog, const Reading& reading,
                                  const BoardUse& use);

/// Where practice differs for this quantity: one paragraph for each way, of the cards that were compared.
std::vector<std::string> schools(const std::vector<Candidate>& candidates, const Catalog& catalog);

} // namespace cognitum
