// Bytes on an asynchronous serial wire, bit by bit: what a receiver makes of them at another speed.
#pragma once

#include <string>
#include <string_view>

namespace cognitum::demo {

/// Bytes sent with 8 data bits, no parity and one stop bit at `sent_baud`, as a receiver at `heard_baud` samples
/// them in the middle of its own bits. Equal speeds give the same bytes; a byte whose stop bit is not high is heard
/// as well, as most receivers do.
std::string as_heard(std::string_view bytes, double sent_baud, double heard_baud);

} // namespace cognitum::demo
