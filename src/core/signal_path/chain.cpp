#include "core/signal_path/chain.h"

#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

std::string Chain::first_unit() const {
    if (!input_unit.empty() || stages.empty()) return input_unit;
    return cognitum::input_unit(stages.front());
}

std::string Chain::last_unit() const {
    return stages.empty() ? input_unit : output_unit(stages.back());
}

Walk walk_through(const Chain& chain, std::size_t step, double value) {
    Walk out;
    const Value given = std::isfinite(value) ? Value{value} : Value::none(Cause::not_a_number);
    out.steps.assign(chain.stages.size() + 1, given);
    if (!given.ok()) out.cause = cause_text(given.cause);
    for (std::size_t i = step; i-- > 0;) {
        const Value& from = out.steps[i + 1];
        out.steps[i] = from.ok() ? inverse(chain.stages[i], from.number) : from;
        if (from.ok() && !out.steps[i].ok()) {
            out.failed_stage = i;
            const std::string wanted = format_measure(from.number, output_unit(chain.stages[i]));
            const std::string title = stage_title(chain.stages[i]);
            out.cause = out.steps[i].cause == Cause::ambiguous
                            ? phrase("More than one input gives {} at this step ({}): say between which two it "
                                     "lies.",
                                     wanted, title)
                            : phrase("{} cannot come out of this step ({}).", wanted, title);
        }
    }
    for (std::size_t i = step; i < chain.stages.size(); ++i) {
        const Value& from = out.steps[i];
        out.steps[i + 1] = from.ok() ? forward(chain.stages[i], from.number) : from;
        if (from.ok() && !out.steps[i + 1].ok()) {
            out.failed_stage = i;
            out.cause = cause_text(chain.stages[i], out.steps[i + 1].cause, from.number);
        }
    }
    return out;
}

Walk walk(const Chain& chain, double x) {
    return walk_through(chain, 0, x);
}
Walk walk_back(const Chain& chain, double y) {
    return walk_through(chain, chain.stages.size(), y);
}

Value forward(const Chain& chain, double x) {
    Value value = std::isfinite(x) ? Value{x} : Value::none(Cause::not_a_number);
    for (const Stage& stage : chain.stages) {
        if (!value.ok()) break;
        value = forward(stage, value.number);
    }
    return value;
}

Value inverse(const Chain& chain, double y) {
    Value value = std::isfinite(y) ? Value{y} : Value::none(Cause::not_a_number);
    for (auto stage = chain.stages.rbegin(); stage != chain.stages.rend() && value.ok(); ++stage)
        value = inverse(*stage, value.number);
    return value;
}

double slope(const Chain& chain, double x) {
    const double h = std::max(std::abs(x) * 1e-5, 1e-6);
    const Value low = forward(chain, x - h);
    const Value high = forward(chain, x + h);
    return low.ok() && high.ok() ? (high.number - low.number) / (2 * h) : no_number;
}

} // namespace cognitum
