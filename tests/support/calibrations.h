// Points, drafts and a reading for tests of what a calibration becomes.
#pragma once

#include "core/calibrate/record.h"
#include "support/support.h"

namespace cognitum::test {

inline CalibrationPoint point(double indication, double reference, double u_reference = 0.05,
                              double u_indication = 0.02) {
    CalibrationPoint p;
    p.reference_kind = "reference-instrument";
    p.indication = indication;
    p.reference = reference;
    p.u_reference = u_reference;
    p.u_indication = u_indication;
    return p;
}

inline CalibrationDraft draft(std::vector<CalibrationPoint> points) {
    CalibrationDraft d;
    d.points = std::move(points);
    return d;
}

inline Reading air() {
    return small_bench().readings[0];
}

} // namespace cognitum::test
