// What the findings say while one number of a plan takes other values: at which value each comes and goes, and with
// which numbers in its words, beside what was read by a person and kept in tests/fixtures/said/sweeps.txt.
#include "core/plan/findings.h"
#include "support/defects.h"
#include "support/run_tests.h"
#include "support/said.h"
#include "support/ways_out.h"

#include <algorithm>
#include <functional>
#include <map>
#include <set>

using namespace cognitum;
using test::catalog;

namespace {

struct Subject {
    const char *kind, *part, *board;
};
const char* const eight_bit = "board-5v-8bit-6-analog";
const char* const wifi = "board-3v3-12bit-wifi";
const std::vector<Subject> subjects = {
    {"temperature", "analog-thermometer-with-offset", eight_bit},
    {"temperature", "ntc-10k-in-divider", wifi},
    {"temperature", "rtd-100-analog", eight_bit},
    {"temperature", "one-wire-probe-waterproof", wifi},
    {"temperature", "thermocouple-k-spi", eight_bit},
    {"temperature", "current-loop-temperature", "board-3v3-dual-core-3-analog"},
    {"temperature", "tyre-beacon", wifi},
    {"humidity", "humidity-coarse-single-wire", eight_bit},
    {"pressure", "air-pressure-i2c", wifi},
    {"level", "echo-ranger-sealed", eight_bit},
    {"level", "pressure-transducer-water", wifi},
    {"rain", "tipping-bucket", eight_bit},
    {"conductivity", "conductivity-analog", wifi},
    {"weight", "load-cell-amplifier", wifi},
    {"pulse-rate", "pulse-probe-reflective", "board-3v3-wifi-1-analog"},
    {"soil-moisture", "soil-resistive", eight_bit},
    {"flow", "flow-turbine", wifi},
    {"carbon-dioxide", "co2-infrared-serial", wifi},
    {"contact", "reed-contact", eight_bit},
    {"voltage", "battery-divider", "board-3v3-12bit-lithium"},
};

struct Sweep {
    const char* name;
    std::function<void(Bench&, double)> set;
    std::vector<double> values;
};

template <typename Member>
std::function<void(Bench&, double)> quantity(Member member) {
    return [member](Bench& b, double v) { b.readings[0].quantity.*member = v; };
}
template <typename Member>
std::function<void(Bench&, double)> wiring(Member member) {
    return [member](Bench& b, double v) {
        b.readings[0].wiring.*member = static_cast<std::decay_t<decltype(b.readings[0].wiring.*member)>>(v);
    };
}
template <typename Member>
std::function<void(Bench&, double)> board(Member member) {
    return [member](Bench& b, double v) {
        b.boards[0].*member = static_cast<std::decay_t<decltype(b.boards[0].*member)>>(v);
    };
}
std::function<void(Bench&, double)> around(bool Surroundings::*member) {
    return [member](Bench& b, double v) { b.readings[0].quantity.around.*member = v > 0; };
}

const std::vector<Sweep>& sweeps() {
    static const std::vector<Sweep> all = {
        {"cable m", wiring(&Wiring::cable_m), {0, 1, 2, 3, 5, 10, 20, 50, 100}},
        {"own supply V", wiring(&Wiring::own_supply_V), {1.8, 2.7, 3.3, 4.5, 5, 9, 12, 24, 30, 40}},
        {"pull-up ohm", wiring(&Wiring::pull_up_ohm), {470, 1000, 2200, 4700, 10000, 47000, 1e6}},
        {"address", wiring(&Wiring::address), {1, 0x38, 0x76, 0x77, 0x78, 0xEC, 0xEE}},
        {"not joined", wiring(&Wiring::ground_joined), {0}},
        {"parasite", wiring(&Wiring::parasite), {1}},
        {"turned", wiring(&Wiring::turned), {1}},
        {"decoupled", wiring(&Wiring::decoupled), {1}},
        {"low", quantity(&Quantity::low), {-300, -60, -20, 0, 1}},
        {"high", quantity(&Quantity::high), {2, 30, 60, 90, 130, 300, 1500, 6000}},
        {"accuracy", quantity(&Quantity::accuracy), {1e-4, 0.01, 0.1, 0.5, 1, 3, 10}},
        {"interval s", quantity(&Quantity::interval_s), {1e-4, 0.005, 0.02, 0.1, 0.5, 10, 600, 7200}},
        {"sample s", quantity(&Quantity::sample_s), {0.001, 0.01, 0.1, 1, 5}},
        {"change s", quantity(&Quantity::change_s), {0.01, 0.5, 2, 10, 60, 600}},
        {"stale s", quantity(&Quantity::stale_s), {0.5, 1, 3, 30}},
        {"altitude m", quantity(&Quantity::altitude_m), {-100, 900, 3000}},
        {"hottest degC",
         [](Bench& b, double v) { b.readings[0].quantity.around.hottest_degC = v; },
         {60, 80, 100, 125, 260}},
        {"water", around(&Surroundings::water), {1}},
        {"food", around(&Surroundings::food), {1}},
        {"outdoors", around(&Surroundings::outdoors), {1}},
        {"beside the regulator", around(&Surroundings::beside_regulator), {1}},
        {"board's supply V", board(&BoardUse::supply_V), {3, 3.3, 3.7, 4.5, 5, 6, 7, 9, 12, 20, 24}},
        {"adapter V", board(&BoardUse::adapter_V), {3.3, 5}},
        {"bus pull-up ohm", board(&BoardUse::i2c_pull_up_ohm), {300, 1000, 2200, 10000, 47000}},
        {"bus kHz", board(&BoardUse::i2c_kHz), {10, 400, 1000, 3400}},
        {"ambient degC", board(&BoardUse::ambient_degC), {-40, 40, 60, 85}},
        {"bytes in a line", board(&BoardUse::bytes_per_line), {20, 200, 2000}},
        {"code's speed", board(&BoardUse::code_baud), {9600, 57600}},
        {"upload s", board(&BoardUse::upload_s), {1, 20, 600}},
        {"radio on", board(&BoardUse::radio_on), {1}},
        {"speed",
         [](Bench& b, double v) { b.boards[0].link.baud = static_cast<int>(v); },
         {300, 1200, 4800, 9600, 57600, 250000, 1e6}},
        {"sleeps s, awake for a second",
         [](Bench& b, double v) {
             b.boards[0].sleep_s = v;
             b.boards[0].wake_s = 1;
         },
         {1, 9, 60, 600, 86400}},
        {"vessel's mount mm",
         [](Bench& b, double v) {
             b.readings[0].quantity.vessel.shape = "upright-cylinder";
             b.readings[0].quantity.vessel.width_mm = 600;
             b.readings[0].quantity.vessel.height_mm = 1000;
             b.readings[0].quantity.vessel.full_mm = 900;
             b.readings[0].quantity.vessel.mount_mm = v;
         },
         {500, 920, 1050, 1200, 1500, 6000}},
        {"funnel cm2, with 5 mL a tip",
         [](Bench& b, double v) {
             b.readings[0].quantity.funnel = {v, 5};
         },
         {10, 100, 400}},
    };
    return all;
}

struct Said {
    std::string message, reason;
    bool operator==(const Said&) const = default;
};
using Words = std::map<std::string, Said>;

/// `ways_out`: each way out that is offered, with what it changes, at its first place.
Words words_of(const Bench& bench, std::set<std::string>* ways_out = nullptr) {
    Words out;
    for (const Finding& f : check_bench(bench, catalog())) {
        if (ways_out && f.action && ways_out->insert(f.id + " " + f.action->label).second)
            ways_out->insert(fmt::format("{} → {}", f.id, test::way_out(bench, f)));
        Said& said = out[f.id];
        said.message +=
            fmt::format("{}[{}] {}", said.message.empty() ? "" : " ", severity_name(f.severity), f.message);
        said.reason = f.why + " " + f.fix;
    }
    return out;
}

/// What is said at this value and was not at the last one, with its reason where that is new, and what is no longer
/// said.
void add_differences(std::string& out, const std::string& at, const Words& before, const Words& now) {
    for (const auto& [id, said] : now) {
        const auto known = before.find(id);
        if (known != before.end() && known->second == said) continue;
        const bool as_before = known != before.end() && known->second.reason == said.reason;
        out += fmt::format("  {}: {} {} {}\n", at, id, said.message, as_before ? "…" : said.reason);
    }
    for (const auto& [id, said] : before)
        if (!now.contains(id)) out += fmt::format("  {}: no {}\n", at, id);
}

void add_ways_out(std::string& out, const std::set<std::string>& ways_out) {
    for (const std::string& way : ways_out)
        if (way.find(" → ") != std::string::npos) out += "  " + way + "\n";
}

std::function<void(Bench&, double)> module_number(double Module::*member) {
    return [member](Bench& b, double v) { b.modules[0].*member = v; };
}

/// What may be changed about a module, or about how many there are.
const std::vector<Sweep>& sweeps_of_a_module() {
    static const std::vector<Sweep> all = {
        {"on the rails, one after the other",
         [](Bench& b, double v) {
             const auto& rails = catalog().board(b.boards[0].card)->rails;
             b.modules[0].rail =
                 v < static_cast<double>(rails.size()) ? rails[static_cast<std::size_t>(v)].label : "";
         },
         {0, 1, 2, 3}},
        {"own supply V", module_number(&Module::own_supply_V), {1.8, 2.5, 3.3, 4.5, 5, 6, 9, 12, 24, 36}},
        {"own supply of 5 V, grounds not joined",
         [](Bench& b, double) {
             b.modules[0].own_supply_V = 5;
             b.modules[0].ground_joined = false;
         },
         {1}},
        {"address",
         [](Bench& b, double v) { b.modules[0].address = static_cast<int>(v); },
         {0x20, 0x48, 0x4B, 0x70, 0x78}},
        {"as many of them",
         [](Bench& b, double v) {
             for (int i = 1; i < static_cast<int>(v); ++i) {
                 b.modules.push_back(b.modules[0]);
                 b.modules.back().id = b.modules.back().name = fmt::format("m{}", i);
                 b.modules.back().pins.clear();
             }
             b = assign_pins(b, catalog(), Keep::placed, "gauge").bench;
         },
         {2, 4, 8, 14}},
        {"fourteen of them, each with 5 V of its own",
         [](Bench& b, double) {
             b.modules[0].own_supply_V = 5;
             for (int i = 1; i < 14; ++i) {
                 b.modules.push_back(b.modules[0]);
                 b.modules.back().id = b.modules.back().name = fmt::format("m{}", i);
             }
         },
         {1}},
        {"switched by the reading", [](Bench& b, double) { b.modules[0].switched_by = b.readings[0].id; }, {1}},
        {"switched by a rule of the reading, and by one of another",
         [](Bench& b, double v) {
             WatchRule rule;
             rule.id = rule.name = "dark";
             WatchCondition c;
             c.reading = v > 1 ? "nobody" : b.readings[0].id;
             c.when = WatchWhen::below;
             rule.conditions = {c};
             b.watch_rules = {rule};
             LoadControl control;
             control.id = control.name = "night";
             control.load = v > 2 ? "other" : b.modules[0].id;
             control.rule = rule.id;
             b.controls = {control};
         },
         {1, 2, 3}},
        {"screened, and so switched",
         [](Bench& b, double) {
             b.modules[0].switched_by = b.readings[0].id;
             b.modules[0].screened = true;
         },
         {1}},
        {"its first leg on a pin that is not there",
         [](Bench& b, double) {
             if (!b.modules[0].pins.empty()) b.modules[0].pins[0].pin = "99";
         },
         {1}},
        {"its first leg on the reading's pin",
         [](Bench& b, double) {
             const auto& pins = b.readings[0].wiring.pins;
             if (!b.modules[0].pins.empty() && !pins.empty()) b.modules[0].pins[0].pin = pins[0].pin;
         },
         {1}},
        {"board's supply V", board(&BoardUse::supply_V), {3, 5, 12}},
    };
    return all;
}

/// A module on this board beside a reading, which is wired through it where it has channels for that.
Bench bench_with_module(const PartCard& module, const Subject& subject) {
    Bench bench = test::bench_with(subject.kind, subject.part, subject.board);
    bench.boards[0].link.kind = LinkKind::serial;
    Module m = test::module_of(module.id.c_str(), "m", catalog().board(subject.board)->rails.front().label.c_str());
    if (module.kind != PartKind::load && module.kind != PartKind::receiver) {
        bench.readings[0].wiring.pins.clear();
        bench.readings[0].wiring.module = "m";
    }
    return test::with_modules(bench, {m});
}

} // namespace

class TestSaidOfSweeps : public QObject {
    Q_OBJECT

  private slots:
    void plans() {
        std::string out;
        for (const Subject& subject : subjects) {
            Bench bench = test::bench_with(subject.kind, subject.part, subject.board);
            bench.boards[0].link.kind = LinkKind::serial;
            out += fmt::format("{} on {}\n", subject.part, subject.board);
            std::set<std::string> ways_out;
            const Words plain = words_of(bench, &ways_out);
            add_differences(out, "as it is placed", {}, plain);
            for (const Sweep& sweep : sweeps()) {
                Words before = plain;
                for (const double value : sweep.values) {
                    Bench changed = bench;
                    sweep.set(changed, value);
                    const Words now = words_of(changed, &ways_out);
                    add_differences(out, fmt::format("{} {}", sweep.name, test::five_digits(value)), before, now);
                    before = now;
                }
            }
            add_ways_out(out, ways_out);
        }
        test::compare_said("sweeps", out);
    }
    /// What is said where the first wire of a part goes to each pin of each board: pins with the same sentences
    /// together.
    void pins() {
        std::string out;
        for (const BoardCard& card : catalog().boards) {
            if (!card.not_advised.empty()) continue;
            for (const auto& [kind, part] : {std::pair("contact", "reed-contact"),
                                             {"temperature", "analog-thermometer-with-offset"},
                                             {"temperature", "one-wire-probe-waterproof"},
                                             {"level", "echo-ranger-open"},
                                             {"light", "light-i2c"}}) {
                const Bench bench = test::bench_with(kind, part, card.id.c_str());
                if (bench.readings[0].wiring.pins.empty()) continue;
                const Words plain = words_of(bench);
                std::map<std::string, std::string> pins_of;
                for (const Pin& pin : card.pins) {
                    Bench moved = bench;
                    moved.readings[0].wiring.pins[0].pin = pin.label;
                    std::string said;
                    for (const auto& [id, words] : words_of(moved))
                        if (const auto known = plain.find(id); known == plain.end() || known->second != words)
                            said += " " + id;
                    pins_of[said] += " " + pin.label;
                }
                for (const auto& [said, pins] : pins_of)
                    out += fmt::format("{} on {}:{}:{}\n", part, card.id, pins, said.empty() ? " nothing" : said);
            }
        }
        test::compare_said("sweeps_of_pins", out);
    }
    void modules() {
        std::string out;
        for (const Subject& subject :
             {Subject{"temperature", "analog-thermometer-with-offset", eight_bit}, {"light", "light-i2c", wifi}})
            for (const PartCard& module : catalog().parts) {
                if (module.kind == PartKind::sensor) continue;
                const Bench bench = bench_with_module(module, subject);
                out += fmt::format("{} beside {} on {}\n", module.id, subject.part, subject.board);
                std::set<std::string> ways_out;
                const Words plain = words_of(bench, &ways_out);
                add_differences(out, "as it is placed", {}, plain);
                for (const Sweep& sweep : sweeps_of_a_module()) {
                    Words before = plain;
                    for (const double value : sweep.values) {
                        Bench changed = bench;
                        sweep.set(changed, value);
                        const Words now = words_of(changed, &ways_out);
                        add_differences(out, fmt::format("{} {}", sweep.name, test::five_digits(value)), before,
                                        now);
                        before = now;
                    }
                }
                add_ways_out(out, ways_out);
            }
        test::compare_said("sweeps_of_modules", test::each_line_once(out));
    }
};

RUN_TESTS_OF(TestSaidOfSweeps)
#include "tst_said_of_sweeps.moc"
