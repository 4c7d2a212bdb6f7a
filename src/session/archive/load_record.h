// A control of a load on what was recorded.
#pragma once

#include "core/act/load_trial.h"
#include "core/catalog/cards.h"
#include "store/file/bench_file.h"

namespace cognitum {

struct TriedLoad {
    LoadControl control;
    LoadTrial trial;
};
/// Over the last year of record, with what the load does to the readings.
TriedLoad tried_load(BenchFile& file, const Bench& bench, const Catalog& catalog, const LoadControl& control,
                     TimeUs now);

} // namespace cognitum
