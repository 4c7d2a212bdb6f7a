#include "cli/cli.h"

#include <cstdio>
#include <filesystem>
#include <fmt/format.h>
#include <spawn.h>
#include <sys/wait.h>

extern char** environ; // NOLINT: of the system

namespace cognitum::cli {

int run_read_program(const ReadProgramRequest& request, bool json) {
    namespace fs = std::filesystem;
    std::error_code trouble;
    const fs::path reader = fs::read_symlink("/proc/self/exe", trouble).parent_path() / "cognitum-reader";
    if (!fs::exists(reader, trouble))
        return complain({"it is not there: programs are read by it.", reader.string(),
                         "Build it beside this program, or install it."});
    std::vector<std::string> words = {reader.string(), "--bench", request.bench, "--board", request.board};
    if (json) words.emplace_back("--json");
    words.emplace_back("--"); // a file's name may begin with a dash
    words.insert(words.end(), request.files.begin(), request.files.end());
    std::vector<char*> arguments;
    arguments.reserve(words.size() + 1);
    for (std::string& word : words)
        arguments.push_back(word.data());
    arguments.push_back(nullptr);
    std::fflush(stdout);
    pid_t process = 0;
    if (::posix_spawn(&process, reader.c_str(), nullptr, nullptr, arguments.data(), environ) != 0)
        return complain({"it cannot be started.", reader.string(), ""});
    int state = 0;
    ::waitpid(process, &state, 0);
    if (WIFEXITED(state)) return WEXITSTATUS(state);
    return complain({"the program was too much for the one that reads it: it was ended.", request.files.front(),
                     "Give the files of the program alone, without libraries."});
}

} // namespace cognitum::cli
