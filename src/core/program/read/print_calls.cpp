// The functions of a core that make texts of numbers: the ports that a program prints to, and formatted texts.
#include "core/base/letters.h"
#include "core/program/read/evaluator.h"
#include "core/program/read/text_parts.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum::program {

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

void cut(Text& text, double letters) {
    const auto size = static_cast<double>(text.words.size());
    const auto room = static_cast<std::size_t>(letters > 0 ? std::min(letters, size) : 0); // NaN: none
    text.words.resize(room);
    std::erase_if(text.pieces, [&](const TextPiece& piece) { return piece.end > room; });
}

CodeValue as_value(Text text) {
    CodeValue out;
    out.kind = CodeValue::Kind::text;
    out.text = std::make_shared<Text>(std::move(text));
    return out;
}

namespace {

using Call = Evaluator::Call;

bool is_letter(Evaluator& e, const CodeValue& v) {
    const CodeType& t = e.tree().type(v.type);
    return t.name == "char";
}

/// As the cores of boards print a real number, in the board's own arithmetic: a half of the last digit is added,
/// and then the digits are cut.
template <typename Real>
std::string rounded_by_port(Real value, int digits) {
    const std::string sign = value < 0 ? "-" : "";
    Real rest = std::abs(value), rounding = Real(0.5);
    for (int i = 0; i < digits; ++i)
        rounding /= 10;
    rest += rounding;
    const auto whole = static_cast<std::uint32_t>(rest);
    std::string out = fmt::format("{}{}{}", sign, whole, digits > 0 ? "." : "");
    rest -= static_cast<Real>(whole);
    for (int i = 0; i < digits; ++i) {
        rest *= 10;
        const auto digit = static_cast<unsigned>(rest);
        out += std::to_string(digit);
        rest -= static_cast<Real>(digit);
    }
    return out;
}

std::string shown_real(Evaluator& e, double value, int digits, Shows by) {
    constexpr double largest = 4294967040.0; // beyond it a port says "ovf"
    if (by == Shows::string || !std::isfinite(value) || std::abs(value) > largest)
        return printed_real(value, digits);
    const int shown_digits = std::clamp(digits, 0, 30);
    return e.nature().eight_bit ? rounded_by_port(static_cast<float>(value), shown_digits)
                                : rounded_by_port(value, shown_digits);
}

} // namespace

Text shown(Evaluator& e, const CodeValue& v, int how, bool how_given, Shows by) {
    if (!v.is_number()) return e.text_of(v);
    Text out;
    if (v.is_float) {
        append_number(out, v, shown_real(e, v.real, how_given ? how : 2, by));
    } else if (is_letter(e, v)) {
        out.words = std::string(1, static_cast<char>(v.whole));
    } else {
        append_number(out, v, printed_whole(v.whole, how_given ? how : 10, e.tree().type(v.type).bits));
    }
    return out;
}

Text first_shown(Evaluator& e, Call& c, Shows by) {
    return c.given.empty()
               ? Text{}
               : shown(e, c.value(0), static_cast<int>(c.number(1)), c.given.size() > 1 && !c.by_default[1], by);
}

namespace {

CodeValue print(Evaluator& e, Call& c) {
    const Text text = first_shown(e, c, Shows::port);
    e.send(c.object, text, c.node.place);
    return whole_value(static_cast<std::int64_t>(text.words.size()));
}

CodeValue print_line(Evaluator& e, Call& c) {
    Text text = first_shown(e, c, Shows::port);
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
        std::string plus; // before a number that is not below zero
        std::size_t k = 0;
        for (; k < spec.size() && std::string("+-# 0").find(spec[k]) != std::string::npos; ++k) {
            left = left || spec[k] == '-';
            zeros = zeros || spec[k] == '0';
            if (spec[k] == '+' || (spec[k] == ' ' && plus.empty())) plus = spec[k];
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
            if ((kind == 'd' || kind == 'i') && v.whole >= 0) digits_text.insert(0, plus);
            if (zeros && !left && digits_text.size() < static_cast<std::size_t>(width)) // behind the sign
                digits_text.insert(digits_text.find_first_not_of("+- "),
                                   static_cast<std::size_t>(width) - digits_text.size(), '0');
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
    if (bounded) cut(text, c.number(1) - 1);
    e.put_text(c.value(0), text);
    return whole_value(n);
}

CodeValue number_into(Evaluator& e, Call& c) { // dtostrf(value, width, digits, to), itoa(value, to, base)
    const bool real = c.name == "dtostrf";
    Text text;
    const std::string words =
        real ? printed_real(c.number(0), static_cast<int>(c.number(2)))
             : letters::small(printed_whole(c.value(0).whole, static_cast<int>(c.number(2)), 32));
    const double wide = real ? std::clamp(c.number(1), -60.0, 60.0) : 0; // below zero: the blanks stand behind it
    const auto width = static_cast<std::size_t>(std::abs(wide));
    const std::string blanks(width > words.size() ? width - words.size() : 0, ' ');
    if (wide > 0) text.words = blanks;
    append_number(text, c.value(0), words);
    if (wide < 0) text.words += blanks;
    CodeValue to = c.value(real ? 3 : 1);
    e.put_text(to, text);
    return to;
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

void add_print_calls(CoreCalls& calls) {
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
}

} // namespace cognitum::program
