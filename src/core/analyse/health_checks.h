// Inside of the health verdicts: what every check gets, and the tables of checks by subject. Only health*.cpp use
// it.
#pragma once

#include "core/analyse/health.h"

#include <optional>

namespace cognitum::health {

/// The signal, taken apart once for all checks.
struct Signal {
    std::span<const RawSample> samples;
    const SignalAbout& about;
    const StreamFacts& facts;
    SignalFigures figures;
    std::vector<double> t, v; ///< seconds and numbers of the samples that have one
    [[nodiscard]] std::span<const double> last(std::size_t n) const {
        return std::span(v).last(std::min(n, v.size()));
    }
    [[nodiscard]] bool is(SignalKind kind) const { return about.kind == kind; }
    [[nodiscard]] bool of_codes() const { return is(SignalKind::codes) || is(SignalKind::wave); }
    /// A number of the samples with its unit: "14 counts", "3 mm".
    [[nodiscard]] std::string amount(double x, int decimals = 0) const;
    [[nodiscard]] double full() const { return about.high - about.low; } ///< NaN when the ends are not known
};

using Check = std::optional<HealthVerdict> (*)(const Signal&);
struct Entry {
    const char* id = "";
    const char* title = "";
    Check check = nullptr;
    bool leaves_value = false; ///< as in the verdict
};

/// Each list in the order in which its verdicts explain things.
std::span<const Entry> stream_checks();
std::span<const Entry> value_checks();
std::span<const Entry> movement_checks();

} // namespace cognitum::health
