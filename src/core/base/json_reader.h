// Reads people's JSON strictly: every key is known, every number is a number, and a message names the line in the
// text and the pointer to the value. A JsonReader is a cursor on one value; it holds views, so the JsonText that it
// came from must outlive it.
#pragma once

#include "core/base/error.h"

#include <initializer_list>
#include <nlohmann/json.hpp>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace cognitum {

using Json = nlohmann::ordered_json;

inline constexpr int deepest_json =
    64; ///< brackets inside each other; a parser that recurses stays within its stack
/// False: brackets stand deeper than deepest_json. Asked before anything is parsed.
bool json_is_shallow(std::string_view text);
/// JSON on one line; bytes that are no UTF-8 become U+FFFD, so that nothing is thrown.
std::string json_dump(const Json& json);

/// A parsed JSON document with the text it came from, so that messages can name a line.
struct JsonText {
    std::string name; ///< file name or other origin, for messages
    std::string text;
    Json root;

    /// Error "name:line: …" when the text is no JSON.
    static Result<JsonText> parse(std::string name, std::string text);
};

class JsonReader {
  public:
    explicit JsonReader(const JsonText& document) : m_document(&document), m_value(&document.root) {}

    [[nodiscard]] const Json& json() const { return *m_value; }
    [[nodiscard]] bool has(std::string_view key) const;

    /// Each of these fails with the place when the key is missing or its value has another type.
    [[nodiscard]] Result<JsonReader> object(std::string_view key) const;
    [[nodiscard]] Result<std::vector<JsonReader>> list(std::string_view key) const;
    [[nodiscard]] Result<double> number(std::string_view key) const;
    [[nodiscard]] Result<std::string> string(std::string_view key) const;

    /// A cursor on the member, whatever it is; on each item of a list that this one stands on.
    [[nodiscard]] Result<JsonReader> at(std::string_view key) const;
    [[nodiscard]] Result<std::vector<JsonReader>> items() const;
    /// A cursor on each member of an object, with its key.
    [[nodiscard]] Result<std::vector<std::pair<std::string, JsonReader>>> members() const;

    /// Missing key: the given value. Present with another type: an error.
    [[nodiscard]] Result<double> number_or(std::string_view key, double missing) const;
    [[nodiscard]] Result<std::string> string_or(std::string_view key, std::string missing) const;
    [[nodiscard]] Result<bool> boolean_or(std::string_view key, bool missing) const;

    /// Fails on the first key that is not in `known`, naming it and what is known.
    [[nodiscard]] Result<void> only_keys(const std::vector<std::string>& known) const;

    /// An error at this value, or at its member `key`.
    [[nodiscard]] tl::unexpected<Error> error(std::string what, std::string_view key = {}) const;

  private:
    JsonReader(const JsonReader& parent, const Json& value, std::string pointer)
        : m_document(parent.m_document), m_value(&value), m_pointer(std::move(pointer)) {}
    [[nodiscard]] Result<const Json*> member(std::string_view key) const;

    const JsonText* m_document;
    const Json* m_value;
    std::string m_pointer;
};

/// Line (from 1) on which the value at a JSON pointer starts; 1 when the pointer leads nowhere.
/// `text` must be valid JSON.
int line_of_pointer(std::string_view text, std::string_view pointer);

/// Gives up with the error inside a Result; for readers that read many keys in a row.
#define COGNITUM_TRY(name, expression)                                                                             \
    auto name##_result = (expression);                                                                             \
    if (!name##_result) return tl::make_unexpected(name##_result.error());                                         \
    auto& name = *name##_result

#define COGNITUM_CHECK(expression)                                                                                 \
    do {                                                                                                           \
        if (auto check_result = (expression); !check_result) return tl::make_unexpected(check_result.error());     \
    } while (false)

} // namespace cognitum
