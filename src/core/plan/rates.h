// Rate planning: what each source makes, what each link and sink carries, what would be lost on the way, and the
// decimation that keeps the truth.
#pragma once

#include "core/plan/placed.h"

#include <span>
#include <string>
#include <vector>

namespace cognitum {

struct RateSource {
    std::string reading, name;
    double samples_per_s = 0; ///< that the board takes
    double values_per_s = 0;  ///< that it sends
};

struct RateSink {
    std::string id;   ///< "line", "uplink", "posts", "service", "service-values", "recording"
    std::string name; ///< for a person
    std::string unit; ///< of both rates: "bytes", "posts", "updates", "values", "samples"
    double offered_per_s = 0;
    double accepted_per_s = 0; ///< 0: no limit that this plan knows
    std::string remedy;        ///< what to do when it is too much; empty: it is not
    [[nodiscard]] double share() const { return accepted_per_s > 0 ? offered_per_s / accepted_per_s : 0; }
    /// Share of what is offered that has no room, 0…1.
    [[nodiscard]] double lost() const { return share() > 1 ? 1 - 1 / share() : 0; }
};

/// So many samples of a reading become one update with mean, minimum and maximum.
struct RateDecimation {
    std::string reading, name;
    std::size_t every = 1;
    double update_s = 0; ///< time between two updates
    std::string where;   ///< "on the board", "on the way to the service"
};

struct RatePlan {
    std::vector<RateSource> sources; ///< fastest first
    std::vector<RateSink> sinks;     ///< in the order in which values pass them
    std::vector<RateDecimation> decimations;
};
/// Of the readings whose numbers come over this board.
RatePlan rate_plan(const Bench& bench, const BoardUse& use);

/// A service that takes updates takes so many values a second in all.
inline constexpr double service_values_per_s = 10;

/// What sending only the newest of each `every` values would have hidden.
struct DecimationLoss {
    std::size_t runs = 0;
    double missed_above = 0,
           missed_below = 0; ///< greatest distance of an extreme to the value that was sent instead
    double mean_off = 0;     ///< greatest distance of a run's mean to the value that was sent
};
/// Values that are no number are left out; a last, shorter run counts too.
DecimationLoss loss_of_newest_only(std::span<const double> values, std::size_t every);

} // namespace cognitum
