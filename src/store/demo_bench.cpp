#include "store/demo_bench.h"

#include "core/bringup/stages.h"
#include "core/calibrate/record.h"
#include "core/simulate/gauge_board.h"
#include "core/units/format.h"
#include "core/watch/bands.h"
#include "store/data_files.h"
#include "store/samples.h"

#include <cmath>
#include <filesystem>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr TimeUs history_length = 2 * day_us;
constexpr TimeUs history_interval = 30 * second_us;
constexpr TimeUs calibrated_before = 22 * day_us;

/// One point of the earlier calibration, as a person would have taken it: the probe in a bath, twenty lines.
CalibrationPoint take_point(simulate::GaugeBoard& board, const Reading& reading, TimeUs& now,
                            const std::string& kind, const std::string& command, double reference,
                            double u_reference) {
    board.command(command, now);
    now += minute_us;
    board.code(now);
    std::vector<double> codes;
    double sum = 0;
    for (int i = 0; i < 20; ++i) {
        now += second_us;
        codes.push_back(board.code(now));
        sum += codes.back();
    }
    const double mean = sum / static_cast<double>(codes.size());
    double squares = 0;
    for (const double c : codes)
        squares += (c - mean) * (c - mean);
    const double u_code = std::sqrt(squares / 19.0 / 20.0);
    CalibrationPoint point;
    point.time = now;
    point.reference_kind = kind;
    point.reference = reference;
    point.u_reference = u_reference;
    point.raw = mean;
    point.indication = forward(reading.path, mean).number;
    point.u_indication = u_code * std::abs(slope(reading.path, mean));
    now += minute_us;
    return point;
}

Result<void> calibrate_once(BenchFile& file, Bench& bench, std::uint64_t seed, TimeUs when) {
    Reading* reading = bench.reading("hut-air");
    if (!reading) return failure("the demo has no reading hut-air.", "data/demo/whelk-point.json");
    simulate::GaugeBoard board({seed, 1000, {}}, when);
    TimeUs now = when;
    std::vector<CalibrationPoint> points;
    points.push_back(take_point(board, *reading, now, "ice-point", "probe ice", 0.0, 0.05));
    points.push_back(take_point(board, *reading, now, "reference-thermometer", "probe bath 12.1", 12.1, 0.1));
    points.push_back(take_point(board, *reading, now, "reference-thermometer", "probe bath 21.4", 21.4, 0.1));
    COGNITUM_TRY(record, finish_calibration(*reading, points, Model::offset, now, "the warden"));
    COGNITUM_TRY(id, file.append_calibration(record));
    reading->correction = record.correction;
    reading->correction->record = id;
    COGNITUM_CHECK(file.append_log(
        {0, now, reading->id, "calibration",
         fmt::format("Calibrated at 3 points: offset {}, as left {}.",
                     format_value(record.correction.offset, 0.05, record.unit), record.verdict_left),
         0}));
    return {};
}

Result<void> fill_history(BenchFile& file, const Reading& reading, std::uint64_t seed, TimeUs end) {
    const TimeUs start = end - history_length;
    simulate::GaugeBoard board({seed, 30'000, {}}, start);
    const Chain path = effective_path(reading);
    std::vector<SeriesBatch> batches(1);
    batches[0].reading = reading.id;
    std::vector<TimedNumber> series;
    for (TimeUs t = start; t < end; t += history_interval) {
        const double code = board.code(t);
        const Value value = forward(path, code);
        batches[0].samples.push_back({t, code, value.number, value.cause});
        series.push_back({t, value.number});
    }
    COGNITUM_CHECK(add_samples(file, batches));
    COGNITUM_CHECK(file.append_log({0, start, reading.id, "recording", "Recording started.", 0}));
    for (const ZoneChange& change : zone_changes(series, *reading.bands))
        COGNITUM_CHECK(file.append_log({0, change.time, reading.id, "alert",
                                        fmt::format("{}: {} at {}.", reading.name, zone_word(change.to),
                                                    format_value(change.value, 0.3, reading.quantity.unit)),
                                        0}));
    COGNITUM_CHECK(file.append_log({0, end, reading.id, "recording", "Recording stopped.", 0}));
    return {};
}

/// The bring-up as it was signed: hut air to its end, the tide pool with a new cable since, the others on the
/// bench.
Result<void> sign_bring_up(BenchFile& file, Bench& bench, TimeUs end) {
    const TimeUs first = end - 24 * day_us;
    const char* const evidence[] = {"Its lines come, one after the other: 20 lines, 0 lost",
                                    "It follows what is done to it, and comes back",
                                    "No line is lost in a minute: 60 lines, 0 lost",
                                    "Sensor and link at once: no gap, no restart",
                                    "In its box it answers as it did in the open",
                                    "A second instrument beside it agrees",
                                    "After the seal the same answer as before"};
    for (Reading& r : bench.readings) {
        const bool whole = r.id == "hut-air" || r.id == "tide-pool";
        const std::size_t signed_stages = whole ? bring_up_stages().size() : r.id == "rock" ? 1 : 4;
        for (std::size_t i = 0; i < signed_stages; ++i)
            r.bring_up.signs.push_back({bring_up_stages()[i].id, first + static_cast<TimeUs>(i) * 20 * minute_us,
                                        "the warden", true, evidence[i]});
    }
    if (Reading* pool = bench.reading("tide-pool")) {
        pool->bring_up.disturbed = end - 2 * day_us;
        pool->bring_up.disturbed_how = "given a new cable";
        COGNITUM_CHECK(
            file.append_log({0, pool->bring_up.disturbed, pool->id, "bring-up",
                             "Tide pool level was given a new cable: its last stages are to be repeated.", 0}));
    }
    return {};
}

} // namespace

Result<BenchFile> create_demo_bench(const std::string& path, TimeUs end) {
    COGNITUM_TRY(bench, load_bench_json(data_folder() + "/demo/whelk-point.json"));
    COGNITUM_TRY(file, BenchFile::create(path));
    end -= end % (30 * second_us);
    const BoardUse* gauge = bench.board("gauge");
    const std::uint64_t seed = gauge ? gauge->link.seed : 1;
    const auto fill = [&]() -> Result<void> {
        COGNITUM_CHECK(sign_bring_up(file, bench, end));
        COGNITUM_CHECK(calibrate_once(file, bench, seed, end - calibrated_before));
        COGNITUM_CHECK(fill_history(file, *bench.reading("hut-air"), seed, end));
        return file.save_plan(bench);
    };
    if (const auto filled = fill(); !filled) {
        std::error_code code;
        for (const char* suffix : {"", "-wal", "-shm"})
            std::filesystem::remove(path + suffix, code); // half a demo is none
        return tl::make_unexpected(filled.error());
    }
    return std::move(file);
}

} // namespace cognitum
