#include "core/program/skeleton.h"

namespace cognitum::program {

const char* const skeleton_head = R"(// $board$: the program of the $card$, written from the plan of "$bench$".
// Plan $plan$. Change the plan and write it again rather than change it here: the first line that the board
// sends names the plan, so that a difference is seen.
//
// It sends one record a line, each value at its own interval:   seq=12 ms=34567$example$
// What was not measured is a word, never a number.
//
$about$//
// Caution: unplug whatever is on the mains before a programming lead is connected.
$includes$$outbox$
#if !defined(IRAM_ATTR)
#define IRAM_ATTR // boards that run from slow memory want what an interrupt calls in fast memory, and define it
#endif

struct Task {
    const char* field;   // its name in the records
    unsigned long every; // ms
    unsigned long least; // ms, between two questions that its part bears
    unsigned long last;  // ms, when it was due
    bool now;            // do not wait
    bool asked;          // its part is measuring
    unsigned long asked_at;
};
Task tasks[] = {
$tasks$};
const byte TASKS = sizeof tasks / sizeof tasks[0];
$task_names$
unsigned long sequence = 0;
float measured = NAN; // by the part that was read last; NAN: it gave no number
bool line_open = false;
bool wave_on = true;

// True when it is its turn. A turn that was missed is not made up for.
bool due(Task& task) {
    const unsigned long now = millis();
    const unsigned long every = task.every > task.least ? task.every : task.least;
    const unsigned long since = now - task.last;
    if (since < task.least && task.last != 0) return false;
    if (!task.now && since < every) return false;
    task.last = task.now || since >= 2 * every ? now : task.last + every;
    task.now = false;
    return true;
}

// Begins a record where none is open, and the next value in it.
void field(const Task& task) {
    if (!line_open) {
        Serial.print(F("seq="));
        Serial.print(sequence++);
        Serial.print(F(" ms="));
        Serial.print(millis());
        line_open = true;
    }
    Serial.print(' ');
    Serial.print(task.field);
    Serial.print('=');
    measured = NAN;
}

// What was measured: a number, and where there is none the drivers below print a word instead.
void say(float value, byte digits) {
    measured = value;
    Serial.print(value, digits);
}
void say_count(long value) {
    measured = value;
    Serial.print(value);
}
)";

const char* const skeleton_values = R"(
// A value by the plan's constants, beside the raw number.
void say_value(const __FlashStringHelper* name, float value, byte digits) {
    Serial.print(name);
    if (isnan(value))
        Serial.print(F("none"));
    else
        Serial.print(value, digits);
}
)";

const char* const skeleton_restart = R"(
#if defined(__AVR__)
#include <avr/sleep.h>
#include <avr/wdt.h>
// Why it began, before the core's own code forgets it. A boot loader may have cleared it already.
byte restart_cause __attribute__((section(".noinit")));
void keep_restart_cause() __attribute__((naked, used, section(".init3")));
void keep_restart_cause() {
    restart_cause = MCUSR;
    MCUSR = 0;
    wdt_disable();
}
void print_restart() {
    if (restart_cause & 1 << BORF && !(restart_cause & 1 << PORF))
        Serial.print(F("brown-out"));
    else if (restart_cause & 1 << WDRF)
        Serial.print(F("watchdog"));
    else if (restart_cause & 1 << EXTRF && !(restart_cause & 1 << PORF))
        Serial.print(F("reset"));
    else
        Serial.print(restart_cause & 1 << PORF ? F("power") : F("unknown"));
}
void watchdog_begin() { wdt_enable(WDTO_4S); }
void watchdog_pat() { wdt_reset(); }
#else
// On this board the program sets no watchdog, and does not know why it began.
void print_restart() { Serial.print(F("unknown")); }
void watchdog_begin() {}
void watchdog_pat() {}
#endif
)";

const char* const skeleton_reference = R"(
#if defined(INTERNAL1V1)
#define OWN_1V1 INTERNAL1V1
#elif defined(INTERNAL)
#define OWN_1V1 INTERNAL
#endif
const char* reference_now = "supply";
byte last_pin = 255; // that was converted; its first conversion after another is not used
// What analog inputs are measured against: the supply, or a voltage of the board's own.
bool use_reference(const char* word) {
    if (!strcmp(word, reference_now)) return true;
$choices$    return false;
}
)";

const char* const skeleton_each_reference = R"(
// Readings of this board measure against different references: 20 ms where it changes, and the first conversion after
// it is not used.
void choose_reference(const char* word) {
    if (!strcmp(word, reference_now)) return;
    use_reference(word);
    last_pin = 255;
}
)";

const char* const skeleton_loads = R"(
// What it switches. Each is off before its pin drives, and goes off by itself when it was not told for so long.
struct Load {
    const char* name;
    byte pin, on_level;
    unsigned long time_out; // s, when it is told without one
    bool on;
    unsigned long since, stays; // ms
};
Load loads[] = {
$loads$};
const byte LOADS = sizeof loads / sizeof loads[0];

void switch_load(Load& load, bool on) {
    load.on = on;
    digitalWrite(load.pin, on ? load.on_level : !load.on_level);
}
void begin_loads() {
    for (byte i = 0; i < LOADS; ++i) {
        switch_load(loads[i], false);
        pinMode(loads[i].pin, OUTPUT);
    }
}
void end_loads() {
    for (byte i = 0; i < LOADS; ++i)
        if (loads[i].on && millis() - loads[i].since >= loads[i].stays) {
            switch_load(loads[i], false);
            Serial.print(F("# load "));
            Serial.print(loads[i].name);
            Serial.println(F(" off: it was not told again"));
        }
}
// "NAME on [SECONDS]" or "NAME off"
bool obey_load(char* rest) {
    for (byte i = 0; i < LOADS; ++i) {
        const size_t length = strlen(loads[i].name);
        if (strncmp(rest, loads[i].name, length) || rest[length] != ' ') continue;
        char* word = rest + length + 1;
        if (!strcmp(word, "off")) {
            switch_load(loads[i], false);
            return true;
        }
        if (strncmp(word, "on", 2) || (word[2] != 0 && word[2] != ' ')) return false;
        unsigned long seconds = loads[i].time_out;
        if (word[2] == ' ') {
            char* end;
            seconds = strtoul(word + 3, &end, 10);
            if (*end != 0 || seconds == 0 || seconds > 86400UL) return false;
        }
        loads[i].since = millis();
        loads[i].stays = 1000UL * seconds;
        switch_load(loads[i], true);
        return true;
    }
    return false;
}
)";

const char* const skeleton_commands = R"(
void print_answer(const char* word, const char* rest) {
    Serial.print(F("# ok "));
    Serial.print(word);
    if (rest) {
        Serial.print(' ');
        Serial.print(rest);
    }
    Serial.println();
}

// "interval MS" for all, "interval MS FIELD" for one of them.
bool obey_interval(char* rest) {
    char* end;
    const unsigned long every = strtoul(rest, &end, 10);
    if (end == rest || every < 5 || every > 3600000UL || (*end != 0 && *end != ' ')) return false;
    bool found = false;
    for (byte i = 0; i < TASKS; ++i)
        if (*end == 0 || !strcmp(end + 1, tasks[i].field)) {
            tasks[i].every = every;
            found = true;
        }
    return found;
}

void obey(char* line) {
    char* rest = strchr(line, ' ');
    if (rest) *rest++ = 0;
    bool done = false;
    if (!strcmp(line, "help") && !rest) {
        Serial.println(F("# ok help: interval MS [FIELD], send, wave on|off, who$reference_help$$load_help$"));
        return;
    }
    if (!strcmp(line, "who") && !rest) return introduce();
    if (!strcmp(line, "interval") && rest) {
        done = obey_interval(rest);
    } else if (!strcmp(line, "send") && !rest) {
        for (byte i = 0; i < TASKS; ++i)
            tasks[i].now = true;
        done = true;
    } else if (!strcmp(line, "wave") && rest && (!strcmp(rest, "on") || !strcmp(rest, "off"))) {
        wave_on = !strcmp(rest, "on");
        done = true;
    }$reference_obey$$load_obey$
    if (done) {
        print_answer(line, rest);
    } else {
        Serial.print(F("# error \""));
        Serial.print(line);
        Serial.println(F("\" is not understood; send help"));
    }
}

void listen() {
    static char line[48];
    static byte length = 0;
    while (Serial.available() > 0) {
$heard$        const char c = Serial.read();
        if (c == '\r') continue;
        if (c != '\n') {
            if (length < sizeof line) line[length++] = c;
            continue;
        }
        if (length == sizeof line) {
            Serial.println(F("# error the line is too long"));
        } else if (length > 0) {
            line[length] = 0;
            obey(line);
        }
        length = 0;
    }
}
)";

const char* const skeleton_rest = R"(#if defined(__AVR__)
    set_sleep_mode(SLEEP_MODE_IDLE);
    sleep_mode(); // until the next interrupt, a millisecond at most: it draws less
#endif
)";

const char* const skeleton_setup = R"(
// The first line says who it is, the plan that it was written from, and why it began.
void introduce() {
    Serial.print(F("# board=$id$ plan=$plan$ bits=$bits$ reference="));
    Serial.print($reference_word$);
    Serial.print(F(" restart="));
    print_restart();
    Serial.println(F(" commands=help,interval,send,wave,who$command_words$"));
    Serial.println(F("# fields seq ms$field_words$"));
}
)";

const char* const skeleton_loop = R"(
void setup() {
$begin_loads$    Serial.begin($baud$);
$setup$$radio_begin$    introduce();
    for (byte i = 0; i < TASKS; ++i)
        tasks[i].now = true;
    watchdog_begin();
}

void loop() {
    watchdog_pat();
    listen();
$every_turn$$turns$    if (line_open) {
        Serial.println();
        line_open = false;
    }
$network_turn$$rest$}
)";

} // namespace cognitum::program
