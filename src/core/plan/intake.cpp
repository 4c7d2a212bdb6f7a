#include "core/plan/intake.h"

#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/plan/signal_about.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "core/watch/bands.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

RawRules raw_rules(const Placed& p) {
    RawRules out{failure_rules_of(p), part_span(p), p.part ? p.part->warm_up_s : 0,
                 about_signal(p).kind == SignalKind::counter};
    // A board that sends centimetres sends the part's failure values in centimetres as well.
    const std::string& sent = p.reading->source.unit;
    if (p.measurand && !sent.empty() && !same_unit(sent, p.measurand->unit) &&
        convert_unit(0, p.measurand->unit, sent)) {
        for (FailureRule& rule : out.failures) {
            rule.low = convert_unit(rule.low, p.measurand->unit, sent).value_or(rule.low);
            rule.high = convert_unit(rule.high, p.measurand->unit, sent).value_or(rule.high);
        }
        out.span = std::abs(convert_unit(out.span, p.measurand->unit, sent).value_or(0) -
                            convert_unit(0, p.measurand->unit, sent).value_or(0));
    }
    return out;
}

void PartnerValues::set_plan(const Bench& bench) {
    m_followed.clear();
    for (const Reading& reading : bench.readings)
        for (const std::string& id : followed(reading.path))
            m_followed[id] = true;
    std::erase_if(m_partners, [&](const auto& p) { return m_followed.count(p.first) == 0; });
    ++m_revision;
}

void PartnerValues::tell(const Reading& reading, double value, TimeUs time) {
    if (!is_followed(reading.id)) return;
    Partner& p = m_partners[reading.id];
    if (p.time == 0 || p.value != value) ++m_revision;
    p = {value, 0, reading.quantity.unit, reading.name, time};
}

const Partners& PartnerValues::at(const Bench& bench, TimeUs now) {
    const auto gone = std::erase_if(m_partners, [&](const auto& p) {
        const Reading* reading = bench.reading(p.first);
        return !reading || freshness(p.second.time, now, reading->quantity) == Freshness::silent;
    });
    if (gone > 0) ++m_revision;
    return m_partners;
}

std::string no_way(const Reading& reading) {
    const std::string& from = reading.source.unit;
    if (!reading.path.stages.empty() || from.empty() || convert_unit(1, from, reading.quantity.unit)) return {};
    return phrase("It comes in {}, and nothing says yet how that becomes {}: choose the part at the stop Sensor.",
                  from == "count" ? phrase("counts") : unit_symbol(from), unit_symbol(reading.quantity.unit));
}

Intake::Intake(const Reading& reading, RawRules rules)
    : m_path(effective_path(reading)),
      m_no_way(no_way(reading)),
      m_rules(std::move(rules)),
      m_follows(!followed(m_path).empty()) {
    if (reading.source.collect == "beats")
        m_collector.emplace(Collector::Kind::beats, 1);
    else if (reading.source.collect == "rate")
        m_collector.emplace(Collector::Kind::rate, std::max(3.0, reading.quantity.interval_s));
    m_rules.counter = m_rules.counter && !m_collector;
}

void Intake::carry_on(const Intake& before) {
    m_before = before.m_before;
    m_total = before.m_total;
    m_first_count = before.m_first_count;
    m_warm_at = before.m_warm_at;
    if (m_collector && before.m_collector) m_collector = before.m_collector;
}

/// A counter that starts anew goes on from where it was.
double Intake::continued(double count) {
    if (!m_rules.counter) return count;
    if (!std::isfinite(m_first_count)) m_first_count = count;
    return m_first_count + m_total.take(count);
}

std::optional<Arrived> Intake::take(TimeUs time, double raw, const Partners& partners, std::uint64_t revision) {
    Arrived out{raw, Value::none(Cause::failed), {}};
    // Not before the power came either: a clock may be set back, and a file is of another day.
    if (time < m_warm_at && time >= m_warm_at - from_seconds(m_rules.warm_up_s)) {
        if (m_collector && time < m_said_cold + second_us) return {}; // of a wave once a second
        m_said_cold = time;
        out.why = phrase("The part warms up: what it says in the first {} after power is no measurement.",
                         format_measure(m_rules.warm_up_s, "s"));
        return out;
    }
    if (m_collector) {
        const auto collected = m_collector->take(time, raw);
        if (!collected) return {};
        out.raw = collected->number;
        out.why = collected->why;
        if (!std::isfinite(out.raw)) return out;
    } else if (const FailureRule* failed = failed_by(m_rules.failures, raw, m_before, m_rules.span)) {
        out.why = phrase("The part says: {}.", failed->means);
        return out;
    }
    double number = out.raw;
    if (std::isfinite(number)) {
        m_before = number;
        number = continued(number);
    }
    if (m_follows && revision != m_fed_at) {
        m_fed = m_path;
        feed(m_fed, partners);
        m_fed_at = revision;
    }
    out.value = forward(path(), number);
    if (!out.value.ok()) out.why.clear();
    if (out.value.ok() && !m_no_way.empty()) {
        out.value = Value::none(Cause::not_a_number);
        out.why = m_no_way;
    }
    return out;
}

Arrived Intake::finished(double value) {
    Arrived out{no_number, {value, Cause::none}, {}};
    for (FailureRule rule : m_rules.failures) { // as they look behind the path
        if (!m_path.stages.empty()) {
            const Value low = forward(m_path, rule.low);
            const Value high = forward(m_path, rule.high);
            if (rule.low != rule.high || !low.ok() || !high.ok()) continue;
            rule.low = rule.high = low.number;
        }
        const double slack = 1e-9 * std::max(1.0, std::abs(rule.low));
        if (!(value >= rule.low - slack && value <= rule.high + slack)) continue;
        if (rule.only_at_start && std::abs(value - m_before) <= m_rules.span / 10) continue;
        out.value = Value::none(Cause::failed);
        out.why = phrase("The part says: {}.", rule.means);
        return out;
    }
    m_before = value;
    return out;
}

} // namespace cognitum
