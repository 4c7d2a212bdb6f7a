#include "core/base/phrase.h"
#include "core/base/letters.h"

namespace cognitum {

namespace {

constinit Language installed;
constinit const Language english_language;
thread_local bool wants_english = false;

} // namespace

void set_language(const Language& language) {
    installed = language;
}

const Language& language() {
    return wants_english ? english_language : installed;
}

InEnglish::InEnglish() : m_before(wants_english) {
    wants_english = true;
}

InEnglish::~InEnglish() {
    wants_english = m_before;
}

const char* phrase(const char* english) {
    const auto said = language().phrase;
    return said ? said(english, -1) : english;
}

std::string phrase_of(const std::string& english) {
    return phrase(english.c_str());
}

std::string read_back(const std::string& english) {
    return language().read_back ? language().read_back(english) : english;
}

std::string filled_phrase(fmt::string_view english, long n, fmt::format_args args) {
    if (const auto said = language().phrase) {
        try {
            return fmt::vformat(said(english.data(), n), args);
        } catch (const fmt::format_error&) { // a test looks for these; a person still gets a sentence
        }
    }
    return fmt::vformat(english, args);
}

std::string inside_sentence(std::string label) {
    // Two capitals are an abbreviation: "SPI", "CO2".
    if (!language().capital_nouns && label.size() > 1 && !letters::is_capital(label[1]))
        label[0] = letters::small(label[0]);
    return label;
}

} // namespace cognitum
