// What a bench file has of a reading, and samples that go into one.
#pragma once

#include "core/catalog/cards.h"
#include "store/samples/samples.h"

#include <QTest>
#include <limits>

namespace cognitum::test {

constexpr TimeUs everything = std::numeric_limits<TimeUs>::max();
constexpr TimeUs start_of_all = std::numeric_limits<TimeUs>::min();

inline std::vector<Sample> all_of(BenchFile& file, const std::string& reading) {
    std::vector<Sample> out;
    [[maybe_unused]] const auto done =
        for_each_sample(file, reading, start_of_all, everything, [&](std::span<const Sample> some) {
            out.insert(out.end(), some.begin(), some.end());
            return true;
        });
    return out;
}

inline void add(BenchFile& file, const std::string& reading, const std::vector<Sample>& samples) {
    const SeriesBatch batch{reading, samples};
    QVERIFY(add_samples(file, std::span(&batch, 1)));
}

inline const Catalog no_cards;

/// A reading that has an id, a kind and a unit, and came from a file: no board, no part.
inline Reading bare_reading(const char* id, const char* kind, const char* unit) {
    Reading r;
    r.id = r.name = id;
    r.quantity.kind = kind;
    r.quantity.unit = unit;
    return r;
}

} // namespace cognitum::test
