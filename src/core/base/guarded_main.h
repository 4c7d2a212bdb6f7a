// What the main function of a program without a window is: an exception that nobody expected ends it with a
// sentence.
#pragma once

#include <exception>

namespace cognitum {

/// Runs `run` and gives its exit code; after an exception `say` gets what it was, and the code is `broke_off`.
inline int guarded_main(int (*run)(int, char**), int argc, char** argv, void (*say)(const char* what),
                        int broke_off) noexcept {
    try {
        return run(argc, argv);
    } catch (const std::exception& e) {
        say(e.what());
        return broke_off;
    }
}

} // namespace cognitum
