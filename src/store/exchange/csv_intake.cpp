#include "store/exchange/csv_intake.h"

#include "core/base/no_number.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace cognitum::csv {

namespace {

/// How many readings stand behind each other before this one has all that it follows.
int depth_of(const Bench& plan, const Reading& reading, int bound = 8) {
    int depth = 0;
    for (const std::string& id : followed(reading.path))
        if (const Reading* other = plan.reading(id); other && bound > 0)
            depth = std::max(depth, 1 + depth_of(plan, *other, bound - 1));
    return depth;
}

} // namespace

SampleIntake::SampleIntake(const Bench& plan, const Catalog* catalog, const Reading& reading, bool is_raw,
                           const std::string& unit)
    : m_reading(reading),
      m_is_raw(is_raw),
      m_line(is_raw ? UnitLine{} : unit_line(unit, reading).value_or(UnitLine{})),
      m_intake(reading, catalog ? raw_rules(place(plan, *catalog, reading)) : RawRules{}) {}

std::optional<Sample> SampleIntake::sample(const Bench& plan, PartnerValues& partners, TimeUs time,
                                           const Cell& cell) {
    Sample sample{time, no_number, no_number, cell.cause};
    if (cell.cause != Cause::none) {
        if (m_is_raw) sample.raw = cell.number;
        return sample;
    }
    const std::optional<Arrived> arrived =
        m_is_raw ? m_intake.take(time, cell.number, partners.at(plan, time), partners.revision())
                 : m_intake.finished(m_line.of(cell.number));
    if (!arrived) return {};
    sample = {time, arrived->raw, arrived->value.number, arrived->value.cause};
    if (sample.cause == Cause::none) partners.tell(m_reading, sample.value, time);
    return sample;
}

RowIntake::RowIntake(const Bench& plan, const Catalog* catalog, const std::vector<CsvColumn>& columns)
    : m_plan(plan) {
    m_partners.set_plan(plan);
    for (std::size_t i = 0; i < columns.size(); ++i) {
        using Use = CsvColumn::Use;
        if (columns[i].use != Use::values && columns[i].use != Use::raw) continue;
        const Reading* reading = plan.reading(columns[i].reading);
        if (!reading) continue;
        std::size_t cause_column = i;
        for (std::size_t k = 0; k < columns.size(); ++k)
            if (columns[k].use == Use::causes && columns[k].reading == reading->id) cause_column = k;
        m_lanes.push_back(
            {i, cause_column, SampleIntake(plan, catalog, *reading, columns[i].use == Use::raw, columns[i].unit)});
    }
    std::stable_sort(m_lanes.begin(), m_lanes.end(), [&](const Lane& a, const Lane& b) {
        return depth_of(plan, a.intake.reading()) < depth_of(plan, b.intake.reading());
    });
}

std::vector<std::string> RowIntake::lanes() const {
    std::vector<std::string> out;
    for (const Lane& lane : m_lanes)
        out.push_back(lane.intake.reading().id);
    return out;
}

std::span<const RowIntake::Taken> RowIntake::take(TimeUs time, std::span<const Cell> cells) {
    m_taken.clear();
    for (Lane& lane : m_lanes) {
        Cell cell = cells[lane.column];
        if (cells[lane.cause_column].cause != Cause::none) cell.cause = cells[lane.cause_column].cause;
        if (std::isnan(cell.number) && cell.cause == Cause::none) continue; // an empty cell is no sample
        if (const auto sample = lane.intake.sample(m_plan, m_partners, time, cell))
            m_taken.push_back({static_cast<std::size_t>(&lane - m_lanes.data()), *sample});
    }
    return m_taken;
}

} // namespace cognitum::csv
