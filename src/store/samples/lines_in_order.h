// The lines of several readings of a bench file, in order of time, in bounded memory.
#pragma once

#include "store/samples/samples.h"

#include <algorithm>
#include <limits>
#include <span>
#include <string>
#include <vector>

namespace cognitum {

struct RecordedLine {
    TimeUs time;
    int reading; ///< place in the list of them
    double value;
};

/// Calls f(std::span<const RecordedLine>) with the lines of all readings in [from, to], part by part.
template <typename F>
Result<void> lines_in_order(BenchFile& file, const std::vector<std::string>& readings, TimeUs from, TimeUs to, F f,
                            std::vector<Unreadable>* unreadable = nullptr) {
    std::vector<RecordedLine> lines;
    const auto read = [&](std::size_t i, TimeUs part_from, TimeUs part_to) {
        return for_each_sample(
            file, readings[i], part_from, part_to,
            [&](std::span<const Sample> samples) {
                for (const Sample& s : samples)
                    lines.push_back({s.time, static_cast<int>(i), s.value});
                if (readings.size() > 1) return true;
                f(std::span<const RecordedLine>(lines));
                lines.clear();
                return true;
            },
            unreadable);
    };
    if (readings.size() == 1) return read(0, from, to);
    constexpr double lines_of_a_part = 200'000;
    double n = 0;
    TimeUs first = std::numeric_limits<TimeUs>::max();
    TimeUs last = std::numeric_limits<TimeUs>::min();
    for (const std::string& reading : readings) {
        COGNITUM_TRY(all, extent(file, reading));
        if (all.n == 0) continue;
        n += static_cast<double>(all.n);
        first = std::min(first, all.first);
        last = std::max(last, all.last);
    }
    if (n == 0) return {};
    const TimeUs part = std::max<TimeUs>(
        second_us, static_cast<TimeUs>(static_cast<double>(last - first) * std::min(1.0, lines_of_a_part / n)) + 1);
    from = std::max(from, first);
    to = std::min(to, last);
    for (TimeUs at = from; at <= to; at += part) {
        lines.clear();
        for (std::size_t i = 0; i < readings.size(); ++i)
            COGNITUM_CHECK(read(i, at, std::min(at + part - 1, to)));
        std::stable_sort(lines.begin(), lines.end(),
                         [](const RecordedLine& a, const RecordedLine& b) { return a.time < b.time; });
        f(std::span<const RecordedLine>(lines));
    }
    return {};
}

} // namespace cognitum
