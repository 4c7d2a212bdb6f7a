#include "demo/wire.h"

#include <cmath>
#include <vector>

namespace cognitum::demo {

std::string as_heard(std::string_view bytes, double sent_baud, double heard_baud) {
    if (sent_baud == heard_baud) return std::string(bytes);
    std::vector<bool> line = {true, true};
    for (const char c : bytes) {
        line.push_back(false);
        for (unsigned bit = 0; bit < 8; ++bit)
            line.push_back((static_cast<unsigned char>(c) >> bit & 1U) != 0);
        line.push_back(true);
    }
    line.insert(line.end(), 12, true);
    const double ratio = sent_baud / heard_baud; // sent bits for each heard bit
    const auto level = [&](double at) {
        const auto i = static_cast<std::size_t>(at);
        return i >= line.size() || line[i];
    };
    std::string out;
    for (double at = 0; at < static_cast<double>(line.size()); at += std::min(1.0, ratio) / 8) {
        if (level(at)) continue; // waiting for a start bit
        if (level(at + ratio / 2)) {
            at += ratio / 2; // a glitch
            continue;
        }
        unsigned byte = 0;
        for (unsigned bit = 0; bit < 8; ++bit)
            byte |= static_cast<unsigned>(level(at + ratio * (1.5 + bit))) << bit;
        out += static_cast<char>(byte);
        at += ratio * 9.5;
    }
    return out;
}

} // namespace cognitum::demo
