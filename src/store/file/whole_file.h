// Files that are there whole or not at all: made beside their name, then moved to it.
#pragma once

#include "core/base/error.h"

#include <string>

namespace cognitum {

/// Path with its folder, so that no name means something else to SQLite (":memory:", "file:…?mode=memory"). Error
/// for an empty name.
Result<std::string> full_path(const std::string& path);

/// A name beside `target` for a file in the making; leftovers of programs that do not run any more are removed.
std::string path_beside(const std::string& target);

enum class Existing { keep, replace };
/// Moves a finished file to its name. With `keep` it is an error when another file has the name; an empty one is
/// none. The file is flushed to the disk before. On an error `made` is removed.
Result<void> put_in_place(const std::string& made, const std::string& target, Existing existing);

} // namespace cognitum
