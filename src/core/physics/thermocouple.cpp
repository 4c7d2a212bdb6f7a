#include "core/physics/thermocouple.h"

#include "core/base/no_number.h"
#include "core/base/root.h"

#include <cmath>
#include <vector>

namespace cognitum::physics {

namespace {

/// E = Σ cᵢ θⁱ, mV, up to `to` °C.
struct Piece {
    double to_degC;
    std::vector<double> c;
};
struct Reference {
    double low_degC;
    std::vector<Piece> pieces;
    double inverse_from_degC;
};

const Reference& reference(ThermocoupleType type) {
    static const Reference b{
        0,
        {{630.615,
          {0, -0.246508183460e-3, 0.590404211710e-5, -0.132579316360e-8, 0.156682919010e-11, -0.169445292400e-14,
           0.629903470940e-18}},
         {1820,
          {-0.389381686210e1, 0.285717474700e-1, -0.848851047850e-4, 0.157852801640e-6, -0.168353448640e-9,
           0.111097940130e-12, -0.445154310330e-16, 0.989756408210e-20, -0.937913302890e-24}}},
        50};
    static const Reference e{
        -270,
        {{0,
          {0, 0.586655087080e-1, 0.454109771240e-4, -0.779980486860e-6, -0.258001608430e-7, -0.594525830570e-9,
           -0.932140586670e-11, -0.102876055340e-12, -0.803701236210e-15, -0.439794973910e-17, -0.164147763550e-19,
           -0.396736195160e-22, -0.558273287210e-25, -0.346578420130e-28}},
         {1000,
          {0, 0.586655087100e-1, 0.450322755820e-4, 0.289084072120e-7, -0.330568966520e-9, 0.650244032700e-12,
           -0.191974955040e-15, -0.125366004970e-17, 0.214892175690e-20, -0.143880417820e-23, 0.359608994810e-27}}},
        -270};
    static const Reference j{-210,
                             {{760,
                               {0, 0.503811878150e-1, 0.304758369300e-4, -0.856810657200e-7, 0.132281952950e-9,
                                -0.170529583370e-12, 0.209480906970e-15, -0.125383953360e-18, 0.156317256970e-22}},
                              {1200,
                               {0.296456256810e3, -0.149761277860e1, 0.317871039240e-2, -0.318476867010e-5,
                                0.157208190040e-8, -0.306913690560e-12}}},
                             -210};
    static const Reference k{
        -270,
        {{0,
          {0, 0.394501280250e-1, 0.236223735980e-4, -0.328589067840e-6, -0.499048287770e-8, -0.675090591730e-10,
           -0.574103274280e-12, -0.310888728940e-14, -0.104516093650e-16, -0.198892668780e-19,
           -0.163226974860e-22}},
         {1372,
          {-0.176004136860e-1, 0.389212049750e-1, 0.185587700320e-4, -0.994575928740e-7, 0.318409457190e-9,
           -0.560728448890e-12, 0.560750590590e-15, -0.320207200030e-18, 0.971511471520e-22, -0.121047212750e-25}}},
        -270};
    static const Reference n{
        -270,
        {{0,
          {0, 0.261591059620e-1, 0.109574842280e-4, -0.938411115540e-7, -0.464120397590e-10, -0.263033577160e-11,
           -0.226534380030e-13, -0.760893007910e-16, -0.934196678350e-19}},
         {1300,
          {0, 0.259293946010e-1, 0.157101418800e-4, 0.438256272370e-7, -0.252611697940e-9, 0.643118193390e-12,
           -0.100634715190e-14, 0.997453389920e-18, -0.608632456070e-21, 0.208492293390e-24, -0.306821961510e-28}}},
        -270};
    static const Reference r{
        -50,
        {{1064.18,
          {0, 0.528961729765e-2, 0.139166589782e-4, -0.238855693017e-7, 0.356916001063e-10, -0.462347666298e-13,
           0.500777441034e-16, -0.373105886191e-19, 0.157716482367e-22, -0.281038625251e-26}},
         {1664.5,
          {0.295157925316e1, -0.252061251332e-2, 0.159564501865e-4, -0.764085947576e-8, 0.205305291024e-11,
           -0.293359668173e-15}},
         {1768.1, {0.152232118209e3, -0.268819888545, 0.171280280471e-3, -0.345895706453e-7, -0.934633971046e-14}}},
        -50};
    static const Reference s{
        -50,
        {{1064.18,
          {0, 0.540313308631e-2, 0.125934289740e-4, -0.232477968689e-7, 0.322028823036e-10, -0.331465196389e-13,
           0.255744251786e-16, -0.125068871393e-19, 0.271443176145e-23}},
         {1664.5, {0.132900444085e1, 0.334509311344e-2, 0.654805192818e-5, -0.164856259209e-8, 0.129989605174e-13}},
         {1768.1, {0.146628232636e3, -0.258430516752, 0.163693574641e-3, -0.330439046987e-7, -0.943223690612e-14}}},
        -50};
    static const Reference t{
        -270,
        {{0,
          {0, 0.387481063640e-1, 0.441944343470e-4, 0.118443231050e-6, 0.200329735540e-7, 0.901380195590e-9,
           0.226511565930e-10, 0.360711542050e-12, 0.384939398830e-14, 0.282135219250e-16, 0.142515947790e-18,
           0.487686622860e-21, 0.107955392700e-23, 0.139450270620e-26, 0.797951539270e-30}},
         {400,
          {0, 0.387481063640e-1, 0.332922278800e-4, 0.206182434040e-6, -0.218822568460e-8, 0.109968809280e-10,
           -0.308157587720e-13, 0.454791352900e-16, -0.275129016730e-19}}},
        -270};
    switch (type) {
    case ThermocoupleType::B: return b;
    case ThermocoupleType::E: return e;
    case ThermocoupleType::J: return j;
    case ThermocoupleType::K: return k;
    case ThermocoupleType::N: return n;
    case ThermocoupleType::R: return r;
    case ThermocoupleType::S: return s;
    case ThermocoupleType::T: return t;
    }
    return k;
}

} // namespace

std::optional<ThermocoupleType> thermocouple_type(std::string_view letter) {
    constexpr std::string_view letters = "BEJKNRST";
    if (letter.size() != 1) return {};
    const std::size_t at = letters.find(letter[0]);
    if (at == std::string_view::npos) return {};
    return static_cast<ThermocoupleType>(at);
}

ThermocoupleRange thermocouple_range(ThermocoupleType type) {
    const Reference& f = reference(type);
    return {f.low_degC, f.pieces.back().to_degC, f.inverse_from_degC};
}

double thermocouple_emf(ThermocoupleType type, double theta) {
    const Reference& f = reference(type);
    if (!(theta >= f.low_degC) || theta > f.pieces.back().to_degC) return no_number;
    const Piece* piece = &f.pieces.front();
    while (theta > piece->to_degC)
        ++piece;
    double sum = 0;
    for (auto c = piece->c.rbegin(); c != piece->c.rend(); ++c)
        sum = sum * theta + *c;
    // The magnetic change of the negative leg (Monograph 175, eq. for type K above 0 °C).
    if (type == ThermocoupleType::K && theta > 0)
        sum += 0.1185976 * std::exp(-0.1183432e-3 * (theta - 126.9686) * (theta - 126.9686));
    return sum;
}

double thermocouple_emf(ThermocoupleType type, double theta, double reference_degC) {
    return thermocouple_emf(type, theta) - thermocouple_emf(type, reference_degC);
}

double thermocouple_temperature(ThermocoupleType type, double emf_mV, double reference_degC) {
    const ThermocoupleRange range = thermocouple_range(type);
    const double wanted = emf_mV + thermocouple_emf(type, reference_degC);
    const double low = range.inverse_from_degC, high = range.high_degC;
    const double at_low = thermocouple_emf(type, low), at_high = thermocouple_emf(type, high);
    // A hair over the ends is what rounding of a table makes; more is outside.
    constexpr double hair_mV = 1e-9;
    if (!(wanted >= at_low - hair_mV) || wanted > at_high + hair_mV) return no_number;
    const double within = std::clamp(wanted, at_low, at_high);
    return bracketed_root([&](double theta) { return thermocouple_emf(type, theta) - within; }, low, high)
        .value_or(no_number);
}

double from_straight_line(ThermocoupleType type, double shown_degC, double chip_degC, double slope_mV_per_K) {
    return thermocouple_temperature(type, (shown_degC - chip_degC) * slope_mV_per_K, chip_degC);
}

} // namespace cognitum::physics
