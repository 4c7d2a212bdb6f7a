#include "core/program/sleep_code.h"

#include "core/base/phrase.h"
#include "core/units/quantity_kind.h"

#include <fmt/format.h>

namespace cognitum::program {

std::string keeps_awake(const Placed& placed, const Driver& driver) {
    const std::string& name = placed.reading->name;
    if (driver.own_lines) return phrase("{} is a wave.", name);
    if (driver.counts) return phrase("{} counts pulses, which it would miss.", name);
    if (placed.part->warm_up_s > 0 && quantity_kind(placed.reading->quantity.kind).is_state())
        return phrase("{} may happen at any time, and its part warms up for {:.0f} s.", name,
                      placed.part->warm_up_s);
    return {};
}

// The watchdog's oscillator has a nominal 128 kHz and is off by up to a tenth; its periods are 16 ms times powers
// of two. Its change needs two writes within four clock cycles. Edges at the interrupt pins 2 and 3 do not wake
// this processor from power-down, changes at a pin do (data sheets of the 8-bit processors, chapters on sleep
// modes, watchdog timer and external interrupts).
std::string sleep_text(bool converts) {
    const char* const text = R"(
// Between records it sleeps: clock, converter and port stand still. Its watchdog's timer wakes it for what is due, and
// so does a sign at its port, which is lost itself: send an empty line first, then it listens for ten seconds.
extern volatile unsigned long timer0_millis; // the core's clock
const unsigned long LISTENS_MS = 10000;
unsigned long heard_at = 0;
float watchdog_ms = 16; // its shortest period, measured at the start
volatile bool watchdog_woke = false, port_woke = false;
ISR(WDT_vect) { watchdog_woke = true; }
ISR(PCINT2_vect) { port_woke = true; }

// Both writes must come within four clock cycles: nothing is computed between them.
void __attribute__((noinline)) set_watchdog(byte control) {
    WDTCSR = 1 << WDCE | 1 << WDE;
    WDTCSR = control;
}

// Periods are 16 ms times powers of two, up to 8 s. It interrupts, and does not restart.
void watchdog_wakes(byte period) {
    watchdog_woke = false;
    noInterrupts();
    wdt_reset();
    set_watchdog(1 << WDIE | (period & 8 ? 1 << WDP3 : 0) | (period & 7));
    wdt_reset(); // the period begins now
    interrupts();
}

void measure_watchdog() {
    const byte period = 3;
    const unsigned long began = micros();
    watchdog_wakes(period);
    set_sleep_mode(SLEEP_MODE_IDLE);
    while (!watchdog_woke)
        sleep_mode();
    watchdog_ms = (micros() - began) / 1000.0 / (1 << period);
    watchdog_begin();
}

unsigned long until_due() {
    unsigned long least = 3600000UL;
    for (byte i = 0; i < TASKS; ++i) {
        if (tasks[i].now || tasks[i].asked) return 0;
        const unsigned long every = tasks[i].every > tasks[i].least ? tasks[i].every : tasks[i].least;
        const unsigned long since = millis() - tasks[i].last;
        if (since >= every) return 0;
        if (every - since < least) least = every - since;
    }
    return least;
}

// False: what is due next comes sooner than it could wake.
bool sleep_deeply() {
    const unsigned long most = until_due();
    if (watchdog_ms > most) return false;
    byte period = 0;
    while (period < 9 && watchdog_ms * (2UL << period) <= most)
        ++period;
    Serial.flush();
    const unsigned long before = millis();
    const byte converter = ADCSRA;
    ADCSRA = 0;
    port_woke = false;
    PCIFR = 1 << PCIF2;
    PCMSK2 = 1 << 0; // RX
    PCICR |= 1 << PCIE2;
    watchdog_wakes(period);
    set_sleep_mode(SLEEP_MODE_PWR_DOWN);
    while (!watchdog_woke && !port_woke)
        sleep_mode();
    PCICR &= ~(1 << PCIE2);
    watchdog_begin();
    ADCSRA = converter;
    if (port_woke) {
        heard_at = millis(); // how long it slept nobody knows: its clock is behind by up to 8 s
    } else {
        const unsigned long slept = watchdog_ms * (1UL << period);
        noInterrupts();
        const unsigned long gone = timer0_millis - before;
        if (slept > gone) timer0_millis += slept - gone;
        interrupts();
    }
$after$    return true;
}
)";
    // A reference of its own was off, and charges the capacitor at its pin again.
    const char* const after = R"(    last_pin = 255;
    if (strcmp(reference_now, "supply")) delay(20); // its own reference comes back
)";
    return fill(text, {{"after", converts ? after : ""}});
}

const char* const sleep_setup = "    measure_watchdog();\n";
const char* const sleep_heard = "        heard_at = millis();\n";
const char* const sleep_rest = R"(    if (millis() - heard_at < LISTENS_MS || !sleep_deeply()) {
        set_sleep_mode(SLEEP_MODE_IDLE);
        sleep_mode(); // until the next interrupt, a millisecond at most
    }
)";

} // namespace cognitum::program
