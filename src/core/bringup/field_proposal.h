// What a field of a board's lines may be: from its name, the unit beside it, its size and how it moves. A proposal
// to a person, who knows.
#pragma once

#include "core/analyse/signal.h"
#include "core/catalog/cards.h"

#include <span>
#include <string>

namespace cognitum {

/// A field as its lines brought it.
struct FieldSeen {
    std::string name, unit, example; ///< unit: as its sender writes it; empty: it does not
    bool numeric = true;             ///< it brought a number at least once
    std::span<const RawSample> samples = {};
};

enum class FieldRole {
    counter,   ///< counts lines: seq, n
    clock,     ///< time since the board began, or of the day
    converter, ///< count of an analog-to-digital converter
    pulses,    ///< counts what happens: tips, turns
    state,     ///< on and off
    value,     ///< measured, in a unit
    words,     ///< no number at all
};

struct FieldProposal {
    FieldRole role = FieldRole::value;
    std::string kind = "number"; ///< id of a QuantityKind
    std::string unit = "1"; ///< of the number that is sent: "count" of a converter or of pulses, "1" of a state
    std::string title;      ///< for the reading: "Air temperature"
    int bits = 0;    ///< of a converter, the fewest that hold its numbers: 10, 12, 14 or 16; 0: of no converter
    std::string why; ///< a sentence for a person
    /// False: it says nothing about the world.
    [[nodiscard]] bool is_reading() const {
        return role != FieldRole::counter && role != FieldRole::clock && role != FieldRole::words;
    }
};

FieldProposal propose_field(const FieldSeen& field);

/// The board card whose converter has so many bits, of several the likeliest; none that is advised against. 0 bits:
/// nothing is known. Empty: there is none.
std::string propose_board(const Catalog& catalog, int bits);

} // namespace cognitum
