// What every harness shares: a promise that does not hold ends the run, so that the fuzzer keeps the input.
#pragma once

#include <cstddef>
#include <cstdint>
#include <cstdio>
#include <string_view>

#define PROMISE(condition)                                                                                         \
    do {                                                                                                           \
        if (!(condition)) {                                                                                        \
            std::fprintf(stderr, "broken promise: %s (%s:%d)\n", #condition, __FILE__, __LINE__);                  \
            __builtin_trap();                                                                                      \
        }                                                                                                          \
    } while (false)

inline std::string_view text_of(const std::uint8_t* data, std::size_t size) {
    return {reinterpret_cast<const char*>(data), size};
}

/// HARNESS(csv)(const std::uint8_t* data, std::size_t size) { …; return 0; }
#define HARNESS(name)                                                                                              \
    static int fuzz_##name(const std::uint8_t*, std::size_t);                                                      \
    [[maybe_unused]] static const bool listed_##name = list_harness(#name, fuzz_##name);                           \
    static int fuzz_##name

using Harness = int (*)(const std::uint8_t* data, std::size_t size);
/// Always true.
bool list_harness(const char* name, Harness harness);
