// Sentences and pictures whose numbers come from values made here: loads and what ends their runs, rules that were
// tried, arithmetic of boards' programs, programs through parts in between, where parts go and what finds them,
// what is drawn of a calibration; beside what was read by a person and kept in tests/fixtures/said.
#include "core/act/load_words.h"
#include "core/calibrate/fit.h"
#include "core/calibrate/pictures.h"
#include "core/program/program.h"
#include "core/signal_path/board_arithmetic.h"
#include "core/watch/rule_trial.h"
#include "support/calibrations.h"
#include "support/chains.h"
#include "support/defects.h"
#include "support/garden.h"
#include "support/run_tests.h"
#include "support/said.h"

using namespace cognitum;
using test::add_said;
using test::catalog;
using test::five_digits;

namespace {

void add_control(std::string& out, const LoadControl& control, const Bench& bench) {
    add_said(out, "follows", follows_says(control, bench));
    for (const std::string& line : limits_say(control, bench))
        add_said(out, "limit", line);
}

std::string controls() {
    const Bench bench = test::garden();
    LoadControl control = bench.controls[0];
    std::string out = "as it is\n";
    add_control(out, control, bench);
    control.least_on_s = 120;
    control.longest_on_s = 1200;
    control.rest_s = 1800;
    control.least_off_s = 60;
    control.never_while = {test::looks("cistern", WatchWhen::below, 250, 300)};
    control.safe_on = true;
    control.value_within_s = 90;
    control.time_out_s = 0;
    out += "with all limits\n";
    add_control(out, control, bench);
    const std::vector<std::string> readings = {"bed", "cistern"};
    for (int cause = 0; cause <= static_cast<int>(LoadCause::not_acting); ++cause)
        for (const int which : {-1, 0, 1, 2})
            for (const bool on : {false, true})
                if (which < 0 || static_cast<LoadCause>(cause) == LoadCause::kept_off ||
                    static_cast<LoadCause>(cause) == LoadCause::no_value)
                    add_said(
                        out, "event",
                        load_event_says(control, readings, {0, on, static_cast<LoadCause>(cause), which}, bench));
    return out;
}

std::string load_trials() {
    const Bench bench = test::garden();
    const LoadControl& control = bench.controls[0];
    std::string out;
    const auto add = [&](const char* name, const LoadTrial& trial) {
        out += std::string(name) + "\n";
        add_said(out, "says", trial_says(control, trial, bench));
        for (const std::string& line : trial_warns(control, trial, bench))
            add_said(out, "warns", line);
    };
    LoadTrial trial;
    add("without a record", trial);
    trial.trouble = "its rule is gone.";
    add("with trouble", trial);
    trial = {};
    trial.lines = 1000;
    trial.last = 3 * day_us;
    add("never on", trial);
    for (const std::uint64_t runs : {1U, 2U, 3U, 10U, 11U, 700U}) {
        trial.runs = runs;
        trial.runs_without = runs;
        trial.longest = 40 * second_us;
        for (const TimeUs each : {59 * second_us, 60 * second_us, 5 * minute_us}) {
            trial.on = static_cast<TimeUs>(runs) * each;
            add(fmt::format("{} runs of {} s", runs, each / second_us).c_str(), trial);
        }
    }
    trial.runs = 40;
    trial.with_effects = true;
    for (const std::uint64_t without : {0U, 4U, 10U, 20U, 39U, 40U}) {
        trial.runs_without = without;
        add(fmt::format("40 runs, {} without effect", without).c_str(), trial);
    }
    trial.runs_without = 40;
    trial.ends = {0, 30, 5, 1, 2, 0, 0};
    trial.dry_runs = 2;
    trial.dry = 7 * minute_us;
    trial.dry_first = *parse_time("2026-06-02T14:05:30Z");
    trial.dry_reading = "cistern";
    trial.tips = 50;
    trial.tips_missed = 12;
    trial.unseen_silence = 20 * second_us;
    for (const TimeUs blind : {minute_us, minute_us + 1, 9 * minute_us, 11 * minute_us}) {
        trial.blind = blind;
        trial.on = 200 * minute_us;
        add(fmt::format("blind for {} s", blind / second_us).c_str(), trial);
    }
    return out;
}

std::string rule_trials() {
    std::string out;
    WatchRule rule = test::garden().watch_rules[0];
    RuleTrial trial;
    trial.trouble = "Its reading is gone.";
    add_said(out, "trouble", trial_says(rule, trial));
    trial = {};
    add_said(out, "nothing", trial_says(rule, trial));
    trial.lines = 100;
    for (const TimeUs length : {hour_us, day_us, 7 * day_us, 60 * day_us})
        for (const std::uint64_t raised : {0U, 1U, 6U, 7U, 70U})
            for (const WatchRank rank : {WatchRank::note, WatchRank::bad}) {
                trial.first = 5 * day_us;
                trial.last = trial.first + length;
                trial.raised = raised;
                trial.repeated = raised / 3;
                trial.goes_on = raised == 6;
                rule.rank = rank;
                add_said(out, rank == WatchRank::note ? "note" : "alarm",
                         fmt::format("{} ({} a week{})", trial_says(rule, trial), five_digits(trial.told_a_week()),
                                     speaks_too_often(rule, trial) ? ", too often" : ""));
            }
    trial.last = trial.first + 7 * day_us;
    for (const WatchWhen when : {WatchWhen::above, WatchWhen::below})
        for (const double doubt : {0.0, 0.8})
            for (const std::uint64_t calmed : {2U, 30U, 69U}) {
                rule.conditions = {test::looks("bed", when, 25)};
                const auto calm = calmer(rule, trial, doubt, [&](const WatchRule& tried) {
                    RuleTrial result = trial;
                    result.raised = tried.count >= 3 ? calmed : 60;
                    result.repeated = 0;
                    return result;
                });
                add_said(out, "calmer",
                         calm ? fmt::format("{} lines, back at {}", calm->count,
                                            five_digits(calm->conditions[0].clear.value_or(no_number)))
                              : "nothing calms it");
            }
    return out;
}

std::string arithmetic_of_boards() {
    std::string out;
    for (const char* stages :
         {R"({"stage":"adc","bits":10,"reference_V":5},
             {"stage":"linear","zero":0.5,"slope":0.01,"input_unit":"V","unit":"degC"})",
          R"({"stage":"adc","bits":12,"reference_V":3.3,"convention":"2^N-1","centre":false},
             {"stage":"scale","factor":60.6,"offset":-10,"input_unit":"V","unit":"mm"})",
          R"({"stage":"adc","bits":10,"reference_V":1.1},
             {"stage":"linear","zero":0,"slope":0.4,"input_unit":"V","unit":"degC"})",
          R"({"stage":"ratio_divider","fixed_ohm":10000,"unknown":"bottom","bits":10},
             {"stage":"thermistor_beta","r0_ohm":10000,"t0_degC":25,"beta_K":3950})",
          R"({"stage":"echo","temperature_degC":2},{"stage":"level","mount_height_mm":2100})"}) {
        const Chain chain = test::chain_of(stages);
        out += fmt::format("{} → {}\n", chain.first_unit(), chain.last_unit());
        for (const double raw : {-1.0, 0.0, 1.0, 7.0, 139.0, 700.0, 1021.0, 3000.0, 9000.0}) {
            for (const SenderWay& way : sender_ways(chain, raw))
                add_said(out, fmt::format("{} {}", five_digits(raw), way.id).c_str(),
                         fmt::format("prints {} is {} off {}: {} {}", way.prints, five_digits(way.value),
                                     five_digits(way.error), way.what, way.mend));
            add_said(out, "between the conventions", five_digits(convention_gap(chain, raw)));
            if (const auto fixed = with_fixed_speed(chain, raw, 343))
                add_said(out, "fixed speed",
                         fmt::format("{} {} {} {}", five_digits(fixed->fixed_m_s), five_digits(fixed->real_m_s),
                                     five_digits(fixed->distance_mm), five_digits(fixed->result)));
        }
        for (const double factor : {0.0, -0.4883, 0.4883, 0.489, 0.48, 0.0977, 0.3223, 0.0806, 4.88, 0.05, 77.0})
            if (const auto parts = take_apart(factor, chain))
                add_said(out, five_digits(factor).c_str(), parts->sentence);
    }
    return out;
}

/// What a program has of each reading, where a part in between brings it.
std::string programs_through_modules() {
    std::string out;
    const auto add = [&](const char* name, const Bench& bench, const ProgramOptions& options) {
        out += std::string(name) + "\n";
        const auto written = write_program(bench, catalog(), "gauge", options);
        if (!written) {
            add_said(out, "no program", written.error().text());
            return;
        }
        for (const ProgramNote& note : written->notes)
            add_said(out, "note", note.reading + ": " + note.text);
        std::size_t at = 0;
        const std::string& text = written->files.front().text;
        while (at < text.size()) { // the lines that depend on how it is wired
            const std::size_t end = std::min(text.find('\n', at), text.size());
            const std::string line = text.substr(at, end - at);
            for (const char* word : {"choose_", "channel", "ask_converter(", "print_converter(", "SPI.", "pinMode",
                                     "print_count(", "digitalWrite", "First"})
                if (line.find(word) != std::string::npos) {
                    out += "  " + line + "\n";
                    break;
                }
            at = end + 1;
        }
    };
    for (const char* part :
         {"analog-multiplexer-16", "converter-16bit-4ch", "converter-12bit-4ch", "converter-10bit-8ch-spi"}) {
        Bench bench = test::bench_with("temperature", "analog-thermometer-with-offset");
        bench.readings[0].wiring.pins.clear();
        bench.readings[0].wiring.module = "between";
        bench = test::with_modules(bench, {test::module_of(part, "between", "5V")});
        add(part, bench, {});
        ProgramOptions options;
        options.average = 8;
        options.constants = true;
        add((std::string(part) + ", eight conversions, with constants").c_str(), bench, options);
        bench.modules[0].pins.clear();
        add((std::string(part) + " on no pin").c_str(), bench, {});
        for (Connection& c : bench.readings[0].wiring.pins)
            c.pin = "X9";
        add((std::string(part) + ", a channel that it has not").c_str(), bench, {});
    }
    return out;
}

/// Where each part goes on a board that has nothing on it yet, and on one whose radio is on.
std::string assignments() {
    std::string out;
    for (const BoardCard& board : catalog().boards) {
        out += board.id + "\n";
        for (const PartCard& part : catalog().parts) {
            if (part.kind != PartKind::sensor) continue;
            std::string before;
            for (const bool radio : {false, true}) {
                Bench bench = test::small_bench();
                bench.boards[0].card = board.id;
                bench.boards[0].radio_on = radio;
                Reading& reading = bench.readings[0];
                reading.sensor = {};
                reading.wiring = {};
                reading.path = {};
                reading.quantity.kind = part.measures.front().quantity;
                reading.quantity.unit = quantity_kind(reading.quantity.kind).units[0];
                const auto placed = choose_part(bench, catalog(), "air", part.id, "gauge");
                std::string said = placed ? "" : placed.error().what;
                if (placed) {
                    const Wiring& w = placed->readings[0].wiring;
                    said = w.rail + (w.own_supply_V > 0 ? " own " + five_digits(w.own_supply_V) + " V" : "");
                    for (const Connection& c : w.pins)
                        said += fmt::format(", {} on {}", c.leg, c.pin);
                    if (!w.reference.empty()) said += ", reference " + w.reference;
                }
                if (said != before) add_said(out, (part.id + (radio ? ", radio on" : "")).c_str(), said);
                before = said;
            }
        }
    }
    return out;
}

/// Parts that a few words find.
std::string searches() {
    std::string out;
    for (const char* query : {"",
                              "5v",
                              "3.3v",
                              "2.5v",
                              "12v",
                              "30v",
                              "1.7v",
                              "10mv",
                              "10 mV",
                              "3 legs",
                              "13 legs",
                              "i2c",
                              "0x76",
                              "0x77 pressure",
                              "one-wire 5v",
                              "waterproof",
                              "echo 5v",
                              "spi 3.3v",
                              "4-20",
                              "20 mA",
                              "pt100",
                              "100 ohm",
                              "nothing like that",
                              "v",
                              "5",
                              "5 v",
                              "0.5",
                              "level 5v"}) {
        std::string found;
        int n = 0;
        for (const PartCard& part : catalog().parts)
            if (matches_facts(part, query) && ++n <= 12) found += " " + part.id;
        add_said(out, fmt::format("\"{}\"", query).c_str(), fmt::format("{}:{}", n, found));
    }
    return out;
}

void add_dots(std::string& out, const char* name, const std::vector<Dot>& dots) {
    for (const Dot& dot : dots)
        add_said(out, name,
                 fmt::format("{} {} ± {}", five_digits(dot.x), five_digits(dot.y), five_digits(dot.half)));
}

std::string pictures() {
    std::vector<CalibrationPoint> points;
    for (const double at : {0.0, 10.0, 20.0, 30.0, 40.0})
        points.push_back(test::point(at, 1.02 * at - 0.4 + (at == 20 ? 0.3 : 0)));
    points[1].set_aside = "it was not steady";
    points.push_back(test::point(25, 25.3));
    points.back().check = true;
    for (std::size_t i = 0; i < points.size(); ++i)
        points[i].raw = 100 + 50 * static_cast<double>(i);
    std::string out;
    const Reading reading = test::air();
    const Fit fit = *fit_model(fit_points(points), Model::line);
    for (const Fit* with : {static_cast<const Fit*>(nullptr), &fit}) {
        const FitPicture p = fit_picture(reading.quantity, points, with);
        out += fmt::format("{}: {} … {}, tallest {}\n", with ? "a line" : "no fit", five_digits(p.low),
                           five_digits(p.high), five_digits(p.tallest));
        add_dots(out, "used", p.used);
        add_dots(out, "aside", p.aside);
        add_dots(out, "check", p.checks);
        add_dots(out, "left over", p.left_over);
        add_dots(out, "left over at a check", p.checks_left_over);
        for (std::size_t i = 0; i < p.curve.size(); i += 15)
            add_said(out, "curve",
                     fmt::format("{} {} [{} {}]", five_digits(p.curve[i].at), five_digits(p.curve[i].value),
                                 five_digits(p.curve[i].low), five_digits(p.curve[i].high)));
    }
    for (const std::optional<double> now : {std::optional<double>(), std::optional(420.0), std::optional(100.0)}) {
        const StatePicture p = state_picture(points, now);
        out += fmt::format("states, now {}: {} … {}\n", five_digits(now.value_or(-1)), five_digits(p.low),
                           five_digits(p.high));
        add_dots(out, "used", p.used);
        add_dots(out, "aside", p.aside);
        add_dots(out, "check", p.checks);
    }
    const StatePicture nothing = state_picture({}, {});
    out += fmt::format("no states: {} … {}\n", five_digits(nothing.low), five_digits(nothing.high));
    points[4].as_left = true;
    for (const double limit : {0.1, 5.0}) {
        CalibrationRecord record;
        record.points = points;
        record.limit = limit;
        const ErrorPicture p = error_picture(record, reading.quantity, {});
        out += fmt::format("errors, limit {}: {} … {}, tallest {}\n", five_digits(limit), five_digits(p.low),
                           five_digits(p.high), five_digits(p.tallest));
        add_dots(out, "found", p.found);
        add_dots(out, "left", p.left);
    }
    return out;
}

} // namespace

class TestSaidOfWords : public QObject {
    Q_OBJECT

  private slots:
    void loads() { test::compare_said("loads", controls() + load_trials()); }
    void rules() { test::compare_said("rule_trials", rule_trials()); }
    void boardsArithmetic() { test::compare_said("board_arithmetic", arithmetic_of_boards()); }
    void programs() { test::compare_said("programs_through_modules", programs_through_modules()); }
    void placesOfParts() { test::compare_said("assignments", assignments()); }
    void wordsThatFindParts() { test::compare_said("searches", searches()); }
    void calibrations() { test::compare_said("pictures", pictures()); }
    void causesReadBack() {
        for (int i = 1; i <= static_cast<int>(last_cause); ++i) {
            const auto cause = cause_from_number(i);
            QVERIFY(cause && !cause_text(*cause).empty());
            QCOMPARE(cause_from_text(cause_text(*cause)), cause);
        }
        QVERIFY(cause_text(Cause::none).empty() && !cause_from_text("something else"));
        QVERIFY(!cause_from_number(-1) && !cause_from_number(static_cast<int>(last_cause) + 1));
        QCOMPARE(cause_from_number(0), std::optional(Cause::none));
    }
};

RUN_TESTS_OF(TestSaidOfWords)
#include "tst_said_of_words.moc"
