// The fingerprint of samples: what a report rests on, and how anybody finds it again.
#pragma once

#include "core/stretch/stretch.h"
#include "store/file/bench_file.h"

#include <string>
#include <vector>

namespace cognitum {

/// SHA-256 over the readings' ids and, in order of time, each sample's time, raw number, value and cause; the first
/// 16 hexadecimal digits. A reading that cannot be read is an error, or is passed over when `unreadable` is given.
Result<std::string> samples_fingerprint(BenchFile& file, const std::vector<std::string>& readings,
                                        const Interval& stretch, std::vector<std::string>* unreadable = nullptr);

/// SHA-256 of a text, the first 16 hexadecimal digits.
std::string text_fingerprint(const std::string& text);

} // namespace cognitum
