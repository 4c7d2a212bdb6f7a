// Slips of the pen: in each program that is right one word, one number or one line is changed at a time. Whatever
// changes what is sent must be told; what is told was read by a person.
#include "support/cli.h"
#include "support/programs.h"
#include "support/run_tests.h"
#include "support/said.h"
#include "support/slips.h"
#include "support/support.h"

#include <QDir>

using namespace cognitum;
using test::demo;

namespace {

QString board_of(const QByteArray& program) {
    return QString::fromUtf8(program.left(program.indexOf(':'))).mid(3);
}

Json read_by(const QString& board, const QByteArray& text) {
    test::Scratch scratch;
    return test::cli({"read-program", "--json", "--bench", demo, "--board", board, scratch.write("hut.ino", text)})
        .json();
}

/// Whether another number is sent than of the right program, by more than half of what the reading is wanted to.
bool differs(const Json& right, const Json& now) {
    static const Bench bench = *load_bench_json(demo.toStdString());
    for (const Json& r : right["readings"])
        for (const Json& s : now["readings"]) {
            if (r["reading"] != s["reading"] || r["prints_at"].size() != s["prints_at"].size()) continue;
            const double bearable = bench.reading(r["reading"].get<std::string>())->quantity.accuracy / 2;
            for (std::size_t k = 0; k < r["prints_at"].size(); ++k) {
                const auto number = [&](const Json& of) {
                    return QString::fromStdString(of["prints_at"][k]["prints"].get<std::string>()).toDouble();
                };
                if (std::abs(number(r) - number(s)) > bearable) return true;
            }
        }
    return false;
}

/// What is sent, as far as it was followed: each reading with its texts.
QString sent(const Json& read) {
    QString out;
    for (const Json& r : read["readings"]) {
        out += QString::fromStdString(r["reading"]) + ":";
        for (const Json& at : r["prints_at"])
            out += " " + QString::fromStdString(at["prints"]);
        out += "\n";
    }
    return out;
}

/// What is wrong with the line that a finding offers: it is put in, and the finding must be gone, with every
/// reading still sent. Empty: nothing.
QString left_by(const Json& finding, const Json& before, const QString& board, const QByteArray& text) {
    const QString mended = QString::fromStdString(finding["mended"]);
    if (mended.isEmpty()) return {};
    QStringList lines = QString::fromUtf8(text).split('\n');
    lines[finding["line"].get<int>() - 1] = mended;
    const Json after = read_by(board, lines.join('\n').toUtf8());
    if (!after.is_object()) return mended + ": is not read";
    if (after["not_in_it"].size() > before["not_in_it"].size()) return mended + ": a reading is gone";
    for (const Json& f : after["findings"]) {
        if (f["id"] == finding["id"] && f["line"] == finding["line"]) return mended + ": it is still there";
        if (f["id"] == "does-not-compile" &&
            before["findings"].dump().find("does-not-compile") == std::string::npos)
            return mended + ": does not compile";
    }
    return {};
}

} // namespace

class TestSlips : public QObject {
    Q_OBJECT

  private slots:
    void whatChangesIsTold() {
        const QDir programs(QStringLiteral(COGNITUM_SOURCE_DIR "/tests/fixtures/programs"));
        std::mt19937 drawn(8);                                            // NOLINT: the same slips each time
        const int asked = qEnvironmentVariableIntValue("COGNITUM_SLIPS"); // to look at more of them
        const std::size_t many = asked > 0 ? static_cast<std::size_t>(asked) : 2;
        std::string told;
        QStringList silent, unmended;
        QStringList names = programs.entryList({"*.mended.ino"});
        for (const QString& name : QDir(programs.filePath("long")).entryList({"*.ino"}))
            names << "long/" + name;
        for (const QString& name : names) {
            QFile file(programs.filePath(name));
            QVERIFY(file.open(QIODevice::ReadOnly));
            const QByteArray program = file.readAll();
            const Json before = read_by(board_of(program), program);
            const QString right = sent(before);
            for (const test::Slip& slip : test::drawn_slips(program, many, drawn)) {
                const QString what =
                    QString("%1, line %2: %3")
                        .arg(name)
                        .arg(slip.line)
                        .arg(slip.is.isEmpty() ? "without " + slip.was : slip.was + " is " + slip.is);
                const Json read = read_by(board_of(program), slip.text);
                QVERIFY2(read.is_object(), qPrintable(what));
                told += what.toStdString() + "\n";
                for (const Json& f : read["findings"])
                    told += fmt::format("  {}: line {}: {} {}\n", f["id"].get<std::string>(), f["line"].get<int>(),
                                        f["message"].get<std::string>(), f["why"].get<std::string>());
                const QString now = sent(read);
                if (now != right) told += "  sent: " + now.trimmed().toStdString() + "\n";
                for (const Json& id : read["not_in_it"])
                    if (before["not_in_it"].dump().find(id.dump()) == std::string::npos)
                        told += "  not in it: " + id.get<std::string>() + "\n";
                for (const Json& note : read["notes"])
                    if (before["notes"].dump().find(note.dump()) == std::string::npos)
                        told += "  note: " + note.get<std::string>() + "\n";
                if (differs(before, read) && read["findings"].empty())
                    silent << what + "\n" + right + "   now\n" + now;
                for (const Json& f : read["findings"])
                    if (const QString left = left_by(f, read, board_of(program), slip.text); !left.isEmpty())
                        unmended << what + "\n" + left;
            }
        }
        test::compare_said("slips", told);
        QVERIFY2(silent.isEmpty(), qPrintable("\n" + silent.join("\n")));
        QVERIFY2(unmended.isEmpty(), qPrintable("\n" + unmended.join("\n")));
    }
};

RUN_TESTS_OF(TestSlips)
#include "tst_slips.moc"
