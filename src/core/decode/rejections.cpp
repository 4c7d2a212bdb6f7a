#include "core/decode/rejections.h"

#include "core/base/phrase.h"

#include <algorithm>

namespace cognitum {

std::string shown_text(std::string_view text) {
    std::string shown(text.substr(0, 80));
    for (char& c : shown)
        if (static_cast<unsigned char>(c) < 0x20 || static_cast<unsigned char>(c) >= 0x7f) c = '.';
    return shown;
}

void Rejections::add(std::string_view reason, std::uint64_t line, std::string_view text) {
    const auto find = [&] {
        return std::find_if(m_reasons.begin(), m_reasons.end(),
                            [&](const Rejection& r) { return r.reason == reason; });
    };
    auto known = find();
    if (known == m_reasons.end() && m_reasons.size() + 1 >= most_reasons) { // the last place is for all others
        reason = phrase("other reasons");
        known = find();
    }
    m_last.push_back({line, std::string(reason), shown_text(text)});
    if (m_last.size() > most_kept) m_last.pop_front();
    if (known != m_reasons.end())
        ++known->count;
    else
        m_reasons.push_back({std::string(reason), 1, line, shown_text(text)});
}

void Rejections::add_all(const Rejections& other) {
    for (const Rejection& r : other.m_reasons) {
        const auto known = std::find_if(m_reasons.begin(), m_reasons.end(),
                                        [&](const Rejection& mine) { return mine.reason == r.reason; });
        if (known != m_reasons.end())
            known->count += r.count;
        else if (m_reasons.size() < most_reasons)
            m_reasons.push_back(r);
        else
            m_reasons.back().count += r.count;
    }
    m_last.insert(m_last.end(), other.m_last.begin(), other.m_last.end());
    std::stable_sort(m_last.begin(), m_last.end(),
                     [](const RejectedLine& a, const RejectedLine& b) { return a.line < b.line; });
    while (m_last.size() > most_kept)
        m_last.pop_front();
}

std::uint64_t Rejections::total() const {
    std::uint64_t sum = 0;
    for (const Rejection& r : m_reasons)
        sum += r.count;
    return sum;
}

std::uint64_t Rejections::count(std::string_view reason) const {
    for (const Rejection& r : m_reasons)
        if (r.reason == reason) return r.count;
    return 0;
}

} // namespace cognitum
