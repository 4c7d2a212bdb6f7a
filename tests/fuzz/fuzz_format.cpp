// The text of a format, as a person types it: what is read is written and read again as the same.
#include "core/decode/message_format.h"
#include "fuzz.h"

using namespace cognitum;

HARNESS(format)(const std::uint8_t* data, std::size_t size) {
    const auto format = parse_format(text_of(data, size));
    if (!format) return 0;
    const auto again = parse_format(format_text(*format));
    PROMISE(again && *again == *format);
    return 0;
}
