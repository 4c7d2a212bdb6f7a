// What was written in English, in a file or by another program, said in the window's language: the sentence that a
// text was made from is found again, with what stood in its gaps.
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace cognitum {

class PhraseBook {
  public:
    /// One sentence a line, as tools/phrases --list writes them: gaps as fmt has them, line breaks as \n; behind a
    /// tab the same for more than one.
    explicit PhraseBook(std::string_view lines);

    /// `english` in the language; as it is where no sentence fits. What stands in a gap is looked up as well, and a
    /// number there gets the language's decimal sign.
    [[nodiscard]] std::string say(const std::string& english) const {
        int looks = most_looks;
        return say(english, 4, looks);
    }

  private:
    static constexpr int most_looks = 200;             ///< at parts of one text: a file has anybody's texts
    static constexpr std::size_t longest_text = 2'000; ///< bytes; what is longer stays as it is
    struct Pattern {
        std::string key;                 ///< the sentence that a translation is asked for
        std::vector<std::string> pieces; ///< between the gaps
        std::vector<int> gaps;           ///< which argument stands in each
        std::size_t letters = 0;         ///< that are not in a gap
        bool counts = false;
    };
    [[nodiscard]] std::string say(const std::string& english, int depth, int& looks) const;
    [[nodiscard]] std::string say_after_blank(const std::string& english, int depth, int& looks) const;
    [[nodiscard]] std::string say_gap(const std::string& part, int depth, int& looks) const;
    [[nodiscard]] std::string filled(const Pattern& pattern, const std::string& english,
                                     const std::vector<std::string>& arguments, int depth, int& looks) const;
    [[nodiscard]] static bool fits(const Pattern& pattern, std::string_view text,
                                   std::vector<std::string>& arguments);
    void add(std::string_view sentence, std::string_view key, bool counts);

    std::vector<Pattern> m_patterns; ///< the ones with most letters first
};

} // namespace cognitum
