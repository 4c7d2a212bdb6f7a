// Payloads of a broker and bodies of posts: what is whole by itself. A zero byte parts two messages.
#include "core/decode/stream.h"
#include "fuzz.h"

using namespace cognitum;

HARNESS(message)(const std::uint8_t* data, std::size_t size) {
    std::string_view rest = text_of(data, size);
    Stream stream;
    TimeUs now = 1'700'000'000'000'000;
    while (!rest.empty()) {
        const std::size_t end = rest.find('\0');
        for (const Stream::Row& row : stream.feed_message(rest.substr(0, end), "pool", now += 1'000'000))
            PROMISE(row.row < stream.records().rows.size());
        for (const auto& cell : stream.records().cells)
            PROMISE(cell.field < stream.decoder().fields().size());
        if (end == std::string_view::npos) break;
        rest.remove_prefix(end + 1);
    }
    PROMISE(stream.facts().rejected <= stream.facts().lines);
    return 0;
}
