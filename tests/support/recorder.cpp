// A program to be killed. It makes a new bench and prints after each commit how far it is; it
// never ends by itself.
//   recorder PATH samples        a sample every 200 µs, a commit about every 5 ms: samples saved
//   recorder PATH plan           a reading added, then taken away again, as an edit and its undo: plans saved
//   recorder PATH calibrations   a point into the draft, then the record and the end of the draft: records saved
#include "store/samples/samples.h"

#include <chrono>
#include <cstdio>
#include <string_view>

namespace {

using namespace cognitum;

int say(std::uint64_t saved) {
    std::printf("%llu\n", static_cast<unsigned long long>(saved));
    return std::fflush(stdout);
}

int record_samples(BenchFile& file) {
    SeriesBatch batch{"r", {}};
    std::uint64_t saved = 0;
    for (TimeUs t = 1;; ++t) {
        batch.samples.push_back({t, static_cast<double>(t % 1024), static_cast<double>(t), Cause::none});
        if (batch.samples.size() < 150) continue;
        const auto added = add_samples(file, std::span(&batch, 1));
        if (!added) return 5;
        saved += added->added;
        batch.samples.clear();
        say(saved);
    }
}

int edit_and_undo(BenchFile& file, const Bench& plan) {
    for (std::uint64_t saved = 0;; say(++saved)) {
        Bench next = plan;
        if (saved % 2 == 0) {
            next.readings.push_back(plan.readings[0]);
            next.readings.back().id = next.readings.back().name = "added";
        }
        if (!file.save_plan(next)) return 5;
    }
}

int calibrate(BenchFile& file) {
    for (std::uint64_t saved = 0;; say(++saved)) {
        CalibrationDraft draft;
        draft.points.push_back({});
        CalibrationRecord record;
        record.reading = "r";
        record.time = static_cast<TimeUs>(saved + 1) * second_us;
        record.unit = "m";
        record.model = "none";
        if (!file.save_draft("r", &draft) || !file.append_calibration(record) || !file.save_draft("r", nullptr))
            return 5;
    }
}

} // namespace

int main(int argc, char** argv) {
    if (argc < 2) return 2;
    const std::string_view mode = argc > 2 ? argv[2] : "samples";
    Bench bench;
    bench.name = "killed";
    bench.readings.push_back({});
    bench.readings.back().id = bench.readings.back().name = "r";
    auto file = BenchFile::create(argv[1], [&](BenchFile& made) -> Result<void> {
        COGNITUM_CHECK(made.save_plan(bench));
        return {};
    });
    if (!file) return 3;
    if (!file->load_plan()) return 4;
    return mode == "plan"           ? edit_and_undo(*file, bench)
           : mode == "calibrations" ? calibrate(*file)
                                    : record_samples(*file);
}
