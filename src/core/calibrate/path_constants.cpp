#include "core/calibrate/path_constants.h"

#include "core/calibrate/special.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

std::size_t thermistor_at(const Chain& path) {
    const auto found = std::find_if(path.stages.begin(), path.stages.end(),
                                    [](const Stage& s) { return std::holds_alternative<ThermistorBeta>(s); });
    return static_cast<std::size_t>(found - path.stages.begin());
}

} // namespace

bool has_thermistor(const Chain& path) {
    return thermistor_at(path) < path.stages.size();
}

Result<Chain> thermistor_from_points(const Chain& path, const std::vector<CalibrationPoint>& points,
                                     const std::string& unit, TimeUs when) {
    const std::size_t at = thermistor_at(path);
    if (at == path.stages.size()) return failure("the path has no thermistor with β.");
    const Chain before{
        {}, path.input_unit, {path.stages.begin(), path.stages.begin() + static_cast<std::ptrdiff_t>(at)}};
    std::vector<ResistancePair> pairs;
    for (const CalibrationPoint& p : points) {
        if (!p.counts()) continue;
        const Value ohm = forward(before, p.raw);
        const auto celsius = convert_unit(p.reference, unit, "degC");
        const auto one_more = convert_unit(p.reference + 1, unit, "degC");
        if (!ohm.ok() || !celsius)
            return failure(fmt::format("the raw value {:g} gives no resistance.", p.raw), {},
                           "Look at the Convert stop.");
        pairs.push_back({*celsius, ohm.number, p.u_reference * (*one_more - *celsius)});
    }
    COGNITUM_TRY(fit, fit_thermistor(pairs));
    Chain out = path;
    auto& stage = std::get<ThermistorBeta>(out.stages[at]);
    const std::string origin =
        "fitted to " + std::to_string(pairs.size()) + " points, " + iso_time(when).substr(0, 10);
    const auto known = [](double u) { return std::isfinite(u) ? u : 0; };
    stage.r0_ohm = Constant{fit.r25_ohm, known(fit.u_r25_ohm), Spread::standard, origin, {}};
    stage.beta_K = Constant{fit.beta_K, known(fit.u_beta_K), Spread::standard, origin, {}};
    stage.t0_degC = Constant{25, 0, Spread::none, origin, {}};
    return out;
}

} // namespace cognitum
