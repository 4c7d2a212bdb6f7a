#include "store/file/whole_file.h"

#include "core/base/phrase.h"

#include <cerrno>
#include <csignal>
#include <cstdio>
#include <cstring>
#include <fcntl.h>
#include <filesystem>
#include <unistd.h>

namespace cognitum {

namespace fs = std::filesystem;

namespace {

constexpr const char* made_by = ".made-by-";

void flush_to_disk(const std::string& path, int flags) {
    const int file = ::open(path.c_str(), flags | O_CLOEXEC);
    if (file < 0) return;
    ::fsync(file);
    ::close(file);
}

} // namespace

Result<std::string> full_path(const std::string& path) {
    if (path.empty())
        return failure(phrase("the name of a file is missing."), {}, phrase("Write one that ends with .cognitum."));
    std::error_code code;
    const fs::path full = fs::absolute(path, code);
    if (code) return failure(phrase("this is no name of a file."), path);
    return full.lexically_normal().string();
}

std::string path_beside(const std::string& target) {
    std::error_code code;
    const fs::path full(target);
    const std::string start = full.filename().string() + made_by;
    for (const auto& entry : fs::directory_iterator(full.parent_path(), code)) {
        const std::string name = entry.path().filename().string();
        if (!name.starts_with(start)) continue;
        const int process = std::atoi(name.c_str() + start.size());
        if (process > 0 && ::kill(process, 0) != 0 && errno == ESRCH) fs::remove(entry.path(), code);
    }
    return target + made_by + std::to_string(::getpid());
}

Result<void> put_in_place(const std::string& made, const std::string& target, Existing existing) {
    flush_to_disk(made, O_RDONLY);
    std::error_code code;
    if (fs::exists(target, code) && !fs::is_regular_file(target, code)) {
        fs::remove(made, code);
        return failure(phrase("this is no file on a disk, but a pipe, a device or a folder."), target,
                       phrase("Choose a file."));
    }
    const bool free =
        existing == Existing::replace || (fs::exists(target, code) && fs::file_size(target, code) == 0);
    int failed = free ? std::rename(made.c_str(), target.c_str())
                      : ::renameat2(AT_FDCWD, made.c_str(), AT_FDCWD, target.c_str(), RENAME_NOREPLACE);
    if (failed != 0 && errno == EINVAL &&
        !fs::exists(target, code)) // a file system that cannot ask and move at once
        failed = std::rename(made.c_str(), target.c_str());
    if (failed == 0) {
        flush_to_disk(fs::path(target).parent_path().string(), O_RDONLY | O_DIRECTORY);
        return {};
    }
    const int why = errno;
    fs::remove(made, code);
    if (why == EEXIST)
        return failure(phrase("there is a file of that name already."), target, phrase("Choose another name."));
    return failure(phrase("the file could not be put in place ({}).", std::strerror(why)), target,
                   phrase("Check the folder’s permissions."));
}

} // namespace cognitum
