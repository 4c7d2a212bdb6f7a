#include "core/catalog/cards.h"

#include "core/base/letters.h"
#include "core/base/phrase.h"

#include <algorithm>
#include <charconv>
#include <fmt/format.h>

namespace cognitum {

namespace {

std::string without_spaces(std::string_view text) {
    std::string out;
    for (const char c : text)
        if (c != ' ') out += c;
    return out;
}

/// Everything on a card that somebody might search for, in small letters, facts apart by line breaks.
std::string facts_of(const PartCard& part) {
    std::string out =
        fmt::format("{}\n{}\n{}\n{}\n{}\n{} legs\n{}\n{}\n{}\n{}\n{}", part.name, part.id, part.family,
                    part_kind_name(part.kind), speech_name(part.interface.speech), part.legs.size(), part.good_for,
                    part.needs, part.price, part.marking, part.interface.strap);
    for (const Measurand& m : part.measures)
        out += fmt::format("\n{}\n{}", m.quantity, m.unit);
    for (const int address : part.interface.addresses)
        out += fmt::format("\n0x{:02x}", address);
    for (const FailureValue& f : part.failure_values)
        out += "\n" + failure_text(f);
    if (part.channels.bits > 0) out += fmt::format("\n{} bit", part.channels.bits);
    if (part.interface.speech == Speech::i2c) out += "\ni²c";
    return letters::small(out);
}

/// True when the text holds the word; a word that starts with a digit is not found inside a longer number.
bool holds(const std::string& text, const std::string& word) {
    const auto digit = [](char c) { return (c >= '0' && c <= '9') || c == '.'; };
    for (auto at = text.find(word); at != std::string::npos; at = text.find(word, at + 1))
        if (!digit(word[0]) || at == 0 || !digit(text[at - 1])) return true;
    return false;
}

/// "5v", "3.3v": a voltage that a part may be fed with.
bool is_supply(const PartCard& part, std::string_view word) {
    double voltage = 0;
    const auto [end, code] = std::from_chars(word.data(), word.data() + word.size(), voltage);
    if (code != std::errc{} || std::string_view(end, word.data() + word.size()) != "v") return false;
    return part.supply.high_V > 0 && voltage >= part.supply.low_V && voltage <= part.supply.high_V;
}

} // namespace

Result<void> check_card_schema(const JsonReader& json) {
    COGNITUM_TRY(schema, json.number_or("schema", card_schema));
    if (schema <= card_schema) return {};
    return json.error(phrase("this card has the form {}; this version reads up to {}. A newer Cognitum reads it.",
                             schema, card_schema),
                      "schema");
}

const PartCard* Catalog::part(std::string_view id) const {
    for (const PartCard& p : parts)
        if (p.id == id) return &p;
    return nullptr;
}
const BoardCard* Catalog::board(std::string_view id) const {
    for (const BoardCard& b : boards)
        if (b.id == id) return &b;
    return nullptr;
}

bool matches_facts(const PartCard& part, std::string_view query) {
    const std::string facts = facts_of(part);
    const std::string compact = without_spaces(facts);
    const std::string wanted = letters::small(query);
    std::string number; // "3 legs" is one fact: a number belongs to the word behind it
    for (std::size_t start = 0; start < wanted.size();) {
        const std::size_t end = std::min(wanted.find(' ', start), wanted.size());
        std::string word = number + wanted.substr(start, end - start);
        number.clear();
        if (end < wanted.size() && !word.empty() && word.find_first_not_of("0123456789.") == std::string::npos) {
            number = word;
            word.clear();
        }
        start = end + 1;
        if (word.empty() || holds(facts, word)) continue;
        if (is_supply(part, word)) continue;
        const bool has_digit = word.find_first_of("0123456789") != std::string::npos; // "10mv" is "10 mV"
        if (has_digit && holds(compact, word)) continue;
        return false;
    }
    return true;
}

} // namespace cognitum
