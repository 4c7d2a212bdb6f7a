#include "core/signal_path/cause.h"

namespace cognitum {

std::optional<Cause> cause_from_number(std::int64_t number) {
    if (number < 0 || number > static_cast<std::int64_t>(last_cause)) return std::nullopt;
    return static_cast<Cause>(number);
}

std::string cause_text(Cause cause) {
    switch (cause) {
    case Cause::none: return "";
    case Cause::at_low_rail: return "at the lower rail";
    case Cause::at_high_rail: return "at the upper rail";
    case Cause::outside_codes: return "no code of this converter";
    case Cause::out_of_range: return "outside the sensor's range";
    case Cause::not_a_number: return "no number in the line";
    case Cause::missing: return "field missing";
    case Cause::failed: return "the part says that it did not measure";
    case Cause::below_empty: return "below empty";
    case Cause::overfull: return "overfull";
    case Cause::ambiguous: return "more than one answer";
    case Cause::undecided: return "between the two states";
    }
    return "";
}

std::optional<Cause> cause_from_text(std::string_view text) {
    for (std::uint8_t i = 1; i <= static_cast<std::uint8_t>(last_cause); ++i)
        if (cause_text(static_cast<Cause>(i)) == text) return static_cast<Cause>(i);
    return std::nullopt;
}

} // namespace cognitum
