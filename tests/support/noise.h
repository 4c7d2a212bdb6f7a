// Random texts for tests that give noise to readers: from nothing, or a good text with a few edits.
#pragma once

#include <random>
#include <string>
#include <string_view>

namespace cognitum::test {

/// Up to `longest` − 1 characters of the alphabet; any bytes when it is empty.
inline std::string noise(std::mt19937_64& random, std::size_t longest, std::string_view alphabet = {}) {
    std::string out(random() % longest, '\0');
    for (char& c : out)
        c = alphabet.empty() ? static_cast<char>(random()) : alphabet[random() % alphabet.size()];
    return out;
}

/// A JSON text with one to four characters changed, taken away or put in.
inline std::string mutated(std::mt19937_64& random, std::string text) {
    static constexpr std::string_view alphabet = "{}[]\",:0123456789-+.eE abctrufalsn\\";
    const auto edits = 1 + random() % 4;
    for (std::uint64_t k = 0; k < edits; ++k) {
        if (text.empty()) text = "{";
        const std::size_t at = random() % text.size();
        switch (random() % 3) {
        case 0: text[at] = alphabet[random() % alphabet.size()]; break;
        case 1: text.erase(at, 1 + random() % 12); break;
        default: text.insert(at, 1, alphabet[random() % alphabet.size()]);
        }
    }
    return text;
}

} // namespace cognitum::test
