// References that compute themselves: what is known, from what a person can measure beside it.
#pragma once

#include "core/base/error.h"
#include "core/base/phrase.h"
#include "core/bench/bench.h"

#include <functional>
#include <map>
#include <string>
#include <vector>

namespace cognitum {

/// Something that a reference's value depends on.
struct ReferenceInput {
    std::string key;
    Phrase label; ///< "pressure_hPa", "Air pressure"
    std::string unit;
    double value = 0; ///< a first one; NaN: to be typed
    double u = 0;     ///< standard uncertainty that is assumed of it
};

/// A way of knowing what is true.
struct ReferenceKind {
    std::string id;   ///< stands in records: ice-point
    Phrase title;     ///< on screen: "Ice and water"
    std::string unit; ///< of its value; empty: the reading's own, typed by hand
    std::vector<ReferenceInput> inputs;
    Phrase how;     ///< how to make it, one or two sentences
    Phrase caution; ///< what can hurt; empty: nothing
    Phrase source;  ///< standard or paper of the value
    double u = 0;   ///< standard uncertainty that it brings itself, unit; of a typed one: a first guess
    /// From its inputs by their keys, in its unit; NaN where the source knows none; empty: it is typed.
    std::function<double(const std::map<std::string, double>&)> value = {};
    [[nodiscard]] bool typed() const { return !value; }
};

/// All, and one by its id (nullptr: none of that id). What depends on height starts at sea level.
const std::vector<ReferenceKind>& reference_kinds();
const ReferenceKind* find_reference_kind(std::string_view id);
/// A kind as it is at a place: boiling water at its height.
ReferenceKind reference_at(const ReferenceKind& kind, double altitude_m);

struct ReferenceValue {
    double value = 0, u = 0; ///< standard uncertainty: its own and that of its inputs (JCGM 100, 5.1)
};
/// Value of a kind that computes itself, in its unit. Inputs that are missing take their first value. Error for an
/// input that is not known, is no number, or lies where the source says nothing.
Result<ReferenceValue> reference_value(const ReferenceKind& kind, const std::map<std::string, double>& inputs);

/// What a path that compensates to 25 °C shows of a standard solution whose conductivity (mS/cm, at `water_degC`)
/// is known: the cell is compared, and not how far the standard's own temperature coefficient lies from that of the
/// water. Its relative doubt stays. Any other path: as it is.
ReferenceValue as_compensated(const ReferenceValue& standard, const Chain& path, double water_degC);

/// What is wrong with a typed or computed reference for this quantity: below absolute zero, a humidity over 100 %,
/// an amount below zero, a doubt of nothing. Error names it and says what to do.
Result<void> check_reference(const Quantity& quantity, double value, double u);

/// When a typed reference looks as if it were in another unit of the same quantity: "68 would fit in °F: that is
/// 20.0 °C."; empty when it does not.
std::string unit_suspicion(const Quantity& quantity, double indication, double reference);

/// What to say of an instrument as the reference for a reading: overdue, no better than a third of the limit, of
/// another quantity, of the same design as the part that it should judge. One sentence each.
std::vector<std::string> reference_remarks(const ReferenceInstrument& reference, const Reading& reading,
                                           TimeUs now);

} // namespace cognitum
