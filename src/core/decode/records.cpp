#include "core/decode/records.h"

#include "core/decode/number_text.h"

#include <cmath>
#include <fmt/format.h>

namespace cognitum {

std::optional<double> Records::value(std::size_t row, std::uint32_t field) const {
    const Row& r = rows[row];
    for (std::size_t i = r.first; i < r.first + r.count; ++i)
        if (cells[i].field == field) return cells[i].value;
    return {};
}

std::uint32_t FieldTable::at(std::string_view name, std::string_view unit, std::string_view example) {
    std::uint32_t index = find(name);
    if (index == none) {
        if (m_fields.size() >= most_fields) return none;
        index = static_cast<std::uint32_t>(m_fields.size());
        m_fields.push_back({std::string(name.substr(0, 80)), {}, {}, false});
    }
    Field& field = m_fields[index];
    if (!unit.empty() && field.unit != unit) field.unit = unit.substr(0, 20);
    if (!example.empty()) field.example.assign(example.substr(0, 40));
    return index;
}

void FieldTable::take(Records& out, std::string_view name, std::string_view text) {
    const NumberText number = read_number_text(text);
    const std::uint32_t index = at(name, number.unit, text);
    if (index == none) return;
    Field& field = m_fields[index];
    if (number.there) field.numeric = true;
    if (number.there || number.failed || field.numeric) out.add(index, number.value);
}

void FieldTable::take(Records& out, std::string_view name, double value) {
    const std::uint32_t index = at(name);
    if (index == none) return;
    m_fields[index].numeric = true;
    out.add(index, value);
}

void FieldTable::note(std::uint32_t field, double value) {
    if (!std::isfinite(value)) return;
    m_fields[field].numeric = true;
    m_fields[field].example = fmt::format("{}", value);
}

std::uint32_t FieldTable::find(std::string_view name) const {
    for (std::size_t i = 0; i < m_fields.size(); ++i)
        if (m_fields[i].name == name.substr(0, 80)) return static_cast<std::uint32_t>(i);
    return none;
}

} // namespace cognitum
