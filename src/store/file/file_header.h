// What a file is, from its first bytes and its size alone: nothing foreign is ever opened as a database.
#pragma once

#include "core/base/error.h"

#include <string>

namespace cognitum {

enum class FileKind {
    bench,     ///< of this version or older, and as long as it says
    missing,   ///< no such file, or not a file
    foreign,   ///< something else: empty, no database, or a database of another program
    newer,     ///< a bench of a newer version
    truncated, ///< a bench that is shorter than it says
};

struct FileHeader {
    FileKind kind = FileKind::bench;
    Error error; ///< for a person; empty for a bench
};

FileHeader read_file_header(const std::string& path);

} // namespace cognitum
