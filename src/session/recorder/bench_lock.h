// Tells whether another program has the same bench open. An abstract socket's name is taken for as long as a
// program runs: it leaves nothing behind, and it never touches the locks that SQLite holds on the file.
#pragma once

#include "store/file/open_files.h"

#include <string>

namespace cognitum {

class BenchLock {
  public:
    BenchLock() = default;
    ~BenchLock();
    BenchLock(const BenchLock&) = delete;
    BenchLock& operator=(const BenchLock&) = delete;

    /// False when another program, or another window of this one, holds it. Nothing is forbidden by it.
    bool take(const FileIdentity& file);
    void release();
    /// The program that holds it, in words: "Another Cognitum (process 1234)".
    static std::string holder(const FileIdentity& file);

  private:
    int m_socket = -1;
};

} // namespace cognitum
