// Which format is this? Every candidate reads a sample of what arrived; the one that explains most of it wins, and
// says why, and who came second.
#pragma once

#include "core/decode/message_format.h"

#include <string>
#include <string_view>
#include <vector>

namespace cognitum {

struct FormatGuess {
    Format format;
    double score = 0;   ///< 0…1: share of the bytes explained, less a little for formats that explain anything
    std::string reason; ///< "18 of 20 lines are names and values"
};

/// Best first; at most the first 64 KiB are looked at. Empty: nothing explains half of it.
/// A last line without an end is left out, and so is a first one when it is the only misfit.
std::vector<FormatGuess> guess_formats(std::string_view bytes);

/// Why nothing fits, for a person: wrong speed, not enough yet.
std::string no_format_reason(std::string_view bytes);

/// Share of bytes that printable text, tabs and line ends make up, 0…1; what a port at the right speed shows.
double text_share(std::string_view bytes);

} // namespace cognitum
