// Bytes of a link through every decoder: the first byte picks the format, the second how the stream is cut.
#include "core/decode/stream.h"
#include "fuzz.h"

#include <array>
#include <cmath>

using namespace cognitum;

namespace {
constexpr std::array formats = {"auto",
                                "table",
                                "pairs",
                                "json",
                                "senml",
                                "text",
                                "scratchpad",
                                "humidity40",
                                "frames start=0D end=54",
                                "frames end=0A",
                                "record sync=AA55 little u16:level i16:temperature u8 crc16-modbus",
                                "record big f4:a u8 sum8",
                                "record sync=55 u16:a crc8"};
}

HARNESS(decoder)(const std::uint8_t* data, std::size_t size) {
    if (size < 2) return 0;
    const auto format = parse_format(formats[data[0] % formats.size()]);
    const std::size_t piece = 1 + data[1] % 61;
    const std::string_view bytes = text_of(data + 2, size - 2);
    Stream stream(format.value_or(Format{}), data[0] % 2 == 0);
    TimeUs now = 1'700'000'000'000'000;
    TimeUs last = 0;
    for (std::size_t at = 0; at < bytes.size(); at += piece) {
        now += 10'000;
        for (const Stream::Row& row : stream.feed(bytes.substr(at, piece), now)) {
            PROMISE(row.row < stream.records().rows.size());
            if (data[0] % 2 != 0) PROMISE(row.time > last); // by arrival, times grow
            last = row.time;
        }
        for (const auto& cell : stream.records().cells)
            PROMISE(cell.field < stream.decoder().fields().size());
    }
    stream.finish(now);
    const StreamFacts facts = stream.facts();
    PROMISE(facts.odd_bytes <= facts.bytes && facts.bytes <= bytes.size());
    PROMISE(!stream.decoder().format_text().empty());
    return 0;
}
