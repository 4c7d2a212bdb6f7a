// What the main function of a program without a window is: an exception that nobody expected ends it with a
// sentence.
#pragma once

#include <cstdio>
#include <exception>

namespace cognitum {

/// Runs `run` and gives its exit code; after an exception one line on standard error, and `broke_off`.
inline int guarded_main(const char* program, int (*run)(int, char**), int argc, char** argv,
                        int broke_off) noexcept {
    try {
        return run(argc, argv);
    } catch (const std::exception& e) {
        std::fputs(program, stderr);
        std::fputs(": it broke off: ", stderr);
        std::fputs(e.what(), stderr);
        std::fputs("\n", stderr);
        return broke_off;
    }
}

} // namespace cognitum
