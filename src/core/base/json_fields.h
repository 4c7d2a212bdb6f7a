// Reads the members of one JSON object into variables, knows which keys were asked for, and at the end refuses keys
// that nobody asked for. The first trouble wins; nothing is thrown.
#pragma once

#include "core/base/json_reader.h"
#include "core/base/phrase.h"

namespace cognitum {

class JsonFields {
  public:
    explicit JsonFields(const JsonReader& json) : m_json(json) {}

    /// Required members.
    JsonFields& need(const std::string& key, double& out) { return take(key, out, m_json.number(key)); }
    JsonFields& need(const std::string& key, std::string& out) { return take(key, out, m_json.string(key)); }
    JsonFields& need(const std::string& key, Phrase& out) { return take(key, out, phrase_in(m_json.string(key))); }
    /// Optional members: what is missing leaves `out` as it was.
    JsonFields& may(const std::string& key, double& out) { return take(key, out, m_json.number_or(key, out)); }
    JsonFields& may(const std::string& key, int& out);
    JsonFields& may(const std::string& key, bool& out) { return take(key, out, m_json.boolean_or(key, out)); }
    JsonFields& may(const std::string& key, std::string& out) { return take(key, out, m_json.string_or(key, out)); }
    JsonFields& may(const std::string& key, Phrase& out) {
        return take(key, out, phrase_in(m_json.string_or(key, out.english())));
    }
    /// An optional number that is not below zero: a current, a time, a tolerance.
    JsonFields& amount(const std::string& key, double& out) {
        return may(key, out).check(out >= 0, key, phrase("this is not below zero."));
    }
    /// A required number above zero.
    JsonFields& above_zero(const std::string& key, double& out) {
        return need(key, out).check(out > 0, key, phrase("this must be above zero."));
    }
    JsonFields& may(const std::string& key, std::vector<std::string>& out);
    JsonFields& may(const std::string& key, std::vector<Phrase>& out);
    JsonFields& may(const std::string& key, std::vector<double>& out);
    /// A member that is an object, or a list of them, read by a function of its own: Result<void>(const
    /// JsonReader&).
    template <typename Read>
    JsonFields& object(const std::string& key, Read read) {
        m_known.push_back(key);
        if (m_trouble || !m_json.has(key)) return *this;
        const auto inner = m_json.object(key);
        if (!inner) return fail(inner.error());
        if (const auto done = read(*inner); !done) fail(done.error());
        return *this;
    }
    template <typename Read>
    JsonFields& list(const std::string& key, Read read) {
        m_known.push_back(key);
        if (m_trouble || !m_json.has(key)) return *this;
        const auto items = m_json.list(key);
        if (!items) return fail(items.error());
        for (const JsonReader& item : *items)
            if (const auto done = read(item); !done) return fail(done.error());
        return *this;
    }
    /// A key that is known and read elsewhere.
    JsonFields& known(const std::string& key) {
        m_known.push_back(key);
        return *this;
    }
    /// Fails when `good` is false and nothing failed before.
    JsonFields& check(bool good, const std::string& key, const std::string& what) {
        if (!m_trouble && !good) fail(m_json.error(what, key).value());
        return *this;
    }
    [[nodiscard]] Result<void> done() const {
        // A misspelled key is named before what is missing because of it.
        if (auto keys = m_json.only_keys(m_known); !keys) return keys;
        if (m_trouble) return tl::make_unexpected(*m_trouble);
        return {};
    }

  private:
    static Result<Phrase> phrase_in(const Result<std::string>& text) {
        return text.map([](const std::string& english) { return Phrase(english); });
    }
    template <typename T, typename R>
    JsonFields& take(const std::string& key, T& out, R result) {
        m_known.push_back(key);
        if (m_trouble) return *this;
        if (!result) return fail(result.error());
        out = std::move(*result);
        return *this;
    }
    JsonFields& fail(const Error& error) {
        if (!m_trouble) m_trouble = error;
        return *this;
    }

    const JsonReader& m_json;
    std::vector<std::string> m_known;
    std::optional<Error> m_trouble;
};

/// Writes a member only where it differs from what is assumed without it.
template <typename T>
void put(Json& out, const char* key, const T& value, const T& plain) {
    if (!(value == plain)) out[key] = value;
}

} // namespace cognitum
