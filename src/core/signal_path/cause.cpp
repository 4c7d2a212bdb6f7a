#include "core/signal_path/cause.h"

#include "core/base/phrase.h"

namespace cognitum {

std::optional<Cause> cause_from_number(std::int64_t number) {
    if (number < 0 || number > static_cast<std::int64_t>(last_cause)) return std::nullopt;
    return static_cast<Cause>(number);
}

std::string cause_text(Cause cause) {
    switch (cause) {
    case Cause::none: return "";
    case Cause::at_low_rail: return phrase("at the lower rail");
    case Cause::at_high_rail: return phrase("at the upper rail");
    case Cause::outside_codes: return phrase("no code of this converter");
    case Cause::out_of_range: return phrase("outside the sensor's range");
    case Cause::not_a_number: return phrase("no number in the line");
    case Cause::missing: return phrase("field missing");
    case Cause::failed: return phrase("the part says that it did not measure");
    case Cause::below_empty: return phrase("below empty");
    case Cause::overfull: return "overfull";
    case Cause::ambiguous: return phrase("more than one answer");
    case Cause::undecided: return phrase("between the two states");
    }
    return "";
}

std::optional<Cause> cause_from_text(std::string_view text) {
    for (std::uint8_t i = 1; i <= static_cast<std::uint8_t>(last_cause); ++i)
        if (cause_text(static_cast<Cause>(i)) == text) return static_cast<Cause>(i);
    return std::nullopt;
}

} // namespace cognitum
