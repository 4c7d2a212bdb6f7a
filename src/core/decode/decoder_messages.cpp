// What is whole by itself: JSON objects in a stream, messages of a broker, posted bodies.
#include "core/decode/decoder.h"

#include "core/base/phrase.h"
#include "core/decode/number_text.h"

#include <algorithm>

namespace cognitum {

void Decoder::take_json(Records& out) {
    forget_names_of_noise(out);
    std::size_t at = 0;
    while (at < m_rest.size()) {
        const char c = m_rest[at];
        if (c == '\n' || c == '\r' || c == ' ' || c == '\t') {
            m_line += c == '\n';
            ++at;
            continue;
        }
        if (c != '{' && c != '[') { // a line of something else
            const std::size_t end = m_rest.find('\n', at);
            if (end == std::string::npos) break;
            ++m_line;
            take_line(std::string(m_rest, at, end - at), out);
            at = end + 1;
            if (!is_json()) break;
            continue;
        }
        const std::string_view rest = std::string_view(m_rest).substr(at);
        const std::size_t length = json_length(rest);
        if (length == 0) break;
        const std::string_view piece = rest.substr(0, length);
        const std::uint64_t first_line = m_line + 1;
        const Reason reason = m_format.kind == FormatKind::senml
                                  ? read_senml(piece, first_line, m_fields, out)
                                  : read_json_message(piece, first_line, m_fields, out);
        if (!reason.empty()) m_rejections.add(reason, first_line, piece);
        m_line += static_cast<std::uint64_t>(std::count(piece.begin(), piece.end(), '\n'));
        at += length;
    }
    m_rest.erase(0, at);
    if (m_rest.size() > longest_message) {
        m_rejections.add(phrase("longer than 64 KiB"), m_line + 1, m_rest);
        const std::size_t newline = m_rest.rfind('\n');
        m_rest.erase(0, newline == std::string::npos ? m_rest.size() : newline + 1);
    }
}

void Decoder::feed_message(std::string_view message, std::string_view name, Records& out) {
    std::string_view text = trimmed(message);
    ++m_line;
    if (text.size() > longest_message) return reject(phrase("longer than 64 KiB"), text);
    Reason reason = "empty";
    if (m_told && by_lines()) {
        --m_line;
        std::string whole(message);
        whole += '\n';
        return feed(whole, out);
    }
    if (!text.empty() && text.front() == '#') { // what a board says of itself, as on a wire
        for (std::size_t from = 0; from < text.size();) {
            const std::size_t end = std::min(text.find('\n', from), text.size());
            std::string_view line = text.substr(from, end - from);
            while (!line.empty() && line.back() == '\r')
                line.remove_suffix(1);
            if (!line.empty() && line.front() == '#' && is_plain_text(line)) take_comment(line);
            from = end + 1;
        }
        return;
    }
    if (!text.empty() && (text.front() == '{' || text.front() == '[')) {
        const bool senml = looks_like_senml(text);
        reason = senml ? read_senml(text, m_line, m_fields, out) : read_json_message(text, m_line, m_fields, out);
        m_format.kind = senml ? FormatKind::senml : FormatKind::json;
    } else if (!is_plain_text(text)) {
        reason = phrase("characters that are no text");
    } else if (const NumberText number = read_number_text(text); number.there || number.failed) {
        out.begin(m_line);
        m_fields.take(out, name, text);
        reason = {};
    } else if (!text.empty()) {
        reason = read_pairs(text, m_line, m_fields, out);
        if (!reason.empty()) reason = read_text(text, m_line, m_fields, out);
        if (reason.empty()) m_format.kind = FormatKind::pairs;
    }
    if (!reason.empty()) m_rejections.add(reason, m_line, text);
}

} // namespace cognitum
