#include "core/program/read/sent_number.h"
#include "core/base/letters.h"

#include <algorithm>

namespace cognitum {

namespace {

bool has_letter(const std::string& text) {
    return std::any_of(text.begin(), text.end(),
                       [](char c) { return letters::is_letter(c) || static_cast<unsigned char>(c) >= 0x80; });
}

/// Words between blanks, commas, semicolons and tabs.
std::vector<std::string> words_of(const std::string& line) {
    constexpr const char* between = " ,;\t\r";
    std::vector<std::string> out;
    for (std::size_t at = line.find_first_not_of(between); at != std::string::npos;) {
        const std::size_t end = std::min(line.find_first_of(between, at), line.size());
        out.push_back(line.substr(at, end - at));
        at = line.find_first_not_of(between, end);
    }
    return out;
}

/// The number at the start of a text, blanks before it aside.
std::string number_at(const std::string& text) {
    const std::size_t from = std::min(text.find_first_not_of(" \t"), text.size());
    std::size_t end = from;
    while (end < text.size() && (letters::is_digit(text[end]) || text[end] == '.' ||
                                 (end == from && (text[end] == '-' || text[end] == '+'))))
        ++end;
    return text.substr(from, end - from);
}

} // namespace

std::string sent_number(const std::string& line, const ReadPath& path) {
    if (has_letter(path.label)) {
        const auto at = line.find(path.label);
        return at == std::string::npos ? std::string() : number_at(line.substr(at + path.label.size()));
    }
    std::vector<std::string> numbers;
    for (const std::string& word : words_of(line))
        if (std::string number = number_at(word); !number.empty() && number == word)
            numbers.push_back(std::move(number));
    const auto place = static_cast<std::size_t>(std::max(0, path.column));
    return numbers.size() == static_cast<std::size_t>(path.columns) && place < numbers.size() ? numbers[place]
                                                                                              : std::string();
}

std::string last_sent(const std::vector<ProofLine>& lines, const ReadPath& path, double from_s, double to_s) {
    constexpr double gone_through = 0.6; // share of the stretch
    std::string out;
    for (const ProofLine& line : lines)
        if (line.at_s >= from_s + gone_through * (to_s - from_s) && line.at_s < to_s)
            if (std::string text = sent_number(line.text, path); !text.empty()) out = std::move(text);
    return out;
}

} // namespace cognitum
