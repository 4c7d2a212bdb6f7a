// Lines, messages and records as boards send them, for the texts of what is made of them.
#pragma once

#include <functional>
#include <string>
#include <string_view>
#include <vector>

namespace cognitum::test {

struct Sent {
    const char* what;
    const char* format; ///< as it is told; auto: it is found
    std::string bytes;
};

inline std::string from_hex(std::string_view hex) {
    std::string out;
    for (std::size_t i = 0; i + 1 < hex.size(); i += 3)
        out += static_cast<char>(std::stoi(std::string(hex.substr(i, 2)), nullptr, 16));
    return out;
}

inline std::string rows_of(int times, const std::function<std::string(int)>& line) {
    std::string out;
    for (int i = 0; i < times; ++i)
        out += line(i);
    return out;
}

inline const std::vector<Sent> streams = {
    {"three columns", "auto", "21.5,48,1013.2\n21.6,47,1013.1\n21.6,47,1013.2\n"},
    {"a header line", "auto", "millis,t_degC,rh\n1000,21.5,48\n2000,21.6,47\n3000,nan,47\n"},
    {"semicolons and commas for points", "auto", "t;rh\n21,5;48,2\n21,6;47,9\n21,7;47,8\n"},
    {"tabs", "auto", "21.5\t48\n21.6\t47\n21.7\t46\n"},
    {"blanks", "auto", "  21.5  48\n  21.6  47\n  21.7  46\n"},
    {"one number", "auto", "512\r\n513\r\n515\r\n"},
    {"hexadecimal is no number", "auto", "0x1F\n0x20\n0x21\n"},
    {"names and values", "auto", "t=21.5 rh=48 p=1013.2hPa\nt=21.6 rh=47 p=1013.1hPa\nt=21.6 rh=-- p=1013.2hPa\n"},
    {"names with colons", "auto", "Temp: 21.5 C, Hum: 48 %\nTemp: 21.6 C, Hum: 47 %\nTemp: nan C, Hum: 47 %\n"},
    {"a sentence", "auto", "The tank holds 812 mm now\nThe tank holds 811 mm now\nThe tank holds 811 mm now\n"},
    {"states", "auto", "door=open t=4.1\ndoor=closed t=4.2\ndoor=open t=4.2\n"},
    {"several senders", "auto", "id=FL kPa=221 t=18\nid=FR kPa=219 t=19\nid=FL kPa=222 t=18\n"},
    {"a time in each line", "auto",
     "2026-06-05T09:00:00Z,21.5\n2026-06-05T09:00:10Z,21.6\n2026-06-05T09:00:20Z,21.6\n"},
    {"sequence numbers, one lost and one doubled", "auto",
     "seq=1 t=20\nseq=2 t=21\nseq=4 t=22\nseq=4 t=22\nseq=5 t=23\n"},
    {"a board that begins again", "auto",
     "# gauge 1.2\nms,t\n1000,20\n2000,21\n3000,22\n# gauge 1.2\nms,t\n1000,23\n2000,24\n"},
    {"milliseconds that go back", "auto", "ms=1000 t=1\nms=2000 t=2\nms=1500 t=3\nms=2500 t=4\n"},
    {"JSON", "auto", "{\"t\":21.5,\"rh\":48}\n{\"t\":21.6,\"rh\":null}\n{\"air\":{\"t\":4.5,\"ok\":true}}\n"},
    {"broken JSON", "auto", "{\"t\":21.5}\n{\"t\":21.6\n{\"t\":21.7}\n{\"t\":}\n{\"t\":21.8}\n"},
    {"SenML", "senml",
     "[{\"bn\":\"shed/"
     "\",\"bt\":1780650000,\"n\":\"t\",\"u\":\"Cel\",\"v\":21.5},{\"n\":\"rh\",\"u\":\"%RH\",\"v\":48,\"t\":5}]\n"},
    {"SenML with words, states and sums", "senml",
     "[{\"bn\":\"hut/"
     "\",\"bu\":\"Cel\",\"bv\":20,\"n\":\"t\",\"v\":1.5},{\"n\":\"door\",\"vb\":true},{\"n\":\"lamp\",\"vb\":1},"
     "{\"n\":\"who\",\"vs\":\"FL\"},{\"n\":\"n\",\"vs\":\"21.5\"},{\"n\":\"kWh\",\"s\":3},{\"v\":7,\"t\":-3}]\n"},
    {"SenML with a time of its own", "senml",
     "[{\"n\":\"t\",\"v\":1,\"t\":1780650000},{\"n\":\"t\",\"v\":2,\"t\":1780650010.5}]\n[{\"n\":\"t\",\"v\":3,"
     "\"t\":268435455}]\n"},
    {"sums that hold and one that does not", "auto", "21.5,48*38\n21.6,47*34\n21.7,46*00\n"},
    {"sentences with a sum", "auto", "$WIMTW,18.3,C*07\n$WIMTW,18.4,C*00\n$WIMTW,18.5,C*00\n"},
    {"a line too long", "auto", "1,2\n3,4\n" + std::string(70000, '7') + "\n5,6\n"},
    {"noise before a table", "auto", "\x80\xff\x01\x02garbage\n1.5,2.5\n1.6,2.6\n1.7,2.7\n"},
    {"words for failures", "auto", "t=21.5\nt=fail\nt=85\nt=-127\nt=open\nt=overflow\n"},
    {"words for a failure", "auto",
     "Distance: 81.2 cm, T: 21.5\nDistance: out of range, T: 21.6\nDistance: no echo T: 21.6\nDistance: 81.3 cm, "
     "T: 21.6\n"},
    {"words beside a number", "auto",
     "Sensor: front left T=21.5\nSensor: front left T=21.6\nMode: idle since noon\n"},
    {"large and small numbers", "auto", "1e3,-4.5e-3,+7\n1e4,.5,-0\n1e400,5.,7\n"},
    {"columns that change", "auto", "1,2,3\n4,5,6\n7,8\n9,10,11,12\n13,14,15\n"},
    {"empty fields", "auto", "a,b,c\n1,,3\n,2,\n4,5,6\n"},
    {"the memory of a one-wire thermometer", "scratchpad",
     "50 05 4B 46 7F FF 0C 10 1C\n91 01 4B 46 7F FF 0C 10 70\n5E FF 4B 46 7F FF 02 10 B6\n91 01 4B 46 7F FF 0C 10 "
     "71\nzz\n"},
    {"the memory in small letters", "scratchpad", "91 01 4b 46 7f ff 0c 10 70\n"},
    {"forty bits of a humidity sensor", "humidity40", "02 8C 01 5F EE\n02 8C 80 65 73\n02 8C 01 5F EF\n"},
    {"one word for two numbers", "auto",
     "left 5 mm, left 7 mm, right 3 mm\nleft 6 mm, left 8 mm, right 3 mm\nleft 6 mm, left 9 mm, right 4 mm\n"},
    {"numbers between a letter and a return", "auto", "R0123\rR0124\rR0126\rR9999\rR0127\rR01"},
    {"numbers between marks, with something else", "auto",
     rows_of(12,
             [](int i) { return i == 4 ? std::string("\x02??\x03") : "\x02" + std::to_string(210 + i) + "\x03"; })},
    {"quotes around words with commas and brackets", "auto",
     "{\"where\":\"hut, [north} "
     "\\\"a\\\"\",\"t\":21.5}\n{\"where\":\"hut\",\"t\":21.6}\n{\"where\":\"[[\",\"t\":21.7}\n"},
    {"lists in an object", "auto",
     "{\"t\":[21.5,21.6],\"n\":1}\n{\"t\":[21.7,21.8],\"n\":2}\n{\"t\":[21.9],\"n\":3}\n"},
    {"lists alone", "auto", "[21.5,48]\n[21.6,47]\n[21.7,46]\n"},
    {"units at the numbers", "auto", "21.5C 48% 1013hPa\n21.6C 47% 1013hPa\n21.7C 46% 1012hPa\n"},
    {"a unit at the last number alone", "auto", "21,48%\n22,47%\n22,46%\n"},
    {"arrows", "auto", "hut -> 21.5\nrock -> 19.5\nhut -> 21.6\nrock -> 19.6\n"},
    {"a bar of signs", "auto", "|####      | 40\n|#####     | 50\n|######    | 60\n"},
    {"volts with a fraction of words", "auto", "A0: 512 (2.50 V)\nA0: 513 (2.51 V)\nA0: 515 (2.52 V)\n"},
    {"a clock in front", "auto", "12:00:01 -> 21.5 C\n12:00:02 -> 21.6 C\n12:00:03 -> 21.6 C\n"},
    {"a day and a clock in front", "auto",
     "05/06/2026 12:00:01,21.5\n05/06/2026 12:00:02,21.6\n05/06/2026 12:00:03,21.7\n"},
    {"seconds since 1970 in front", "auto", "1780650000,21.5\n1780650010,21.6\n1780650020,21.7\n"},
    {"separators at both ends", "auto", ",21.5,48,\n,21.6,47,\n,21.7,46,\n"},
    {"a name in each row", "auto", "hut,21.5,ok\nrock,19.5,ok\nhut,21.6,low\nrock,19.6,ok\n"},
    {"lines about one number", "text", "level is 812\nlevel is 811\nno level\nlevel is 810\n"},
    {"frames between two bytes", "frames start=0D end=54", from_hex("0D 01 02 03 54 0D 04 05 06 54 99 0D 07 54")},
    {"records with a sum", "record sync=AA55 little u16:level i16:temperature u8 crc16-modbus",
     from_hex("AA 55 2C 03 D7 FF 01 BC 85 AA 55 2C 03 D7 FF 01 85 8A AA 55")},
    {"records with a plain sum", "record sync=55 u16:a sum8", from_hex("55 01 02 03 55 01 02 58 00 55 FF FE 52")},
    {"a table of many rows", "auto",
     rows_of(300, [](int i) { return std::to_string(i) + "," + std::to_string(2 * i) + "\n"; })},
    {"named in a table", "table", "t,rh\n1,2\n3,4\nx,y\n5,6\n"},
    {"told to be pairs, and a header in it", "pairs", "t,rh\nt=1 rh=2\nt=3 rh=4\n"},
};

} // namespace cognitum::test
