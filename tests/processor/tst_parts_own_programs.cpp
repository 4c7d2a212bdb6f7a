// Each part of the catalogue alone on boards of two kinds: the program that its plan writes is read back,
// evaluated and changed by slips of the pen.
#include "core/program/program.h"
#include "core/units/quantity_kind.h"
#include "support/cli.h"
#include "support/run_tests.h"
#include "support/said.h"
#include "support/slips.h"
#include "support/support.h"

using namespace cognitum;

namespace {

/// The part alone on this board, measuring the usual range of its kind; nothing where it does not go.
std::optional<Bench> alone(const PartCard& part, const char* board) {
    Bench bench = test::small_bench();
    bench.boards[0].card = board;
    bench.boards[0].link.kind = LinkKind::serial;
    Reading& reading = bench.readings[0];
    reading.sensor = {};
    reading.wiring = {};
    reading.path = {};
    const QuantityKind& kind = quantity_kind(part.measures.front().quantity);
    reading.quantity.kind = kind.id;
    reading.quantity.unit = kind.units[0];
    reading.quantity.low = kind.low;
    reading.quantity.high = kind.high;
    reading.quantity.accuracy = kind.accuracy;
    reading.quantity.interval_s = std::max(1.0, part.minimum_interval_s);
    const auto placed = choose_part(bench, test::catalog(), "air", part.id, "gauge");
    return placed ? std::optional<Bench>(*placed) : std::nullopt;
}

} // namespace

class TestPartsOwnPrograms : public QObject {
    Q_OBJECT

    std::string m_said;

  private slots:
    void readBack_data() {
        QTest::addColumn<QString>("part");
        QTest::addColumn<QString>("board");
        for (const char* board : {"board-5v-8bit-6-analog", "board-3v3-12bit-wifi"})
            for (const PartCard& part : test::catalog().parts)
                if (part.kind == PartKind::sensor && alone(part, board))
                    QTest::newRow(qPrintable(QString::fromStdString(part.id) + " on " + board))
                        << QString::fromStdString(part.id) << board;
    }
    void readBack() {
        QFETCH(QString, part);
        QFETCH(QString, board);
        const Bench bench = *alone(*test::catalog().part(part.toStdString()), qPrintable(board));
        const auto written = write_program(bench, test::catalog(), "gauge", {1, true});
        if (!written) return;
        test::Scratch scratch;
        const QString plan = scratch.write("plan.json", QByteArray::fromStdString(json_dump(bench_json(bench))));
        QStringList request = {"read-program", "--json", "--bench", plan, "--board", "gauge"};
        for (const ProgramFile& file : written->files)
            request << scratch.write(qPrintable(QString::fromStdString(file.name).section('/', -1)),
                                     QByteArray::fromStdString(file.text));
        const Json read = test::cli(request).json();
        m_said += fmt::format("{} on {}\n", part.toStdString(), board.toStdString());
        std::string found;
        for (const Json& f : read["findings"])
            found += fmt::format("  {}: line {}: {} {}\n", f["id"].get<std::string>(), f["line"].get<int>(),
                                 f["message"].get<std::string>(), f["why"].get<std::string>());
        m_said += found;
        for (const Json& id : read["not_in_it"])
            m_said += "  not in it: " + id.get<std::string>() + "\n";
        for (const ProgramNote& note : written->notes)
            m_said += "  the plan: " + note.text + "\n";
        for (const Json& r : read["readings"]) {
            m_said += fmt::format("  {} {}:", r["pin"].dump(), r["sends"].get<std::string>());
            for (const Json& at : r["prints_at"])
                m_said += " " + at["prints"].get<std::string>();
            m_said += "\n";
        }
        for (const Json& note : read["notes"])
            m_said += "  note: " + note.get<std::string>() + "\n";
        QCOMPARE(QString::fromStdString(found), QString());
        // Evaluated with the parts of the plan at its pins, it says what they are given.
        const test::Run proof =
            test::beside("cognitum-reader", {"--prove", "--json", "--bench", plan, "--board", "gauge"});
        if (const Json proven = proof.json(); proven.is_object())
            QVERIFY2(proven["holds"] == true, proof.out.left(2000));
        else // a part that warms up for a minute, or nothing of whose range its path gives
            m_said += "  not proven: " + proof.err.toStdString();
    }
    void whatWasSaid() { test::compare_said("parts_own_programs", m_said); }
};

RUN_TESTS_OF(TestPartsOwnPrograms)
#include "tst_parts_own_programs.moc"
