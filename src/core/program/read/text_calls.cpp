// The core's functions of text: String, and the language's own.
#include "core/base/letters.h"
#include "core/decode/number.h"
#include "core/program/read/evaluator.h"
#include "core/program/read/text_parts.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <fmt/format.h>
#include <utility>

namespace cognitum::program {

namespace {

using Call = Evaluator::Call;

CodeValue string_made(Evaluator& e, Call& c) {
    Text text = first_shown(e, c, Shows::string);
    // A port prints hexadecimal digits in capitals, a String has them small.
    constexpr double ten = 10;
    if (c.value(0).is_number() && !c.value(0).is_float && c.number(1) > ten)
        text.words = letters::small(text.words);
    return as_value(std::move(text));
}

CodeValue string_added(Evaluator& e, Call& c) { // += and concat()
    Text text = e.text_of(e.load(c.self));
    append(text, shown(e, c.value(0), 0, false));
    e.store(c.self, as_value(std::move(text)));
    CodeValue out;
    out.kind = CodeValue::Kind::address;
    out.object = c.self.object;
    out.slot = c.self.slot;
    return c.name == "String::concat" ? whole_value(1) : out;
}

CodeValue string_joined(Evaluator& e, Call& c) {
    Text text = shown(e, c.value(0), 0, false);
    append(text, shown(e, c.value(1), 0, false));
    return as_value(std::move(text));
}

/// A pointer into the same text, so many letters further on.
CodeValue further_on(const CodeValue& text, std::size_t letters) {
    if (text.text) return later_in_text(text, static_cast<std::int64_t>(letters));
    CodeValue out = text;
    out.slot += static_cast<int>(letters);
    return out;
}

std::string own(Evaluator& e, Call& c) {
    return e.text_of(e.load(c.self)).words;
}

/// The whole number at the beginning, in that base; `end` is moved behind it, and stays where there is none.
double whole_at(const char*& end, const char* last, int base) {
    const char* at = end;
    const bool below = at < last && *at == '-';
    if (at < last && (*at == '-' || *at == '+')) ++at;
    if (base == 16 && last - at > 2 && at[0] == '0' && (at[1] == 'x' || at[1] == 'X')) at += 2;
    double number = 0;
    bool any = false;
    for (; at < last; ++at) {
        const int digit = letters::is_digit(*at)     ? *at - '0'
                          : *at >= 'a' && *at <= 'z' ? *at - 'a' + 10
                          : *at >= 'A' && *at <= 'Z' ? *at - 'A' + 10
                                                     : base;
        if (digit >= base) break;
        number = number * base + digit;
        any = true;
    }
    if (any) end = at;
    return below ? -number : number;
}

enum class Parsed { real, whole };

/// A text that is read as a number again. What was printed into it has lost its digits.
CodeValue parsed(Evaluator& e, Call& c, const Text& text, Parsed as) {
    const char* const first = text.words.c_str();
    const char* const last = first + text.words.size();
    const char* end = std::find_if(first, last, [](char letter) { return !std::strchr(" \t\n\v\f\r", letter); });
    double number = 0;
    const char* const begin = end;
    if (as == Parsed::real) {
        if (!read_number(end, last, number)) end = begin;
    } else {
        const bool says_base = (c.name == "strtol" || c.name == "strtoul") && c.number(2) >= 2 && c.number(2) <= 36;
        number = whole_at(end, last, says_base ? static_cast<int>(c.number(2)) : 10);
    }
    CodeValue out =
        as == Parsed::real
            ? real_value(number, c.node.type)
            : whole_value(static_cast<std::int64_t>(std::clamp(number, -2147483648.0, 4294967295.0)), c.node.type);
    for (const TextPiece& p : text.pieces)
        if (p.begin == 0 && p.value->trace) {
            out.trace = p.value->trace;
            out.ideal = p.value->ideal;
            out.losses = p.value->losses | std::uint64_t{1}
                                               << e.loss(Loss::Kind::text, c.node.place, out, out.ideal);
        }
    // strtol() and its like say where the number ends.
    if (c.name.starts_with("strto") && c.given.size() > 1 && c.value(1).kind == CodeValue::Kind::address &&
        c.value(1).object != nothing)
        e.store({c.value(1).object, c.value(1).slot, nothing},
                further_on(c.value(0), end == begin ? 0 : static_cast<std::size_t>(end - first)));
    return out;
}

CodeValue part_of(Evaluator& e, Call& c) {
    Text text = e.text_of(e.load(c.self));
    const auto n = static_cast<double>(text.words.size());
    const auto place = [n](double at) { return static_cast<std::size_t>(std::clamp(at, 0.0, n)); };
    std::size_t from = place(c.number(0)), to = c.given.size() > 1 ? place(c.number(1)) : text.words.size();
    if (from > to) std::swap(from, to); // as the cores of boards do
    Text out{text.words.substr(from, to - from), {}};
    for (const TextPiece& p : text.pieces)
        if (p.begin >= from && p.end <= to) out.pieces.push_back({p.begin - from, p.end - from, p.value});
    return as_value(std::move(out));
}

CodeValue compared(Evaluator& e, Call& c) {
    return whole_value(own(e, c) == e.text_of(c.value(0)).words ? 1 : 0);
}

CodeValue index_of(Evaluator& e, Call& c) {
    const std::string what =
        c.value(0).is_number() ? std::string(1, static_cast<char>(c.value(0).whole)) : e.text_of(c.value(0)).words;
    const auto at = own(e, c).find(what, static_cast<std::size_t>(std::max(0.0, c.number(1))));
    return whole_value(at == std::string::npos ? -1 : static_cast<std::int64_t>(at));
}

CodeValue trimmed(Evaluator& e, Call& c) {
    Text text = e.text_of(e.load(c.self));
    const auto first = text.words.find_first_not_of(" \t\r\n");
    if (first != 0 && first != std::string::npos) {
        text.words.erase(0, first);
        for (TextPiece& p : text.pieces) {
            p.begin -= std::min(p.begin, first);
            p.end -= std::min(p.end, first);
        }
    }
    text.words.erase(text.words.find_last_not_of(" \t\r\n") + 1);
    e.store(c.self, as_value(std::move(text)));
    return {};
}

CodeValue compared_texts(Evaluator& e, Call& c) {
    const bool bounded = c.name == "strncmp";
    const auto most = static_cast<std::size_t>(bounded ? std::max(0.0, c.number(2)) : longest_text);
    const int order =
        e.text_of(c.value(0)).words.substr(0, most).compare(e.text_of(c.value(1)).words.substr(0, most));
    return whole_value(order < 0 ? -1 : order > 0 ? 1 : 0);
}

/// The place of a letter or a text in a text that stands in memory; a null pointer where it is not.
CodeValue found_in(Evaluator& e, Call& c) {
    const std::string words = e.text_of(c.value(0)).words;
    const auto at = c.value(1).is_number() ? words.find(static_cast<char>(c.value(1).whole))
                                           : words.find(e.text_of(c.value(1)).words);
    if (at != std::string::npos) return further_on(c.value(0), at);
    CodeValue out = whole_value(0, c.node.type);
    out.kind = CodeValue::Kind::address;
    return out;
}

CodeValue copy_text(Evaluator& e, Call& c) {
    Text text = c.name == "strcat" ? e.text_of(c.value(0)) : Text{};
    Text more = e.text_of(c.value(1));
    if (c.name == "strncpy") cut(more, c.number(2));
    append(text, more);
    e.put_text(c.value(0), text);
    return c.value(0);
}

} // namespace

void add_text_calls(CoreCalls& calls) {
    calls["String::String"] = string_made;
    calls["String::operator+="] = calls["String::concat"] = string_added;
    calls["operator+"] = string_joined;
    calls["String::operator=="] = calls["String::equals"] = compared;
    calls["String::operator!="] = [](Evaluator& e, Call& c) {
        return whole_value(compared(e, c).whole == 0 ? 1 : 0);
    };
    calls["String::length"] = [](Evaluator& e, Call& c) {
        return whole_value(static_cast<std::int64_t>(own(e, c).size()));
    };
    calls["String::isEmpty"] = [](Evaluator& e, Call& c) { return whole_value(own(e, c).empty() ? 1 : 0); };
    calls["String::c_str"] = [](Evaluator& e, Call& c) { return as_value(e.text_of(e.load(c.self))); };
    calls["String::toInt"] = [](Evaluator& e, Call& c) {
        return parsed(e, c, e.text_of(e.load(c.self)), Parsed::whole);
    };
    calls["String::toFloat"] = calls["String::toDouble"] = [](Evaluator& e, Call& c) {
        return parsed(e, c, e.text_of(e.load(c.self)), Parsed::real);
    };
    calls["atoi"] = calls["atol"] = calls["strtol"] =
        calls["strtoul"] = [](Evaluator& e, Call& c) { return parsed(e, c, e.text_of(c.value(0)), Parsed::whole); };
    calls["atof"] =
        calls["strtod"] = [](Evaluator& e, Call& c) { return parsed(e, c, e.text_of(c.value(0)), Parsed::real); };
    calls["String::substring"] = part_of;
    calls["String::indexOf"] = index_of;
    calls["String::trim"] = trimmed;
    calls["String::startsWith"] = [](Evaluator& e, Call& c) {
        return whole_value(own(e, c).starts_with(e.text_of(c.value(0)).words) ? 1 : 0);
    };
    calls["String::endsWith"] = [](Evaluator& e, Call& c) {
        return whole_value(own(e, c).ends_with(e.text_of(c.value(0)).words) ? 1 : 0);
    };
    calls["String::charAt"] = calls["String::operator[]"] = [](Evaluator& e, Call& c) {
        const std::string words = own(e, c);
        const auto at = static_cast<std::size_t>(std::max(0.0, c.number(0)));
        return whole_value(at < words.size() ? static_cast<signed char>(words[at]) : 0);
    };
    calls["String::toCharArray"] = [](Evaluator& e, Call& c) {
        Text text = e.text_of(e.load(c.self));
        cut(text, c.number(1) - 1);
        return e.put_text(c.value(0), text), CodeValue{};
    };
    calls["String::reserve"] = [](Evaluator&, Call&) { return whole_value(1); };
    calls["strchr"] = calls["strstr"] = found_in;
    calls["strlen"] = [](Evaluator& e, Call& c) {
        return whole_value(static_cast<std::int64_t>(e.text_of(c.value(0)).words.size()));
    };
    calls["strcpy"] = calls["strncpy"] = calls["strcat"] = copy_text;
    calls["strcmp"] = calls["strncmp"] = compared_texts;
    calls["isdigit"] = calls["isDigit"] = [](Evaluator&, Call& c) {
        return whole_value(c.number(0) >= '0' && c.number(0) <= '9' ? 1 : 0);
    };
    calls["isspace"] = calls["isSpace"] = [](Evaluator&, Call& c) {
        return whole_value(c.number(0) == ' ' || (c.number(0) >= 9 && c.number(0) <= 13) ? 1 : 0);
    };
}

} // namespace cognitum::program
