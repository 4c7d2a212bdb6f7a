#include "link/speed_search.h"

#include <algorithm>

namespace cognitum {

namespace {
constexpr double sure = 0.9;
}

double speech_score(std::string_view bytes) {
    if (bytes.size() < 8) return 0;
    // What waited in a buffer from another speed does not count against this one.
    const std::size_t start = bytes.find('\n');
    const std::string_view clean =
        start != std::string_view::npos && start + 16 < bytes.size() ? bytes.substr(start + 1) : bytes;
    const double text = text_share(clean);
    if (text < 0.8) return 0.5 * text;
    const auto guesses = guess_formats(clean);
    return 0.6 * text + (guesses.empty() ? 0 : 0.4 * guesses.front().score);
}

SpeedSearch::SpeedSearch(int first) : m_speeds{first} {
    for (const int baud : {115200, 9600, 57600, 38400, 19200, 230400, 250000, 4800, 1000000, 500000, 2400, 1200})
        if (baud != first) m_speeds.push_back(baud);
}

void SpeedSearch::take(const QByteArray& bytes) {
    m_heard.append(bytes.constData(), static_cast<std::size_t>(bytes.size()));
    if (m_heard.size() > 8192) m_heard.erase(0, m_heard.size() - 8192);
}

double SpeedSearch::score() const {
    return speech_score(m_heard);
}

bool SpeedSearch::found() const {
    return m_heard.size() >= 24 && m_heard.find('\n') != std::string::npos && score() >= sure;
}

bool SpeedSearch::next() {
    if (const double s = score(); s > m_best_score) {
        m_best_score = s;
        m_best = m_at;
    }
    m_heard.clear();
    if (m_at + 1 < m_speeds.size()) {
        ++m_at;
        return true;
    }
    m_at = m_best;
    return false;
}

} // namespace cognitum
