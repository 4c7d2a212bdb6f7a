// The table of references: what each is called, asks for and gives.
#include "core/calibrate/references.h"

#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/physics/air.h"
#include "core/physics/buffers.h"
#include "core/physics/conductivity.h"
#include "core/physics/salts.h"
#include "core/physics/water.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr double typed = no_number;
using Inputs = std::map<std::string, double>;

/// Mass of 1 mL of water that a balance shows, g, in air of usual density: buoyancy lifts water more than the brass
/// or steel that the balance was set with (OIML D 28: ρ air 1.2, ρ weights 8000 kg/m³).
double shown_density(double theta_degC) {
    constexpr double air = 1.2, weights = 8000;
    const double water = physics::water_density(theta_degC);
    return (water - air) / (1 - air / weights) / 1000;
}

double salt_value(const char* salt, const Inputs& in) {
    // Where the probe is warmer than the slush, the same vapour is a smaller share of what its air could hold.
    const double slush = in.at("air_degC");
    const double there = slush + in.at("uneven_K");
    return 100 * physics::salt_humidity(salt, slush) * physics::saturation_vapour_pressure(slush) /
           physics::saturation_vapour_pressure(there);
}

/// What a volume makes in a funnel, mm: 1 mL on 1 cm² stands 10 mm high.
double height_in_funnel(double volume_mL, const Inputs& in) {
    return in.at("funnel_cm2") > 0 ? 10 * volume_mL / in.at("funnel_cm2") : no_number;
}

double each_minute(double amount, const Inputs& in) {
    return in.at("seconds") > 0 ? 60 * amount / in.at("seconds") : no_number;
}

double always_0(const Inputs&) {
    return 0;
}
double always_1(const Inputs&) {
    return 1;
}
double always_100(const Inputs&) {
    return 100;
}

ReferenceKind salt(const char* id, const char* salt, const char* title) {
    return {
        id,
        title,
        "%",
        {{"air_degC", for_people("The slush"), "degC", 22, 0.5},
         {"uneven_K", for_people("Probe warmer than the slush by"), "K", 0, 0.25}},
        for_people(
            "A slush of the salt with a little water in a closed jar, the probe above it and nowhere wet. Leave it "
            "for some hours, at one temperature."),
        for_people("Salts and their solutions harm eyes, skin and metal: gloves, glasses, and no food nearby."),
        "Greenspan (1977), J. Res. NBS 81A, 89",
        // That probe and slush differ in temperature counts the more the damper it is: an input of its own.
        100 * physics::salt_humidity_doubt(salt) / 2,
        [salt](const Inputs& in) { return salt_value(salt, in); }};
}

ReferenceKind chloride(const char* id, double mol_L, const char* title) {
    return {
        id,
        title,
        "mS/cm",
        {{"water_degC", for_people("The solution"), "degC", 25, 0.1}},
        for_people("Rinse the cell twice with the standard and throw that away; then fill, swirl out the "
                   "bubbles, and wait "
                   "until cell and solution are equally warm."),
        for_people("Keep standards out of eyes and mouths. A conductivity is no proof of drinking water."),
        for_people("Kohlrausch’s table of potassium chloride; OIML R 56"),
        0.005 * physics::potassium_chloride_conductivity(mol_L, 25),
        [mol_L](const Inputs& in) { return physics::potassium_chloride_conductivity(mol_L, in.at("water_degC")); }};
}

ReferenceKind buffer(const char* id, const char* buffer, const char* title) {
    return {id,
            title,
            "pH",
            {{"water_degC", for_people("The solution"), "degC", 25, 0.5}},
            for_people("Rinse the electrode, dab it dry, dip it and stir; wait until it moves no more."),
            for_people("Buffers: goggles and gloves; throw away what was used, and keep it from children."),
            for_people("NIST standard buffers, IUPAC Recommendations 2002"),
            0.02,
            [buffer](const Inputs& in) { return physics::buffer_pH(buffer, in.at("water_degC")); }};
}

constexpr const char* cold_hands =
    for_people("Keep the bare legs and the board dry; a glass can crack when ice is crushed in it.");
constexpr const char* scale_and_water =
    for_people("Keep water away from the board, the balance’s mains lead and the floor you walk on.");

} // namespace

const std::vector<ReferenceKind>& reference_kinds() {
    static const std::vector<ReferenceKind> all = {
        {"ice-point",
         for_people("Ice and water"),
         "degC",
         {},
         for_people("Crushed ice with just enough water to fill the gaps. Sleeve the probe, keep it in the middle, "
                    "stir, and "
                    "wait."),
         cold_hands,
         for_people("ITS-90; a kitchen’s ice is good to 0.1 °C"),
         physics::ice_point_u_degC,
         [](const Inputs&) { return physics::ice_point_degC; }},
        {"boiling-point",
         for_people("Boiling water"),
         "degC",
         {{"pressure_hPa", for_people("Air pressure, not reduced to sea level"), "hPa", 1013.25, 1}},
         for_people("The steam just above water at a full boil."),
         for_people(
             "Boiling water and steam scald. Clamp the probe, keep hands and wires away, and only where the part "
             "withstands it."),
         for_people("IAPWS-IF97, saturation line"),
         0.15,
         [](const Inputs& in) { return physics::boiling_point(100 * in.at("pressure_hPa")); }},
        {"reference-instrument",
         for_people("A second instrument"),
         "",
         {},
         for_people("Hold both in the same place until neither moves, then read the reference."),
         "",
         "",
         0},
        {"tape-measure",
         for_people("Measured by tape"),
         "",
         {},
         for_people("Measure from the same edge each time, and read the tape square on."),
         for_people("Ladders and tanks: not alone, and never into a closed tank."),
         "",
         0},
        {"tape-below",
         for_people("A tape, down to the water"),
         "mm",
         {{"face_mm", for_people("Sensor’s face above the bottom"), "mm", typed, 1},
          {"distance_mm", for_people("From the face to the water"), "mm", typed, 1}},
         for_people("Hang the tape beside the sensor and read where it touches the water."),
         for_people("Ladders and tanks: not alone, and never into a closed tank."),
         "",
         0.5,
         [](const Inputs& in) { return in.at("face_mm") - in.at("distance_mm"); }},
        {"known-fill",
         for_people("Filled by a known amount"),
         "L",
         {{"before_L", for_people("In it before"), "L", 0, 0.1},
          {"added_L", for_people("Poured in since"), "L", typed, 0.02}},
         for_people("Pour in a measured amount, let it calm, and take the point; go on until it is full."),
         for_people("A full vessel is heavy: it stands on the floor and is not lifted."),
         "",
         0,
         [](const Inputs& in) { return in.at("before_L") + in.at("added_L"); }},
        {"weighed-water",
         for_people("Weighed water"),
         "L",
         {{"mass_g", for_people("Shown by the balance"), "g", typed, 0.5},
          {"water_degC", for_people("The water"), "degC", 20, 1}},
         for_people("Weigh the vessel before and after, and type the difference."),
         scale_and_water,
         for_people("Tanaka et al. (2001), with air buoyancy"),
         0,
         [](const Inputs& in) { return in.at("mass_g") / shown_density(in.at("water_degC")) / 1000; }},
        {"measured-pour",
         for_people("A measured pour"),
         "mm",
         {{"volume_mL", for_people("Poured"), "mL", typed, 1},
          {"funnel_cm2", for_people("Funnel"), "cm2", typed, 1}},
         for_people("Let a measured volume drip through the funnel over some minutes, no faster than heavy rain."),
         for_people("A gauge on a roof or mast comes down first: no pouring from a ladder."),
         "",
         0,
         [](const Inputs& in) { return height_in_funnel(in.at("volume_mL"), in); }},
        {"weighed-pour",
         for_people("A weighed pour"),
         "mm",
         {{"mass_g", for_people("Poured, by the balance"), "g", typed, 0.5},
          {"water_degC", for_people("The water"), "degC", 20, 1},
          {"funnel_cm2", for_people("Funnel"), "cm2", typed, 1}},
         for_people("Weigh the bottle before and after, and let it drip through the funnel over some minutes."),
         for_people("A gauge on a roof or mast comes down first: no pouring from a ladder."),
         for_people("Tanaka et al. (2001), with air buoyancy"),
         0,
         [](const Inputs& in) {
             return height_in_funnel(in.at("mass_g") / shown_density(in.at("water_degC")), in);
         }},
        {"timed-fill",
         for_people("A timed fill"),
         "L/min",
         {{"volume_L", for_people("Caught"), "L", typed, 0.02}, {"seconds", for_people("In"), "s", typed, 0.3}},
         for_people("Let the flow settle, catch it in a measured vessel, and time it for a minute or more."),
         scale_and_water,
         "",
         0,
         [](const Inputs& in) { return each_minute(in.at("volume_L"), in); }},
        {"counted-beats",
         for_people("Beats counted by hand"),
         "/min",
         {{"beats", for_people("Beats"), "1", typed, 0.5}, {"seconds", for_people("In"), "s", 60, 0.3}},
         for_people("Two fingers on the wrist; count for a whole minute while the person rests."),
         for_people("A comparison of two counts: no diagnosis, and no medical device."),
         "",
         0,
         [](const Inputs& in) { return each_minute(in.at("beats"), in); }},
        chloride("kcl-0.01", 0.01, for_people("Potassium chloride, 0.01 mol/L")),
        chloride("kcl-0.1", 0.1, for_people("Potassium chloride, 0.1 mol/L")),
        chloride("kcl-1", 1, for_people("Potassium chloride, 1 mol/L")),
        {"sea-water-35",
         for_people("Standard sea water, salinity 35"),
         "mS/cm",
         {{"water_degC", for_people("The water"), "degC", 25, 0.1}},
         for_people(
             "Rinse the cell twice with it and throw that away; then fill, and wait until both are equally warm."),
         for_people("Keep it out of eyes and mouths. A conductivity is no proof of drinking water."),
         for_people("Practical salinity scale 1978 (UNESCO 1981)"),
         0.05,
         [](const Inputs& in) { return physics::sea_water_conductivity(in.at("water_degC")); }},
        {"dry-air",
         for_people("The cell dry in the air"),
         "mS/cm",
         {},
         for_people(
             "Rinsed with clean water, shaken and dried: nothing conducts, which is the zero of cell and board."),
         "",
         "",
         0.0005,
         always_0},
        {"unloaded",
         for_people("Nothing on it"),
         "kg",
         {},
         for_people("Take everything off, let it calm: this is the tare."),
         for_people("Nothing hangs over people while you work."),
         "",
         0.0005,
         always_0},
        buffer("buffer-phthalate", "phthalate", for_people("Buffer pH 4.01, phthalate")),
        buffer("buffer-phosphate", "phosphate", for_people("Buffer pH 6.87, phosphate")),
        buffer("buffer-borax", "borax", for_people("Buffer pH 9.18, borax")),
        salt("salt-lithium-chloride", "lithium-chloride", for_people("Over lithium chloride")),
        salt("salt-magnesium-chloride", "magnesium-chloride", for_people("Over magnesium chloride")),
        salt("salt-sodium-chloride", "sodium-chloride", for_people("Over sodium chloride")),
        salt("salt-potassium-sulfate", "potassium-sulfate", for_people("Over potassium sulfate")),
        {"in-air",
         for_people("The probe in the air"),
         "%",
         {},
         for_people(
             "Clean and dry, touching nothing. Dry soil reads wetter than air: this is the end of an air-to-water "
             "scale."),
         "",
         "",
         1,
         always_0},
        {"in-water",
         for_people("The probe in water"),
         "%",
         {},
         for_people(
             "In water to its mark. Soaked soil reads drier than water: this is the end of an air-to-water scale."),
         for_people("No connector and no wire under water."),
         "",
         1,
         always_100},
        {"dry",
         for_people("Dry soil"),
         "%",
         {},
         for_people("The probe in soil dried in an oven or for weeks, pressed in as in use. In air it would read "
                    "drier still."),
         for_people("An oven and what comes out of it burn: tongs, and a heat-proof place."),
         "",
         1,
         always_0},
        {"saturated",
         for_people("Soaked through"),
         "%",
         {},
         for_people("The probe in soil that water stands on. In water alone it would read wetter still."),
         for_people("No connector and no wire under water."),
         "",
         1,
         always_100},
        {"darkness",
         for_people("Darkness"),
         "lx",
         {},
         for_people("Cover the sensor so that no light comes in, from behind either."),
         "",
         "",
         0.1,
         always_0},
        {"resistor",
         for_people("A known resistor"),
         "",
         {},
         for_people(
             "A resistor of a tight class in place of the sensor; type what the curve of the part gives for it."),
         for_people("Unplug the board while you change it."),
         "",
         0},
        {"state-off",
         for_people("It is off, and you see it"),
         "1",
         {},
         for_people("Open, away, dry: whatever counts as off, seen with your own eyes."),
         "",
         "",
         1e-3,
         always_0},
        {"state-on",
         for_people("It is on, and you see it"),
         "1",
         {},
         for_people("Closed, there, wet: whatever counts as on, seen with your own eyes."),
         "",
         "",
         1e-3,
         always_1},
        {"other",
         for_people("Another reference"),
         "",
         {},
         for_people("Type what it says, and how sure that is."),
         "",
         "",
         0}};
    return all;
}

Result<ReferenceValue> reference_value(const ReferenceKind& kind, const std::map<std::string, double>& given) {
    Inputs inputs;
    for (const ReferenceInput& input : kind.inputs)
        inputs[input.key] = input.value;
    for (const auto& [key, value] : given) {
        if (!inputs.contains(key)) return failure(phrase("{} knows no \"{}\".", kind.title, key));
        inputs[key] = value;
    }
    for (const ReferenceInput& input : kind.inputs)
        if (!std::isfinite(inputs[input.key]))
            return failure(phrase("{} is missing.", input.label), {}, phrase("Type it."));
    if (kind.typed()) return failure(phrase("this reference is typed, not computed."));
    ReferenceValue out;
    out.value = kind.value(inputs);
    if (!std::isfinite(out.value))
        return failure(phrase("{} has no value there.", kind.title), {},
                       phrase("Look at what was typed: it lies outside of what the table knows."));
    double variance = kind.u * kind.u;
    for (const ReferenceInput& input : kind.inputs) {
        if (!(input.u > 0)) continue;
        Inputs moved = inputs;
        moved[input.key] += input.u;
        double change = kind.value(moved) - out.value;
        if (!std::isfinite(change)) { // at the edge of a table: the other way
            moved[input.key] -= 2 * input.u;
            change = kind.value(moved) - out.value;
        }
        if (std::isfinite(change)) variance += change * change;
    }
    out.u = std::sqrt(variance);
    return out;
}

} // namespace cognitum
