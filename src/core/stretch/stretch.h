// What a stretch of time amounts to: least, mean, most, totals, time in each band, failures, coverage and gaps. One
// pass over the samples in order of time, in bounded memory, so that years cost no more than a day.
#pragma once

#include "core/base/no_number.h"
#include "core/base/time.h"
#include "core/bench/bench.h"
#include "core/signal_path/cause.h"
#include "core/watch/bands.h"

#include <array>
#include <cstdint>
#include <optional>
#include <string>
#include <vector>

namespace cognitum {

/// Median of the steps between samples, within 1 % (exact where all are equal), in bounded memory.
class UsualStep {
  public:
    void take(TimeUs time); ///< of a sample; times grow
    /// 0 with fewer than two samples.
    [[nodiscard]] TimeUs median() const;

  private:
    struct Bin {
        std::uint64_t n = 0;
        double sum = 0;
    };
    std::optional<TimeUs> m_last;
    std::vector<Bin> m_bins; ///< by the logarithm of the step
    std::uint64_t m_steps = 0;
};

/// How the values of a total (rain, energy, water used) are to be added up.
enum class Adds {
    nothing,       ///< no total: temperatures are not added
    running_total, ///< each value is what came since a start; a value that falls began anew
    amounts,       ///< each value is what came since the line before
};

/// Tells a running total from amounts by how the numbers move: a total stays where it is between rains, an amount
/// falls back to zero after each. Only for finished numbers; a count is always a running total.
class AddsJudge {
  public:
    void take(double value); ///< in order of time; NaN is passed over
    [[nodiscard]] Adds verdict() const { return m_falls > m_stays ? Adds::amounts : Adds::running_total; }

  private:
    double m_last = no_number;
    std::uint64_t m_falls = 0, m_stays = 0; ///< of values above zero
};

/// A gap is longer than so many usual steps.
inline constexpr int steps_to_a_gap = 5;

struct StretchRules {
    TimeUs usual = 0;                        ///< step between samples, > 0
    std::optional<Bands> bands = {};         ///< low, in range, high
    std::vector<NamedBand> named_bands = {}; ///< instead of them
    std::string on_word = {}, off_word = {}; ///< of a state; empty: it is none
    Adds adds = Adds::nothing;
    double most_step = 0; ///< a running total that grows more in one step began anew; 0: no bound
};

struct BandTime {
    std::string name; ///< "in range", "moves"
    double seconds = 0;
};

struct CauseCount {
    Cause cause = Cause::none;
    std::uint64_t n = 0;
};

/// Over [from, to). Numbers are NaN where there is no value.
struct StretchFigures {
    TimeUs from = 0, to = 0;
    std::uint64_t n = 0, valued = 0;
    double least = no_number, mean = no_number, most = no_number;
    TimeUs least_at = 0, most_at = 0; ///< the first time of each; only when valued > 0
    double first = no_number, last = no_number;
    TimeUs last_at = 0; ///< only when valued > 0
    /// Scatter from one sample to the next, without what changes slowly: the root of half the mean square of
    /// successive differences (von Neumann 1941). 0 with fewer than two values.
    double noise = 0;
    double per_hour = no_number;      ///< slope of the straight line through the values, needs two
    std::optional<double> total;      ///< what came in the stretch
    double in_gaps = 0;               ///< of the total: came while no lines came, so that when is not known
    std::vector<BandTime> bands;      ///< those with any time
    std::vector<CauseCount> failures; ///< most frequent first
    double coverage = 0;              ///< share of the time for which there is a value, 0…1
    std::vector<Interval> gaps;       ///< without any line; at most most_gaps, the longest
    std::uint64_t all_gaps = 0;       ///< how many there are
    static constexpr std::size_t most_gaps = 1000;
};

/// Takes samples in order of time: those before `from` as far as they reach into it, those of the stretch, and the
/// first one behind it.
class StretchCounter {
  public:
    StretchCounter(TimeUs from, TimeUs to, StretchRules rules);
    void take(TimeUs time, double value, Cause cause);
    [[nodiscard]] StretchFigures finish();

  private:
    struct Point {
        TimeUs time = 0;
        double value = no_number;
    };
    void hold_until(TimeUs time);
    void add_growth(TimeUs time, double value);
    void count_value(TimeUs time, double value);
    void note_gap(TimeUs from, TimeUs to);

    StretchRules m_rules;
    StretchFigures m_out;
    std::optional<Point> m_before; ///< the sample before this one, with or without value
    std::optional<Point> m_value;  ///< the value before this one
    Zone m_zone = Zone::unknown;
    std::array<double, 4> m_band_s{};
    std::vector<double> m_named_s; ///< by place in the named bands
    double m_on_s = 0, m_off_s = 0, m_covered_s = 0, m_total = 0;
    double m_time_mean = 0, m_time_squares = 0, m_products = 0;
    double m_difference_squares = 0;
    std::uint64_t m_differences = 0;
    std::array<std::uint64_t, static_cast<std::size_t>(last_cause) + 1> m_failures{};
    bool m_behind = false;
};

} // namespace cognitum
