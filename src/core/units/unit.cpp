#include "core/units/unit.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

const std::vector<Unit>& all_units() {
    static const std::vector<Unit> units = {
        {"count", "counts", Dimension::number, 1, 0, {"counts", "{count}", "codes"}},
        {"1", "", Dimension::number, 1, 0, {"ratio"}},
        {"%", "%", Dimension::number, 0.01, 0, {"percent"}},
        {"ppm", "ppm", Dimension::number, 1e-6, 0, {"[ppm]"}},
        {"V", "V", Dimension::voltage, 1, 0, {}},
        {"mV", "mV", Dimension::voltage, 1e-3, 0, {}},
        {"uV", "µV", Dimension::voltage, 1e-6, 0, {"μV"}},
        {"ohm", "Ω", Dimension::resistance, 1, 0, {"Ohm", "Ω", "ohms"}},
        {"kohm", "kΩ", Dimension::resistance, 1e3, 0, {"kOhm"}},
        {"Mohm", "MΩ", Dimension::resistance, 1e6, 0, {"MOhm"}},
        {"degC", "°C", Dimension::temperature, 1, 273.15, {"Cel", "C"}},
        {"K", "K", Dimension::temperature, 1, 0, {"kelvin"}},
        {"degF", "°F", Dimension::temperature, 5.0 / 9.0, 459.67 * 5.0 / 9.0, {"[degF]"}},
        {"m", "m", Dimension::length, 1, 0, {}},
        {"cm", "cm", Dimension::length, 1e-2, 0, {}},
        {"mm", "mm", Dimension::length, 1e-3, 0, {}},
        {"km", "km", Dimension::length, 1e3, 0, {}},
        {"in", "in", Dimension::length, 0.0254, 0, {"[in_i]"}},
        {"ft", "ft", Dimension::length, 0.3048, 0, {"[ft_i]"}},
        {"s", "s", Dimension::time, 1, 0, {}},
        {"ms", "ms", Dimension::time, 1e-3, 0, {}},
        {"us", "µs", Dimension::time, 1e-6, 0, {"μs"}},
        {"min", "min", Dimension::time, 60, 0, {}},
        {"h", "h", Dimension::time, 3600, 0, {}},
        {"Pa", "Pa", Dimension::pressure, 1, 0, {}},
        {"hPa", "hPa", Dimension::pressure, 100, 0, {"mbar"}},
        {"kPa", "kPa", Dimension::pressure, 1e3, 0, {}},
        {"bar", "bar", Dimension::pressure, 1e5, 0, {}},
        {"MPa", "MPa", Dimension::pressure, 1e6, 0, {}},
        {"psi", "psi", Dimension::pressure, 6894.757293168, 0, {"[psi]"}},
        {"kg/m3", "kg/m³", Dimension::density, 1, 0, {"kg/m^3"}},
        {"g/m3", "g/m³", Dimension::mass_concentration, 1e-3, 0, {"g/m^3"}},
        {"mg/L", "mg/L", Dimension::mass_concentration, 1e-3, 0, {"mg/l"}},
        {"ug/m3", "µg/m³", Dimension::mass_concentration, 1e-9, 0, {"ug/m^3", "μg/m³"}},
        {"uV/K", "µV/K", Dimension::seebeck, 1e-6, 0, {"uV/degC"}},
        {"/K", "/K", Dimension::per_temperature, 1, 0, {"1/K", "/degC"}},
        {"A", "A", Dimension::current, 1, 0, {}},
        {"mA", "mA", Dimension::current, 1e-3, 0, {}},
        {"uA", "µA", Dimension::current, 1e-6, 0, {"μA"}},
        {"lx", "lx", Dimension::illuminance, 1, 0, {"lux"}},
        {"klx", "klx", Dimension::illuminance, 1e3, 0, {}},
        {"L", "L", Dimension::volume, 1e-3, 0, {"l"}},
        {"mL", "mL", Dimension::volume, 1e-6, 0, {"ml"}},
        {"m3", "m³", Dimension::volume, 1, 0, {"m^3"}},
        {"gal_us", "US gal", Dimension::volume, 3.785411784e-3, 0, {"[gal_us]"}},
        {"gal_imp", "imp. gal", Dimension::volume, 4.54609e-3, 0, {"[gal_br]"}},
        {"S/m", "S/m", Dimension::conductivity, 1, 0, {}},
        {"mS/cm", "mS/cm", Dimension::conductivity, 0.1, 0, {}},
        {"uS/cm", "µS/cm", Dimension::conductivity, 1e-4, 0, {"μS/cm"}},
        {"L/min", "L/min", Dimension::flow, 1e-3 / 60, 0, {"l/min"}},
        {"L/h", "L/h", Dimension::flow, 1e-3 / 3600, 0, {"l/h"}},
        {"m/s", "m/s", Dimension::speed, 1, 0, {}},
        {"km/h", "km/h", Dimension::speed, 1 / 3.6, 0, {}},
        {"Hz", "Hz", Dimension::frequency, 1, 0, {"/s"}},
        {"/min", "/min", Dimension::frequency, 1.0 / 60, 0, {"bpm", "1/min"}},
        {"kHz", "kHz", Dimension::frequency, 1e3, 0, {}},
        {"mm2", "mm²", Dimension::area, 1e-6, 0, {"mm^2"}},
        {"cm2", "cm²", Dimension::area, 1e-4, 0, {"cm^2"}},
        {"m2", "m²", Dimension::area, 1, 0, {"m^2"}},
        {"M", "mol/L", Dimension::amount_concentration, 1, 0, {"mol/L", "mol/l"}},
        {"mM", "mmol/L", Dimension::amount_concentration, 1e-3, 0, {"mmol/L", "mmol/l"}},
        {"mAh", "mAh", Dimension::charge, 3.6, 0, {}},
        {"Ah", "Ah", Dimension::charge, 3600, 0, {}},
        {"deg", "°", Dimension::angle, 1, 0, {"°"}},
        {"kg", "kg", Dimension::mass, 1, 0, {}},
        {"g", "g", Dimension::mass, 1e-3, 0, {}},
        {"kWh", "kWh", Dimension::energy, 3.6e6, 0, {"kW.h"}},
        {"Wh", "Wh", Dimension::energy, 3600, 0, {"W.h"}},
        {"pH", "pH", Dimension::acidity, 1, 0, {"[pH]"}},
        {"NTU", "NTU", Dimension::turbidity, 1, 0, {"FNU"}},
        {"dB", "dB", Dimension::sound_level, 1, 0, {"dB(A)", "dB[SPL]"}},
    };
    return units;
}

const Unit* find_unit(std::string_view spelling) {
    for (const Unit& unit : all_units()) {
        if (unit.code == spelling || (!unit.symbol.empty() && unit.symbol == spelling)) return &unit;
        if (std::find(unit.aliases.begin(), unit.aliases.end(), spelling) != unit.aliases.end()) return &unit;
    }
    return nullptr;
}

std::string quotient_unit(std::string_view above, std::string_view below) {
    const auto part = [](std::string_view unit) {
        const bool quotient = unit.find('/') != std::string_view::npos;
        return quotient ? fmt::format("({})", unit) : std::string(unit);
    };
    return part(above) + "/" + part(below);
}

namespace {

/// Symbol of a quotient as quotient_unit() writes it; its parts keep their brackets.
std::string quotient_symbol(std::string_view quotient) {
    int depth = 0;
    for (std::size_t i = 0; i < quotient.size(); ++i) {
        depth += (quotient[i] == '(') - (quotient[i] == ')');
        if (quotient[i] != '/' || depth != 0) continue;
        const std::string above = unit_symbol(quotient.substr(0, i)), below = unit_symbol(quotient.substr(i + 1));
        return below.empty() ? above : fmt::format("{}/{}", above.empty() ? "1" : above, below);
    }
    if (quotient.size() > 2 && quotient.front() == '(' && quotient.back() == ')')
        return fmt::format("({})", unit_symbol(quotient.substr(1, quotient.size() - 2)));
    return std::string(quotient);
}

} // namespace

std::string unit_symbol(std::string_view spelling) {
    const Unit* unit = find_unit(spelling);
    constexpr std::size_t longest_quotient = 64; // a file may hold anything
    if (!unit) return spelling.size() > longest_quotient ? std::string(spelling) : quotient_symbol(spelling);
    return unit->code == "count" ? phrase(for_people("counts")) : unit->symbol; // the only one that is a word
}

bool same_unit(std::string_view a, std::string_view b) {
    if (a == b) return true;
    const Unit* ua = find_unit(a);
    return ua && ua == find_unit(b);
}

std::string accepted_units(std::string_view unit) {
    const Unit* wanted = find_unit(unit);
    std::string out;
    for (const Unit& other : all_units())
        if (wanted && other.dimension == wanted->dimension) out += (out.empty() ? "" : ", ") + other.code;
    return out;
}

Result<double> convert_unit(double value, std::string_view from, std::string_view to) {
    const Unit* a = find_unit(from);
    const Unit* b = find_unit(to);
    if (!a) return failure(phrase("the unit \"{}\" is not known.", from));
    if (!b) return failure(phrase("the unit \"{}\" is not known.", to));
    if (a->dimension != b->dimension)
        return failure(phrase("{} is not a unit for this; use one of {}.", from, accepted_units(to)));
    if (a == b) return value;
    return (value * a->factor + a->offset - b->offset) / b->factor;
}

Result<Measure> parse_measure(std::string_view text) {
    std::string plain(text);
    if (plain.rfind("−", 0) == 0) plain.replace(0, std::string_view("−").size(), "-");
    const char* begin = plain.data();
    if (*begin == '+' && begin[1] != '-') ++begin;
    Measure out;
    const auto [end, code] = std::from_chars(begin, plain.data() + plain.size(), out.value);
    if (code != std::errc{} || !std::isfinite(out.value))
        return failure(phrase("\"{}\" does not start with a number.", text));
    std::string_view unit(end, static_cast<std::size_t>(plain.data() + plain.size() - end));
    while (!unit.empty() && unit.front() == ' ')
        unit.remove_prefix(1);
    if (unit.empty()) return failure(phrase("\"{}\" has no unit.", text));
    const Unit* known = find_unit(unit);
    if (!known) return failure(phrase("the unit \"{}\" is not known.", unit));
    out.unit = known->code;
    return out;
}

} // namespace cognitum
