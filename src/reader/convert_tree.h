// The compiler's tree as this project's own.
#pragma once

#include "core/program/read/syntax.h"

#include <map>
#include <string>

namespace clang {
class ASTContext;
}

namespace cognitum::reader {

/// Where the program's files stand in the file system that only the parser sees.
inline const std::string program_folder = "/program/";
/// A file's name as the person gave it.
inline std::string plain_name(const std::string& path) {
    return path.starts_with(program_folder) ? path.substr(program_folder.size()) : path;
}

/// Text that was put into a line of a file, which nobody should see.
struct Inserted {
    int line = 0, column = 0;
    unsigned offset = 0; ///< the same place, in bytes from the beginning
    std::string text;
    bool operator==(const Inserted&) const = default;
};

/// Fills in everything but files, unknown headers and what the parser said. False: there are more nodes than are
/// taken.
bool convert_tree(clang::ASTContext& context, program::SyntaxTree& tree,
                  const std::map<std::string, Inserted>& inserted);

} // namespace cognitum::reader
