#include "core/base/json_reader.h"
#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/decode/lines.h"
#include "core/decode/number_text.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <nlohmann/json.hpp>

namespace cognitum {

namespace {

using nlohmann::json;

constexpr std::size_t longest_message = 65536;
constexpr int deepest = 8;

/// {'t': 21.5, 'wet': False, 'h': None} is how boards with a small interpreter print their tables. Their three
/// words are values where they stand outside of quotes.
std::string with_double_quotes(std::string_view text) {
    std::string out;
    bool quoted = false;
    for (std::size_t at = 0; at < text.size(); ++at) {
        const auto word = [&](std::string_view theirs, std::string_view ours) {
            if (quoted || text.substr(at, theirs.size()) != theirs) return false;
            out += ours;
            at += theirs.size() - 1;
            return true;
        };
        if (word("True", "true") || word("False", "false") || word("None", "null")) continue;
        quoted = quoted != (text[at] == '\'');
        out += text[at] == '\'' ? '"' : text[at];
    }
    return out;
}

/// Discarded when it is no JSON, or nested deeper than any board needs.
json parsed(std::string_view text) {
    if (!json_is_shallow(text)) return json(json::value_t::discarded);
    json out = json::parse(text.begin(), text.end(), nullptr, false);
    if (out.is_discarded() && text.find('"') == std::string_view::npos &&
        text.find('\'') != std::string_view::npos) {
        const std::string quoted = with_double_quotes(text);
        out = json::parse(quoted.begin(), quoted.end(), nullptr, false);
    }
    return out;
}

/// An absolute time as senders write it: ISO 8601, seconds or milliseconds since 1970.
std::optional<TimeUs> absolute_time(const json& value) {
    if (value.is_string()) {
        const auto& text = value.get_ref<const std::string&>();
        return text.size() >= 10 && text.find('-') == 4 ? parse_time(text) : std::nullopt;
    }
    if (!value.is_number()) return {};
    const double x = value.get<double>();
    if (x > 1e12 && x < 1e14) return from_seconds(x / 1000);
    if (x > 1e9 && x < 1e11) return from_seconds(x);
    return {};
}

bool is_time_name(const std::string& name) {
    return name == "time" || name == "timestamp" || name == "ts";
}

bool flatten(const json& value, const std::string& name, int depth, FieldTable& fields, Records& out) {
    if (depth > deepest) return false;
    if (value.is_object()) {
        for (const auto& [key, inner] : value.items()) {
            if (is_time_name(key))
                if (const auto time = absolute_time(inner)) {
                    out.rows.back().time = time;
                    continue;
                }
            std::string full = name;
            if (!full.empty()) full += '.';
            full += key;
            if (!flatten(inner, full, depth + 1, fields, out)) return false;
        }
        return true;
    }
    if (value.is_array()) {
        for (std::size_t i = 0; i < value.size(); ++i)
            if (!flatten(value[i], name + "." + std::to_string(i), depth + 1, fields, out)) return false;
        return true;
    }
    if (value.is_number()) {
        const double x = value.get<double>();
        if (std::isfinite(x))
            fields.take(out, name, x);
        else
            fields.take(out, name, std::string_view("nan"));
    } else if (value.is_boolean()) {
        fields.take_state(out, name, value.get<bool>());
    } else if (value.is_null()) {
        fields.take(out, name, std::string_view("null"));
    } else if (value.is_string()) {
        fields.take(out, name, value.get_ref<const std::string&>());
    }
    return true;
}

Reason take_object(const json& value, std::uint64_t number, FieldTable& fields, Records& out) {
    out.begin(number);
    if (!flatten(value, "", 0, fields, out)) {
        out.drop();
        return phrase("JSON nested too deeply");
    }
    if (out.rows.back().count == 0) {
        out.drop();
        return phrase("JSON without a number");
    }
    for (const auto& [key, inner] : value.items()) {
        const std::string text = inner.is_string()           ? inner.get<std::string>()
                                 : inner.is_number_integer() ? inner.dump()
                                                             : std::string();
        if (!is_sender_id(key, text)) continue;
        fields.key_by(out, text);
        break;
    }
    return {};
}

/// A list of numbers alone has no names: "[1000,138]" is what lists of many languages look like when they are
/// printed.
bool is_list(const json& value) {
    return value.is_array() && !value.empty() && value.size() <= FieldTable::most_fields &&
           std::all_of(value.begin(), value.end(), [](const json& v) { return v.is_number() || v.is_null(); });
}

Reason take_list(const json& value, std::uint64_t number, FieldTable& fields, Records& out) {
    out.begin(number);
    for (std::size_t i = 0; i < value.size(); ++i)
        flatten(value[i], value.size() == 1 ? "value" : fmt::format("value {}", i + 1), 0, fields, out);
    if (out.rows.back().count > 0) return {};
    out.drop();
    return phrase("JSON without a number");
}

/// A number member of a SenML record; NaN when it is none.
double number_of(const json& object, const char* key) {
    const auto found = object.find(key);
    return found != object.end() && found->is_number() ? found->get<double>() : no_number;
}

std::string text_of(const json& object, const char* key) {
    const auto found = object.find(key);
    return found != object.end() && found->is_string() ? found->get<std::string>() : std::string();
}

} // namespace

std::size_t json_length(std::string_view text) {
    int depth = 0;
    bool quoted = false;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        if (c == '\n') {
            quoted = false; // a string does not run over a line's end
            // An object cannot go on with an object in its next line: this one was cut.
            if (depth > 0 && text[0] == '{' && i + 1 < text.size() && text[i + 1] == '{') return i;
        } else if (quoted) {
            if (c == '\\') ++i;
            if (c == '"') quoted = false;
        } else if (c == '"') {
            quoted = true;
        } else if (c == '{' || c == '[') {
            ++depth;
        } else if ((c == '}' || c == ']') && --depth == 0) {
            return i + 1;
        }
    }
    return 0;
}

Reason read_json_message(std::string_view text, std::uint64_t number, FieldTable& fields, Records& out) {
    if (text.size() > longest_message) return phrase("longer than 64 KiB");
    const json value = parsed(text);
    if (value.is_discarded()) return phrase("broken JSON");
    if (value.is_object()) return take_object(value, number, fields, out);
    if (is_list(value)) return take_list(value, number, fields, out);
    if (!value.is_array()) return phrase("JSON that is no object");
    const std::size_t rows = out.rows.size();
    const std::size_t cells = out.cells.size();
    for (const json& item : value) {
        const Reason reason = item.is_object() ? take_object(item, number, fields, out)
                              : is_list(item)  ? take_list(item, number, fields, out)
                                               : Reason(phrase("JSON that is no object"));
        if (reason.empty()) continue;
        out.rows.resize(rows); // a message is taken as a whole, or not at all
        out.cells.resize(cells);
        return reason;
    }
    return out.rows.size() > rows ? Reason() : Reason(phrase("JSON without a number"));
}

namespace {
bool has_value(const json& item) {
    return item.contains("v") || item.contains("vb") || item.contains("vs") || item.contains("s");
}
} // namespace

bool looks_like_senml(std::string_view text) {
    text = trimmed(text);
    if (text.empty() || text.front() != '[' || text.size() > longest_message) return false;
    const json value = parsed(text);
    if (!value.is_array() || value.empty() || !value[0].is_object()) return false;
    bool named = false;
    bool valued = false;
    for (const json& item : value) {
        if (!item.is_object()) return false;
        named = named || item.contains("n") || item.contains("bn");
        valued = valued || has_value(item) || item.contains("bv");
    }
    return named && valued;
}

Reason read_senml(std::string_view text, std::uint64_t number, FieldTable& fields, Records& out) {
    if (text.size() > longest_message) return phrase("longer than 64 KiB");
    const json pack = parsed(text);
    if (pack.is_discarded()) return phrase("broken JSON");
    if (!pack.is_array()) return phrase("no SenML pack");
    constexpr double absolute_from = 268435456; // 2^28 s, RFC 8428 section 4.5.3
    std::string base_name;
    std::string base_unit;
    double base_time = 0;
    double base_value = 0, base_sum = 0;
    const std::size_t first_row = out.rows.size();
    const std::size_t first_cell = out.cells.size();
    double row_time = no_number;
    for (const json& item : pack) {
        const auto give_up = [&](Reason reason) {
            out.rows.resize(first_row);
            out.cells.resize(first_cell);
            return reason;
        };
        if (!item.is_object()) return give_up(phrase("no SenML pack"));
        if (item.contains("bn")) base_name = text_of(item, "bn");
        if (item.contains("bu")) base_unit = text_of(item, "bu");
        if (item.contains("bt")) base_time = number_of(item, "bt");
        if (item.contains("bv")) base_value = number_of(item, "bv");
        if (item.contains("bs")) base_sum = number_of(item, "bs");
        if (!has_value(item) && !item.contains("n")) continue; // only base fields
        const std::string name = base_name + text_of(item, "n");
        if (name.empty()) return give_up(phrase("SenML without a name"));
        const double own_time = item.contains("t") ? number_of(item, "t") : 0;
        const double time = base_time + own_time;
        if (out.rows.size() == first_row || time != row_time) {
            out.begin(number);
            row_time = time;
            if (time >= absolute_from && time < 1e11) out.rows.back().time = from_seconds(time);
        }
        const std::string unit = item.contains("u") ? text_of(item, "u") : base_unit;
        if (item.contains("v"))
            fields.take(out, name, number_of(item, "v") + base_value);
        else if (const auto flag = item.find("vb"); flag != item.end() && flag->is_boolean())
            fields.take_state(out, name, flag->get<bool>());
        else if (item.contains("s")) // what a meter has counted, without a value of its own
            fields.take(out, name, number_of(item, "s") + base_sum);
        else
            fields.take(out, name, text_of(item, "vs"));
        fields.at(name, unit);
    }
    if (out.cells.size() > first_cell) return {};
    out.rows.resize(first_row);
    return phrase("SenML without a number");
}

} // namespace cognitum
