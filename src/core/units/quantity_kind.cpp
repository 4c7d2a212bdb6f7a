#include "core/units/quantity_kind.h"

namespace cognitum {

const std::vector<QuantityKind>& quantity_kinds() {
    static const std::vector<QuantityKind> kinds = {
        {"temperature", "Temperature", {"degC", "K", "degF"}, -10, 40, 1},
        {"level", "Level", {"mm", "cm", "m"}, 0, 2000, 10},
        {"volume", "Volume in a vessel", {"L", "m3"}, 0, 1000, 20},
        {"pressure", "Pressure", {"hPa", "kPa", "Pa", "bar", "psi"}, 950, 1050, 1},
        {"humidity", "Humidity", {"%"}, 0, 100, 3},
        {"light", "Light", {"lx", "klx"}, 0, 50000, 200},
        {"soil-moisture", "Soil moisture", {"%"}, 0, 100, 5},
        {"conductivity", "Conductivity", {"mS/cm", "uS/cm", "S/m"}, 0, 60, 1},
        {"rain", "Rain", {"mm"}, 0, 100, 0.5},
        {"flow", "Flow", {"L/min", "L/h"}, 0, 30, 1},
        {"wind", "Wind", {"m/s", "km/h"}, 0, 40, 1},
        {"pulse-rate", "Pulse rate", {"/min"}, 40, 200, 3, true},
        {"motion", "Motion", {"1"}, 0, 1, 0.5},
        {"contact", "Contact", {"1"}, 0, 1, 0.5},
        {"position", "Position", {"%", "deg"}, 0, 100, 2},
        {"voltage", "Voltage", {"V", "mV"}, 0, 5, 0.05},
        {"weight", "Weight", {"kg", "g"}, 0, 20, 0.1},
        {"energy", "Energy used", {"kWh", "Wh"}, 0, 10000, 1},
        {"water-used", "Water used", {"L", "m3"}, 0, 100000, 100},
        {"carbon-dioxide", "Carbon dioxide", {"ppm"}, 400, 5000, 100},
        {"particulates", "Fine dust", {"ug/m3"}, 0, 500, 10},
        {"acidity", "Acidity (pH)", {"pH"}, 4, 10, 0.2},
        {"redox", "Redox voltage", {"mV"}, 0, 900, 30},
        {"dissolved-oxygen", "Dissolved oxygen", {"mg/L"}, 0, 15, 0.5},
        {"ultraviolet", "Ultraviolet index", {"1"}, 0, 12, 1},
        {"sound-level", "Sound level", {"dB"}, 30, 110, 2},
        {"turbidity", "Turbidity", {"NTU"}, 0, 1000, 100},
        {"number", "Number", {"1", "%"}, 0, 100, 1},
    };
    return kinds;
}

const QuantityKind* find_quantity_kind(std::string_view id) {
    for (const QuantityKind& kind : quantity_kinds())
        if (kind.id == id) return &kind;
    return nullptr;
}

} // namespace cognitum
