// The kinds of quantity that a reading can be, with the units a person would choose and sensible first values.
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace cognitum {

struct QuantityKind {
    std::string id;                 ///< as in files: temperature
    std::string title;              ///< on screen: Temperature
    std::vector<std::string> units; ///< first is the default
    double low, high;               ///< a first expected range, default unit
    double accuracy;                ///< a first needed accuracy (±, 95 %), default unit
    bool is_private = false;        ///< about somebody's health: leaves the bench only when asked for by name
};

const std::vector<QuantityKind>& quantity_kinds();
/// nullptr when there is none of that id.
const QuantityKind* find_quantity_kind(std::string_view id);

} // namespace cognitum
