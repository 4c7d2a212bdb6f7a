// A reading's path as numbers: stages in order, forwards, backwards, and over whole arrays.
#pragma once

#include "core/base/json_reader.h"
#include "core/signal_path/stage.h"

#include <span>
#include <string>
#include <vector>

namespace cognitum {

struct Chain {
    std::string name;
    std::string input_unit; ///< empty: that of the first stage
    std::vector<Stage> stages;
    bool operator==(const Chain&) const = default;

    [[nodiscard]] std::string first_unit() const;
    [[nodiscard]] std::string last_unit() const;
};

/// The value after each stage: steps[0] is the input, steps[i] the output of stage i − 1. After a stage that has no
/// value, all following steps carry its cause, and `failed_stage` is its index.
struct Walk {
    std::vector<Value> steps;
    std::size_t failed_stage = 0; ///< only meaningful when !result().ok()
    std::string cause;            ///< a sentence; empty when all is well
    [[nodiscard]] const Value& result() const { return steps.back(); }
};

Walk walk(const Chain& chain, double x);
/// The same from the far end: steps in the same order as walk(), all leading to the given last value.
Walk walk_back(const Chain& chain, double y);
/// Values at every step when the value at `step` is `value`: backwards before it, forwards after it.
Walk walk_through(const Chain& chain, std::size_t step, double value);

Value forward(const Chain& chain, double x);
Value inverse(const Chain& chain, double y);

/// Batch: out[i] is the value of in[i], NaN where there is none. Sizes must be equal; the spans may be the same.
/// Straight stages are folded into one line, so that a chain of them costs one pass.
void forward(const Chain& chain, std::span<const double> in, std::span<double> out);

/// Slope d(output)/d(input) at x, by central difference; NaN at the ends.
double slope(const Chain& chain, double x);

/// JSON form of the contract (see docs/file-format.md). Unknown stages and keys are errors with their place.
Result<Chain> read_chain(const JsonReader& json);
Json chain_json(const Chain& chain);
Result<Stage> read_stage(const JsonReader& json);
Json stage_json(const Stage& stage);

} // namespace cognitum
