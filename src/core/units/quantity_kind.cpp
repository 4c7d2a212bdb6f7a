#include "core/units/quantity_kind.h"

namespace cognitum {

const std::vector<QuantityKind>& quantity_kinds() {
    static const std::vector<QuantityKind> kinds = {
        {"temperature", "Temperature", {"degC", "K", "degF"}, -10, 40, 1},
        {"voltage", "Voltage", {"V", "mV"}, 0, 5, 0.05},
        {"pressure", "Air pressure", {"hPa", "kPa", "Pa"}, 950, 1050, 1},
        {"humidity", "Humidity", {"%"}, 0, 100, 3},
        {"number", "Number", {"1", "%"}, 0, 100, 1},
        {"level", "Level", {"mm", "cm", "m"}, 0, 2000, 10},
    };
    return kinds;
}

const QuantityKind* find_quantity_kind(std::string_view id) {
    for (const QuantityKind& kind : quantity_kinds())
        if (kind.id == id) return &kind;
    return nullptr;
}

} // namespace cognitum
