#include "machine/workplace.h"

#include <cerrno>
#include <csignal>
#include <cstdlib>
#include <cstring>
#include <fmt/format.h>
#include <unistd.h>
#include <vector>

namespace cognitum::machine {

namespace fs = std::filesystem;

namespace {

const char* const prefix = "cognitum-processor-"; ///< and the number of the process that works there

/// Folders of those that were killed at their work.
void remove_left_behind() {
    std::error_code ignored;
    std::vector<fs::path> left;
    for (const auto& entry : fs::directory_iterator(fs::temp_directory_path(), ignored)) {
        const std::string name = entry.path().filename().string();
        if (!name.starts_with(prefix)) continue;
        const int process = std::atoi(name.c_str() + std::strlen(prefix));
        if (process > 0 && ::kill(process, 0) != 0 && errno == ESRCH) left.push_back(entry.path());
    }
    for (const fs::path& path : left)
        fs::remove_all(path, ignored);
}

} // namespace

Scratch::Scratch() : m_path(fs::temp_directory_path() / fmt::format("{}{}", prefix, ::getpid())) {
    remove_left_behind();
    fs::create_directories(m_path);
}

Scratch::~Scratch() {
    std::error_code ignored;
    fs::remove_all(m_path, ignored);
}

std::string cache_folder() {
    const char* cache = std::getenv("XDG_CACHE_HOME");
    const char* home = std::getenv("HOME");
    const fs::path base = cache && *cache ? fs::path(cache)
                          : home          ? fs::path(home) / ".cache"
                                          : fs::temp_directory_path();
    return (base / "cognitum").string();
}

} // namespace cognitum::machine
