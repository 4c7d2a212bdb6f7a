// A program compiled for an 8-bit board with the real compiler, where it is installed.
#pragma once

#include "core/base/error.h"

#include <cstdint>
#include <string>

namespace cognitum::machine {

struct Compiled {
    std::string elf;                     ///< path
    std::uint32_t flash = 0, memory = 0; ///< bytes: of the program; of variables before it runs
    std::uint32_t loop_address = 0;
};
inline constexpr std::uint32_t flash_there = 32256, memory_there = 2048; ///< bytes, beside a boot loader

/// What is missing on this computer to compile at all; empty: nothing.
std::string missing_tools();

/// `source`: a file of setup() and loop(); `folder`: where to work; `cache`: where the boards' core stays compiled.
/// Error: what the compiler said, at most its first lines; or that it does not fit, with numbers.
Result<Compiled> compile(const std::string& source, const std::string& folder, const std::string& cache);

/// What loaders take: Intel hexadecimal.
Result<void> write_hex(const Compiled& program, const std::string& path);

} // namespace cognitum::machine
