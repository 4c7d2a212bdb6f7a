#include "demo/demo_calibrations.h"

#include "core/units/format.h"
#include "demo/gauge_board.h"
#include "demo/world.h"

#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr TimeUs year_us = 365 * day_us;
constexpr double hut_drift_per_year = 0.11; ///< degC

/// One point as a person would have taken it: the probe in a bath, twenty lines.
CalibrationPoint take_point(demo::GaugeBoard& board, const Reading& reading, TimeUs& now, const std::string& kind,
                            const std::string& command, double reference, double u_reference) {
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
    if (kind == "reference-instrument") point.instrument = "thermometer-3";
    point.reference = reference;
    point.u_reference = u_reference;
    point.raw = mean;
    point.indication = forward(reading.path, mean).number;
    point.u_indication = u_code * std::abs(slope(reading.path, mean));
    now += minute_us;
    return point;
}

Result<void> keep(BenchFile& file, Bench& bench, Reading& reading, const CalibrationDraft& draft,
                  std::optional<Model> model, TimeUs when) {
    COGNITUM_TRY(record, finish_calibration(reading, draft, model, when));
    record.references = references_in_words(draft.points, bench.references, record.unit);
    COGNITUM_TRY(id, file.append_calibration(record));
    reading.correction = record.correction;
    reading.correction->record = id;
    COGNITUM_CHECK(
        file.append_log({0, when, reading.id, log_kind::calibration,
                         fmt::format("{} at {} points: as found {}, as left {}.", model ? "Calibrated" : "Compared",
                                     draft.points.size(), record.verdict_found, record.verdict_left),
                         0}));
    return {};
}

/// The hut's thermometer through the simulated board, four times, creeping upwards from year to year.
Result<void> hut_air(BenchFile& file, Bench& bench, std::uint64_t seed, TimeUs end) {
    Reading* reading = bench.reading("hut-air");
    if (!reading) return failure("the demo has no reading hut-air.", "data/demo/whelk-point.json");
    for (const int years_ago : {3, 2, 1, 0}) {
        TimeUs now = end - 22 * day_us - years_ago * year_us;
        demo::GaugeBoard board({seed, 1000, {}}, now);
        CalibrationDraft draft{"ice-and-bath", 0, {}, "", "in the hut, out of the wind", "the warden"};
        draft.points.push_back(take_point(board, *reading, now, "ice-point", "probe ice", 0.0, 0.05));
        draft.points.push_back(
            take_point(board, *reading, now, "reference-instrument", "probe bath 12.1", 12.1, 0.1));
        draft.points.push_back(
            take_point(board, *reading, now, "reference-instrument", "probe bath 21.4", 21.4, 0.1));
        for (CalibrationPoint& p : draft.points) {
            p.indication -= hut_drift_per_year * years_ago;
            p.raw = inverse(reading->path, p.indication).number;
        }
        COGNITUM_CHECK(keep(file, bench, *reading, draft, Model::offset, now));
    }
    return {};
}

/// A reading whose true error is gain · reference + offset, compared at some values.
struct Past {
    const char *reading, *recipe, *kind, *instrument, *conditions;
    double days_ago;
    std::vector<double> references;
    double u_reference, gain, offset, scatter;
    std::optional<Model> model;
};

CalibrationDraft draft_of(const Past& past, const Reading& reading, std::uint64_t seed, TimeUs when) {
    CalibrationDraft draft{past.recipe, 0, {}, "", past.conditions, "the warden"};
    for (std::size_t i = 0; i < past.references.size(); ++i) {
        CalibrationPoint p;
        p.time = when - static_cast<TimeUs>(past.references.size() - i) * 6 * minute_us;
        p.reference_kind = past.kind;
        p.instrument = past.instrument;
        p.reference = past.references[i];
        p.u_reference = past.u_reference;
        p.indication = past.references[i] * (1 + past.gain) + past.offset +
                       past.scatter * demo::hash_normal(seed, static_cast<std::uint64_t>(when / second_us),
                                                        static_cast<std::int64_t>(i));
        p.u_indication = past.scatter;
        const Value raw = inverse(reading.path, p.indication);
        p.raw = raw.ok() ? raw.number : 0;
        draft.points.push_back(p);
    }
    return draft;
}

const std::vector<Past>& pasts() {
    static const std::vector<Past> all = {
        {"pool-water",
         "second-instrument",
         "reference-instrument",
         "thermometer-3",
         "at the pool, overcast",
         401,
         {9.1, 14.6, 19.8},
         0.1,
         0,
         0.11,
         0.03,
         std::nullopt},
        {"pool-water",
         "second-instrument",
         "reference-instrument",
         "thermometer-3",
         "at the pool, sun and wind",
         38,
         {8.4, 13.9, 20.3},
         0.1,
         0,
         0.14,
         0.03,
         std::nullopt},
        {"air-pressure",
         "beside-a-barometer",
         "reference-instrument",
         "station-barometer",
         "in the hut",
         431,
         {1004.2, 1021.7},
         0.3,
         0,
         0.4,
         0.05,
         Model::offset},
        {"humidity",
         "saturated-salts",
         "salt-sodium-chloride",
         "",
         "in a jar at 21 °C, a night",
         120,
         {75.4, 75.4, 75.4},
         0.6,
         0,
         6.5,
         0.2,
         std::nullopt},
        {"bed-1",
         "dry-and-wet",
         "other",
         "",
         "samphire soil, by weight",
         95,
         {5, 50, 95},
         2,
         0,
         1.5,
         0.4,
         std::nullopt},
        {"rain",
         "slow-drip",
         "measured-pour",
         "",
         "three pours of half a litre",
         200,
         {24.9, 24.9, 24.9},
         0.08,
         0.004,
         0,
         0.07,
         std::nullopt},
        {"cistern",
         "fill-by-known-amounts",
         "known-fill",
         "",
         "with the ten-litre can",
         260,
         {150, 400, 700, 950},
         3,
         0,
         4,
         2,
         std::nullopt},
    };
    return all;
}

} // namespace

Result<void> add_demo_calibrations(BenchFile& file, Bench& bench, std::uint64_t seed, TimeUs end) {
    bench.references = {
        {"thermometer-3", "Thermometer number 3", "temperature", "degC", 0.05, 0.1,
         "stem thermometer, −10 to 50 °C", "WP-17", end - 300 * day_us, end + 430 * day_us},
        {"station-barometer", "Hut barometer", "pressure", "hPa", 0.3, 0.1, "aneroid, 940 to 1060 hPa", "WP-9",
         end - 900 * day_us, end - 170 * day_us},
        {"ten-litre-can", "Ten-litre can", "volume", "L", 0.03, 0, "steel can with a neck", "", 0, 0}};
    COGNITUM_CHECK(hut_air(file, bench, seed, end));
    for (const Past& past : pasts()) {
        Reading* reading = bench.reading(past.reading);
        if (!reading) continue;
        const TimeUs when = end - from_seconds(past.days_ago * 86400);
        COGNITUM_CHECK(keep(file, bench, *reading, draft_of(past, *reading, seed, when), past.model, when));
    }
    return {};
}

} // namespace cognitum
