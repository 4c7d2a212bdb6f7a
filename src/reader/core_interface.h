// The stand-in of the core's headers that programs are parsed with (data/core_interface).
#pragma once

#include "reader/parse.h"

namespace cognitum::reader {

/// A file's text. Error: it is not there, cannot be read, or is larger than any program.
Result<std::string> read_text(const std::string& path);
/// The headers; one without text of its own for each whose content stands in core.h. The pins of a board come
/// beside them as "pins.h".
Result<std::vector<SourceText>> core_interface(const std::string& data_folder);

} // namespace cognitum::reader
