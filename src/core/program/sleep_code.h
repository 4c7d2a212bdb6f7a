// Deep sleep between records, of the 8-bit board whose proof runs here: its watchdog's timer wakes it for what is
// due, and a sign at its serial port.
#pragma once

#include "core/program/driver.h"

namespace cognitum::program {

/// Why this reading keeps its board awake; empty: it does not.
std::string keeps_awake(const Placed& placed, const Driver& driver);
/// Functions and interrupts. `converts`: it measures with its own converter, which is off meanwhile.
std::string sleep_text(bool converts);
extern const char* const sleep_setup; ///< statements of setup()
extern const char* const sleep_heard; ///< statements where a sign came to its port
extern const char* const sleep_rest;  ///< statements at the end of loop()

} // namespace cognitum::program
