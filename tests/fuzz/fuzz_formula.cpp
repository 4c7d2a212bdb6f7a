// A formula that a person types: it is refused or it computes, the same each time, a number or none, and it ends.
#include "core/signal_path/formula.h"
#include "fuzz.h"

#include <array>
#include <cmath>

using namespace cognitum;

HARNESS(formula)(const std::uint8_t* data, std::size_t size) {
    const auto program = FormulaProgram::compile(std::string(text_of(data, size)), {"a", "b"});
    if (!program) {
        PROMISE(!program.error().what.empty());
        return 0;
    }
    constexpr std::array constants = {1.5, -2.0};
    for (const double x : {0.0, 1.0, -3.5, 1e9, 1e-300}) {
        const double once = program->evaluate(x, constants), again = program->evaluate(x, constants);
        PROMISE(std::isfinite(once) ? once == again : std::isnan(once) && std::isnan(again));
    }
    return 0;
}
