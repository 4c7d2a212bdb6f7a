#include "machine/compile.h"

#include "core/base/json_reader.h"
#include "core/base/phrase.h"

#include <array>
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <fmt/format.h>
#include <fstream>
#include <sstream>
#include <sys/wait.h>
#include <unistd.h>
#include <vector>

namespace cognitum::machine {

namespace {

namespace fs = std::filesystem;

// The packaged core interface.
const fs::path platform = "/usr/share/arduino/hardware/arduino/avr";
const fs::path core = "/usr/share/arduino/hardware/arduino/avr/cores/arduino";
const fs::path header_of_core = "/usr/share/arduino/hardware/arduino/avr/cores/arduino/Arduino.h";

struct Ran {
    int code = 0;
    std::string said;
};

/// Runs a command for at most a minute; what it says, bounded, in the words that are looked for below.
Ran run(const std::string& command) {
    constexpr std::size_t most = 65536;
    Ran out;
    FILE* pipe = ::popen(("LC_ALL=C timeout 60 " + command + " 2>&1").c_str(), "r"); // NOLINT: quoted by the caller
    if (!pipe) return {127, "it cannot be started"};
    std::array<char, 4096> piece{};
    while (const std::size_t n = std::fread(piece.data(), 1, piece.size(), pipe))
        if (out.said.size() < most) out.said.append(piece.data(), n);
    const int state = ::pclose(pipe);
    out.code = WIFEXITED(state) ? WEXITSTATUS(state) : 128;
    return out;
}

std::string in_quotes(const std::string& text) {
    std::string out = "'";
    for (const char c : text)
        out += c == '\'' ? std::string("'\\''") : std::string(1, c);
    return out + "'";
}

std::string flags() {
    const std::string interface = in_quotes(core.string());
    const std::string pins = in_quotes((platform / "variants/standard").string());
    const std::string wire = in_quotes((platform / "libraries/Wire/src").string());
    const std::string bus = in_quotes((platform / "libraries/SPI/src").string());
    return fmt::format("-mmcu=atmega328p -DF_CPU=16000000L -DDECIMAL_DIG=__DECIMAL_DIG__ -Os -ffunction-sections "
                       "-fdata-sections -I{} -I{} -I{} "
                       "-I{}/utility -I{}",
                       interface, pins, wire, wire, bus);
}

/// The core and its two bus libraries, compiled once for each folder.
Result<std::string> core_archive(const fs::path& cache, const fs::path& folder) {
    const fs::path archive = cache / "core-1.a"; // another number when the flags change
    if (fs::exists(archive)) return archive.string();
    fs::create_directories(cache);
    std::string script;
    int number = 0;
    std::string objects;
    for (const fs::path& part : {core, platform / "libraries/Wire/src", platform / "libraries/Wire/src/utility",
                                 platform / "libraries/SPI/src"})
        for (const auto& entry : fs::directory_iterator(part)) {
            const std::string kind = entry.path().extension().string();
            if (kind != ".c" && kind != ".cpp" && kind != ".S") continue;
            const std::string object = in_quotes((folder / fmt::format("core{}.o", number++)).string());
            script += fmt::format(
                "{} {} -w -c {} -o {} && ",
                kind == ".cpp" ? "avr-g++ -std=gnu++11 -fno-exceptions -fno-threadsafe-statics" : "avr-gcc",
                flags() + (kind == ".S" ? " -x assembler-with-cpp" : ""), in_quotes(entry.path().string()), object);
            objects += " " + object;
        }
    const fs::path beside = cache / fmt::format("core-{}.part", ::getpid());
    const Ran made = run("sh -c " + in_quotes(script + "avr-ar rcs " + in_quotes(beside.string()) + objects));
    if (made.code != 0)
        return failure(phrase("The boards’ core could not be compiled."), platform.string(),
                       made.said.substr(0, 2000));
    fs::rename(beside, archive);
    return archive.string();
}

/// The address of a symbol in the output of avr-nm; 0: it is not there.
std::uint32_t address_of(const std::string& symbols, const std::string& name) {
    std::istringstream in(symbols);
    for (std::string line; std::getline(in, line);) // "00000abc T loop"; of what is not defined there is no address
        if (line.size() > 11 && line.substr(11) == name)
            return static_cast<std::uint32_t>(std::strtoul(line.c_str(), nullptr, 16));
    return 0;
}

/// Bytes of a section in the output of avr-size -A.
std::uint32_t section(const std::string& sizes, const std::string& name) {
    const auto at = sizes.find("\n" + name + " ");
    return at == std::string::npos
               ? 0
               : static_cast<std::uint32_t>(std::strtoul(sizes.c_str() + at + 1 + name.size(), nullptr, 10));
}

} // namespace

std::string missing_tools() {
    if (run("avr-g++ --version").code != 0)
        return phrase("the compiler for the 8-bit boards (package gcc-avr) is not installed");
    if (!fs::exists(platform))
        return phrase("the core interface of the 8-bit boards (package arduino-core-avr) is not installed");
    return {};
}

/// The linker's words when it is too large, as a sentence; empty: they say something else.
static std::string too_large(const std::string& said) {
    constexpr unsigned long memory_begin = 0x800100;
    if (said.find("within region `data'") != std::string::npos) {
        const auto at = said.find("address 0x");
        const unsigned long end = at == std::string::npos ? 0 : std::strtoul(said.c_str() + at + 8, nullptr, 16);
        if (end > memory_begin)
            return phrase("The program does not fit: it needs {} of {} bytes of memory.", end - memory_begin,
                          memory_there);
    }
    if (said.find("within region") == std::string::npos && said.find("overflowed") == std::string::npos) return {};
    return phrase("The program does not fit into {} bytes of flash and {} of memory.", flash_there, memory_there);
}

Result<Compiled> compile(const std::string& source, const std::string& folder, const std::string& cache) {
    if (std::string missing = missing_tools(); !missing.empty())
        return failure(phrase("The program cannot be compiled here: ") + missing + ".", source,
                       phrase("Run tools/install."));
    fs::create_directories(folder);
    COGNITUM_TRY(archive, core_archive(cache, folder));
    Compiled out;
    out.elf = (fs::path(folder) / "program.elf").string();
    const std::string header = in_quotes(header_of_core.string());
    const std::string object = in_quotes((fs::path(folder) / "program.o").string());
    const Ran compiled = run(fmt::format("avr-g++ {} -std=gnu++11 -fno-exceptions -fno-threadsafe-statics -Wall "
                                         "-Wextra -include {} -x c++ -c {} -o {}",
                                         flags(), header, in_quotes(source), object));
    if (compiled.code != 0)
        return failure(phrase("The program does not compile."), source, compiled.said.substr(0, 2000));
    const Ran linked = run(fmt::format("avr-gcc {} -Wl,--gc-sections -o {} {} {} -lm", flags(), in_quotes(out.elf),
                                       object, in_quotes(archive)));
    const std::string advice = phrase("Leave some readings of this board out, or average less.");
    if (std::string large = too_large(linked.said); linked.code != 0 && !large.empty())
        return failure(large, source, advice);
    if (linked.code != 0) return failure(phrase("The program does not link."), source, linked.said.substr(0, 2000));
    out.loop_address = address_of(run("avr-nm " + in_quotes(out.elf)).said, "loop");
    const std::string sizes = run("avr-size -A " + in_quotes(out.elf)).said;
    out.flash = section(sizes, ".text") + section(sizes, ".data");
    out.memory = section(sizes, ".data") + section(sizes, ".bss") + section(sizes, ".noinit");
    if (out.flash > flash_there || out.memory > memory_there)
        return failure(phrase("The program does not fit: it needs {} of {} bytes of flash and {} of {} of memory.",
                              out.flash, flash_there, out.memory, memory_there),
                       source, phrase("Leave some readings of this board out, or average less."));
    return out;
}

Result<void> write_hex(const Compiled& program, const std::string& path) {
    const Ran made =
        run(fmt::format("avr-objcopy -O ihex -R .eeprom {} {}", in_quotes(program.elf), in_quotes(path)));
    if (made.code != 0)
        return failure(phrase("The compiled program could not be written."), path, made.said.substr(0, 500));
    return {};
}

} // namespace cognitum::machine
