// What a file is that somebody gave without saying for what: dropped on the window, or named at the start.
#pragma once

#include "core/base/error.h"

#include <string>

namespace cognitum {

enum class GivenFile {
    bench,   ///< or one that is cut short, or of a newer version: opening it says so
    table,   ///< samples: CSV, JSON, SenML
    card,    ///< of a part or a board, or a recipe
    program, ///< of a board
};

/// By its first bytes and its ending; JSON by its keys. Error: it is none of them, or cannot be read.
Result<GivenFile> what_is(const std::string& path);

} // namespace cognitum
