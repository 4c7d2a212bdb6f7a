#include "demo/demo_bench.h"

#include "core/bringup/stages.h"
#include "core/units/format.h"
#include "core/watch/bands.h"
#include "demo/demo_calibrations.h"
#include "demo/gauge_board.h"
#include "store/data_files.h"
#include "store/samples.h"

#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr TimeUs history_length = 2 * day_us;
constexpr TimeUs history_interval = 30 * second_us;

Result<void> fill_history(BenchFile& file, const Reading& reading, std::uint64_t seed, TimeUs end) {
    const TimeUs start = end - history_length;
    demo::GaugeBoard board({seed, 30'000, {}}, start);
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
    COGNITUM_CHECK(file.append_log({0, start, reading.id, log_kind::recording, "Recording started.", 0}));
    for (const ZoneChange& change : zone_changes(series, *reading.bands))
        COGNITUM_CHECK(file.append_log({0, change.time, reading.id,
                                        change.to == Zone::in_range ? log_kind::recovery : log_kind::alert,
                                        fmt::format("{}: {} at {}.", reading.name, zone_word(change.to),
                                                    format_value(change.value, 0.3, reading.quantity.unit)),
                                        0}));
    COGNITUM_CHECK(file.append_log({0, end, reading.id, log_kind::recording, "Recording stopped.", 0}));
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
    end -= end % (30 * second_us);
    const BoardUse* gauge = bench.board("gauge");
    const std::uint64_t seed = gauge ? gauge->link.seed : 1;
    return BenchFile::create(path, [&](BenchFile& file) -> Result<void> {
        COGNITUM_CHECK(sign_bring_up(file, bench, end));
        COGNITUM_CHECK(add_demo_calibrations(file, bench, seed, end));
        COGNITUM_CHECK(fill_history(file, *bench.reading("hut-air"), seed, end));
        COGNITUM_CHECK(file.save_plan(bench));
        return {};
    });
}

} // namespace cognitum
