#include "machine/planned_bench.h"

#include "store/file/bench_file.h"
#include "store/file/data_files.h"

namespace cognitum::machine {

namespace {

Result<Bench> load(const std::string& path) {
    if (path.ends_with(".json")) return load_bench_json(path);
    COGNITUM_TRY(file, BenchFile::open(path, Access::read));
    return file.load_plan();
}

} // namespace

Result<PlannedBench> load_planned(const std::string& path) {
    COGNITUM_TRY(bench, load(path));
    return PlannedBench{bench, load_cards_of(bench)};
}

} // namespace cognitum::machine
