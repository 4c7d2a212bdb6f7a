#include "session/live/line_store.h"

#include <algorithm>

namespace cognitum {

void LineStore::add(const std::string& board, std::vector<KeptLine> lines) {
    const std::lock_guard lock(m_mutex);
    std::deque<KeptLine>& kept = m_lines[board];
    for (KeptLine& line : lines)
        kept.push_back(std::move(line));
    while (kept.size() > most)
        kept.pop_front();
}

std::vector<KeptLine> LineStore::since(const std::string& board, std::uint64_t after, std::uint64_t fields,
                                       std::size_t limit) const {
    const std::lock_guard lock(m_mutex);
    std::vector<KeptLine> out;
    const auto found = m_lines.find(board);
    if (found == m_lines.end()) return out;
    for (auto line = found->second.rbegin(); line != found->second.rend() && out.size() < limit; ++line) {
        if (line->number <= after) break;
        if (fields == 0 || (line->fields & fields) != 0 || line->is_comment() || !line->rejected.empty())
            out.push_back(*line);
    }
    std::reverse(out.begin(), out.end());
    return out;
}

std::uint64_t LineStore::oldest(const std::string& board) const {
    const std::lock_guard lock(m_mutex);
    const auto found = m_lines.find(board);
    return found == m_lines.end() || found->second.empty() ? 0 : found->second.front().number;
}

void LineStore::clear(const std::string& board) {
    const std::lock_guard lock(m_mutex);
    m_lines.erase(board);
}

} // namespace cognitum
