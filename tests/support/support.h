// What many tests need: sentences from errors, the shipped cards, a scratch folder, and the demo's reading.
#pragma once

#include "core/bench/bench.h"
#include "core/plan/assign.h"
#include "core/plan/path.h"
#include "store/file/data_files.h"

#include <QTemporaryDir>
#include <QTest>

/// The value of a Result, or a failed test with its sentence.
#define VALUE_OF(name, expression)                                                                                 \
    auto name##_result = (expression);                                                                             \
    QVERIFY2(name##_result.has_value(), name##_result ? "" : name##_result.error().text().c_str());                \
    [[maybe_unused]] auto& name = *name##_result

/// |a − b| ≤ tolerance, said with both numbers.
#define CLOSE(a, b, tolerance)                                                                                     \
    QVERIFY2(std::abs((a) - (b)) <= (tolerance), qPrintable(QStringLiteral("%1 is not %2 ± %3")                    \
                                                                .arg(double(a), 0, 'g', 15)                        \
                                                                .arg(double(b), 0, 'g', 15)                        \
                                                                .arg(double(tolerance))))

namespace cognitum::test {

/// Text for people with its narrow and no-break spaces as plain ones.
inline std::string plain(const std::string& text) {
    return QString::fromStdString(text)
        .replace(QChar(0x202f), QLatin1Char(' '))
        .replace(QChar(0x00a0), QLatin1Char(' '))
        .replace(QChar(0x2009), QLatin1Char(' '))
        .toStdString();
}

inline const Catalog& catalog() {
    static const Catalog shipped = load_catalog().catalog;
    return shipped;
}

inline std::string file_in(const QTemporaryDir& folder, const char* name) {
    return folder.filePath(QLatin1String(name)).toStdString();
}

/// A bench with one board and one reading that is chosen, wired and without a link.
inline Bench small_bench(const char* part = "analog-thermometer-with-offset",
                         const char* board = "board-5v-8bit-6-analog") {
    Bench bench;
    bench.name = "Test bench";
    BoardUse use;
    use.id = "gauge";
    use.name = "gauge board";
    use.card = board;
    bench.boards.push_back(use);
    Reading r;
    r.id = "air";
    r.name = "Air";
    r.quantity.low = -10;
    r.quantity.high = 35;
    r.quantity.accuracy = 0.8;
    r.quantity.interval_s = 1;
    bench.readings.push_back(r);
    const auto placed = choose_part(bench, catalog(), r.id, part, use.id);
    if (!placed) qFatal("%s", placed.error().text().c_str());
    return *placed;
}

} // namespace cognitum::test
