#include "core/bench/wiring.h"

#include <algorithm>

namespace cognitum {

const Connection* Wiring::connection(std::string_view leg) const {
    const auto at = std::find_if(pins.begin(), pins.end(), [&](const Connection& c) { return c.leg == leg; });
    return at == pins.end() ? nullptr : &*at;
}

Connection* Wiring::connection(std::string_view leg) {
    return const_cast<Connection*>(std::as_const(*this).connection(leg));
}

void Wiring::set_pin(const std::string& pin) {
    if (pins.empty()) pins.push_back({});
    pins.front().pin = pin;
}

} // namespace cognitum
