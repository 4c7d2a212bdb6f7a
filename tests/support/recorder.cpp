// A recorder to be killed: appends a sample every 200 µs to a new bench, commits about every 5 ms, and prints after
// each commit how many samples are saved. It never ends by itself.
#include "store/samples.h"

#include <chrono>
#include <cstdio>
#include <thread>

int main(int argc, char** argv) {
    using namespace cognitum;
    if (argc < 2) return 2;
    auto file = BenchFile::create(argv[1]);
    if (!file) return 3;
    Bench bench;
    bench.name = "killed";
    if (!file->save_plan(bench)) return 4;
    SeriesBatch batch{"r", {}};
    std::uint64_t saved = 0;
    for (TimeUs t = 1;; ++t) {
        batch.samples.push_back({t, static_cast<double>(t % 1024), static_cast<double>(t), Cause::none});
        if (batch.samples.size() < 150) continue;
        const auto added = add_samples(*file, std::span(&batch, 1));
        if (!added) return 5;
        saved += added->added;
        batch.samples.clear();
        std::printf("%llu\n", static_cast<unsigned long long>(saved));
        std::fflush(stdout);
    }
}
