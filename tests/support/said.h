// Long texts of the core beside those that a person has read and that are kept in tests/fixtures/said. Where a
// sentence or a number is meant to change, COGNITUM_WRITE_SAID=1 writes the files anew; their difference is
// read before it is committed.
#pragma once

#include "support/support.h"

#include <QFile>
#include <cmath>
#include <fmt/format.h>
#include <set>

namespace cognitum::test {

/// Five digits: more would differ from compiler to compiler.
inline std::string five_digits(double x) {
    return std::abs(x) < 1e-12 ? "0" : fmt::format("{:.5g}", x);
}

/// "  name: text", and nothing where there is no text.
inline void add_said(std::string& out, const char* name, const std::string& text) {
    if (!text.empty()) out += fmt::format("  {}: {}\n", name, text);
}

/// Every line at its first place only: what many benches say alike is read once.
inline std::string each_line_once(const std::string& text) {
    std::set<std::string> known;
    std::string out;
    for (std::size_t at = 0; at < text.size();) {
        const std::size_t end = std::min(text.find('\n', at), text.size());
        const std::string line = text.substr(at, end - at);
        if (known.insert(line).second) out += line + "\n";
        at = end + 1;
    }
    return out;
}

/// Fails with the first line that differs.
inline void compare_said(const char* name, const std::string& now) {
    QFile file(QStringLiteral(COGNITUM_SOURCE_DIR "/tests/fixtures/said/") + QLatin1String(name) +
               QLatin1String(".txt"));
    if (qEnvironmentVariableIsSet("COGNITUM_WRITE_SAID")) {
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write(QByteArray::fromStdString(plain(now)));
        return;
    }
    QVERIFY2(file.open(QIODevice::ReadOnly), qPrintable(file.fileName()));
    const QStringList kept = QString::fromUtf8(file.readAll()).split('\n');
    const QStringList said = QString::fromStdString(plain(now)).split('\n');
    for (int i = 0; i < std::min(kept.size(), said.size()); ++i)
        QVERIFY2(
            kept[i] == said[i],
            qPrintable(QString("%1.txt, line %2, was\n%3\nand is\n%4").arg(name).arg(i + 1).arg(kept[i], said[i])));
    QCOMPARE(said.size(), kept.size());
}

} // namespace cognitum::test
