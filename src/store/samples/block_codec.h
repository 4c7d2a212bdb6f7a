// Blocks of samples as bytes: times by second differences, numbers by dictionary or by byte planes, all through
// zstd with its checksum. The layout is docs/file-format.md; it is part of the file, so a change needs a new
// version byte.
#pragma once

#include "core/base/error.h"
#include "store/samples/sample.h"

#include <span>
#include <string>
#include <vector>

namespace cognitum {

inline constexpr std::size_t samples_per_block = 4096;
inline constexpr std::size_t runs_per_block = 64; ///< entries of a digest

std::string encode_block(std::span<const Sample> samples);
/// Error when the bytes are not a whole, unaltered block.
Result<std::vector<Sample>> decode_block(std::string_view bytes);

Summary summarise(std::span<const Sample> samples);
Summary summarise(std::span<const Summary> parts);
/// Neighbours joined so that at most `most` remain, by equal spans of time, so that a gap stays a gap.
std::vector<Summary> thinned(std::span<const Summary> parts, std::size_t most);
/// At most runs_per_block summaries of equal runs.
std::vector<Summary> digest_of(std::span<const Sample> samples);

std::string encode_digest(std::span<const Summary> digest);
Result<std::vector<Summary>> decode_digest(std::string_view bytes);

} // namespace cognitum
