// One description of each stored struct, visited by a strict reader, a writer and the tests. Each member's key, its
// form and what must hold of it stand in one place:
//
//     template <> struct Description<Uplink> {
//         template <typename Fields> static void fields(Fields& f) {
//             f.must("to", &Uplink::to).may("baud", &Uplink::baud);
//             f.rule("baud", [](const Uplink& u) { return u.baud > 0; }, "the speed must be above zero.");
//         }
//     };
//
// must: refused without it. may: its plain value without it, and not written while it has that. always: the same,
// but written always. Unknown keys are refused. Only the *_json.cpp files and tests include this.
#pragma once

#include "core/base/json_reader.h"
#include "core/base/phrase.h"
#include "core/base/time.h"

#include <array>
#include <cmath>
#include <cstdint>
#include <initializer_list>
#include <span>
#include <utility>

namespace cognitum {

/// Specialised for each stored struct, see above.
template <typename T>
struct Description;
template <typename T>
concept Described = requires {
    sizeof(Description<T>);
};

/// Rules for sizes, times and supplies: the keys whose numbers are not below zero.
template <typename T, typename Fields>
void not_below_zero(Fields& fields, std::initializer_list<std::pair<const char*, double T::*>> keys) {
    for (const auto& key : keys)
        fields.rule(
            key.first, [member = key.second](const T& value) { return value.*member >= 0; },
            phrase("this is not below zero."));
}

template <Described T>
Result<T> read_described(const JsonReader& json);
template <Described T>
Json write_described(const T& value);

template <typename V>
inline constexpr bool is_list = false;
template <typename V>
inline constexpr bool is_list<std::vector<V>> = true;

/// How a value stands in JSON: write() and read() at its own place. This one is for plain values, described
/// structs, lists of them and what may be absent.
struct PlainForm {
    template <typename V>
    Json write(const V& value) const {
        if constexpr (Described<V>) {
            return write_described(value);
        } else if constexpr (requires { value.has_value(); }) {
            return value ? write(*value) : Json();
        } else if constexpr (is_list<V>) {
            Json out = Json::array();
            for (const auto& item : value)
                out.push_back(write(item));
            return out;
        } else if constexpr (std::is_same_v<V, Phrase>) {
            return value.english();
        } else {
            return value;
        }
    }
    template <typename V>
    Result<void> read(const JsonReader& json, V& out) const {
        const Json& j = json.json();
        if constexpr (Described<V>) {
            COGNITUM_TRY(value, read_described<V>(json));
            out = std::move(value);
        } else if constexpr (std::is_same_v<V, std::string>) {
            if (!j.is_string()) return json.error(phrase("a text in quotes is needed here."));
            out = j.get<std::string>();
        } else if constexpr (std::is_same_v<V, Phrase>) {
            if (!j.is_string()) return json.error(phrase("a text in quotes is needed here."));
            out = Phrase(j.get<std::string>());
        } else if constexpr (std::is_same_v<V, bool>) {
            if (!j.is_boolean()) return json.error(phrase("true or false is needed here."));
            out = j.get<bool>();
        } else if constexpr (std::is_arithmetic_v<V>) {
            if (!j.is_number()) return json.error(phrase("a number is needed here."));
            const double number = j.get<double>();
            if (!std::isfinite(number)) return json.error(phrase("a finite number is needed here."));
            if constexpr (std::is_integral_v<V>) {
                constexpr double most =
                    std::is_same_v<V, int> ? 2e9 : 9e15; // every whole number up to there is one
                const double least = std::is_unsigned_v<V> ? 0 : -most;
                if (number != std::floor(number) || number < least || number > most)
                    return json.error(std::is_unsigned_v<V> ? phrase("a whole number from 0 is needed here.")
                                                            : phrase("a whole number is needed here."));
            }
            out = static_cast<V>(number);
        } else if constexpr (requires { out.has_value(); }) {
            typename V::value_type inner{};
            COGNITUM_CHECK(read(json, inner));
            out = std::move(inner);
        } else {
            COGNITUM_TRY(items, json.items());
            out.clear();
            for (const JsonReader& item : items) {
                typename V::value_type value{};
                COGNITUM_CHECK(read(item, value));
                out.push_back(std::move(value));
            }
        }
        return {};
    }
};

/// A moment as ISO 8601 text.
struct TimeForm {
    Json write(TimeUs time) const { return iso_time(time); }
    Result<void> read(const JsonReader& json, TimeUs& out) const {
        const auto time = json.json().is_string() ? parse_time(json.json().get<std::string>()) : std::nullopt;
        if (!time) return json.error(phrase("this is no time; write it as 2026-11-03T09:00:00Z."));
        out = *time;
        return {};
    }
};

/// A value by its name; `wrong` says which there are. The pairs must outlive the description.
template <typename V>
struct NamedForm {
    std::span<const std::pair<V, const char*>> names;
    const char* wrong;
    Json write(V value) const {
        for (const auto& [known, name] : names)
            if (known == value) return name;
        return Json();
    }
    Result<void> read(const JsonReader& json, V& out) const {
        if (!json.json().is_string()) return json.error(phrase("a text in quotes is needed here."));
        for (const auto& [known, name] : names)
            if (json.json().get<std::string>() == name) {
                out = known;
                return {};
            }
        return json.error(wrong);
    }
};

/// Reads one object; the first trouble wins, but a misspelled key is named before what is missing because of it.
template <typename T>
class FieldReader {
  public:
    FieldReader(const JsonReader& json, T& out) : m_json(json), m_out(out) {}

    template <typename V, typename Form = PlainForm>
    FieldReader& must(const char* key, V T::*member, const Form& form = {}) {
        if (!m_json.has(key) && !m_trouble) fail(m_json.error(phrase("the key \"{}\" is missing.", key)));
        return may(key, member, form);
    }
    template <typename V, typename Form = PlainForm>
    FieldReader& may(const char* key, V T::*member, const Form& form = {}) {
        m_known.emplace_back(key);
        if (m_trouble || !m_json.has(key)) return *this;
        const auto at = m_json.at(key);
        if (!at) return fail(tl::make_unexpected(at.error()));
        if (const Result<void> done = form.read(*at, m_out.*member); !done) m_trouble = done.error();
        return *this;
    }
    template <typename V, typename Form = PlainForm>
    FieldReader& always(const char* key, V T::*member, const Form& form = {}) {
        return may(key, member, form);
    }
    /// A key of older files: read(T&, const std::string&).
    template <typename Read>
    FieldReader& old(const char* key, Read read) {
        m_known.emplace_back(key);
        if (const auto text = m_json.string_or(key, {}); text && m_json.has(key)) read(m_out, *text);
        return *this;
    }
    /// A key that is read elsewhere.
    FieldReader& known(const char* key) {
        m_known.emplace_back(key);
        return *this;
    }
    /// What must hold once all is read: good(const T&) is true, or the key gets the sentence `what`, which may be a
    /// function of the value.
    template <typename Good, typename What>
    FieldReader& rule(const char* key, Good good, const What& what) {
        if (m_trouble || good(std::as_const(m_out))) return *this;
        if constexpr (std::is_invocable_v<What, const T&>)
            return fail(m_json.error(what(std::as_const(m_out)), key));
        else
            return fail(m_json.error(what, key));
    }
    [[nodiscard]] Result<void> done() const {
        if (auto keys = m_json.only_keys(m_known); !keys) return keys;
        if (m_trouble) return tl::make_unexpected(*m_trouble);
        return {};
    }

  private:
    FieldReader& fail(tl::unexpected<Error> error) {
        if (!m_trouble) m_trouble = std::move(error.value());
        return *this;
    }

    const JsonReader& m_json;
    T& m_out;
    std::vector<std::string> m_known;
    std::optional<Error> m_trouble;
};

template <typename T>
class FieldWriter {
  public:
    explicit FieldWriter(const T& value) : m_value(value) {}

    template <typename V, typename Form = PlainForm>
    FieldWriter& must(const char* key, V T::*member, const Form& form = {}) {
        m_out[key] = form.write(m_value.*member);
        return *this;
    }
    template <typename V, typename Form = PlainForm>
    FieldWriter& may(const char* key, V T::*member, const Form& form = {}) {
        return m_value.*member == m_plain.*member ? *this : must(key, member, form);
    }
    template <typename V, typename Form = PlainForm>
    FieldWriter& always(const char* key, V T::*member, const Form& form = {}) {
        return must(key, member, form);
    }
    template <typename Read>
    FieldWriter& old(const char*, Read) {
        return *this;
    }
    FieldWriter& known(const char*) { return *this; }
    template <typename Good, typename What>
    FieldWriter& rule(const char*, Good, const What&) {
        return *this;
    }
    [[nodiscard]] Json out() { return std::move(m_out); }

  private:
    const T& m_value;
    const T m_plain{};
    Json m_out = Json::object();
};

template <Described T>
Result<T> read_described(const JsonReader& json) {
    T out{};
    FieldReader<T> fields(json, out);
    Description<T>::fields(fields);
    COGNITUM_CHECK(fields.done());
    return out;
}

template <Described T>
Json write_described(const T& value) {
    FieldWriter<T> fields(value);
    Description<T>::fields(fields);
    return fields.out();
}

} // namespace cognitum
