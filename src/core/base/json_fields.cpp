#include "core/base/json_fields.h"

#include "core/base/phrase.h"

#include <cmath>

namespace cognitum {

JsonFields& JsonFields::may(const std::string& key, int& out) {
    double number = out;
    may(key, number);
    if (!m_trouble && (number != std::floor(number) || std::abs(number) > 2e9))
        return fail(m_json.error(phrase("a whole number is needed here."), key).value());
    if (!m_trouble) out = static_cast<int>(number);
    return *this;
}

JsonFields& JsonFields::may(const std::string& key, std::vector<std::string>& out) {
    return list(key, [&](const JsonReader& item) -> Result<void> {
        if (!item.json().is_string()) return item.error(phrase("a text in quotes is needed here."));
        out.push_back(item.json().get<std::string>());
        return {};
    });
}

JsonFields& JsonFields::may(const std::string& key, std::vector<Phrase>& out) {
    return list(key, [&](const JsonReader& item) -> Result<void> {
        if (!item.json().is_string()) return item.error(phrase("a text in quotes is needed here."));
        out.emplace_back(item.json().get<std::string>());
        return {};
    });
}

JsonFields& JsonFields::may(const std::string& key, std::vector<double>& out) {
    return list(key, [&](const JsonReader& item) -> Result<void> {
        if (!item.json().is_number()) return item.error(phrase("a number is needed here."));
        out.push_back(item.json().get<double>());
        return {};
    });
}

} // namespace cognitum
