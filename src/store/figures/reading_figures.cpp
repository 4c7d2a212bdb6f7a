#include "store/figures/reading_figures.h"

#include "core/base/phrase.h"
#include "core/plan/path.h"
#include "core/plan/placed.h"
#include "core/plan/reading_doubt.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "store/samples/samples.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr TimeUs no_end = latest_time;

/// Step and way of adding, found in what was recorded.
struct Habits {
    TimeUs usual = 0;
    Adds adds = Adds::nothing;
};

Result<Habits> habits_of(BenchFile& file, const Reading& reading, TimeUs from, TimeUs to) {
    UsualStep step;
    AddsJudge judge;
    bool counted = false; // its values were made of a count
    const bool is_total = reading.quantity.about().is_total;
    COGNITUM_CHECK(for_each_sample(file, reading.id, from, to, [&](std::span<const Sample> samples) {
        for (const Sample& s : samples) {
            step.take(s.time);
            if (!is_total) continue;
            judge.take(s.value);
            counted = counted || (std::isfinite(s.raw) && std::isfinite(s.value));
        }
        return true;
    }));
    Habits out;
    out.usual = step.median() > 0 ? step.median() : std::max<TimeUs>(1, from_seconds(reading.quantity.interval_s));
    if (is_total) out.adds = counted ? Adds::running_total : judge.verdict();
    return out;
}

StretchRules rules_of(const Reading& reading, const Habits& habits) {
    const QuantityKind& kind = reading.quantity.about();
    StretchRules rules;
    rules.usual = habits.usual;
    rules.bands = reading.bands;
    rules.named_bands = reading.named_bands;
    rules.on_word = kind.on_word;
    rules.off_word = kind.off_word;
    rules.adds = habits.adds;
    constexpr double most_tips_at_once = 1000; // more is no rain but another counter
    if (kind.events == Events::tips && !reading.path.stages.empty())
        rules.most_step = most_tips_at_once * std::abs(slope(reading.path, 1));
    return rules;
}

/// Standard uncertainty that all values near this one share; NaN: nothing is known of it.
double shared_u(const Bench& bench, const Catalog& catalog, const Reading& reading, double value, TimeUs when,
                bool with_quantisation) {
    const Partners partners = planned_partners(bench, reading.path);
    const Value raw = inverse(effective_path(reading, partners), value);
    if (!raw.ok()) return no_number;
    const Placed placed = place(bench, catalog, reading);
    const double limit = part_limit(placed, raw.number, partners);
    const Budget b =
        reading_budget(reading, placed.part, raw.number, 0, when, std::isfinite(limit) ? limit : 0, partners);
    double squares = 0;
    for (const Contribution& c : b.contributions)
        if (with_quantisation || (c.id != "quantisation" && c.id != "noise")) squares += c.u * c.u;
    return squares > 0 ? std::sqrt(squares) : no_number;
}

/// Quantisation stays in a mean where the noise is too small to move the code.
double coarse_u(const Bench& bench, const Reading& reading, double value, double noise) {
    const Partners partners = planned_partners(bench, reading.path);
    const Value raw = inverse(effective_path(reading, partners), value);
    if (!raw.ok()) return 0;
    const Budget doubts = budget(effective_path(reading, partners), raw.number);
    const Contribution* step = doubts.find("quantisation");
    return step && noise < step->u ? step->u : 0;
}

void add_doubts(ReadingFigures& out, const Bench& bench, const Catalog& catalog, const Reading& reading) {
    const StretchFigures& s = out.stretch;
    if (s.valued > 0) {
        const double shared = shared_u(bench, catalog, reading, s.mean, s.last_at, false);
        out.shared_known = std::isfinite(shared);
        const double single = std::hypot(s.noise / std::sqrt(static_cast<double>(s.valued)),
                                         coarse_u(bench, reading, s.mean, s.noise));
        out.u_mean = std::hypot(single, out.shared_known ? shared : 0);
    }
    if (s.total) out.u_total = shared_u(bench, catalog, reading, *s.total, s.last_at, true);
}

/// Feeds samples to a counter for each period; samples that reach over an edge go to both sides.
class PeriodCounters {
  public:
    PeriodCounters(const std::vector<CalendarPeriod>& periods, const StretchRules& rules) {
        for (const CalendarPeriod& p : periods)
            m_counters.emplace_back(p.from, p.to, rules);
        m_periods = &periods;
    }
    void take(const Sample& s) {
        while (m_at < m_counters.size()) {
            m_counters[m_at].take(s.time, s.value, s.cause);
            if (s.time < (*m_periods)[m_at].to) break;
            ++m_at;
            if (m_at == m_counters.size()) break;
            for (const std::optional<Sample>& before : {m_last_value, m_last})
                if (before) m_counters[m_at].take(before->time, before->value, before->cause);
        }
        if (std::isfinite(s.value)) m_last_value = s;
        m_last = s;
    }
    std::vector<StretchFigures> finish() {
        std::vector<StretchFigures> out;
        for (StretchCounter& c : m_counters)
            out.push_back(c.finish());
        return out;
    }

  private:
    const std::vector<CalendarPeriod>* m_periods = nullptr;
    std::vector<StretchCounter> m_counters;
    std::size_t m_at = 0;
    std::optional<Sample> m_last, m_last_value;
};

} // namespace

double ReadingFigures::digits_of_mean(const Quantity& quantity) const {
    return shared_known ? 2 * u_mean : std::max(2 * u_mean, quantity.accuracy / 10);
}

double ReadingFigures::digits_of_value(const Quantity& quantity) const {
    return std::hypot(digits_of_mean(quantity), 2 * stretch.noise);
}

double value_u(const Bench& bench, const Catalog& catalog, const Reading& reading, double value, TimeUs when) {
    return shared_u(bench, catalog, reading, value, when, true);
}

Result<ReadingFigures> figures_of(BenchFile& file, const Bench& bench, const Catalog& catalog,
                                  const Reading& reading, std::optional<TimeUs> from, std::optional<TimeUs> to) {
    COGNITUM_TRY(all, extent(file, reading.id));
    ReadingFigures out;
    const TimeUs first = from.value_or(std::min(all.n ? all.first : 0, to.value_or(latest_time)));
    COGNITUM_TRY(habits, habits_of(file, reading, first, to ? *to - 1 : no_end));
    out.usual = habits.usual;
    out.adds = habits.adds;
    const TimeUs end = std::max(first, to.value_or(all.n ? all.last + habits.usual : first));
    StretchCounter counter(first, end, rules_of(reading, habits));
    COGNITUM_TRY(lead, sample_before(file, reading.id, first));
    COGNITUM_CHECK(
        for_each_sample(file, reading.id, lead.value_or(first), no_end, [&](std::span<const Sample> samples) {
            for (const Sample& s : samples)
                counter.take(s.time, s.value, s.cause);
            return samples.empty() || samples.back().time < end;
        }));
    out.stretch = counter.finish();
    add_doubts(out, bench, catalog, reading);
    return out;
}

namespace {

struct Column {
    std::vector<PeriodValue> values;
    Adds adds = Adds::nothing;
};

Result<Column> column_of(BenchFile& file, const Bench& bench, const Catalog& catalog, const Reading& reading,
                         const std::vector<CalendarPeriod>& periods) {
    Column out;
    if (periods.empty()) return out;
    const TimeUs from = periods.front().from;
    const TimeUs to = periods.back().to;
    COGNITUM_TRY(habits, habits_of(file, reading, from, to - 1));
    out.adds = habits.adds;
    PeriodCounters counters(periods, rules_of(reading, habits));
    COGNITUM_TRY(lead, sample_before(file, reading.id, from));
    COGNITUM_CHECK(
        for_each_sample(file, reading.id, lead.value_or(from), no_end, [&](std::span<const Sample> samples) {
            for (const Sample& s : samples)
                counters.take(s);
            return samples.empty() || samples.back().time < to;
        }));
    for (StretchFigures& stretch : counters.finish()) {
        ReadingFigures figures;
        figures.stretch = std::move(stretch);
        add_doubts(figures, bench, catalog, reading);
        const bool total = figures.stretch.total.has_value();
        const double u = total || figures.shared_known ? (total ? figures.u_total : figures.u_mean) : no_number;
        out.values.push_back(
            {total ? *figures.stretch.total : figures.stretch.mean, 2 * u, figures.stretch.coverage});
    }
    return out;
}

/// What a difference can and cannot prove.
std::string meaning_of(const PeriodFigures& row, bool totals, bool same_design) {
    if (!std::isfinite(row.difference)) return phrase("One of the two has no value.");
    std::string out;
    if (!std::isfinite(row.doubt_of_difference))
        out = phrase("How sure the difference is, is not known: one of the two has no stated doubt.");
    else if (std::abs(row.difference) <= row.doubt_of_difference)
        out = phrase("They agree within their doubt.");
    else
        out = phrase("They differ by more than their doubt.");
    constexpr double nearly_all = 0.95;
    const double least = std::min(row.own.coverage, row.other->coverage);
    if (least < nearly_all)
        out += phrase(" {:.0f} % of the time was measured; the rest is not counted.", 100 * least);
    if (totals) out += phrase(" Agreement in a total says nothing of short storms.");
    if (same_design) out += phrase(" Two parts of one design share their errors: their agreement is no proof.");
    return out;
}

} // namespace

Result<PeriodTable> figures_by_period(BenchFile& file, const Bench& bench, const Catalog& catalog,
                                      const Reading& reading, const Reading* against, Period period,
                                      const ZoneOffset& zone, TimeUs day_start) {
    const std::string& unit = reading.quantity.unit;
    if (against && !convert_unit(1, against->quantity.unit, unit))
        return failure(phrase("\"{}\" is in {} and \"{}\" in {}: they cannot be compared.", reading.name,
                              unit_symbol(unit), against->name, unit_symbol(against->quantity.unit)),
                       file.path(), phrase("Choose two readings of one kind."));
    PeriodTable out{false, unit, {}};
    COGNITUM_TRY(all, extent(file, reading.id));
    if (all.n == 0) return out;
    const std::vector<CalendarPeriod> periods = calendar_periods(period, all.first, all.last + 1, zone, day_start);
    if (!periods.empty() && periods.back().to <= all.last)
        return failure(phrase("its samples reach over more than {} such periods.", periods.size()), file.path(),
                       phrase("Choose longer ones: months, or years."));
    COGNITUM_TRY(own, column_of(file, bench, catalog, reading, periods));
    out.totals = own.adds != Adds::nothing;
    Column other;
    if (against) {
        COGNITUM_TRY(column, column_of(file, bench, catalog, *against, periods));
        if ((column.adds == Adds::nothing) == out.totals)
            return failure(
                phrase("one of \"{}\" and \"{}\" is a total and the other is not.", reading.name, against->name),
                file.path(), phrase("Set its kind at Quantity: rain in mm is no level in mm."));
        other = std::move(column);
    }
    const bool same_design = against && !reading.sensor.part.empty() && reading.sensor.part == against->sensor.part;
    for (std::size_t i = 0; i < periods.size(); ++i) {
        PeriodFigures row;
        row.period = periods[i];
        row.own = own.values[i];
        if (against) {
            PeriodValue v = other.values[i];
            const double above = *convert_unit(v.value + v.doubt, against->quantity.unit, unit);
            v.value = *convert_unit(v.value, against->quantity.unit, unit);
            v.doubt = above - v.value;
            row.other = v;
            row.difference = row.own.value - v.value;
            row.doubt_of_difference = std::hypot(row.own.doubt, v.doubt);
            row.says = meaning_of(row, out.totals, same_design);
        }
        out.rows.push_back(std::move(row));
    }
    return out;
}

} // namespace cognitum
