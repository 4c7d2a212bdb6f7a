// Why a reading has no value. The numbers stand in bench files, the words in exports: neither may change.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

namespace cognitum {

enum class Cause : std::uint8_t {
    none = 0,
    at_low_rail = 1,   ///< a code at the converter's lower end: the signal may be anything below
    at_high_rail = 2,  ///< a code at its upper end
    outside_codes = 3, ///< not a code that this converter can give
    out_of_range = 4,  ///< outside the range of the stage's formula
    not_a_number = 5,  ///< the line held text, NaN or nothing where the number belongs
    missing = 6,       ///< the line did not bring this field
    failed = 7,        ///< the number that the part gives when it did not measure
    below_empty = 8,   ///< a level under the vessel's bottom
    overfull = 9,      ///< a level over its top
    ambiguous = 10,    ///< backwards, where more than one input gives this output
    undecided = 11,    ///< between two states, where neither is sure
};
/// The one with the largest number: a new cause goes behind it and takes its place here.
inline constexpr Cause last_cause = Cause::undecided;

/// The cause with that number in a file; empty: there is none.
std::optional<Cause> cause_from_number(std::int64_t number);
/// A few words for a cause, also in exports; empty for `none`.
std::string cause_text(Cause cause);
/// The cause with those words; empty: none of them.
std::optional<Cause> cause_from_text(std::string_view text);

} // namespace cognitum
