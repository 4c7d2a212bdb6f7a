// One step of a reading's path as a value: a converter, a line, a divider, a thermistor, a correction.
// Every stage works forwards (what the board sent → what it means) and backwards, and knows which inputs are no
// measurement. Adding one: docs/extending.md.
#pragma once

#include "core/base/error.h"
#include "core/base/no_number.h"
#include "core/physics/vessel.h"
#include "core/signal_path/cause.h"
#include "core/signal_path/formula.h"

#include <cstdint>
#include <string>
#include <variant>
#include <vector>

namespace cognitum {

/// How a constant's doubt is stated.
enum class Spread : std::uint8_t {
    none,
    standard,    ///< `doubt` is a standard uncertainty (JSON key u_KEY)
    rectangular, ///< `doubt` is the half width of a rectangular distribution (JSON key tol_KEY)
};

/// How a constant is known, as far as a rule asks; its origin says it in words.
enum class KnownBy : std::uint8_t {
    statement,  ///< of a data sheet, the plan, a program
    assumption, ///< nobody looked: it follows a reading where there is one
    hand,       ///< typed, or measured with a meter: who did it says how sure it is
    calibration ///< found from points against a reference
};

/// A number that the conversion rests on, with its doubt and where it comes from.
struct Constant {
    double value = 0;
    double doubt = 0; ///< same unit as value; see spread
    Spread spread = Spread::none;
    std::string origin;    ///< for a person: "data sheet", "measured 3 Nov", "typed by hand"; empty: unknown
    std::string cause;     ///< constants with one non-empty cause are the same quantity and err together
    std::string from = {}; ///< id of the reading that it follows; then `value` is what is assumed without one
    /// Half width, same unit: how far it moves from day to day and with temperature, which no calibration takes
    /// out; 0: not stated.
    double stability = 0;
    KnownBy known_by = KnownBy::statement;

    /// Standard uncertainty (GUM 4.3.7 for rectangular limits: half width / √3).
    [[nodiscard]] double standard_uncertainty() const;
    /// What is left of it after a calibration through it: its stability. Where none is stated one per cent of the
    /// value, or all of its doubt where that is less.
    [[nodiscard]] double lasting_uncertainty() const;
    bool operator==(const Constant&) const = default;
};

enum class CodeConvention : std::uint8_t { two_to_n, two_to_n_minus_1 };
enum class UnknownLeg : std::uint8_t { top, bottom };

/// count → V: V = (code + ½) · reference / 2^N. Codes 0 and 2^N − 1 are the rails and no measurement.
struct Adc {
    int bits = 10;
    Constant reference_V;
    CodeConvention convention = CodeConvention::two_to_n;
    bool centre = true; ///< adds half a code
    bool operator==(const Adc&) const = default;
};
/// (x − zero) / slope
struct Linear {
    Constant zero, slope;
    std::string input_unit, unit;
    bool operator==(const Linear&) const = default;
};
/// factor · x + offset
struct Scale {
    Constant factor, offset;
    std::string input_unit, unit;
    bool operator==(const Scale&) const = default;
};
/// V → ohm: the unknown resistor of a divider whose other resistor and supply are known.
struct Divider {
    Constant fixed_ohm, supply_V;
    UnknownLeg unknown = UnknownLeg::bottom;
    Constant load_ohm = {}; ///< of the input that hangs on the tap, to ground; 0: none that matters
    bool operator==(const Divider&) const = default;
};
/// count → ohm where the divider's supply is the converter's reference, which cancels.
struct RatioDivider {
    Constant fixed_ohm;
    UnknownLeg unknown = UnknownLeg::bottom;
    int bits = 10;
    Constant load_ohm = {}; ///< as of Divider
    bool operator==(const RatioDivider&) const = default;
};
/// count → share of the supply, where that is the converter's reference and cancels
struct Ratio {
    int bits = 10;
    bool operator==(const Ratio&) const = default;
};
/// V → mA: a current loop's shunt
struct CurrentLoop {
    Constant shunt_ohm;
    bool operator==(const CurrentLoop&) const = default;
};
/// count → count: a word of that width whose upper half means numbers below zero (two's complement)
struct SignedWord {
    int bits = 16;
    bool operator==(const SignedWord&) const = default;
};
/// ohm → lx: R = R10 · (E / 10 lx)^−γ
struct PhotoResistor {
    Constant r10_ohm, gamma;
    bool operator==(const PhotoResistor&) const = default;
};
/// ohm → degC
struct ThermistorBeta {
    Constant r0_ohm, t0_degC, beta_K;
    bool operator==(const ThermistorBeta&) const = default;
};
/// ohm → degC
struct ThermistorSteinhartHart {
    Constant a, b, c;
    bool operator==(const ThermistorSteinhartHart&) const = default;
};
/// ohm → degC, IEC 60751
struct Rtd {
    Constant r0_ohm;
    bool operator==(const Rtd&) const = default;
};
/// mV → degC, ITS-90, with the reference junction added in volts
struct Thermocouple {
    std::string type = "K"; ///< B, E, J, K, N, R, S or T
    Constant reference_degC{25, 0, Spread::none, {}, {}};
    bool operator==(const Thermocouple&) const = default;
};
/// degC → degC: what a chip shows that takes a thermocouple for a straight line, back to ITS-90
struct StraightCouple {
    std::string type = "K";
    Constant slope_uV_per_K{41.276, 0, Spread::none, {}, {}};
    Constant reference_degC{25, 0, Spread::none, {}, {}}; ///< the chip's own temperature
    bool operator==(const StraightCouple&) const = default;
};
/// degC → degC: what a radiation thermometer shows that was set to an emissivity of 1, for this surface
struct Infrared {
    Constant emissivity{0.95, 0, Spread::none, {}, {}};
    Constant ambient_degC{20, 0, Spread::none, {}, {}}; ///< of what is mirrored in the surface
    bool operator==(const Infrared&) const = default;
};
/// us → mm: half the way that sound goes in that time. An echo time of zero is an echo that never came.
struct Echo {
    enum class Air : std::uint8_t { dry, humid, fixed_speed };
    Air air = Air::dry; ///< humid: Cramer (1993) with humidity and pressure; fixed: the speed as it is given
    Constant temperature_degC{20, 0, Spread::none, {}, {}};
    Constant humidity{0.5, 0, Spread::none, {}, {}}; ///< 0…1
    Constant pressure_Pa{101325, 0, Spread::none, {}, {}};
    Constant speed_m_s{343, 0, Spread::none, {}, {}};
    bool operator==(const Echo&) const = default;
    [[nodiscard]] double speed() const; ///< m/s; NaN outside the range of its formula
};
/// mm → mm: what is left under a sensor at that height over the bottom
struct LevelBelow {
    Constant mount_height_mm;
    bool operator==(const LevelBelow&) const = default;
};
/// mm → L; sizes in m, those that the shape asks for
struct VesselFill {
    physics::VesselKind kind = physics::VesselKind::box;
    Constant diameter_m, length_m, width_m, height_m;
    Constant bulge{0, 0, Spread::none, {}, {}}; ///< share that it holds more when full, because its walls give way
    std::vector<double> levels_mm, volumes_L;   ///< of a strapping table
    std::vector<physics::VesselShape> sections; ///< of a stack, the lowest first
    bool operator==(const VesselFill&) const = default;
    [[nodiscard]] physics::VesselShape shape() const;
};
/// mS/cm → mS/cm at 25 °C
struct Conductivity25 {
    enum class Compensation : std::uint8_t { linear, natural_water };
    Compensation compensation = Compensation::linear; ///< natural_water: ISO 7888, and then alpha plays no part
    Constant temperature_degC{25, 0, Spread::none, {}, {}};
    Constant alpha_per_K{0.02, 0, Spread::none, {}, {}};
    bool operator==(const Conductivity25&) const = default;
};
/// mS/cm at 25 °C → mg/L, an estimate: k depends on the salts
struct DissolvedSolids {
    Constant k{0.64, 0.1, Spread::rectangular, "usual for natural water", {}};
    bool operator==(const DissolvedSolids&) const = default;
};
/// mS/cm at its own temperature → practical salinity, PSS-78
struct Salinity {
    Constant temperature_degC{15, 0, Spread::none, {}, {}};
    bool operator==(const Salinity&) const = default;
};
/// % of relative humidity → what the air holds: its dew point (degC), its water (g/m3), what it lacks (kPa)
struct MoistAir {
    enum class Wanted : std::uint8_t { dew_point, absolute_humidity, vapour_pressure_deficit };
    Wanted wanted = Wanted::dew_point;
    Constant temperature_degC{20, 0, Spread::none, {}, {}};
    bool operator==(const MoistAir&) const = default;
};
/// hPa at the station → hPa at sea level
struct SeaLevel {
    Constant altitude_m;
    Constant temperature_degC{15, 0, Spread::none, {}, {}};
    bool operator==(const SeaLevel&) const = default;
};
/// hPa → m above where the pressure is `base_hPa`, in the standard atmosphere
struct Altitude {
    Constant base_hPa{1013.25, 0, Spread::none, {}, {}};
    bool operator==(const Altitude&) const = default;
};
/// kPa above ambient → the same at another temperature of the gas, in a vessel that keeps its volume
struct GasAt {
    Constant temperature_degC{20, 0, Spread::none, {}, {}};
    Constant reference_degC{20, 0, Spread::none, {}, {}};
    Constant ambient_kPa{101.325, 0, Spread::none, {}, {}};
    bool operator==(const GasAt&) const = default;
};
/// any → %: a scale between two points that were measured, such as dry and wet. Up to 5 % beyond is said as it is;
/// further out the points no longer hold.
struct Between {
    Constant at_0, at_100;
    std::string input_unit;
    bool operator==(const Between&) const = default;
};
/// any → 1 or 0: on beyond a threshold, off on its other side. Closer to it than half the hysteresis neither is
/// sure, and there is no value.
struct Threshold {
    Constant level, hysteresis;
    bool above_is_on = true;
    std::string input_unit;
    bool operator==(const Threshold&) const = default;
};
/// A curve through points, monotone in between (Steffen 1990) and nothing outside. Or, where only these points can
/// be (the contacts of a vane): the one within 8 % of the input, and no value between them.
struct Table {
    std::vector<double> inputs, outputs; ///< inputs grow
    bool nearest = false;
    std::string input_unit, unit;
    bool operator==(const Table&) const = default;
};
/// A person's own formula in x and constants with names.
struct Formula {
    std::string expression;
    std::vector<std::pair<std::string, Constant>> names;
    double low = 0, high = 0; ///< where x lies; equal: anywhere. The inverse is looked for there.
    std::string input_unit, unit;
    FormulaProgram program; ///< follows from the above
    bool operator==(const Formula& other) const;
    [[nodiscard]] double evaluate(double x) const; ///< NaN where there is no number
};
/// gain · x + offset, found by calibration
struct Correction {
    Constant gain{1, 0, Spread::none, {}, {}}, offset;
    std::string unit;
    bool operator==(const Correction&) const = default;
};
/// A curve found by calibration: monotone through its points, and straight on beyond them.
struct CorrectionCurve {
    std::vector<double> inputs, outputs; ///< both grow
    std::string unit;
    bool operator==(const CorrectionCurve&) const = default;
};

using StageVariant =
    std::variant<Adc, Linear, Scale, Divider, RatioDivider, Ratio, CurrentLoop, SignedWord, PhotoResistor,
                 ThermistorBeta, ThermistorSteinhartHart, Rtd, Thermocouple, StraightCouple, Infrared, Echo,
                 LevelBelow, VesselFill, Conductivity25, DissolvedSolids, Salinity, MoistAir, SeaLevel, Altitude,
                 GasAt, Between, Threshold, Table, Formula, Correction, CorrectionCurve>;

/// One step of a reading's path. What copies, moves and compares it stands in stage.cpp: almost every file holds
/// paths, and code for thirty kinds in each of them took half of the time of a build.
struct Stage : StageVariant {
    using StageVariant::StageVariant;
    Stage(const Stage& other);
    Stage(Stage&& other) noexcept;
    Stage& operator=(const Stage& other);
    Stage& operator=(Stage&& other) noexcept;
    ~Stage();
    bool operator==(const Stage& other) const;
};

/// A number, or the cause why there is none (then `number` is NaN).
struct Value {
    double number = no_number;
    Cause cause = Cause::none;
    [[nodiscard]] bool ok() const { return cause == Cause::none; }
    static Value none(Cause cause);
};

Value forward(const Stage& stage, double x);
/// Backwards. A result that the stage would refuse forwards comes back as its cause.
Value inverse(const Stage& stage, double y);

std::string input_unit(const Stage& stage);
std::string output_unit(const Stage& stage);
/// "converter", "straight line", …: what a person calls this step.
std::string stage_title(const Stage& stage);
/// The arithmetic with this value's own figures: "(138 + ½) × 5.000 V ÷ 1 024".
std::string arithmetic_text(const Stage& stage, double x);
/// A sentence for a person: what is wrong with x at this stage.
std::string cause_text(const Stage& stage, Cause cause, double x);

/// Bits of a stage that counts codes: a converter, a divider at one, a share of its supply; 0: it does not.
int code_bits(const Stage& stage);

/// Step from one code to the next, in the stage's output unit; 0 for stages that do not quantise.
/// `at` is the stage's input there.
double quantum(const Stage& stage, double at);

struct NamedConstant {
    std::string key; ///< as in JSON: "reference_V"
    std::string unit;
    Constant* constant;
};
/// Every constant of a stage, in the order of its JSON keys.
std::vector<NamedConstant> constants(Stage& stage);

struct Affine {
    double a, b; ///< y = a·x + b
};
/// True and filled when the stage is a straight line.
bool as_affine(const Stage& stage, Affine& line);

} // namespace cognitum
