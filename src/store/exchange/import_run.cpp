#include "store/exchange/import_run.h"

#include "core/base/phrase.h"
#include "core/units/quantity_kind.h"
#include "core/units/unit.h"
#include "store/exchange/csv_rows.h"
#include "store/samples/samples.h"

#include <algorithm>
#include <fmt/format.h>
#include <utility>

namespace cognitum {

namespace {

constexpr std::size_t samples_at_once = 250'000; ///< that are kept while as many are read
constexpr std::chrono::milliseconds longest_wait{400};

/// A kind of that unit, whose name stands in the column's where there are several: "Neighbour's rain [mm]" is rain
/// and no level. A person can change it at Quantity.
const QuantityKind* kind_proposed(const std::string& column, const std::string& unit) {
    const QuantityKind* first = nullptr;
    for (const QuantityKind& kind : quantity_kinds()) {
        if (std::find(kind.units.begin(), kind.units.end(), unit) == kind.units.end()) continue;
        if (csv::lower(column).find(csv::lower(kind.title.english())) != std::string::npos) return &kind;
        if (!first) first = &kind;
    }
    return first;
}

} // namespace

const Reading* reading_called(const Bench& bench, std::string_view name) {
    for (const Reading& r : bench.readings)
        if (csv::lower(r.name) == csv::lower(name) || r.id == name) return &r;
    return nullptr;
}

Result<UnitLine> unit_line(const std::string& unit, const Reading& reading) {
    const std::string& own = reading.quantity.unit;
    if (!find_unit(unit) || !find_unit(own) || same_unit(unit, own)) return UnitLine{};
    const auto zero = convert_unit(0, unit, own);
    const auto one = convert_unit(1, unit, own);
    if (!zero || !one)
        return failure(phrase("its numbers are in {}, the reading \"{}\" is in {}.", unit_symbol(unit),
                              reading.name, unit_symbol(own)),
                       {}, phrase("Give it another name, or leave it out."));
    return UnitLine{*one - *zero, *zero};
}

std::string create_reading(Bench& bench, const std::string& name, const std::string& unit) {
    Reading reading;
    reading.id = bench.free_id(name);
    reading.name = name;
    reading.quantity.kind = "number";
    reading.quantity.unit = "1";
    if (const Unit* known = find_unit(unit)) {
        reading.quantity.unit = known->code;
        if (const QuantityKind* kind = kind_proposed(name, known->code)) {
            reading.quantity = Quantity{kind->id, known->code, kind->low, kind->high, kind->accuracy, 1, ""};
            if (const auto line = convert_unit(kind->high, kind->units.front(), known->code)) {
                reading.quantity.low =
                    convert_unit(kind->low, kind->units.front(), known->code).value_or(kind->low);
                reading.quantity.high = *line;
            }
        }
    }
    bench.readings.push_back(reading);
    return reading.id;
}

std::size_t ImportRun::lane(const std::string& reading) {
    const auto at = std::find(m_lanes.begin(), m_lanes.end(), reading);
    if (at != m_lanes.end()) return static_cast<std::size_t>(at - m_lanes.begin());
    m_lanes.push_back(reading);
    return m_lanes.size() - 1;
}

void ImportRun::add(std::size_t lane, const Sample& sample) {
    if (std::exchange(m_row_empty, false)) m_rows.lines.push_back(m_line);
    if (m_rows.lanes.size() < m_lanes.size()) m_rows.lanes.resize(m_lanes.size());
    m_rows.lanes[lane].samples.push_back(sample);
    m_rows.lanes[lane].row.push_back(static_cast<std::uint32_t>(m_rows.lines.size() - 1));
    ++m_rows.samples;
}

Result<ImportRun::Kept> ImportRun::keep_rows(BenchFile& file, const std::vector<std::string>& readings, Rows rows) {
    std::vector<SeriesBatch> batches;
    std::vector<std::size_t> lane_of;
    std::vector<int> left(rows.lines.size(), 0); // samples of a row that are new
    for (std::size_t i = 0; i < rows.lanes.size(); ++i) {
        if (rows.lanes[i].samples.empty()) continue;
        for (const std::uint32_t row : rows.lanes[i].row)
            ++left[row];
        batches.push_back({readings[i], std::move(rows.lanes[i].samples)});
        lane_of.push_back(i);
    }
    const auto added = add_samples(file, batches);
    if (!added) return tl::make_unexpected(added.error());
    if (!added->damaged.empty()) return tl::make_unexpected(added->damaged.begin()->second);
    Kept out;
    out.samples = added->added;
    for (std::size_t b = 0; b < batches.size(); ++b) {
        for (const std::size_t i : added->left_out[b])
            --left[rows.lanes[lane_of[b]].row[i]];
        if (added->left_out[b].size() < batches[b].samples.size()) out.lanes.push_back(lane_of[b]);
    }
    for (std::size_t row = 0; row < left.size(); ++row) {
        if (left[row] > 0)
            ++out.rows;
        else
            out.lines_doubled.push_back(rows.lines[row]);
    }
    return out;
}

/// Waits for the rows before and counts them.
Result<void> ImportRun::wait() {
    if (!m_under_way.valid()) return {};
    auto kept = m_under_way.get();
    if (!kept) {
        if (m_report.rows > 0) kept.error().fix += phrase(" {} rows before that are saved.", m_report.rows);
        return tl::make_unexpected(kept.error());
    }
    m_report.samples += kept->samples;
    m_report.rows += kept->rows;
    for (const std::uint64_t line : kept->lines_doubled)
        m_report.rejected.add(phrase("a time that is already there"), line, "");
    for (const std::size_t lane : kept->lanes)
        if (std::find(m_report.readings.begin(), m_report.readings.end(), m_lanes[lane]) == m_report.readings.end())
            m_report.readings.push_back(m_lanes[lane]);
    return {};
}

Result<void> ImportRun::begin_keeping() {
    if (m_rows.samples == 0) return {};
    COGNITUM_CHECK(wait());
    if (!m_plan_saved ? m_plan != m_stored : m_saved_readings < m_plan.readings.size()) {
        COGNITUM_TRY(saved, m_file.save_plan(m_plan));
        m_stored = std::move(saved.plan);
        m_plan_saved = true;
    }
    m_saved_readings = m_plan.readings.size();
    m_last_kept = std::chrono::steady_clock::now();
    m_under_way =
        std::async(std::launch::async, [this, lanes = m_lanes, rows = std::exchange(m_rows, {})]() mutable {
            return keep_rows(m_file, lanes, std::move(rows));
        });
    return {};
}

Result<void> ImportRun::keep_much() {
    return m_rows.samples >= samples_at_once ? begin_keeping() : Result<void>{};
}

Result<void> ImportRun::keep_old() {
    return std::chrono::steady_clock::now() - m_last_kept > longest_wait ? begin_keeping() : Result<void>{};
}

Error ImportRun::broken(const std::string& what, const std::string& name) {
    if (const auto done = begin_keeping(); !done) return done.error();
    if (const auto done = wait(); !done) return done.error();
    return {what, name, m_report.rows > 0 ? phrase("{} rows before that are saved.", m_report.rows) : ""};
}

Result<ImportReport> ImportRun::finish(const std::string& name, Bench& bench) {
    COGNITUM_CHECK(begin_keeping());
    COGNITUM_CHECK(wait());
    if (m_report.rows == 0) {
        std::string why = phrase("it has no rows.");
        if (!m_report.rejected.reasons().empty()) {
            const Rejection& first = m_report.rejected.reasons().front();
            why = phrase("no row could be taken: {} ({} rows, the first in line {}).", first.reason, first.count,
                         first.first_line);
        }
        return failure(why, name, phrase("Nothing was changed."));
    }
    bench = m_stored;
    return std::move(m_report);
}

} // namespace cognitum
