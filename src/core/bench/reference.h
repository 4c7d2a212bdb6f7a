// The register of references: instruments and standards that readings are compared with.
#pragma once

#include "core/base/time.h"

#include <string>

namespace cognitum {

struct ReferenceInstrument {
    std::string id, name;
    std::string kind; ///< id of the QuantityKind that it measures
    std::string unit;
    double u = 0;                  ///< standard uncertainty, unit, > 0
    double resolution = 0;         ///< one step of its display, unit; 0: not said
    std::string design;            ///< what it is by its data sheet, or the id of a part card; empty: not said
    std::string certificate;       ///< number or words; empty: none
    TimeUs certified = 0, due = 0; ///< 0: never
    bool operator==(const ReferenceInstrument&) const = default;
    /// Doubt with which it states a value: its own, and half a step of its display.
    [[nodiscard]] double standard_uncertainty() const;
};

} // namespace cognitum
