#include "reader/core_interface.h"

#include "core/base/json_reader.h"

#include <filesystem>
#include <fstream>
#include <sstream>

namespace cognitum::reader {

namespace fs = std::filesystem;

Result<std::string> read_text(const std::string& name) {
    const fs::path path = name;
    constexpr std::uintmax_t most = 8U << 20;
    std::error_code trouble;
    if (!fs::is_regular_file(path, trouble)) return failure("there is no such file.", path.string());
    if (fs::file_size(path, trouble) > most) return failure("it is larger than any program.", path.string());
    std::ifstream in(path, std::ios::binary);
    std::ostringstream out;
    out << in.rdbuf();
    if (!in) return failure("it cannot be read.", path.string());
    return out.str();
}

Result<std::vector<SourceText>> core_interface(const std::string& data_folder) {
    std::vector<SourceText> out;
    const fs::path folder = fs::path(data_folder) / "core_interface";
    std::error_code trouble;
    for (const auto& entry : fs::recursive_directory_iterator(folder, trouble)) {
        if (!entry.is_regular_file()) continue;
        COGNITUM_TRY(text, read_text(entry.path().string()));
        out.push_back({fs::relative(entry.path(), folder).string(), text});
    }
    if (out.empty())
        return failure("the stand-in of the core’s headers is not there.", folder.string(),
                       "Install the program again.");
    for (const char* name : {"math.h",           "cmath",           "string.h",
                             "cstring",          "stdlib.h",        "cstdlib",
                             "stdio.h",          "cstdio",          "stdint.h",
                             "cstdint",          "inttypes.h",      "stddef.h",
                             "cstddef",          "stdbool.h",       "limits.h",
                             "climits",          "float.h",         "ctype.h",
                             "Print.h",          "Stream.h",        "WString.h",
                             "HardwareSerial.h", "WiFi.h",          "HTTPClient.h",
                             "WiFiClient.h",     "avr/pgmspace.h",  "avr/interrupt.h",
                             "avr/eeprom.h",     "pins_of_board.h", "binary.h"})
        out.push_back({name, "// All of it stands in core.h.\n"});
    return out;
}

} // namespace cognitum::reader
