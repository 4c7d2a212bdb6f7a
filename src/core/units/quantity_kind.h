// The kinds of quantity that a reading can be, with the units a person would choose and sensible first values.
#pragma once

#include "core/base/phrase.h"

#include <limits>
#include <string>
#include <string_view>
#include <vector>

namespace cognitum {

/// What single events of a kind are, where it is more than a number that moves.
enum class Events {
    none,
    tips,     ///< of a bucket: rain
    turns,    ///< of a wheel: wind
    beats,    ///< of a heart, found in a wave
    switches, ///< from on to off and back
};

/// A kind of quantity and what it is: the rest of Cognitum asks here, and never compares names.
struct QuantityKind {
    std::string id;                     ///< as in files: temperature
    Phrase title;                       ///< on screen: Temperature
    std::vector<std::string> units;     ///< first is the default
    double low = 0, high = 0;           ///< a first expected range, default unit
    double accuracy = 0;                ///< a first needed accuracy (±, 95 %), default unit
    bool is_private = false;            ///< about somebody's health: leaves the bench only when asked for by name
    bool is_counted = false;            ///< its part sends a count that grows: tips, pulses of a meter
    bool is_total = false;              ///< its value is what came since a start: a stretch has its share
    bool in_vessel = false;             ///< measured in a vessel, whose shape belongs to the reading
    std::string from_level = {};        ///< kind whose parts measure it through the vessel's shape: "level"
    bool never_negative = false;        ///< a value below zero says that something is wrong
    bool may_be_typed_negative = false; ///< a reference below zero is no slip of the pen
    double floor_limit = -std::numeric_limits<double>::infinity(); ///< nothing lies beyond these, default unit
    double ceiling_limit = std::numeric_limits<double>::infinity();
    Events events = Events::none;
    Phrase on_word = {}, off_word = {}; ///< of a state: "closed", "open"
    bool closes_a_circuit = false;      ///< a contact: it bounces, and welds on a charge
    double rest_s = 1;                  ///< a state that changes again within this time changed once
    Phrase is_not = {};                 ///< a sentence: what its number must not be taken for
    std::vector<std::string> words =
        {}; ///< with which names of fields for it begin, small letters; English and German
    [[nodiscard]] bool is_state() const { return events == Events::switches; }
    /// Its value is measured in a unit: a word such as "open" in its place says that it could not be.
    [[nodiscard]] bool has_no_states() const {
        return events == Events::none && !is_counted && !units.empty() && units.front() != "1";
    }
};

const std::vector<QuantityKind>& quantity_kinds();
/// nullptr when there is none of that id.
const QuantityKind* find_quantity_kind(std::string_view id);
/// The same; a plain number for an id that is not known.
const QuantityKind& quantity_kind(std::string_view id);

} // namespace cognitum
