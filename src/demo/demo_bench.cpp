#include "demo/demo_bench.h"

#include "core/bringup/stages.h"
#include "demo/demo_calibrations.h"
#include "store/file/data_files.h"

namespace cognitum {

namespace {

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
            file.append_log({0, pool->bring_up.disturbed, pool->id, log_kind::bring_up,
                             "Tide pool level was given a new cable: its last stages are to be repeated.", 0}));
    }
    return {};
}

} // namespace

Result<BenchFile> create_demo_bench(const std::string& path, TimeUs end, DemoHistory history) {
    COGNITUM_TRY(bench, load_bench_json(data_folder() + "/demo/whelk-point.json"));
    end -= end % (30 * second_us);
    const BoardUse* gauge = bench.board("gauge");
    const std::uint64_t seed = gauge ? gauge->link.seed : 1;
    return BenchFile::create(path, [&](BenchFile& file) -> Result<void> {
        COGNITUM_CHECK(sign_bring_up(file, bench, end));
        COGNITUM_CHECK(add_demo_calibrations(file, bench, seed, end));
        COGNITUM_CHECK(add_demo_history(file, bench, seed, end, history));
        COGNITUM_CHECK(file.save_plan(bench));
        return {};
    });
}

} // namespace cognitum
