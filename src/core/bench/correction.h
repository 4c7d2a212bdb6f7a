// What a calibration mends: a line or a curve that turns an indication into a corrected value, with its doubt.
#pragma once

#include "core/base/json_reader.h"
#include "core/base/time.h"
#include "core/signal_path/stage.h"

#include <string>
#include <vector>

namespace cognitum {

/// One point of a correction's curve, in the reading's unit.
struct CurveKnot {
    double indication = 0, reference = 0;
    double u = 0; ///< standard uncertainty of the fitted curve there
    bool operator==(const CurveKnot&) const = default;
};

/// The correction in force, taken from a calibration record: gain · indication + offset, or a curve.
struct AppliedCorrection {
    double gain = 1, offset = 0;
    double var_offset = 0, var_gain = 0, covariance = 0; ///< of the fit
    double u_reference = 0;  ///< doubt that all references share; does not shrink with the number of points
    double dof = 0;          ///< of the fit; 0: unknown
    double from = 0, to = 0; ///< span of the indications
    std::int64_t record = 0; ///< id of the calibration record
    TimeUs time = 0;
    std::string verdict;               ///< as left
    std::string path_key;              ///< of the path that was calibrated; another path needs another calibration
    std::vector<CurveKnot> curve = {}; ///< growing in both; empty: the line
    bool operator==(const AppliedCorrection&) const = default;
};

/// True when it tilts or bends, not only shifts; constants that were fitted leave 1 · x + 0 with the doubt of a
/// line.
bool correction_is_line(const AppliedCorrection& correction);

/// The corrected value of an indication.
double corrected(const AppliedCorrection& correction, double indication);

/// Standard uncertainty of a correction at an indication: that of the fit there, growing beyond the calibrated
/// span, and what the references share, which more points do not average away.
double correction_u(const AppliedCorrection& correction, double indication);

/// Effective degrees of freedom of that (Welch and Satterthwaite, JCGM 100 G.4): the fit's own are few, what the
/// references share is taken as well known. Infinite where the fit says nothing of them.
double correction_dof(const AppliedCorrection& correction, double indication);

/// The last stage of a path that is corrected.
Stage correction_stage(const AppliedCorrection& correction, const std::string& unit);

} // namespace cognitum
