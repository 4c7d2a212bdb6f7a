#include "core/program/read/mended_text.h"
#include "core/base/letters.h"

#include <fmt/format.h>

namespace cognitum::program {

std::string replaced_first(std::string line, const std::string& what, const std::string& by) {
    if (const auto at = line.find(what); at != std::string::npos) line.replace(at, what.size(), by);
    return line;
}

namespace {

/// The line with the whole-number type of what `text` is given to turned into float.
std::string as_float(std::string line, const std::string& text) {
    const std::size_t at = std::min(line.find(text), line.size());
    const std::size_t end = at == 0 ? std::string::npos : line.find_last_of(";{", at - 1);
    const std::size_t start = line.find_first_not_of(" \t", end == std::string::npos ? 0 : end + 1);
    if (start == std::string::npos) return line;
    const std::string statement = line.substr(start);
    for (const char* type : {"unsigned long ", "unsigned int ", "uint16_t ", "int16_t ", "int32_t ", "uint32_t ",
                             "long ", "int ", "byte ", "uint8_t "})
        if (statement.starts_with(type) || statement.starts_with(std::string("const ") + type))
            return line.substr(0, start) + replaced_first(statement, type, "float ");
    return line;
}

/// The last whole number in a text with something behind it: "r / 1023" with ".0".
std::string with_suffix(const std::string& text, const std::string& suffix, bool first) {
    std::size_t best = std::string::npos, length = 0;
    for (std::size_t i = 0; i < text.size();) {
        if (!letters::is_digit(text[i]) ||
            (i > 0 && (letters::is_letter_or_digit(text[i - 1]) || text[i - 1] == '_' || text[i - 1] == '.'))) {
            ++i;
            continue;
        }
        std::size_t end = i;
        while (end < text.size() && letters::is_digit(text[end]))
            ++end;
        const bool plain =
            end >= text.size() || (!letters::is_letter_or_digit(text[end]) && text[end] != '.' && text[end] != '_');
        if (plain && (best == std::string::npos || !first)) {
            best = i;
            length = end - i;
        }
        i = std::max(end, i + 1);
    }
    if (best == std::string::npos) return {};
    return text.substr(0, best + length) + suffix + text.substr(best + length);
}

} // namespace

/// Text at a place.
std::string text_at(const Trial& t, const CodePlace& place) {
    const std::string& line = t.tree->line(place);
    const auto at = static_cast<std::size_t>(std::max(0, place.column - 1));
    return at < line.size() && place.length > 0 ? line.substr(at, static_cast<std::size_t>(place.length))
                                                : std::string();
}

std::string written_as(const std::string& before, double value) {
    std::string out = fmt::format("{:.5g}", value);
    if (out.find('e') != std::string::npos) out = fmt::format("{:.10g}", value);
    const bool hexadecimal = before.starts_with("0x") || before.starts_with("0X");
    const std::size_t end = before.find_last_not_of("uUlLfF") + 1;
    const std::string suffix = hexadecimal ? std::string() : before.substr(end);
    const bool was_real = !hexadecimal && before.find_first_of(".eE") != std::string::npos;
    const auto is_real = [&] { return out.find_first_of(".e") != std::string::npos; };
    if (was_real && !is_real()) out += ".0";
    return was_real || !is_real() ? out + suffix : out;
}

namespace {

/// The declaration of a total that grows too large, with a wider type; empty: its type is none of those.
std::string wider_declaration(const Trial& t, const Loss& loss) {
    std::string whole = t.tree->line(loss.declared);
    const auto first = whole.find_first_not_of(" \t");
    whole = first == std::string::npos ? std::string() : whole.substr(first);
    for (const char* type : {"unsigned int ", "uint16_t ", "int16_t ", "int ", "short ", "byte ", "uint8_t "})
        if (whole.find(type) != std::string::npos)
            return replaced_first(whole, type, loss.bits > 16 ? "long long " : "long ");
    return {};
}

std::string mended_there(const Trial& t, const Loss& loss) {
    const std::string text = text_at(t, loss.place);
    if (text.empty()) return {};
    switch (loss.kind) {
    case Loss::Kind::division: {
        std::string by = with_suffix(text, ".0", false);
        if (by.empty()) by = "(float)" + text;
        return as_float(t.mended(loss.place, by), by);
    }
    case Loss::Kind::overflow: {
        std::string by = with_suffix(text, "L", true);
        if (by.empty()) by = "(long)" + text;
        return t.mended(loss.place, by);
    }
    case Loss::Kind::cut: {
        const std::string line = t.mended(loss.place, text);
        const std::string out = as_float(line, text);
        return out == line ? std::string() : out;
    }
    case Loss::Kind::map: {
        std::vector<std::string> parts(1);
        int depth = 0;
        const auto open = text.find('(');
        for (std::size_t i = open + 1; open != std::string::npos && i + 1 < text.size(); ++i) {
            depth += text[i] == '(' ? 1 : text[i] == ')' ? -1 : 0;
            if (text[i] == ',' && depth == 0)
                parts.emplace_back();
            else if (!(text[i] == ' ' && parts.back().empty()))
                parts.back() += text[i];
        }
        if (parts.size() != 5) return {};
        const std::string by = fmt::format("({0} - {1}) * float({4} - {3}) / ({2} - {1}) + {3}", parts[0], parts[1],
                                           parts[2], parts[3], parts[4]);
        return as_float(t.mended(loss.place, by), by);
    }
    case Loss::Kind::text: return {};
    }
    return {};
}

} // namespace

MendedLine mended_loss(const Trial& t, const Loss& loss) {
    if (loss.kind == Loss::Kind::overflow && loss.declared.line > 0)
        if (std::string wider = wider_declaration(t, loss); !wider.empty())
            return {loss.declared, std::move(wider)};
    return {loss.place, mended_there(t, loss)};
}

} // namespace cognitum::program
