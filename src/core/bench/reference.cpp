#include "core/bench/reference.h"

#include <cmath>

namespace cognitum {

double ReferenceInstrument::standard_uncertainty() const {
    return std::hypot(u, resolution / std::sqrt(12.0)); // a display rounds to its nearest step
}

} // namespace cognitum
