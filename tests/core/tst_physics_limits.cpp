// Where formulas end. At the ends of each published range there is a number, a hair beyond none; nor does anything
// come out of what is no number.
#include "core/base/no_number.h"
#include "core/physics/air.h"
#include "core/physics/conductivity.h"
#include "core/physics/radiation.h"
#include "core/physics/soil.h"
#include "core/physics/sound.h"
#include "core/physics/thermometry.h"
#include "core/physics/water.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <cmath>
#include <functional>
#include <limits>

using namespace cognitum;
using namespace cognitum::physics;

namespace {

constexpr double without_end = std::numeric_limits<double>::infinity();
constexpr double tiny = 1e-300; ///< above zero, which itself is outside

/// An argument with its range, both ends in it, and a usual value for when another argument is at its end.
struct Argument {
    double low, high, usual;
};

struct LimitedFormula {
    const char* name;
    std::function<double(const std::vector<double>&)> of;
    std::vector<Argument> arguments;
};

const Argument humidity = {0, 1, 0.5}, room_air = {-45, 60, 20}, emissivity = {0.05, 1, 0.95};

const std::vector<LimitedFormula> formulas = {
    {"saturation_vapour_pressure", [](const auto& a) { return saturation_vapour_pressure(a[0]); }, {room_air}},
    {"absolute_humidity", [](const auto& a) { return absolute_humidity(a[0], a[1]); }, {room_air, humidity}},
    {"vapour_pressure_deficit",
     [](const auto& a) { return vapour_pressure_deficit(a[0], a[1]); },
     {room_air, humidity}},
    {"sea_level_pressure",
     [](const auto& a) { return sea_level_pressure(a[0], a[1], a[2]); },
     {{30e3, 110e3, 100e3}, {-500, 5000, 200}, {-60, 60, 15}}},
    {"standard_altitude", [](const auto& a) { return standard_altitude(a[0]); }, {{22632, 107478, 101325}}},
    {"standard_pressure", [](const auto& a) { return standard_pressure(a[0]); }, {{-500, 11000, 0}}},
    {"boiling_point", [](const auto& a) { return boiling_point(a[0]); }, {{611.213, 22.064e6, 101325}}},
    {"water_density", [](const auto& a) { return water_density(a[0]); }, {{0, 40, 20}}},
    {"dew_point", [](const auto& a) { return dew_point(a[0], a[1]); }, {room_air, {tiny, 1, 0.5}}},
    {"conductivity_25",
     [](const auto& a) { return conductivity_25(a[0], a[1], a[2]); },
     {{0, without_end, 1.4}, {0, 50, 20}, {0, 0.1, 0.02}}},
    {"conductivity_at",
     [](const auto& a) { return conductivity_at(a[0], a[1], a[2]); },
     {{0, without_end, 1.4}, {0, 50, 20}, {0, 0.1, 0.02}}},
    {"natural_water_factor", [](const auto& a) { return natural_water_factor(a[0]); }, {{0, 36, 20}}},
    {"potassium_chloride_conductivity, 0.1 mol/L",
     [](const auto& a) { return potassium_chloride_conductivity(0.1, a[0]); },
     {{0, 30, 20}}},
    {"potassium_chloride_conductivity, 1 mol/L",
     [](const auto& a) { return potassium_chloride_conductivity(1, a[0]); },
     {{0, 25, 20}}},
    {"practical_salinity",
     [](const auto& a) { return practical_salinity(25, a[0], a[1]); },
     {{-2, 35, 15}, {0, 10000, 0}}},
    {"sea_water_conductivity", [](const auto& a) { return sea_water_conductivity(a[0]); }, {{-2, 35, 15}}},
    {"dissolved_solids",
     [](const auto& a) { return dissolved_solids(a[0], a[1]); },
     {{0, without_end, 700}, {0.5, 0.8, 0.65}}},
    {"dry_speed_of_sound", [](const auto& a) { return dry_speed_of_sound(a[0]); }, {{-80, 80, 20}}},
    {"humid_speed_of_sound",
     [](const auto& a) { return humid_speed_of_sound(a[0], a[1], a[2]); },
     {{-20, 60, 20}, humidity, {60e3, 110e3, 101325}}},
    {"surface_temperature", [](const auto& a) { return surface_temperature(80, a[0], 20); }, {emissivity}},
    {"shown_by_radiation", [](const auto& a) { return shown_by_radiation(80, a[0], 20); }, {emissivity}},
    {"thermistor_beta_resistance",
     [](const auto& a) { return thermistor_beta_resistance(20, a[0], 25, a[1]); },
     {{tiny, without_end, 10e3}, {tiny, without_end, 3950}}},
    {"platinum_resistance",
     [](const auto& a) { return platinum_resistance(a[0], a[1]); },
     {{-200, 850, 20}, {tiny, without_end, 100}}},
    {"volumetric_water_content",
     [](const auto& a) { return volumetric_water_content(a[0], 350, a[1], a[2]); },
     {{350, without_end, 412}, {tiny, without_end, 250}, {0, 40, 20}}},
};

std::string arguments_of(const LimitedFormula& formula, const std::vector<double>& arguments) {
    std::string out = formula.name;
    for (const double value : arguments)
        out += " " + std::to_string(value);
    return out;
}

} // namespace

class TestPhysicsLimits : public QObject {
    Q_OBJECT

    /// Each argument in turn, the others usual.
    static void each_argument(
        const std::function<void(const LimitedFormula&, const Argument&, std::vector<double>&, double&)>& look) {
        for (const LimitedFormula& formula : formulas)
            for (std::size_t i = 0; i < formula.arguments.size(); ++i) {
                std::vector<double> values;
                for (const Argument& argument : formula.arguments)
                    values.push_back(argument.usual);
                look(formula, formula.arguments[i], values, values[i]);
            }
    }

  private slots:
    void theEndsBelongToIt() {
        each_argument(
            [](const LimitedFormula& f, const Argument& argument, std::vector<double>& values, double& value) {
                for (const double end : {argument.low, argument.high, argument.usual}) {
                    if (std::isinf(end)) continue;
                    value = end;
                    QVERIFY2(!std::isnan(f.of(values)), arguments_of(f, values).c_str());
                }
            });
    }

    void aHairBeyondThereIsNone() {
        each_argument(
            [](const LimitedFormula& f, const Argument& argument, std::vector<double>& values, double& value) {
                const double range = argument.high - argument.low;
                const double hair = 1e-9 * (std::isinf(range) ? 1 : range);
                for (const double beyond : {argument.low == tiny ? 0 : argument.low - hair, argument.high + hair,
                                            argument.low - 1e3, argument.high + 1e3}) {
                    if (std::isinf(beyond)) continue;
                    value = beyond;
                    QVERIFY2(std::isnan(f.of(values)), arguments_of(f, values).c_str());
                }
            });
    }

    void noNumberComesOutOfNone() {
        each_argument([](const LimitedFormula& f, const Argument&, std::vector<double>& values, double& value) {
            value = no_number;
            QVERIFY2(std::isnan(f.of(values)), arguments_of(f, values).c_str());
        });
    }
};

RUN_TESTS_OF(TestPhysicsLimits)
#include "tst_physics_limits.moc"
