#include "store/exchange/csv_rows.h"

#include "core/base/csv_text.h"
#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/decode/number.h"
#include "core/decode/number_text.h"

#include <algorithm>
#include <cerrno>
#include <fmt/format.h>
#include <optional>
#include <poll.h>
#include <unistd.h>

namespace cognitum::csv {

std::string_view trimmed(std::string_view text) {
    const auto space = [](char c) { return c == ' ' || c == '\t' || c == '\r'; };
    while (!text.empty() && space(text.front()))
        text.remove_prefix(1);
    while (!text.empty() && space(text.back()))
        text.remove_suffix(1);
    return text;
}

/// Fields of a row; a field in quotes may hold separators and doubled quotes (RFC 4180).
void split(std::string_view row, char separator, std::vector<std::string_view>& fields,
           std::vector<std::string>& unquoted) {
    fields.clear();
    unquoted.clear();
    if (row.find('"') != std::string_view::npos)
        unquoted.reserve(row.size() / 2 + 1); // views into it must stay valid
    std::size_t at = 0;
    while (true) {
        if (at < row.size() && row[at] == '"') {
            std::string text;
            for (++at; at < row.size(); ++at) {
                if (row[at] != '"')
                    text += row[at];
                else if (at + 1 < row.size() && row[at + 1] == '"')
                    text += row[++at];
                else
                    break;
            }
            unquoted.push_back(std::move(text));
            fields.push_back(trimmed(unquoted.back()));
            at = std::min(row.find(separator, std::min(at, row.size())), row.size());
        } else {
            const std::size_t end = std::min(row.find(separator, at), row.size());
            fields.push_back(trimmed(row.substr(at, end - at)));
            at = end;
        }
        if (at >= row.size()) return;
        ++at;
    }
}

std::string_view as_named(std::string_view field) {
    return field.starts_with('\'') && starts_formula(field.substr(1)) ? field.substr(1) : field;
}

std::string lower(std::string_view text) {
    std::string out(text);
    for (char& c : out)
        c = c >= 'A' && c <= 'Z' ? static_cast<char>(c - 'A' + 'a') : c;
    return out;
}

Lines::Got Lines::fill() {
    pollfd waiting{m_descriptor, POLLIN, 0};
    const int ready = ::poll(&waiting, 1, 500);
    if (ready == 0 || (ready < 0 && errno == EINTR)) return Got::nothing_yet;
    if (m_at > 0) {
        m_buffer.erase(0, m_at);
        m_at = 0;
    }
    const std::size_t size = m_buffer.size();
    m_buffer.resize(size + (1 << 18));
    const ssize_t n = ::read(m_descriptor, m_buffer.data() + size, 1 << 18);
    m_buffer.resize(size + static_cast<std::size_t>(std::max<ssize_t>(n, 0)));
    if (n < 0) return Got::failed;
    m_total += static_cast<std::uint64_t>(n);
    if (n == 0) m_ended = true;
    return n == 0 ? Got::end : Got::data;
}

bool Lines::next(std::string_view& line) {
    constexpr std::size_t kept_start = 80;
    std::size_t end = m_buffer.find('\n', m_at);
    if (end == std::string::npos && !m_ended) {
        if (m_buffer.size() - m_at > longest) { // memory stays bounded until the line ends
            m_skipping = true;
            m_buffer.resize(m_at + kept_start);
        }
        return false;
    }
    if (end == std::string::npos && m_at >= m_buffer.size()) return false;
    end = std::min(end, m_buffer.size());
    line = std::string_view(m_buffer).substr(m_at, end - m_at);
    m_at = std::min(end + 1, m_buffer.size());
    m_was_too_long = m_skipping || line.size() > longest;
    m_skipping = false;
    return true;
}

namespace {

/// A number with a decimal comma, as spreadsheets write it where fields are apart by semicolons: "21,3". Not one
/// with a point as well, which might group thousands.
std::optional<double> read_with_comma(std::string_view field) {
    const std::size_t comma = field.find(',');
    if (comma == std::string_view::npos || field.find(',', comma + 1) != std::string_view::npos ||
        field.find('.') != std::string_view::npos)
        return {};
    std::string pointed(field);
    pointed[comma] = '.';
    const char* p = pointed.data();
    double number = 0;
    if (!read_number(p, pointed.data() + pointed.size(), number) || p != pointed.data() + pointed.size()) return {};
    return number;
}

} // namespace

RowReader::RowReader(char separator, const std::vector<CsvColumn>& columns, TimeReader times)
    : m_separator(separator), m_columns(columns), m_times(std::move(times)) {
    for (std::size_t i = 0; i < columns.size(); ++i) {
        if (columns[i].use == CsvColumn::Use::time) m_time_column = i;
        if (columns[i].use == CsvColumn::Use::date) m_date_column = i;
    }
}

std::string_view RowReader::time_text() {
    if (m_fields.size() != m_columns.size()) return {};
    if (!m_date_column) return m_fields[m_time_column];
    m_joined.assign(m_fields[*m_date_column]).append(" ").append(m_fields[m_time_column]);
    return m_joined;
}

std::string_view RowReader::time_of(std::string_view row) {
    split(row, m_separator, m_fields, m_unquoted);
    return time_text();
}

std::string RowReader::read_fields(std::string_view row, TimeUs& time) {
    split(row, m_separator, m_fields, m_unquoted);
    if (m_fields.size() != m_columns.size())
        return fmt::format("{} fields where {} belong", m_fields.size(), m_columns.size());
    const auto t = m_times.read(time_text());
    if (!t) return m_times.reason();
    time = *t;
    return {};
}

std::string RowReader::read_cell(std::string_view field, Cell& cell) const {
    cell = {no_number, Cause::none};
    if (field.empty()) return {};
    const char* p = field.data();
    const char* end = p + field.size();
    if (read_number(p, end, cell.number) && p == end) return {};
    if (const auto number = m_separator != ',' ? read_with_comma(field) : std::nullopt) {
        cell.number = *number;
        return {};
    }
    cell = {no_number, Cause::not_a_number};
    return read_number_text(field).failed ? "" : phrase("text where a number belongs");
}

std::string RowReader::read(std::string_view row, TimeUs& time, std::vector<Cell>& cells) {
    if (std::string reason = read_fields(row, time); !reason.empty()) return reason;
    cells.assign(m_columns.size(), {no_number, Cause::none});
    bool any = false;
    for (std::size_t i = 0; i < m_columns.size(); ++i) {
        using Use = CsvColumn::Use;
        const Use use = m_columns[i].use;
        if (use == Use::skip || use == Use::time || use == Use::date || m_fields[i].empty()) continue;
        any = true;
        if (use == Use::causes) {
            const auto cause = cause_from_text(m_fields[i]);
            if (!cause) return phrase("a cause that is not known, column \"{}\"", m_columns[i].name);
            cells[i].cause = *cause;
            continue;
        }
        if (const std::string reason = read_cell(m_fields[i], cells[i]); !reason.empty())
            return phrase("{}, column \"{}\"", reason, m_columns[i].name);
    }
    return any ? "" : phrase("no value in the row");
}

} // namespace cognitum::csv
