// The core's functions of text: the ports that a program prints to, String, and the language's own.
#include "core/base/letters.h"
#include "core/decode/number.h"
#include "core/program/read/evaluator.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <fmt/format.h>

namespace cognitum::program {

namespace {

using Call = Evaluator::Call;
constexpr std::size_t longest_text = 8192;

void append(Text& to, const Text& more) {
    const std::size_t at = to.words.size();
    if (at + more.words.size() > longest_text) return;
    to.words += more.words;
    for (TextPiece p : more.pieces) {
        p.begin += at;
        p.end += at;
        to.pieces.push_back(std::move(p));
    }
}

void append_number(Text& to, const CodeValue& v, const std::string& words) {
    const std::size_t at = to.words.size();
    to.words += words;
    to.pieces.push_back({at, to.words.size(), std::make_shared<CodeValue>(v)});
}

CodeValue as_value(Text text) {
    CodeValue out;
    out.kind = CodeValue::Kind::text;
    out.text = std::make_shared<Text>(std::move(text));
    return out;
}

bool is_letter(Evaluator& e, const CodeValue& v) {
    const CodeType& t = e.tree().type(v.type);
    return t.name == "char";
}

/// What print() and String() make of a value; `how`: base of a whole number, digits of a real one.
Text shown(Evaluator& e, const CodeValue& v, int how, bool how_given) {
    if (!v.is_number()) return e.text_of(v);
    Text out;
    if (v.is_float) {
        append_number(out, v, printed_real(v.real, how_given ? how : 2));
    } else if (is_letter(e, v)) {
        out.words = std::string(1, static_cast<char>(v.whole));
    } else {
        append_number(out, v, printed_whole(v.whole, how_given ? how : 10, e.tree().type(v.type).bits));
    }
    return out;
}

Text first_shown(Evaluator& e, Call& c) {
    return c.given.empty()
               ? Text{}
               : shown(e, c.value(0), static_cast<int>(c.number(1)), c.given.size() > 1 && !c.by_default[1]);
}

CodeValue print(Evaluator& e, Call& c) {
    const Text text = first_shown(e, c);
    e.send(c.object, text, c.node.place);
    return whole_value(static_cast<std::int64_t>(text.words.size()));
}

CodeValue print_line(Evaluator& e, Call& c) {
    Text text = first_shown(e, c);
    text.words += "\r\n";
    e.send(c.object, text, c.node.place);
    return whole_value(static_cast<std::int64_t>(text.words.size()));
}

/// printf's pattern with values. On the 8-bit boards %f prints a question mark, as their library does.
Text formatted(Evaluator& e, const std::string& pattern, const Call& c, std::size_t next) {
    Text out;
    for (std::size_t i = 0; i < pattern.size() && out.words.size() < longest_text; ++i) {
        if (pattern[i] != '%') {
            out.words += pattern[i];
            continue;
        }
        const std::size_t begin = i++;
        while (i < pattern.size() && std::string("+-# 0123456789.lhz").find(pattern[i]) != std::string::npos)
            ++i;
        if (i >= pattern.size()) break;
        const char kind = pattern[i];
        if (kind == '%') {
            out.words += '%';
            continue;
        }
        const std::string spec = pattern.substr(begin + 1, i - begin - 1);
        const CodeValue& v = c.value(next++);
        int width = 0, digits = -1;
        bool left = false, zeros = false;
        std::size_t k = 0;
        for (; k < spec.size() && std::string("+-# 0").find(spec[k]) != std::string::npos; ++k) {
            left = left || spec[k] == '-';
            zeros = zeros || spec[k] == '0';
        }
        for (; k < spec.size() && letters::is_digit(spec[k]); ++k)
            width = std::min(width * 10 + (spec[k] - '0'), 100);
        if (k < spec.size() && spec[k] == '.')
            for (digits = 0, ++k; k < spec.size() && letters::is_digit(spec[k]); ++k)
                digits = std::min(digits * 10 + (spec[k] - '0'), 20);
        Text piece;
        if (kind == 's') {
            piece = e.text_of(v);
        } else if (kind == 'c') {
            piece.words = std::string(1, static_cast<char>(v.whole));
        } else if (std::string("fFeEgG").find(kind) != std::string::npos) {
            if (e.nature().eight_bit) {
                piece.words = "?";
                e.seen().unprinted[c.node.place.line] = c.node.place;
            } else {
                append_number(piece, v, fmt::format("{:.{}f}", v.number(), digits < 0 ? 6 : digits));
            }
        } else {
            std::string digits_text = printed_whole(v.whole,
                                                    kind == 'x' || kind == 'X' ? 16
                                                    : kind == 'o'              ? 8
                                                                               : 10,
                                                    32);
            if (kind == 'x') digits_text = letters::small(digits_text);
            append_number(piece, v, digits_text);
        }
        const auto pad = static_cast<std::size_t>(width) > piece.words.size()
                             ? static_cast<std::size_t>(width) - piece.words.size()
                             : 0;
        if (!left) out.words += std::string(pad, zeros ? '0' : ' ');
        append(out, piece);
        if (left) out.words += std::string(pad, ' ');
    }
    return out;
}

CodeValue print_formatted(Evaluator& e, Call& c) {
    e.send(c.object.empty() ? "Serial" : c.object, formatted(e, e.text_of(c.value(0)).words, c, 1), c.node.place);
    return whole_value(1);
}

CodeValue format_into(Evaluator& e, Call& c) {
    const bool bounded = c.name == "snprintf";
    Text text = formatted(e, e.text_of(c.value(bounded ? 2 : 1)).words, c, bounded ? 3 : 2);
    const auto n = static_cast<std::int64_t>(text.words.size());
    if (bounded) {
        const auto room = static_cast<std::size_t>(std::max(0.0, c.number(1) - 1));
        if (text.words.size() > room) {
            text.words.resize(room);
            std::erase_if(text.pieces, [&](const TextPiece& p) { return p.end > room; });
        }
    }
    e.put_text(c.value(0), text);
    return whole_value(n);
}

CodeValue number_into(Evaluator& e, Call& c) { // dtostrf(value, width, digits, to), itoa(value, to, base)
    const bool real = c.name == "dtostrf";
    Text text;
    const std::string words = real ? printed_real(c.number(0), static_cast<int>(c.number(2)))
                                   : printed_whole(c.value(0).whole, static_cast<int>(c.number(2)), 32);
    const auto width = static_cast<std::size_t>(std::clamp(real ? c.number(1) : 0.0, 0.0, 60.0));
    if (words.size() < width) text.words = std::string(width - words.size(), ' ');
    append_number(text, c.value(0), words);
    CodeValue to = c.value(real ? 3 : 1);
    e.put_text(to, text);
    return to;
}

CodeValue string_made(Evaluator& e, Call& c) {
    Text text = first_shown(e, c);
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

std::string own(Evaluator& e, Call& c) {
    return e.text_of(e.load(c.self)).words;
}

/// A text that is read as a number again. What was printed into it has lost its digits.
CodeValue parsed(Evaluator& e, Call& c, const Text& text, bool real) {
    const char* const first = text.words.c_str();
    const char* const last = first + text.words.size();
    const char* end = std::find_if(first, last, [](char letter) { return !std::strchr(" \t\n\v\f\r", letter); });
    double number = 0;
    if (!read_number(end, last, number)) end = first;
    CodeValue out =
        real ? real_value(number, c.node.type)
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
        c.value(1).object != nothing) {
        CodeValue behind = c.value(0);
        behind.slot += static_cast<int>(end - first);
        e.store({c.value(1).object, c.value(1).slot, nothing}, behind);
    }
    return out;
}

CodeValue part_of(Evaluator& e, Call& c) {
    Text text = e.text_of(e.load(c.self));
    const auto n = static_cast<double>(text.words.size());
    const auto from = static_cast<std::size_t>(std::clamp(c.number(0), 0.0, n));
    const auto to = static_cast<std::size_t>(c.given.size() > 1 ? std::clamp(c.number(1), c.number(0), n) : n);
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
    CodeValue out = c.value(0);
    if (out.kind != CodeValue::Kind::address || at == std::string::npos) {
        out = whole_value(0, c.node.type);
        out.kind = CodeValue::Kind::address;
        return out;
    }
    out.slot += static_cast<int>(at);
    return out;
}

CodeValue copy_text(Evaluator& e, Call& c) {
    Text text = c.name == "strcat" ? e.text_of(c.value(0)) : Text{};
    append(text, e.text_of(c.value(1)));
    e.put_text(c.value(0), text);
    return c.value(0);
}

CodeValue no_input(Evaluator& e, Call& c) { // nobody types
    const std::string method = c.name.substr(c.name.rfind(':') + 1);
    e.looked();
    e.pass_time(2);
    return whole_value(method == "read" || method == "peek" ? -1 : 0);
}

CodeValue begin_port(Evaluator& e, Call& c) {
    note(e, c, c.object + ".begin");
    return {};
}

} // namespace

CodeValue write_text(Evaluator& e, Evaluator::Call& c) {
    Text text = c.value(0).is_number() ? Text{std::string(1, static_cast<char>(c.value(0).whole)), {}}
                                       : e.text_of(c.value(0));
    e.send(c.object, text, c.node.place);
    return whole_value(1);
}

void add_text_calls(CoreCalls& calls) {
    calls["Print::print"] = print;
    calls["Print::println"] = print_line;
    calls["Print::printf"] = calls["printf"] = print_formatted;
    calls["Print::flush"] = [](Evaluator& e, Call&) { return e.acted(), CodeValue{}; };
    calls["Print::availableForWrite"] = [](Evaluator&, Call&) { return whole_value(63); };
    for (const char* name :
         {"available", "read", "peek", "parseInt", "parseFloat", "readBytes", "readBytesUntil", "find"})
        calls[std::string("Stream::") + name] = no_input;
    calls["Stream::readString"] =
        calls["Stream::readStringUntil"] = [](Evaluator& e, Call&) { return e.looked(), text_value({}); };
    calls["Stream::setTimeout"] = [](Evaluator&, Call&) { return CodeValue{}; };
    calls["HardwareSerial::begin"] = begin_port;
    calls["HardwareSerial::operator bool"] = [](Evaluator&, Call&) { return whole_value(1); };
    calls["HardwareSerial::end"] = [](Evaluator&, Call&) { return CodeValue{}; };
    calls["sprintf"] = calls["snprintf"] = format_into;
    calls["dtostrf"] = calls["itoa"] = calls["utoa"] = calls["ltoa"] = calls["ultoa"] = number_into;
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
    calls["String::toInt"] = [](Evaluator& e, Call& c) { return parsed(e, c, e.text_of(e.load(c.self)), false); };
    calls["String::toFloat"] = calls["String::toDouble"] = [](Evaluator& e, Call& c) {
        return parsed(e, c, e.text_of(e.load(c.self)), true);
    };
    calls["atoi"] = calls["atol"] = calls["strtol"] =
        calls["strtoul"] = [](Evaluator& e, Call& c) { return parsed(e, c, e.text_of(c.value(0)), false); };
    calls["atof"] =
        calls["strtod"] = [](Evaluator& e, Call& c) { return parsed(e, c, e.text_of(c.value(0)), true); };
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
        return e.put_text(c.value(0), e.text_of(e.load(c.self))), CodeValue{};
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
