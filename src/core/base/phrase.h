// The one door for every sentence that a person reads. Here a sentence is English; a window installs its language
// before it begins, and a file or the command line gets English whatever the window speaks.
#pragma once

#include <fmt/format.h>
#include <string>
#include <string_view>
#include <utility>

namespace cognitum {

/// How a language says things. One for the whole program, set before any other thread begins.
struct Language {
    /// `english` in this language, in memory that stays; `english` itself where the language has nothing for it.
    /// `n` chooses the plural form; below zero: there is nothing to count.
    const char* (*phrase)(const char* english, long n) = nullptr;
    /// What stands in English in a file, in this language (core/base/phrase_book.h).
    std::string (*read_back)(const std::string& english) = nullptr;
    std::string_view decimal_sign = ".";
    /// A noun inside a sentence begins with a capital as well, so a label keeps it there.
    bool capital_nouns = false;
};

void set_language(const Language& language);
/// What sentences are made in: the window's, or English where InEnglish says so.
const Language& language();

/// Sentences made while it lives, in its thread, are English: what goes into a file, a topic or a board's program.
class InEnglish {
  public:
    InEnglish();
    ~InEnglish();
    InEnglish(const InEnglish&) = delete;
    InEnglish& operator=(const InEnglish&) = delete;

  private:
    bool m_before;
};

/// A sentence without gaps. The answer stays for as long as the program runs.
const char* phrase(const char* english);
/// A sentence that is in a table.
std::string phrase_of(const std::string& english);
/// A sentence that was kept in English, in a file or by another program, as it is said now.
std::string read_back(const std::string& english);
/// Stands where a table holds a sentence that is said later; tools/phrases finds it by this.
constexpr const char* for_people(const char* english) {
    return english;
}

/// English `text` with its gaps filled, in the language; a translation whose gaps do not fit is not used.
std::string filled_phrase(fmt::string_view english, long n, fmt::format_args args);

/// fmt::format() in the language: phrase("{} sits on pin {}.", name, pin).
template <typename First, typename... Rest>
std::string phrase(fmt::format_string<First, Rest...> english, First&& first, Rest&&... rest) {
    return filled_phrase(english, -1, fmt::make_format_args(first, rest...));
}

/// counted(2, "{} wire", "{} wires"): the form that belongs to the number, which fills the first gap.
template <typename... Rest>
std::string counted(long n, fmt::format_string<long&, Rest...> one, fmt::format_string<long&, Rest...> many,
                    Rest&&... rest) {
    return filled_phrase(n == 1 && !language().phrase ? one : many, n, fmt::make_format_args(n, rest...));
}

/// A sentence of a table or a card: English in files, in the language wherever it is taken as text.
class Phrase {
  public:
    Phrase() = default;
    Phrase(const char* english) : m_english(english) {} // NOLINT(google-explicit-constructor): tables are lists
    explicit Phrase(std::string english) : m_english(std::move(english)) {}
    [[nodiscard]] const std::string& english() const { return m_english; }
    [[nodiscard]] std::string text() const { return phrase_of(m_english); }
    operator std::string() const { return text(); } // NOLINT(google-explicit-constructor)
    [[nodiscard]] bool empty() const { return m_english.empty(); }
    bool operator==(const Phrase&) const = default;
    friend std::string operator+(const Phrase& a, const std::string& b) { return a.text() + b; }
    friend std::string operator+(const std::string& a, const Phrase& b) { return a + b.text(); }

  private:
    std::string m_english;
};

/// A label as it stands inside a sentence: "The reference" becomes "the reference" where the language wants that.
std::string inside_sentence(std::string label);

} // namespace cognitum

template <>
struct fmt::formatter<cognitum::Phrase> : fmt::formatter<std::string> {
    template <typename Context>
    auto format(const cognitum::Phrase& phrase, Context& context) const {
        return fmt::formatter<std::string>::format(phrase.text(), context);
    }
};
