// Where programs are compiled: a scratch folder for each run, and one that keeps what is compiled once.
#pragma once

#include <filesystem>
#include <string>

namespace cognitum::machine {

/// A folder for temporary files that goes with its owner.
class Scratch {
  public:
    Scratch();
    ~Scratch();
    Scratch(const Scratch&) = delete;
    Scratch& operator=(const Scratch&) = delete;
    [[nodiscard]] const std::filesystem::path& path() const { return m_path; }

  private:
    std::filesystem::path m_path;
};

/// The user's folder for what can be made again.
std::string cache_folder();

} // namespace cognitum::machine
