// What water conducts, and what that says of its salt. Pure functions; outside their range they return NaN.
// A conductivity is no proof of drinking water.
#pragma once

namespace cognitum::physics {

/// Conductivity at 25 °C by the linear compensation κ/(1 + α(θ − 25)), unit as given. kappa ≥ 0; theta: 0…50 °C;
/// alpha: 1/K, 0…0.1, usually 0.02. ISO 7888.
double conductivity_25(double kappa, double theta_degC, double alpha_per_K);
/// Its inverse: conductivity at theta.
double conductivity_at(double kappa_25, double theta_degC, double alpha_per_K);

/// Factor that brings a natural water's conductivity from theta to 25 °C, 0…36 °C: the nonlinear compensation of
/// ISO 7888 in its closed form ((1 − a) + a·(η/η20)^n)·1.116, a = 0.962144, n = 0.965078, with the viscosity of
/// water by Korson et al. (1969), J. Phys. Chem. 73, 34. Within 0.3 % of the standard's table.
double natural_water_factor(double theta_degC);

/// Conductivity, mS/cm, of potassium-chloride standards of 0.01, 0.1 or 1 mol/L at 0…30 °C (1 mol/L: 0…25 °C), from
/// the published table of 5 °C steps (Kohlrausch; OIML R 56 lists the like by mass), interpolated by a cubic.
double potassium_chloride_conductivity(double mol_per_L, double theta_degC);

/// Practical salinity of sea water, PSS-78 (UNESCO 1981, Technical Papers in Marine Science 37), from the
/// conductivity, mS/cm, its temperature −2…35 °C (ITS-90 is taken as IPTS-68 here: 0.008 K at most) and the sea
/// pressure, dbar. NaN outside 2…42.
double practical_salinity(double conductivity_mS_per_cm, double theta_degC, double sea_pressure_dbar = 0);

/// Conductivity, mS/cm, of standard sea water (practical salinity 35) at the sea's surface, −2…35 °C: the same
/// source, 42.914 mS/cm at 15 °C times its ratio of temperatures.
double sea_water_conductivity(double theta_degC);

/// Dissolved solids, mg/L, estimated as k·κ25. kappa_25: µS/cm; k: 0.5…0.8. Always an estimate: k depends on the
/// salts.
double dissolved_solids(double kappa_25_uS_per_cm, double k);

} // namespace cognitum::physics
