#include "session/archive/load_record.h"

#include "session/archive/watch_record.h"
#include "store/figures/control_trial.h"
#include "store/figures/reading_figures.h"
#include "store/zone.h"

namespace cognitum {

TriedLoad tried_load(BenchFile& file, const Bench& bench, const Catalog& catalog, const LoadControl& control,
                     TimeUs now) {
    const DoubtOf doubt_of = [&](const Reading& reading, double value) {
        return 2 * value_u(bench, catalog, reading, value, now);
    };
    return {control, try_control(file, bench, control, {now - tried_back, now + 1, {}}, doubt_of, system_zone())};
}

} // namespace cognitum
