#include "store/exchange/point_intake.h"

#include "core/base/phrase.h"
#include "core/units/unit.h"

#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr std::size_t most_names = 1000;

} // namespace

PointIntake::Lane& PointIntake::lane_of(const Point& point) {
    m_key.assign(point.name).append(1, '\0').append(point.unit);
    if (const auto known = m_lanes.find(m_key); known != m_lanes.end()) return known->second;
    const std::string unit(point.unit);
    Bench& plan = m_run.plan();
    const Reading* reading = reading_called(plan, point.name);
    std::string refused;
    if (!reading && m_lanes.size() >= most_names)
        refused = phrase("a name beyond the first {}", most_names);
    else if (!reading)
        reading = plan.reading(create_reading(plan, std::string(point.name), unit));
    const bool has_path = reading && !reading->path.stages.empty();
    const bool counts = has_path && !unit.empty() && same_unit(unit, reading->path.first_unit());
    const bool is_raw = has_path && (m_as_raw || counts);
    if (reading && !is_raw)
        if (const auto line = unit_line(unit, *reading); !line) refused = line.error().what;
    m_partners.set_plan(plan);
    const std::size_t lane = reading && refused.empty() ? m_run.lane(reading->id) : 0;
    return m_lanes
        .emplace(m_key, Lane{lane, refused,
                             csv::SampleIntake(plan, m_catalog, reading ? *reading : Reading{}, is_raw, unit)})
        .first->second;
}

std::string PointIntake::take(std::uint64_t line, const Point& point) {
    if (point.name.empty()) return phrase("no name");
    if (point.name.size() > 200) return phrase("a name longer than 200 bytes");
    if (std::isnan(point.cell.number) && point.cell.cause == Cause::none) return phrase("no value");
    Lane& lane = lane_of(point);
    if (!lane.refused.empty()) return lane.refused;
    m_run.begin_row(line);
    if (const auto sample = lane.intake.sample(m_run.plan(), m_partners, point.time, point.cell))
        m_run.add(lane.lane, *sample);
    return {};
}

} // namespace cognitum
