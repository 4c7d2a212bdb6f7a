// Is a bench file sound?
#pragma once

#include "store/samples/samples.h"

#include <optional>

namespace cognitum {

struct Problem {
    std::string where;                  ///< reading and block, or the part of the file
    std::string what;                   ///< what is wrong, and from when to when where it is about samples
    std::optional<TimeUs> from{}, to{}; ///< of the samples it is about
};
struct VerifyReport {
    std::uint64_t samples = 0; ///< that can be read
    std::vector<Problem> problems;
};
/// Reads everything: SQLite's own integrity check, every block, every summary, every plan row. Changes nothing.
Result<VerifyReport> verify(BenchFile& file);

} // namespace cognitum
