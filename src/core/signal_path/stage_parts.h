// What each kind of stage must say of itself; the files stages_*.cpp say it, one for each family, and stage.cpp
// picks.
#pragma once

#include "core/signal_path/stage.h"

namespace cognitum::stages {

struct Units {
    std::string in, out;
};
using Constants = std::vector<NamedConstant>;

#define COGNITUM_STAGE(Type)                                                                                       \
    Value forward_of(const Type& stage, double x);                                                                 \
    Value inverse_of(const Type& stage, double y);                                                                 \
    Units units_of(const Type& stage);                                                                             \
    const char* title_of(const Type& stage);                                                                       \
    std::string arithmetic_of(const Type& stage, double x);                                                        \
    Constants constants_of(Type& stage);

COGNITUM_STAGE(Adc)
COGNITUM_STAGE(Linear)
COGNITUM_STAGE(Scale)
COGNITUM_STAGE(Divider)
COGNITUM_STAGE(RatioDivider)
COGNITUM_STAGE(Ratio)
COGNITUM_STAGE(CurrentLoop)
COGNITUM_STAGE(SignedWord)
COGNITUM_STAGE(PhotoResistor)
COGNITUM_STAGE(ThermistorBeta)
COGNITUM_STAGE(ThermistorSteinhartHart)
COGNITUM_STAGE(Rtd)
COGNITUM_STAGE(Thermocouple)
COGNITUM_STAGE(StraightCouple)
COGNITUM_STAGE(Infrared)
COGNITUM_STAGE(Echo)
COGNITUM_STAGE(LevelBelow)
COGNITUM_STAGE(VesselFill)
COGNITUM_STAGE(Conductivity25)
COGNITUM_STAGE(DissolvedSolids)
COGNITUM_STAGE(Salinity)
COGNITUM_STAGE(MoistAir)
COGNITUM_STAGE(SeaLevel)
COGNITUM_STAGE(Altitude)
COGNITUM_STAGE(GasAt)
COGNITUM_STAGE(Between)
COGNITUM_STAGE(Threshold)
COGNITUM_STAGE(Table)
COGNITUM_STAGE(Formula)
COGNITUM_STAGE(Correction)
COGNITUM_STAGE(CorrectionCurve)
#undef COGNITUM_STAGE

/// Codes of a converter or word of that many bits.
double codes(int bits);
/// 2^N, or 2^N − 1 in the other convention.
double divisor(const Adc& adc);
/// The number, or the cause where it is not finite.
Value finite_or(double number, Cause cause = Cause::out_of_range);
/// A number for the arithmetic, with five significant digits.
std::string num(double value, int digits = 5);
/// " + 3" or " − 3".
std::string plus(double value);
/// And with a minus.
std::string minus(double value);

} // namespace cognitum::stages
