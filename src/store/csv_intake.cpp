#include "store/csv_intake.h"

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

RowIntake::RowIntake(const Bench& plan, const Catalog* catalog, const std::vector<CsvColumn>& columns)
    : m_plan(plan) {
    m_partners.set_plan(plan);
    for (std::size_t i = 0; i < columns.size(); ++i) {
        using Use = CsvColumn::Use;
        if (columns[i].use != Use::values && columns[i].use != Use::raw) continue;
        Lane lane;
        lane.column = lane.cause_column = i;
        lane.reading = plan.reading(columns[i].reading);
        if (!lane.reading) continue;
        lane.is_raw = columns[i].use == Use::raw;
        lane.intake = Intake(*lane.reading, catalog ? raw_rules(place(plan, *catalog, *lane.reading)) : RawRules{});
        for (std::size_t k = 0; k < columns.size(); ++k)
            if (columns[k].use == Use::causes && columns[k].reading == lane.reading->id) lane.cause_column = k;
        m_lanes.push_back(std::move(lane));
    }
    std::stable_sort(m_lanes.begin(), m_lanes.end(), [&](const Lane& a, const Lane& b) {
        return depth_of(plan, *a.reading) < depth_of(plan, *b.reading);
    });
}

std::vector<std::string> RowIntake::lanes() const {
    std::vector<std::string> out;
    for (const Lane& lane : m_lanes)
        out.push_back(lane.reading->id);
    return out;
}

std::optional<Sample> RowIntake::sample_of(Lane& lane, TimeUs time, const Cell& cell) {
    Sample sample{time, no_number, no_number, cell.cause};
    if (cell.cause != Cause::none) {
        if (lane.is_raw) sample.raw = cell.number;
        return sample;
    }
    const std::optional<Arrived> arrived =
        lane.is_raw ? lane.intake.take(time, cell.number, m_partners.at(m_plan, time), m_partners.revision())
                    : lane.intake.finished(cell.number);
    if (!arrived) return {};
    return Sample{time, arrived->raw, arrived->value.number, arrived->value.cause};
}

std::span<const RowIntake::Taken> RowIntake::take(TimeUs time, std::span<const Cell> cells) {
    m_taken.clear();
    for (Lane& lane : m_lanes) {
        Cell cell = cells[lane.column];
        if (cells[lane.cause_column].cause != Cause::none) cell.cause = cells[lane.cause_column].cause;
        if (std::isnan(cell.number) && cell.cause == Cause::none) continue; // an empty cell is no sample
        const std::optional<Sample> sample = sample_of(lane, time, cell);
        if (!sample) continue;
        if (sample->cause == Cause::none) m_partners.tell(*lane.reading, sample->value, time);
        m_taken.push_back({static_cast<std::size_t>(&lane - m_lanes.data()), *sample});
    }
    return m_taken;
}

} // namespace cognitum::csv
