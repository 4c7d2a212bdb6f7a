#include "store/file/open_files.h"

#include <algorithm>
#include <list>
#include <mutex>
#include <sys/stat.h>

namespace cognitum {

namespace {

struct Opened {
    std::string path;
    FileIdentity identity;
};
std::mutex opened_mutex;
std::list<Opened> opened;

bool any_opened(auto matches) {
    const std::lock_guard lock(opened_mutex);
    return std::any_of(opened.begin(), opened.end(), matches);
}

} // namespace

std::optional<FileIdentity> identity_of(const std::string& path) {
    struct stat about {};
    if (::stat(path.c_str(), &about) != 0) return {};
    return FileIdentity{about.st_dev, about.st_ino};
}

std::optional<FileIdentity> identity_of_open(int descriptor) {
    struct stat about {};
    if (::fstat(descriptor, &about) != 0) return {};
    return FileIdentity{about.st_dev, about.st_ino};
}

OpenMark::OpenMark(std::string path, FileIdentity identity) : m_path(std::move(path)), m_identity(identity) {
    const std::lock_guard lock(opened_mutex);
    opened.push_back({m_path, m_identity});
}

OpenMark::~OpenMark() {
    const std::lock_guard lock(opened_mutex);
    const auto mine = std::find_if(opened.begin(), opened.end(), [this](const Opened& o) {
        return o.path == m_path && o.identity == m_identity;
    });
    if (mine != opened.end()) opened.erase(mine);
}

bool is_open_here(const FileIdentity& identity) {
    return any_opened([&](const Opened& o) { return o.identity == identity; });
}

bool has_old_file_open(const std::string& path, const FileIdentity& now) {
    return any_opened([&](const Opened& o) { return o.path == path && !(o.identity == now); });
}

} // namespace cognitum
