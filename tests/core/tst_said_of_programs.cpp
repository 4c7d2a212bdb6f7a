// The programs that the demo's plan writes, letter by letter, plain, with constants and means, and asleep; and one
// for each part alone: what it needs, asks and sends, or why it is left out. Beside what a person has read.
#include "core/program/program.h"
#include "core/units/quantity_kind.h"
#include "support/run_tests.h"
#include "support/said.h"

using namespace cognitum;
using test::add_said;
using test::catalog;

namespace {

std::string written_of_demo() {
    std::string out;
    const Bench bench = *load_bench_json(data_folder() + "/demo/whelk-point.json");
    for (const char* board : {"gauge", "shed", "pump-house"})
        for (const ProgramOptions& options :
             {ProgramOptions{}, ProgramOptions{8, true, false}, ProgramOptions{1, false, true}}) {
            const auto written = write_program(bench, catalog(), board, options);
            out += fmt::format("==== {}, mean of {}{}{}\n", board, options.average,
                               options.constants ? ", with constants" : "", options.sleep ? ", asleep" : "");
            if (!written) {
                out += written.error().text() + "\n";
                continue;
            }
            for (const ProgramNote& note : written->notes)
                add_said(out, "note", note.reading + ": " + note.text + (note.left_out ? " (left out)" : ""));
            for (const ProgramFile& file : written->files)
                out += "---- " + file.name + "\n" + file.text;
        }
    return test::each_line_once(out);
}

/// Of each part alone, on two boards: the lines of its program that no other part's has.
std::string written_of_parts() {
    std::string out;
    for (const char* board : {"board-5v-8bit-6-analog", "board-3v3-12bit-wifi"})
        for (const PartCard& part : catalog().parts) {
            if (part.kind != PartKind::sensor) continue;
            Bench bench = test::small_bench();
            bench.boards[0].card = board;
            Reading& reading = bench.readings[0];
            reading.sensor = {};
            reading.wiring = {};
            reading.path = {};
            reading.quantity.kind = part.measures.front().quantity;
            reading.quantity.unit = quantity_kind(reading.quantity.kind).units[0];
            const auto placed = choose_part(bench, catalog(), "air", part.id, "gauge");
            if (!placed) continue;
            out += fmt::format("==== {} on {}\n", part.id, board);
            const auto written = write_program(*placed, catalog(), "gauge", {4, true, false});
            out += written ? written->files.front().text : written.error().text() + "\n";
        }
    return test::each_line_once(out);
}

} // namespace

class TestSaidOfPrograms : public QObject {
    Q_OBJECT

  private slots:
    void ofTheDemo() { test::compare_said("written_programs", written_of_demo()); }
    void ofEachPart() { test::compare_said("written_parts", written_of_parts()); }
};

RUN_TESTS_OF(TestSaidOfPrograms)
#include "tst_said_of_programs.moc"
