// What the receiving side of the bench takes, for the plan and for the links.
#pragma once

#include <cstddef>

namespace cognitum {

inline constexpr int http_posts_per_s = 200;            ///< of one board
inline constexpr std::size_t http_longest_body = 65536; ///< bytes

} // namespace cognitum
