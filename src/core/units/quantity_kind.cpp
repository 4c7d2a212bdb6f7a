#include "core/units/quantity_kind.h"

namespace cognitum {

const std::vector<QuantityKind>& quantity_kinds() {
    static const std::vector<QuantityKind> kinds = {
        {"temperature", "Temperature", {"degC", "K", "degF"}, -10, 40, 1},
        {"level", "Level", {"mm", "cm", "m"}, 0, 2000, 10},
        {"volume", "Volume in a vessel", {"L", "m3"}, 0, 1000, 20},
        {"pressure", "Pressure", {"hPa", "kPa", "Pa", "bar"}, 950, 1050, 1},
        {"humidity", "Humidity", {"%"}, 0, 100, 3},
        {"light", "Light", {"lx", "klx"}, 0, 60000, 200},
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
