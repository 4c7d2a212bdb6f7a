#include "session/live/acting_allowed.h"

#include "store/file/data_files.h"
#include "store/samples/fingerprint.h"

#include <filesystem>
#include <fstream>
#include <sstream>

namespace cognitum {

namespace {

std::string acting_file() {
    return own_data_folder() + "/acting.txt";
}

/// What is sent, and where to.
std::string acting_print(const LoadControl& control, const Bench& bench) {
    const Module* load = bench.module(control.load);
    const BoardUse* board = load ? bench.board(load->board) : nullptr;
    Json what = {control.on_line, control.off_line, control.topic};
    if (board) what.push_back(board_use_json(*board).value("link", Json()));
    return text_fingerprint(json_dump(what));
}

} // namespace

void allow_acting(const LoadControl& control, const Bench& bench) {
    if (is_acting_allowed(control, bench)) return;
    std::error_code code;
    std::filesystem::create_directories(own_data_folder(), code);
    std::ofstream(acting_file(), std::ios::app) << acting_print(control, bench) << '\n';
}

bool is_acting_allowed(const LoadControl& control, const Bench& bench) {
    const Module* load = bench.module(control.load);
    const BoardUse* board = load ? bench.board(load->board) : nullptr;
    if (board && board->link.is_simulated()) return true;
    const std::string wanted = acting_print(control, bench);
    std::istringstream lines(read_text_file(acting_file(), 1 << 20).value_or(""));
    for (std::string line; std::getline(lines, line);)
        if (line == wanted) return true;
    return false;
}

} // namespace cognitum
