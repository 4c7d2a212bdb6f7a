#include "store/file/file_header.h"

#include "core/base/phrase.h"
#include "store/file/bench_file.h"

#include <array>
#include <cstring>
#include <filesystem>
#include <fmt/format.h>
#include <fstream>

namespace cognitum {

namespace fs = std::filesystem;

namespace {

std::uint32_t big_endian(const std::array<unsigned char, 100>& header, std::size_t at) {
    return static_cast<std::uint32_t>(header[at]) << 24 | static_cast<std::uint32_t>(header[at + 1]) << 16 |
           static_cast<std::uint32_t>(header[at + 2]) << 8 | header[at + 3];
}

} // namespace

FileHeader read_file_header(const std::string& path) {
    const auto is = [&](FileKind kind, std::string what, std::string fix) {
        return FileHeader{kind, Error{std::move(what), path, std::move(fix)}};
    };
    std::error_code code;
    if (!fs::exists(path, code))
        return is(FileKind::missing, phrase("there is no such file."), phrase("Check the name."));
    if (!fs::is_regular_file(path, code))
        return is(FileKind::missing, phrase("this is not a file."), phrase("Choose a .cognitum file."));
    if (const auto identity = identity_of(path); identity && is_open_here(*identity))
        return {}; // it was looked at when it was opened, and must not be opened beside SQLite
    std::ifstream in(path, std::ios::binary);
    if (!in)
        return is(FileKind::missing, phrase("the file cannot be read."), phrase("Ask for permission to read it."));
    std::array<unsigned char, 100> header{};
    in.read(reinterpret_cast<char*>(header.data()), static_cast<std::streamsize>(header.size()));
    const std::uintmax_t size = fs::file_size(path, code);
    if (in.gcount() < 100 || std::memcmp(header.data(), "SQLite format 3", 16) != 0)
        return is(FileKind::foreign, size == 0 ? phrase("the file is empty.") : phrase("this is not a bench."),
                  size == 0 ? phrase("Make a new bench of that name, or choose another file.")
                            : phrase("Choose a .cognitum file."));
    if (big_endian(header, 68) != static_cast<std::uint32_t>(bench_application_id))
        return is(FileKind::foreign, phrase("this is a database of another program, not a bench."),
                  phrase("Choose a .cognitum file."));
    if (const auto version = big_endian(header, 60); version > bench_version)
        return is(FileKind::newer,
                  phrase("this bench was written by a newer Cognitum (file version {}, this program knows {}).",
                         version, bench_version),
                  phrase("Open it with that version; it was left untouched."));
    // While a write-ahead log is there, the main file may lag behind its own header.
    const bool has_log = fs::exists(path + "-wal", code) && fs::file_size(path + "-wal", code) > 0;
    std::uint64_t page_size = static_cast<std::uint64_t>(header[16]) << 8 | header[17];
    if (page_size == 1) page_size = 65536;
    const std::uint64_t wanted = page_size * big_endian(header, 28);
    if (!has_log && size < wanted)
        return is(FileKind::truncated, phrase("the file is truncated: {} of {} bytes are there.", size, wanted),
                  phrase("Take a copy or a backup; this one was left untouched."));
    return {};
}

} // namespace cognitum
