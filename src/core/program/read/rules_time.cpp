#include "core/program/read/reading_rules.h"

#include "core/base/letters.h"
#include "core/base/phrase.h"
#include "core/plan/path.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum::program {

namespace {

constexpr double silent_intervals = 5; ///< a reading is silent when no line came for so many of its intervals

void waits(const Trial& t, ReadFindings& out) {
    for (const auto& [at, wait] : t.usual().waits) {
        if (wait.in_interrupt)
            out.push_back(found(t, "wait-in-interrupt", Severity::error, wait.place,
                                phrase("It waits {} inside an interrupt.", wait_text(wait.longest_ms)),
                                phrase("Nothing else runs meanwhile; on most boards the clock stands still there "
                                       "and it waits for ever.")));
        const CallSeen* dog = t.usual().call("wdt_enable");
        static const std::vector<double> dog_ms = {15, 30, 60, 120, 250, 500, 1000, 2000, 4000, 8000};
        if (dog && !dog->given.empty()) {
            const auto i = static_cast<std::size_t>(std::clamp(dog->given[0].number(), 0.0, 9.0));
            if (wait.longest_ms > dog_ms[i])
                out.push_back(found(t, "wait-longer-than-watchdog", Severity::error, wait.place,
                                    phrase("It waits {}; the watchdog restarts the board after {}.",
                                           wait_text(wait.longest_ms), wait_text(dog_ms[i])),
                                    phrase("The board restarts again and again.")));
        }
    }
}

void intervals(const Trial& t, ReadFindings& out) {
    const Waited* wait = longest_wait(t.usual());
    for (const SentNumber& s : t.sent) {
        if (!s.reading || s.interval_s <= 0) continue;
        const Reading& r = *s.reading;
        const bool wave = !r.source.collect.empty() && r.quantity.sample_s > 0;
        const double wanted = wave ? r.quantity.sample_s : r.quantity.interval_s;
        if (wanted <= 0) continue;
        if (wave ? s.interval_s <= 1.5 * wanted : s.interval_s <= silent_intervals * wanted) continue;
        // A wait is to blame when it makes up most of the interval.
        const bool blocks = wait && wait->longest_ms / 1000 > 0.4 * s.interval_s;
        const CodePlace place = blocks ? wait->place : s.place;
        if (std::any_of(out.begin(), out.end(), [&](const ReadFinding& f) {
                return f.line == place.line && (f.id == "too-slow" || f.id == "wave-too-slow");
            }))
            continue;

        const double others_ms = s.interval_s * 1000 - (wait ? wait->longest_ms : 0);
        out.push_back(
            found(t, wave ? "wave-too-slow" : "too-slow", wave ? Severity::error : Severity::look, place,
                  wave ? phrase("It takes a sample of {} every {}; the plan wants one every {}.", r.name,
                                wait_text(s.interval_s * 1000), wait_text(wanted * 1000))
                       : phrase("It sends {} every {}; the plan wants it every {}.", r.name,
                                wait_text(s.interval_s * 1000), wait_text(wanted * 1000)),
                  wave ? phrase("Beats between two samples are not seen.")
                       : phrase("By the plan it counts as silent in between."),
                  blocks ? t.mended(wait->argument,
                                    code_number(std::max(
                                        1.0, std::floor(wanted * 1000 - std::max(0.0, wave ? others_ms : 0)))))
                         : std::string(),
                  r.id));
    }
}

void pulse_without_end(const Trial& t, ReadFindings& out) {
    for (const CallSeen& call : t.usual().calls) {
        if (call.name != "pulseIn" || call.by_default.size() < 3) continue;
        double longest_us = 30000, echo_us = 0;
        std::string reading, name;
        for (const Reading& r : t.bench->readings)
            if (const ProofReading* asked = t.asked(r.id);
                asked && asked->input == ProofInput::echo_us && t.card->pin(asked->pin)) {
                const auto far = inverse(effective_path(r), r.quantity.low),
                           near = inverse(effective_path(r), r.quantity.high);
                const double us = std::max(far.ok() ? far.number : 0.0, near.ok() ? near.number : 0.0);
                if (us <= echo_us && !reading.empty()) continue;
                reading = r.id;
                name = r.name;
                echo_us = us;
                if (us > 0) longest_us = std::ceil(us * 1.3 / 1000) * 1000;
            }
        if (!call.by_default[2]) {
            const double given_us = call.given[2].number();
            if (echo_us <= 0 || given_us >= echo_us) continue;
            const Literal* literal = own_literal(call.given[2].literals);
            out.push_back(found(
                t, "time-out-too-short", Severity::error, literal ? literal->place : call.place,
                phrase("pulseIn() waits {}; the longest echo of {} takes {}.", wait_text(given_us / 1000), name,
                       wait_text(echo_us / 1000)),
                phrase("A far target is told as no echo at all."),
                literal ? t.mended(literal->place, fmt::format("{:.0f}", longest_us)) : std::string(), reading));
            continue;
        }
        const std::string& line = t.tree->line(call.place);
        const auto at = static_cast<std::size_t>(std::max(0, call.place.column - 1));
        std::string text = at < line.size() && call.place.length > 0
                               ? line.substr(at, static_cast<std::size_t>(call.place.length))
                               : std::string();
        if (text.ends_with(")")) text = text.substr(0, text.size() - 1) + fmt::format(", {:.0f})", longest_us);
        out.push_back(found(t, "no-time-out", Severity::look, call.place,
                            phrase("pulseIn() waits a whole second when no echo comes."),
                            phrase("Nothing else is done meanwhile. The longest echo of the plan takes {}.",
                                   wait_text(longest_us / 1000)),
                            t.mended(call.place, text), reading));
    }
}

void interrupt_prints(const Trial& t, ReadFindings& out) {
    for (const CodePlace& place : t.usual().prints_in_interrupt)
        out.push_back(found(t, "print-in-interrupt", Severity::look, place,
                            phrase("It prints inside an interrupt."),
                            phrase("When the port’s memory is full it waits for an interrupt that cannot come.")));
}

void question_marks(const Trial& t, ReadFindings& out) {
    for (const auto& [line, place] : t.usual().unprinted)
        out.push_back(found(t, "no-number-printed", Severity::error, place,
                            phrase("It prints a question mark, not a number."),
                            phrase("The library of the 8-bit boards has no %f. Print the number by itself, or make "
                                   "its text with dtostrf().")));
}

bool calls_any(const SyntaxTree& tree, const std::vector<std::string>& words) {
    return std::any_of(tree.functions.begin(), tree.functions.end(), [&](const CodeFunction& f) {
        if (f.body != nothing && f.place.file == nothing) return false;
        const std::string name = letters::small(f.name);
        return std::any_of(words.begin(), words.end(),
                           [&](const std::string& w) { return name.find(w) != std::string::npos; });
    });
}

/// It stands somewhere without a person beside it.
bool stands_alone(const Trial& t) {
    return t.use->sleep_s > 0 || t.use->link.kind == LinkKind::mqtt || t.use->link.kind == LinkKind::http;
}

void interrupts_off(const Trial& t, ReadFindings& out) {
    if (t.usual().interrupts_off.line > 0)
        out.push_back(found(t, "interrupts-stay-off", Severity::error, t.usual().interrupts_off,
                            phrase("It switches interrupts off and does not switch them on again."),
                            phrase("Nothing is counted from then on, and the board’s clock stands still: delay() "
                                   "never comes back.")));
}

void alone(const Trial& t, ReadFindings& out) {
    const bool watched = calls_any(*t.tree, {"wdt", "watchdog"});
    const CodeFunction& setup = t.tree->functions[static_cast<std::size_t>(t.tree->setup)];
    for (const Module& m : t.bench->modules) {
        const PartCard* part = t.catalog->part(m.part);
        if (m.board != t.use->id || !part || part->kind != PartKind::load) continue;
        for (const Connection& c : m.pins) {
            const auto use = t.usual().pins.find(c.pin);
            if (use == t.usual().pins.end() || use->second.writes.empty() || watched) continue;
            out.push_back(found(t, "load-without-watchdog", Severity::error, use->second.writes.front().first,
                                phrase("{} stays on when the program hangs.", m.name),
                                phrase("Nothing restarts the board: no watchdog is set."), {}));
        }
    }
    if (stands_alone(t) && !watched)
        out.push_back(found(t, "no-watchdog", Severity::note, setup.place, phrase("No watchdog is set."),
                            phrase("A board that stands alone and hangs stays silent until somebody comes.")));
    const bool sleeps = calls_any(*t.tree, {"light_sleep", "sleep_mode", "sleep_cpu"});
    const CallSeen* on = t.usual().call("WiFi.begin");
    if (on && sleeps && !t.usual().call("WiFi.off") && !calls_any(*t.tree, {"deep_sleep", "deepsleep"}))
        out.push_back(found(t, "radio-on-in-sleep", Severity::look, on->place,
                            phrase("The radio stays on while it sleeps."),
                            phrase("It takes more than all else together. Switch it off before sleep.")));
}

} // namespace

void look_at_time(const Trial& trial, ReadFindings& out) {
    waits(trial, out);
    intervals(trial, out);
    pulse_without_end(trial, out);
    interrupt_prints(trial, out);
    interrupts_off(trial, out);
    question_marks(trial, out);
    alone(trial, out);
}

} // namespace cognitum::program
