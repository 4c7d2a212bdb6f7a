// What many tests need: sentences from errors, the shipped cards, a scratch folder, and the demo's reading.
#pragma once

#include "core/bench/bench.h"
#include "core/plan/path.h"
#include "store/data_files.h"

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
    bench.boards.push_back({"gauge", "gauge board", board, {}});
    Reading r;
    r.id = "air";
    r.name = "Air";
    r.quantity = {"temperature", "degC", -10, 35, 0.8, 1, ""};
    r.sensor.part = part;
    const PartCard* card = catalog().part(part);
    const BoardCard* board_card = catalog().board(board);
    if (auto wiring = first_wiring(*card, bench.boards[0], *board_card, bench)) r.wiring = *wiring;
    r.path = build_path(*card, *board_card, r.wiring);
    bench.readings.push_back(r);
    return bench;
}

} // namespace cognitum::test
