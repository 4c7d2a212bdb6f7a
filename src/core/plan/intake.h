// From a number as it arrives to a value with its cause, the same way for lines, files, imports and typed numbers:
// failure values of the part's card, many numbers that become one, counters over restarts, partners, the path.
// Value types; one intake for each reading, one PartnerValues for each source that feeds several.
#pragma once

#include "core/base/no_number.h"
#include "core/decode/failure.h"
#include "core/decode/sender.h"
#include "core/plan/placed.h"
#include "core/pulses/collector.h"

#include <limits>
#include <optional>
#include <string>

namespace cognitum {

/// What plan and cards say of a reading's raw number.
struct RawRules {
    std::vector<FailureRule> failures; ///< in the unit in which the number arrives
    double span = 0;                   ///< of the part's range, same unit
    double warm_up_s = 0;              ///< after power, while the part says anything
    bool counter = false;              ///< goes on over restarts of the board
};
RawRules raw_rules(const Placed& placed);

/// What the readings that others follow say now.
class PartnerValues {
  public:
    /// Forgets those that are no longer followed.
    void set_plan(const Bench& bench);
    [[nodiscard]] bool is_followed(const std::string& reading) const { return m_followed.count(reading) > 0; }
    /// A new value of a followed reading, in its quantity's unit; others are ignored.
    void tell(const Reading& reading, double value, TimeUs time);
    /// Without those whose last value has gone stale by `now`.
    const Partners& at(const Bench& bench, TimeUs now);
    [[nodiscard]] const Partners& last() const { return m_partners; }
    [[nodiscard]] std::uint64_t revision() const { return m_revision; } ///< grows when anything changes; from 1

  private:
    std::map<std::string, bool> m_followed;
    Partners m_partners;
    std::uint64_t m_revision = 1;
};

/// Where a reading's numbers come in a unit that nothing leads from to its own, as counts of a converter before its
/// part is chosen: a sentence. Empty: something does.
std::string no_way(const Reading& reading);

/// A number that arrived, and what became of it.
struct Arrived {
    double raw = no_number;
    Value value = Value::none(Cause::missing);
    std::string why = {}; ///< a sentence where the cause alone does not say it, or about what is doubtful
};

class Intake {
  public:
    Intake() = default;
    Intake(const Reading& reading, RawRules rules);
    /// Takes over what another intake of the same reading and field knows of the numbers before.
    void carry_on(const Intake& before);

    /// A raw number; NaN where the line held none. Empty: it is one of many that become one later.
    std::optional<Arrived> take(TimeUs time, double raw, const Partners& partners, std::uint64_t revision);
    /// A number that is said to be the value already (a typed or imported one): failure values are found in it,
    /// too.
    Arrived finished(double value);
    /// The part got power then: what it says until it is warm is no value.
    void powered(TimeUs then) { m_warm_at = then + from_seconds(m_rules.warm_up_s); }

    [[nodiscard]] bool collects() const { return m_collector.has_value(); }
    [[nodiscard]] const Chain& path() const { return m_fed_at > 0 ? m_fed : m_path; } ///< as partners set it

  private:
    [[nodiscard]] double continued(double count);

    Chain m_path; ///< effective; without stages the number is the value
    std::string m_no_way;
    RawRules m_rules;
    std::optional<Collector> m_collector;
    bool m_follows = false;
    Chain m_fed; ///< the path as its partners set it
    std::uint64_t m_fed_at = 0;
    double m_before = no_number; ///< last good raw number
    CounterTotal m_total;
    double m_first_count = no_number;
    TimeUs m_warm_at = std::numeric_limits<TimeUs>::min();
    TimeUs m_said_cold = 0; ///< when it was last said that the part warms up
};

} // namespace cognitum
