// A garden whose pump follows the bed's soil, for tests of loads.
#pragma once

#include "core/act/load_keeper.h"
#include "core/act/load_words.h"
#include "support/support.h"

namespace cognitum::test {

inline WatchCondition looks(const char* reading, WatchWhen when, double value, std::optional<double> clear = {}) {
    WatchCondition out;
    out.reading = reading;
    out.when = when;
    out.value = value;
    out.clear = clear;
    return out;
}

inline Reading reading_of(const char* id, const char* kind, const char* unit, double high) {
    Reading out;
    out.id = out.name = id;
    out.quantity.kind = kind;
    out.quantity.unit = unit;
    out.quantity.low = 0;
    out.quantity.high = high;
    out.quantity.interval_s = 1;
    out.quantity.stale_s = 10;
    return out;
}

/// A bed that is dry below 25 %, back above 40 %; a cistern; a light; and a pump that follows the bed.
inline Bench garden() {
    Bench bench = small_bench();
    bench.readings = {reading_of("bed", "soil-moisture", "%", 100), reading_of("cistern", "volume", "L", 1500),
                      reading_of("light", "light", "lx", 1000)};
    Module pump;
    pump.id = "pump";
    pump.name = "bed pump";
    pump.part = "pump-5v";
    pump.board = "gauge";
    bench.modules = {pump};
    WatchRule dry;
    dry.id = "dry";
    dry.name = "Dry";
    dry.conditions = {looks("bed", WatchWhen::below, 25, 40)};
    bench.watch_rules = {dry};
    LoadControl c;
    c.id = "water";
    c.name = "Water the bed";
    c.load = "pump";
    c.rule = "dry";
    c.acts = true;
    c.on_line = "load pump on {s}";
    c.off_line = "load pump off";
    c.time_out_s = 60;
    bench.controls = {c};
    return bench;
}

/// Feeds one control and keeps what it did, as "12 on rule_holds".
class Bed {
  public:
    explicit Bed(const Bench& bench, const DoubtOf& doubt_of = {})
        : m_bench(bench), judge(bench.controls[0], bench.watch_rules[0], bench, doubt_of) {}
    void at(int second, double wet, double litres = 900) {
        line("bed", second, wet);
        line("cistern", second, litres);
    }
    void line(const char* reading, int second, double value) {
        const auto& all = judge.readings();
        const auto place = std::find(all.begin(), all.end(), reading) - all.begin();
        if (place < static_cast<std::ptrdiff_t>(all.size()))
            judge.take(static_cast<int>(place), second * second_us, value, events);
    }
    void pass(int second) { judge.pass(second * second_us, events); }
    QStringList said() {
        QStringList out;
        for (const LoadEvent& e : events)
            out << QStringLiteral("%1 %2: %3")
                       .arg(e.time / second_us)
                       .arg(e.on ? "on" : "off",
                            QString::fromStdString(plain(
                                cause_says(m_bench.controls[0], judge.readings(), e.cause, e.which, m_bench))));
        events.clear();
        return out;
    }

  private:
    Bench m_bench;

  public:
    LoadJudge judge;
    std::vector<LoadEvent> events;
};

} // namespace cognitum::test
