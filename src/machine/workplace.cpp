#include "machine/workplace.h"

#include <cstdlib>
#include <fmt/format.h>
#include <unistd.h>

namespace cognitum::machine {

namespace fs = std::filesystem;

Scratch::Scratch() : m_path(fs::temp_directory_path() / fmt::format("cognitum-processor-{}", ::getpid())) {
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
