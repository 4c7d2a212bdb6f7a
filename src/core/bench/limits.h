// What a bench takes: for its plan, and for the receiving side of its links.
#pragma once

#include <cstddef>

namespace cognitum {

inline constexpr int http_posts_per_s = 200;            ///< of one board
inline constexpr std::size_t http_longest_body = 65536; ///< bytes

inline constexpr std::size_t most_items = 1000; ///< readings, boards, modules and references of a plan, of each

} // namespace cognitum
