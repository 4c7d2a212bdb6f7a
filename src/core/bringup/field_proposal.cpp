#include "core/bringup/field_proposal.h"

#include "core/base/letters.h"
#include "core/base/phrase.h"
#include "core/units/format.h"
#include "core/units/quantity_kind.h"
#include "core/units/unit.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <tuple>
#include <vector>

namespace cognitum {

namespace {

constexpr std::array<std::string_view, 11> raw_words = {"raw", "adc",   "analog",  "count",  "counts", "code",
                                                        "val", "value", "reading", "sensor", "in"};
constexpr std::array<std::string_view, 9> counter_words = {"seq",    "n",   "no",   "nr", "i",
                                                           "packet", "msg", "line", "cnt"};
constexpr std::array<std::string_view, 10> clock_words = {"ms",    "millis", "time", "uptime", "timestamp",
                                                          "epoch", "ts",     "us",   "micros", "sec"};

/// "airTemp_C2" is air, temp, c, 2.
std::vector<std::string> words_of(const std::string& name) {
    std::vector<std::string> out;
    char before = 0;
    for (const char c : name) {
        const bool upper = c >= 'A' && c <= 'Z', lower = c >= 'a' && c <= 'z', digit = c >= '0' && c <= '9';
        const bool was_lower = before >= 'a' && before <= 'z', was_digit = before >= '0' && before <= '9';
        if (!upper && !lower && !digit && static_cast<unsigned char>(c) < 0x80) {
            before = 0;
            continue;
        }
        const bool begins = before == 0 || (upper && was_lower) || (!digit && was_digit);
        if (begins) out.emplace_back();
        out.back() += upper ? static_cast<char>(c - 'A' + 'a') : c;
        before = c;
    }
    return out;
}

template <std::size_t N>
bool among(const std::array<std::string_view, N>& words, const std::string& word) {
    return std::find(words.begin(), words.end(), word) != words.end();
}

/// Short words must be the whole word: "do" is no "door".
bool is_word_for(std::string_view begin, const std::string& word) {
    const std::string letters = word.substr(0, word.find_last_not_of("0123456789") + 1);
    if (begin.size() < 4) return letters == begin || word == begin;
    return begin.size() < 6 ? word.starts_with(begin) : word.find(begin) != std::string::npos; // "Luftfeuchte"
}

bool says(const QuantityKind& kind, const std::string& word) {
    return std::any_of(kind.words.begin(), kind.words.end(),
                       [&](const std::string& begin) { return is_word_for(begin, word); });
}

/// Kind that a word of the name says, the last word first: "soil_temp" is a temperature. A level is what is left:
/// "battery_level". Empty: no word says one.
std::string kind_of(const std::vector<std::string>& words) {
    std::string level;
    for (std::size_t i = words.size(); i-- > 0;)
        for (const QuantityKind& kind : quantity_kinds()) {
            if (!says(kind, words[i])) continue;
            if (!kind.in_vessel) return kind.id;
            if (level.empty()) level = kind.id;
        }
    return level;
}

/// The word is one for this kind: 2 with its digits in it, as in co2; 1: digits behind it are a number; 0: it is
/// none.
int says_kind(const std::string& id, const std::string& word) {
    const QuantityKind& kind = quantity_kind(id);
    if (!says(kind, word)) return 0;
    return std::find(kind.words.begin(), kind.words.end(), word) != kind.words.end() ? 2 : 1;
}

/// "T=21.5 H=40 P=1013": one letter, and a number that such a thing has.
std::string kind_of_letter(const std::vector<std::string>& words, double low, double high) {
    if (words.size() != 1) return {};
    const std::string letter = words[0].substr(0, words[0].find_first_of("0123456789")); // "t2"
    if (letter == "t" && low > -60 && high < 150) return "temperature";
    if (letter == "h" && low >= 0 && high <= 100) return "humidity";
    if (letter == "p" && low > 800 && high < 1100) return "pressure";
    return {};
}

/// A unit at the end of a name: "rain_mm", "echo_us"; empty: there is none.
std::string unit_in(const std::vector<std::string>& words, const std::string& kind) {
    if (words.size() < 2) return {};
    const std::string& last = words.back();
    const Unit* named = find_unit(last);
    if (!named || quantity_kind(kind).is_state()) return {};
    const Unit* own = find_unit(quantity_kind(kind).units.front());
    if (own && named->dimension == own->dimension) return named->code;
    return kind == "level" && last == "us" ? named->code : std::string(); // the time of an echo
}

/// "tank_l" says litres, and so no level.
std::string in_vessel(const std::vector<std::string>& words, const std::string& kind) {
    const Unit* named = words.size() < 2 ? nullptr : find_unit(words.back());
    return named && named->dimension == Dimension::volume ? "volume" : kind;
}

/// Kind whose first unit converts from this one; empty: none, or one that many kinds have.
std::string kind_of_unit(const Unit& unit) {
    if (unit.dimension == Dimension::number || unit.dimension == Dimension::time) return {};
    for (const QuantityKind& kind : quantity_kinds()) {
        const Unit* own = find_unit(kind.units.front());
        if (own && own->dimension == unit.dimension) return kind.id;
    }
    return {};
}

/// How its numbers move.
struct FieldMovement {
    std::size_t n = 0; ///< numbers
    double low = 0, high = 0;
    bool whole = true, grows = true, by_one = true; ///< grows: never less than before
    double per_s = 0;                               ///< growth
};

FieldMovement movement_of(std::span<const RawSample> samples) {
    FieldMovement out;
    const RawSample* before = nullptr;
    const RawSample* first = nullptr;
    for (const RawSample& s : samples) {
        if (!std::isfinite(s.code)) continue;
        if (!first) {
            first = &s;
            out.low = out.high = s.code;
        }
        out.low = std::min(out.low, s.code);
        out.high = std::max(out.high, s.code);
        out.whole = out.whole && s.code == std::floor(s.code);
        if (before) {
            out.grows = out.grows && s.code >= before->code;
            out.by_one = out.by_one && s.code == before->code + 1;
        }
        before = &s;
        ++out.n;
    }
    if (out.n < 2 || before->time <= first->time) return out;
    out.per_s = (before->code - first->code) / seconds(before->time - first->time);
    return out;
}

bool is_near(double value, double wanted) {
    return std::abs(value - wanted) < 0.1 * wanted;
}

/// "A0", "A15", "GPIO34", "36": pins.
bool is_pin_name(const std::vector<std::string>& words) {
    if (words.size() != 1) return words.size() == 2 && words[0] == "gpio";
    const std::string& w = words[0];
    const auto digits = w.find_first_of("0123456789");
    return digits != std::string::npos && w.find_first_not_of("0123456789", digits) == std::string::npos &&
           (digits == 0 || w.substr(0, digits) == "a" || w.substr(0, digits) == "gpio" ||
            w.substr(0, digits) == "adc");
}

/// "Air temperature", "Wind speed", "Temperature 2": the kind, and what else the name says.
std::string title_of(const std::vector<std::string>& words, const std::string& name, const std::string& kind) {
    if (kind.empty()) return name;
    std::string before, after, number;
    bool seen = false;
    for (const std::string& word : words) {
        const std::string digits = word.substr(word.find_last_not_of("0123456789") + 1);
        const int own = says_kind(kind, word);
        if (own == 1 || (own == 0 && (among(raw_words, word) || word.size() < 3)))
            number += digits.empty() ? "" : " " + digits;
        else if (own == 0)
            (seen ? after : before) += (seen ? " " : "") + word + (seen ? "" : " ");
        seen = seen || own > 0;
    }
    std::string title = quantity_kind(kind).title;
    if (!before.empty()) {
        title[0] = letters::small(title[0]);
        before[0] = letters::capital(before[0]);
    }
    return before + title + after + number;
}

int bits_for(double high) {
    for (const int bits : {10, 12, 14, 16})
        if (high < std::ldexp(1.0, bits)) return bits;
    return 0;
}

/// A counter, or a clock; other roles: neither.
FieldRole tells_the_sender(const std::vector<std::string>& words, const Unit* unit, const FieldMovement& m,
                           std::string& why) {
    if (unit && unit->dimension != Dimension::time) return FieldRole::value; // "i=0.41 A"
    constexpr std::size_t sure = 4;
    const std::string last = words.empty() ? std::string() : words.back();
    const bool named = words.size() == 1 && among(clock_words, last);
    for (const auto& [per_s, of_what] :
         {std::pair{1000.0, "milliseconds"}, {1.0, "seconds"}, {1e6, "microseconds"}}) {
        if (m.n >= sure && m.grows && m.per_s > 0 && is_near(m.per_s, per_s) &&
            (named || (per_s > 1 && m.low > 100))) {
            why = phrase("It grows by {} a second, as a clock of {} does.", format_constant(per_s), of_what);
            return FieldRole::clock;
        }
    }
    if (named && (m.n < sure || (m.grows && m.per_s > 0))) { // lines that arrive in bursts give it another rate
        why = phrase("Its name is that of a clock.");
        return FieldRole::clock;
    }
    if ((m.n >= sure && m.whole && m.by_one) ||
        (words.size() == 1 && among(counter_words, last) && m.whole && m.grows)) {
        why = m.n >= sure && m.by_one ? phrase("It grows by one with each line.")
                                      : phrase("Its name is that of a counter of lines.");
        return FieldRole::counter;
    }
    return FieldRole::value;
}

/// Unit of a finished value of that kind: as it stands beside it, else by its size.
std::string unit_of_value(const FieldSeen& field, const std::vector<std::string>& words, const std::string& kind,
                          const FieldMovement& m) {
    if (const Unit* said = find_unit(field.unit)) return said->code;
    const QuantityKind& about = quantity_kind(kind);
    if (std::string named = unit_in(words, kind); !named.empty()) return named;
    if (kind == "temperature" && (field.unit == "F" || (!words.empty() && words.back() == "f"))) return "degF";
    if (kind == "pressure" && m.n > 0 && m.low > 20000) return "Pa";
    return about.units.front();
}

} // namespace

FieldProposal propose_field(const FieldSeen& field) {
    FieldProposal out;
    out.title = field.name;
    if (!field.numeric) {
        out.role = FieldRole::words;
        out.why = phrase("It brings words and no numbers.");
        return out;
    }
    const std::vector<std::string> words = words_of(field.name);
    const FieldMovement m = movement_of(field.samples);
    const Unit* unit = find_unit(field.unit);
    out.role = tells_the_sender(words, unit, m, out.why);
    if (out.role != FieldRole::value) return out;

    std::string kind = kind_of(words);
    if (!kind.empty() && quantity_kind(kind).in_vessel) kind = in_vessel(words, kind);
    if (const Unit* own = kind.empty() || !unit ? nullptr : find_unit(quantity_kind(kind).units.front());
        own && own->dimension != unit->dimension)
        kind.clear(); // "battery=80 %" is no voltage
    if (kind.empty() && unit) kind = kind_of_unit(*unit);
    if (kind.empty() && m.n > 0) kind = kind_of_letter(words, m.low, m.high);
    const std::string named_unit = unit_in(words, kind);
    out.title = title_of(words, field.name, kind);
    if (!kind.empty()) out.kind = kind;
    const QuantityKind& about = quantity_kind(out.kind);

    const bool two_states = m.n > 0 && m.whole && m.low >= 0 && m.high <= 1;
    const bool raw_name = is_pin_name(words) || std::any_of(words.begin(), words.end(),
                                                            [](const auto& w) { return among(raw_words, w); });
    if (two_states && (about.is_state() || (kind.empty() && !raw_name))) {
        out.role = FieldRole::state;
        if (kind.empty()) out.kind = "contact";
        out.why = phrase("It is 0 or 1.");
        return out;
    }
    const bool counts = about.is_counted || about.events == Events::tips || about.events == Events::turns;
    if (counts && !unit && named_unit.empty() && m.whole && m.grows && !raw_name) {
        out.role = FieldRole::pulses;
        out.unit = "count";
        out.why = phrase("It never falls: it counts what happens. Its name says {}.", about.title);
        return out;
    }
    // No value of its kind is so high, or nobody says what it is: a converter's count.
    const bool beyond = m.high > 3 * about.high && m.high > 60;
    const bool could_be_code =
        m.n > 0 && m.whole && m.low >= 0 && bits_for(m.high) > 0 && field.unit.empty() && named_unit.empty();
    const bool nobody_says = kind.empty() && m.high >= 100; // below that many things are counted
    if (could_be_code && (raw_name || nobody_says || (beyond && out.kind != "pressure" && out.kind != "light"))) {
        out.role = FieldRole::converter;
        out.unit = "count";
        out.bits = bits_for(m.high);
        out.why =
            phrase("Whole numbers up to {}: a converter of {} bits gives such.", format_constant(m.high), out.bits);
        return out;
    }
    out.unit = unit_of_value(field, words, out.kind, m);
    if (unit)
        out.why = phrase("It comes with its unit, {}.", unit->symbol);
    else if (!kind.empty())
        out.why = phrase("Its name says {}; taken for {} as it is.", about.title,
                         out.unit == "1" ? phrase("a number") : unit_symbol(out.unit));
    else
        out.why = phrase("Nothing says what it is.");
    return out;
}

std::string propose_board(const Catalog& catalog, int bits) {
    // Of those with ten bits most have no radio, and of those with more most have Wi-Fi; a small one is likelier.
    const BoardCard* best = nullptr;
    const auto rank = [&](const BoardCard& card) {
        const bool usual = bits > 10 ? card.radio.starts_with("Wi-Fi") : card.radio.empty() && !card.wired_network;
        return std::tuple(card.bits == bits || bits == 0, usual, -static_cast<int>(card.pins.size()));
    };
    for (const BoardCard& card : catalog.boards)
        if (card.not_advised.empty() && (!best || rank(card) > rank(*best))) best = &card;
    return best ? best->id : std::string();
}

} // namespace cognitum
