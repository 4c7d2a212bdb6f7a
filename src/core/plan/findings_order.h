// All findings of a bench as a list of work: what to do first.
#pragma once

#include "core/plan/findings.h"

#include <vector>

namespace cognitum {

enum class Need {
    beware, ///< somebody can be hurt: to be known before anything is touched
    first,  ///< it cannot work, it breaks something, or what arrives is no value of the quantity
    then,   ///< it works, with numbers that are worse than they look or need be
    know,   ///< worth knowing; nothing to mend
};

struct FindingGroup {
    Need need = Need::know;
    std::vector<Finding> findings;
};

/// Groups in the order of Need, without empty ones. Within a group by stop, since what is wrong in the wiring also
/// spoils what comes after it; then in the order given. The same caution for several readings stands once for each.
std::vector<FindingGroup> by_need(const std::vector<Finding>& findings);

/// How many of them ask for something to be done: those of `first` and `then`.
int count_to_do(const std::vector<Finding>& findings);

} // namespace cognitum
