// One function object out of several, for std::visit.
#pragma once

namespace cognitum {

template <typename... F>
struct Overloaded : F... {
    using F::operator()...;
};
template <typename... F>
Overloaded(F...) -> Overloaded<F...>;

} // namespace cognitum
