// What the measurements share: alternating runs against a baseline of the same run, medians.
#pragma once

#include "core/base/json_reader.h"

#include <algorithm>
#include <chrono>
#include <functional>
#include <string>
#include <utility>
#include <vector>

namespace cognitum::bench {

inline double time_s(const std::function<void()>& work) {
    const auto start = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

inline double median(std::vector<double> values) {
    std::sort(values.begin(), values.end());
    return values[values.size() / 2];
}

struct Pair {
    double ours = 0, baseline = 0;
};

/// Medians of alternating runs, after one of each to warm up.
inline Pair alternate(int runs, const std::function<void()>& ours, const std::function<void()>& baseline) {
    ours();
    baseline();
    std::vector<double> a, b;
    for (int i = 0; i < runs; ++i) {
        a.push_back(time_s(ours));
        b.push_back(time_s(baseline));
    }
    return {median(a), median(b)};
}

/// Keeps the optimiser from seeing that a result is not used.
inline void keep(const void* p) {
    asm volatile("" : : "g"(p) : "memory");
}

// In bench_signal.cpp; each gives one member of the object that tools/bench prints.
Json p1();
Json p2();
Json p9_draws();
Json p9_fits();
Json beats_of_ten_million();
Json rain_of_a_million();
Json p14();

// In bench_record.cpp. `folder`: of the programs.
Json p4(const std::string& folder);
std::pair<Json, Json> p6_p7(const std::string& folder);
Json p10();
Json growth();

} // namespace cognitum::bench
