// A program that somebody wrote for a board: it is parsed and evaluated, or refused with a sentence, and it ends.
#include "core/program/read/evaluator.h"
#include "core/program/read/read_program.h"
#include "fuzz.h"
#include "reader/core_interface.h"
#include "store/file/data_files.h"

using namespace cognitum;
using namespace cognitum::program;

namespace {

const BoardCard& board() {
    static const Catalog catalog = load_catalog().catalog;
    return *catalog.board("board-5v-8bit-6-analog");
}

reader::ParseOptions options() {
    reader::ParseOptions out;
    auto interface = reader::core_interface(data_folder());
    PROMISE(interface.has_value());
    out.interface = std::move(*interface);
    out.interface.push_back({"pins.h", BoardPins(board()).header()});
    return out;
}

} // namespace

HARNESS(program)(const std::uint8_t* data, std::size_t size) {
    static const reader::ParseOptions how = options();
    const auto tree = reader::parse_program({{"fuzz.ino", std::string(text_of(data, size))}}, how);
    if (!tree) {
        PROMISE(!tree.error().what.empty());
        return 0;
    }
    if (tree->setup == nothing || tree->loop == nothing) return 0;
    BoardPins pins(board());
    RunLimits limits;
    limits.steps = 20000;
    limits.most_s = 20;
    Evaluator evaluator(*tree, pins, {}, limits);
    const Observed seen = evaluator.run();
    PROMISE(seen.lines.size() <= 4 * limits.lines);
    for (const Line& line : seen.lines)
        for (const Printed& number : line.numbers)
            PROMISE(number.place.file == 0 || number.place.file == nothing);
    return 0;
}
