#include "cli/cli.h"

#include "core/program/program.h"
#include "store/file/data_files.h"

#include <algorithm>
#include <cstdio>
#include <filesystem>
#include <fmt/format.h>
#include <fstream>

namespace cognitum::cli {

namespace {

namespace fs = std::filesystem;

/// Id of the board of this id or name. Error that lists those there are.
Result<std::string> find_board(const Bench& bench, const std::string& path, const std::string& name) {
    std::string known;
    for (const BoardUse& board : bench.boards) {
        if (board.id == name || board.name == name) return board.id;
        known += (known.empty() ? "" : ", ") + board.id;
    }
    return failure(fmt::format("there is no board \"{}\".", name), path,
                   known.empty() ? "The bench has none." : "There are: " + known + ".");
}

/// Each file is written beside and put into place whole; one that somebody changed is not overwritten unasked.
Result<void> write_files(const std::vector<ProgramFile>& files, const fs::path& folder) {
    for (const ProgramFile& file : files) {
        const fs::path at = folder / file.name;
        std::error_code trouble;
        if (file.yours && fs::exists(at, trouble)) continue;
        fs::create_directories(at.parent_path(), trouble);
        if (trouble)
            return failure(fmt::format("the folder cannot be made: {}.", trouble.message()),
                           at.parent_path().string());
        const fs::path beside = at.string() + ".part";
        std::ofstream out(beside, std::ios::binary);
        out << file.text;
        out.close();
        if (!out)
            return failure("it cannot be written.", beside.string(),
                           "Look at the space and the rights of the folder.");
        fs::rename(beside, at, trouble);
        if (trouble)
            return failure(fmt::format("it cannot be put into place: {}.", trouble.message()), at.string());
    }
    return {};
}

} // namespace

int run_program(const ProgramRequest& request, bool json) {
    const auto bench = load_any_bench(request.bench);
    if (!bench) return complain(bench.error());
    const auto board = find_board(*bench, request.bench, request.board);
    if (!board) return complain(board.error());
    const auto written = write_program(*bench, load_cards_of(*bench), *board, request.options);
    if (!written) return complain(written.error(), answer_is_no);
    if (!request.out.empty())
        if (const auto kept = write_files(written->files, request.out); !kept) return complain(kept.error());
    if (json) {
        Json files = Json::array();
        for (const ProgramFile& f : written->files)
            files.push_back({{"name", f.name}, {"text", f.text}, {"yours", f.yours}});
        Json notes = Json::array();
        for (const ProgramNote& n : written->notes)
            notes.push_back({{"reading", n.reading}, {"text", n.text}, {"left_out", n.left_out}});
        print_json({{"files", files},
                    {"fingerprint", written->fingerprint},
                    {"fields", written->fields},
                    {"notes", notes}});
        return done;
    }
    for (const ProgramFile& f : written->files) {
        if (request.out.empty() && f.yours)
            std::fputs(fmt::format("\n// ==== {}\n{}", f.name, f.text).c_str(), stdout);
        else if (request.out.empty())
            std::fputs(f.text.c_str(), stdout);
        else
            std::puts(fmt::format("{}: {} lines", (fs::path(request.out) / f.name).string(),
                                  std::count(f.text.begin(), f.text.end(), '\n'))
                          .c_str());
    }
    for (const ProgramNote& n : written->notes)
        std::fputs(fmt::format("note: {}{}{}\n", n.reading, n.reading.empty() ? "" : ": ", n.text).c_str(), stderr);
    return done;
}

} // namespace cognitum::cli
