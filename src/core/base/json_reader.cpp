#include "core/base/json_reader.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace cognitum {

namespace {

int line_at(std::string_view text, std::size_t offset) {
    offset = std::min(offset, text.size());
    return 1 + static_cast<int>(std::count(text.begin(), text.begin() + static_cast<std::ptrdiff_t>(offset), '\n'));
}

/// Walks valid JSON without building it, looking for the value at one pointer.
class PointerWalk {
  public:
    PointerWalk(std::string_view text, std::string_view wanted) : m_text(text), m_wanted(wanted) {}

    std::optional<std::size_t> find() {
        value("");
        return m_found;
    }

  private:
    void space() {
        while (m_at < m_text.size() && std::string_view(" \t\r\n").find(m_text[m_at]) != std::string_view::npos)
            ++m_at;
    }

    std::string quoted() {
        const std::size_t start = m_at++;
        while (m_at < m_text.size() && m_text[m_at] != '"')
            m_at += m_text[m_at] == '\\' ? 2 : 1;
        ++m_at;
        const Json key = Json::parse(m_text.substr(start, m_at - start), nullptr, false);
        return key.is_string() ? key.get<std::string>() : std::string();
    }

    void value(const std::string& pointer) {
        space();
        if (m_found || m_at >= m_text.size()) return;
        if (pointer == m_wanted) {
            m_found = m_at;
            return;
        }
        const char c = m_text[m_at];
        if (c == '{' || c == '[') {
            container(pointer, c == '{');
        } else if (c == '"') {
            quoted();
        } else {
            while (m_at < m_text.size() &&
                   std::string_view(",]} \t\r\n").find(m_text[m_at]) == std::string_view::npos)
                ++m_at;
        }
    }

    void container(const std::string& pointer, bool is_object) {
        ++m_at;
        for (int index = 0;; ++index) {
            space();
            if (m_found || m_at >= m_text.size()) return;
            if (m_text[m_at] == '}' || m_text[m_at] == ']') {
                ++m_at;
                return;
            }
            std::string key = is_object ? quoted() : std::to_string(index);
            if (is_object) {
                space();
                ++m_at; // the colon
            }
            value(fmt::format("{}/{}", pointer, key));
            space();
            if (!m_found && m_at < m_text.size() && m_text[m_at] == ',') ++m_at;
        }
    }

    std::string_view m_text;
    std::string_view m_wanted;
    std::size_t m_at = 0;
    std::optional<std::size_t> m_found;
};

/// Where brackets stand deeper than `most`, outside quotes; nothing: nowhere. Works on any text.
std::optional<std::size_t> deeper_than(std::string_view text, int most) {
    int depth = 0;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        if (c == '"') {
            for (++i; i < text.size() && text[i] != '"'; ++i)
                i += text[i] == '\\';
        } else if (c == '{' || c == '[') {
            if (++depth > most) return i;
        } else if (c == '}' || c == ']') {
            --depth;
        }
    }
    return {};
}

} // namespace

bool json_is_shallow(std::string_view text) {
    return !deeper_than(text, deepest_json);
}

std::string json_dump(const Json& json) {
    return json.dump(-1, ' ', false, Json::error_handler_t::replace);
}

int line_of_pointer(std::string_view text, std::string_view pointer) {
    return line_at(text, PointerWalk(text, pointer).find().value_or(0));
}

Result<JsonText> JsonText::parse(std::string name, std::string text) {
    if (const auto at = deeper_than(text, deepest_json))
        return failure(phrase("brackets stand more than {} deep.", deepest_json),
                       fmt::format("{}:{}", name, line_at(text, *at)), phrase("This is no file of Cognitum."));
    try {
        Json root = Json::parse(text);
        return JsonText{std::move(name), std::move(text), std::move(root)};
    } catch (const Json::parse_error& e) {
        const std::size_t offset = e.byte > 0 ? e.byte - 1 : 0;
        std::string what = e.what();
        if (const auto colon = what.find(": "); colon != std::string::npos) what = what.substr(colon + 2);
        return failure(phrase("this is not valid JSON ({}).", what),
                       fmt::format("{}:{}", name, line_at(text, offset)));
    } catch (const Json::exception& e) { // such as a number that no double holds
        std::string what = e.what();
        if (const auto bracket = what.find("] "); bracket != std::string::npos) what = what.substr(bracket + 2);
        return failure(phrase("this cannot be read as JSON ({}).", what), name);
    }
}

bool JsonReader::has(std::string_view key) const {
    return m_value->is_object() && m_value->contains(key);
}

tl::unexpected<Error> JsonReader::error(std::string what, std::string_view key) const {
    const std::string pointer = key.empty() ? m_pointer : m_pointer + "/" + std::string(key);
    const int line = line_of_pointer(m_document->text, has(key) || key.empty() ? pointer : m_pointer);
    return failure(std::move(what),
                   fmt::format("{}:{}: {}", m_document->name, line, pointer.empty() ? "/" : pointer));
}

Result<const Json*> JsonReader::member(std::string_view key) const {
    if (!m_value->is_object()) return error(phrase("an object {…} is needed here."));
    if (!m_value->contains(key)) return error(phrase("the key \"{}\" is missing.", key));
    return &(*m_value)[std::string(key)];
}

Result<JsonReader> JsonReader::object(std::string_view key) const {
    COGNITUM_TRY(value, member(key));
    if (!value->is_object()) return error(phrase("an object {…} is needed here."), key);
    return JsonReader(*this, *value, m_pointer + "/" + std::string(key));
}

Result<std::vector<JsonReader>> JsonReader::list(std::string_view key) const {
    COGNITUM_TRY(value, member(key));
    if (!value->is_array()) return error(phrase("a list […] is needed here."), key);
    std::vector<JsonReader> items;
    for (std::size_t i = 0; i < value->size(); ++i)
        items.push_back(JsonReader(*this, (*value)[i], fmt::format("{}/{}/{}", m_pointer, key, i)));
    return items;
}

Result<JsonReader> JsonReader::at(std::string_view key) const {
    COGNITUM_TRY(value, member(key));
    return JsonReader(*this, *value, m_pointer + "/" + std::string(key));
}

Result<std::vector<JsonReader>> JsonReader::items() const {
    if (!m_value->is_array()) return error(phrase("a list […] is needed here."));
    std::vector<JsonReader> out;
    for (std::size_t i = 0; i < m_value->size(); ++i)
        out.push_back(JsonReader(*this, (*m_value)[i], fmt::format("{}/{}", m_pointer, i)));
    return out;
}

Result<std::vector<std::pair<std::string, JsonReader>>> JsonReader::members() const {
    if (!m_value->is_object()) return error(phrase("an object {…} is needed here."));
    std::vector<std::pair<std::string, JsonReader>> out;
    for (const auto& [key, value] : m_value->items())
        out.emplace_back(key, JsonReader(*this, value, m_pointer + "/" + key));
    return out;
}

Result<double> JsonReader::number(std::string_view key) const {
    COGNITUM_TRY(value, member(key));
    if (!value->is_number()) return error(phrase("a number is needed here."), key);
    const double number = value->get<double>();
    if (!std::isfinite(number)) return error(phrase("a finite number is needed here."), key);
    return number;
}

Result<std::string> JsonReader::string(std::string_view key) const {
    COGNITUM_TRY(value, member(key));
    if (!value->is_string()) return error(phrase("a text in quotes is needed here."), key);
    return value->get<std::string>();
}

Result<double> JsonReader::number_or(std::string_view key, double missing) const {
    return has(key) ? number(key) : Result<double>(missing);
}

Result<std::string> JsonReader::string_or(std::string_view key, std::string missing) const {
    return has(key) ? string(key) : Result<std::string>(std::move(missing));
}

Result<bool> JsonReader::boolean_or(std::string_view key, bool missing) const {
    if (!has(key)) return missing;
    COGNITUM_TRY(value, member(key));
    if (!value->is_boolean()) return error(phrase("true or false is needed here."), key);
    return value->get<bool>();
}

Result<void> JsonReader::only_keys(const std::vector<std::string>& known) const {
    if (!m_value->is_object()) return error(phrase("an object {…} is needed here."));
    for (const auto& [key, value] : m_value->items())
        if (std::find(known.begin(), known.end(), key) == known.end())
            return error(phrase("the key \"{}\" is not known here; known are {}.", key, fmt::join(known, ", ")),
                         key);
    return {};
}

} // namespace cognitum
