#include "core/decode/records.h"

#include "core/base/no_number.h"
#include "core/decode/number_text.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

/// Names of fields that say who sends: 2 also where their text is a number, 1 only where it is a word, 0: none.
int sender_key(std::string_view name) {
    std::string key(name);
    for (char& c : key)
        if (c >= 'A' && c <= 'Z') c = static_cast<char>(c - 'A' + 'a');
    for (const char* word : {"id", "node", "node_id", "sensor_id", "device_id", "address", "addr"})
        if (key == word) return 2;
    for (const char* word : {"device", "sensor", "station", "wheel", "mac"})
        if (key == word) return 1;
    return 0;
}

} // namespace

bool is_sender_id(std::string_view name, std::string_view text) {
    const int key = sender_key(name);
    text = trimmed(text);
    if (key == 0 || text.empty() || text.size() > 24) return false;
    const auto is_word = [](char c) {
        return (c >= '0' && c <= '9') || (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '_' || c == '-' ||
               c == ':';
    };
    if (!std::all_of(text.begin(), text.end(), is_word)) return false;
    const NumberText number = read_number_text(text);
    return key == 2 || !(number.there || number.failed);
}

std::optional<double> Records::value(std::size_t row, std::uint32_t field) const {
    const Row& r = rows[row];
    for (std::size_t i = r.first; i < r.first + r.count; ++i)
        if (cells[i].field == field) return cells[i].value;
    return {};
}

std::uint32_t FieldTable::at(std::string_view name, std::string_view unit, std::string_view example) {
    std::uint32_t index = find(name);
    if (index == none) {
        if (m_fields.size() >= most_fields &&
            std::find(m_wanted.begin(), m_wanted.end(), name.substr(0, 80)) == m_wanted.end())
            return none;
        index = static_cast<std::uint32_t>(m_fields.size());
        m_fields.push_back({std::string(name.substr(0, 80)), {}, {}});
    }
    Field& field = m_fields[index];
    if (!unit.empty() && field.unit != unit) field.unit = unit.substr(0, 20);
    if (!example.empty()) field.example.assign(example.substr(0, 40));
    return index;
}

void FieldTable::take(Records& out, std::string_view name, std::string_view text) {
    const NumberText number = read_number_text(text);
    std::uint32_t index = at(name, number.unit, text);
    if (index != none && out.value(out.rows.size() - 1, index))
        index = at(name_beside(out, name), number.unit, text);
    if (index == none) return;
    const double value = number.state && !has_states(index) ? no_number : number.value;
    if (number.there) note_number(index, value);
    if (number.there || number.failed || m_fields[index].numeric) out.add(index, value);
}

void FieldTable::take_state(Records& out, std::string_view name, bool on) {
    const std::uint32_t index = at(name);
    if (index != none) take(out, name, has_states(index) ? (on ? 1.0 : 0.0) : no_number);
}

bool FieldTable::has_states(std::uint32_t field) const {
    const auto in = [&](const std::vector<std::string>& names) {
        return std::find(names.begin(), names.end(), m_fields[field].name) != names.end();
    };
    if (in(m_wanted)) return !in(m_measured); // the plan knows, whatever a garbled line brought
    return !m_fields[field].counts;
}

void FieldTable::note_number(std::uint32_t field, double value) {
    m_fields[field].numeric = true;
    m_fields[field].counts |= std::isfinite(value) && value != 0 && value != 1;
}

void FieldTable::note_all(const Records& records) {
    const bool all_known = std::all_of(m_fields.begin(), m_fields.end(), [](const Field& f) { return f.numeric; });
    if (all_known || records.rows.empty()) return;
    for (const Cell& cell : records.cells) {
        if (m_fields[cell.field].example.empty()) note(cell.field, cell.value);
        if (std::isfinite(cell.value)) note_number(cell.field, cell.value);
    }
}

void FieldTable::take(Records& out, std::string_view name, double value) {
    const std::uint32_t index = at(name);
    if (index == none) return;
    note_number(index, value);
    out.add(index, value);
}

void FieldTable::note(std::uint32_t field, double value) {
    if (!std::isfinite(value)) return;
    note_number(field, value);
    m_fields[field].example = fmt::format("{}", value);
}

void FieldTable::key_by(Records& out, std::string_view sender) {
    const Records::Row row = out.rows.back();
    for (std::size_t i = row.first; i < row.first + row.count; ++i) {
        const Field plain = m_fields[out.cells[i].field];
        const double value = out.cells[i].value;
        if (sender_key(plain.name) > 0) continue;
        const std::uint32_t index = at(fmt::format("{}.{}", sender.substr(0, 24), plain.name), plain.unit);
        if (index == none) return;
        m_fields[index].numeric |= plain.numeric;
        m_fields[index].counts |= plain.counts;
        out.add(index, value);
    }
}

std::string FieldTable::name_beside(const Records& records, std::string_view name) const {
    std::string out(name);
    for (int k = 2; k < 64; ++k) {
        const std::uint32_t known = find(out);
        if (known == none || !records.value(records.rows.size() - 1, known)) break;
        out = fmt::format("{} {}", name, k);
    }
    return out;
}

std::uint32_t FieldTable::find(std::string_view name) const {
    for (std::size_t i = 0; i < m_fields.size(); ++i)
        if (m_fields[i].name == name.substr(0, 80)) return static_cast<std::uint32_t>(i);
    return none;
}

} // namespace cognitum
