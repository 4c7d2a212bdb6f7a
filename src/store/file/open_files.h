// Which bench files this process has open, by what they are and not by their names. Two dangers hang on it: opening
// and closing a file that SQLite has open drops all of this process' locks on it (POSIX locks belong to a process),
// and a file that took another's name must not be opened while the old one is, or both would share one journal.
#pragma once

#include <cstdint>
#include <memory>
#include <optional>
#include <string>

namespace cognitum {

/// What stays the same when a file is renamed, and differs when another takes its name.
struct FileIdentity {
    std::uint64_t device = 0, inode = 0;
    bool operator==(const FileIdentity&) const = default;
};
/// Nothing when there is no file of that name.
std::optional<FileIdentity> identity_of(const std::string& path);
std::optional<FileIdentity> identity_of_open(int descriptor);

/// Says that a file is open for as long as it lives.
class OpenMark {
  public:
    OpenMark(std::string path, FileIdentity identity);
    ~OpenMark();
    OpenMark(const OpenMark&) = delete;
    OpenMark& operator=(const OpenMark&) = delete;
    [[nodiscard]] const FileIdentity& identity() const { return m_identity; }

  private:
    std::string m_path;
    FileIdentity m_identity;
};

bool is_open_here(const FileIdentity& identity);
/// True when another file that had this name is still open.
bool has_old_file_open(const std::string& path, const FileIdentity& now);

} // namespace cognitum
