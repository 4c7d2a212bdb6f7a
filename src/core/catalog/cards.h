// All cards that are known: shipped ones, then a person's own, which stand for shipped ones of the same id.
#pragma once

#include "core/catalog/board_card.h"
#include "core/catalog/part_card.h"

namespace cognitum {

/// Version of the cards' form; a card with a higher one is refused.
inline constexpr int card_schema = 1;
Result<void> check_card_schema(const JsonReader& json);

struct Catalog {
    std::vector<PartCard> parts;
    std::vector<BoardCard> boards;
    [[nodiscard]] const PartCard* part(std::string_view id) const;
    [[nodiscard]] const BoardCard* board(std::string_view id) const;
};

/// True when the card's facts hold every word of the query: "i2c 0x23", "10 mV", "3 legs 5 V".
/// A voltage alone matches a part that runs from it.
bool matches_facts(const PartCard& part, std::string_view query);

} // namespace cognitum
