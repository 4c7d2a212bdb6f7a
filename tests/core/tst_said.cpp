// What the core says of benches, whole: every sentence and number of findings, paths, doubts, candidates, budgets,
// rates, bills, wirings and steps, beside what was read by a person and kept in tests/fixtures/said.
#include "core/plan/bill.h"
#include "core/plan/board_picture.h"
#include "core/plan/budgets.h"
#include "core/plan/candidates.h"
#include "core/plan/findings.h"
#include "core/plan/intake.h"
#include "core/plan/loom/loom.h"
#include "core/plan/loom/wiring_steps.h"
#include "core/plan/more_inputs.h"
#include "core/plan/rates.h"
#include "core/plan/reading_doubt.h"
#include "core/plan/signal_about.h"
#include "core/plan/vessel_view.h"
#include "support/defects.h"
#include "support/run_tests.h"
#include "support/said.h"
#include "support/ways_out.h"

using namespace cognitum;
using test::add_said;
using test::catalog;
using test::five_digits;

namespace {

void add_finding(std::string& out, const Finding& f) {
    static const char* stops[] = {"quantity", "sensor", "wiring", "raw", "convert", "calibrate", "watch"};
    out += fmt::format(" {} [{}{}{}] {} {}{}\n", f.id, severity_name(f.severity), f.is_caution ? ", caution" : "",
                       f.measures_nothing ? ", measures nothing" : "", stops[static_cast<int>(f.stop)], f.reading,
                       f.board);
    add_said(out, "message", f.message);
    add_said(out, "why", f.why);
    add_said(out, "fix", f.fix);
    if (f.action)
        add_said(out, "offers", f.action->label + (f.action->send.empty() ? "" : ", sends " + f.action->send));
}

std::string findings_of_defects() {
    std::string out;
    for (const test::Defect& defect : test::all_defects()) {
        out += defect.id + "\n";
        for (const Finding& f : check_bench(defect.broken, catalog()))
            if (f.id == defect.id) {
                add_finding(out, f);
                add_said(out, "changes", test::way_out(defect.broken, f));
            }
        for (const Finding& f : check_bench(defect.sound, catalog()))
            out += " otherwise " + f.id + "\n";
    }
    return out;
}

void add_path(std::string& out, const Reading& reading) {
    const Chain path = effective_path(reading);
    const Quantity& q = reading.quantity;
    for (const double share : {0.0, 0.5, 1.0}) {
        const double value = q.low + share * (q.high - q.low);
        const Walk back = walk_back(path, value);
        out += fmt::format(" {} {}\n", five_digits(value), q.unit);
        for (std::size_t i = 0; i < path.stages.size(); ++i) {
            const Stage& stage = path.stages[i];
            const Value& in = back.steps[i];
            if (!in.ok())
                add_said(out, "no way back", cause_text(stage, in.cause, value));
            else
                add_said(out, "stage",
                         fmt::format("{} {} {} → {}: {}", stage_title(stage), five_digits(in.number),
                                     input_unit(stage), output_unit(stage), arithmetic_text(stage, in.number)));
        }
    }
}

void add_doubt(std::string& out, const Bench& bench, const Reading& reading) {
    const Placed p = place(bench, catalog(), reading);
    const Quantity& q = reading.quantity;
    const Value raw = inverse(effective_path(reading), (q.low + q.high) / 2);
    if (raw.ok()) {
        const Budget budget = reading_budget(reading, p.part, raw.number, 0, 0);
        add_said(out, "doubt",
                 fmt::format("{} ± {} at k {}", five_digits(budget.value), five_digits(budget.expanded()),
                             five_digits(budget.k)));
        for (const Contribution& c : budget.contributions)
            add_said(out, "of it", fmt::format("{} {} {}", c.id, five_digits(c.u), c.label));
        const Advice advice = what_would_help(p, budget);
        add_said(out, "first", advice.first);
        add_said(out, "then", advice.then);
    }
    const SignalAbout about = about_signal(p);
    add_said(out, "signal",
             fmt::format("kind {} bits {} ends {} {} expects {} {} step {} every {} s{} at most {}/h {} {}",
                         static_cast<int>(about.kind), about.bits, five_digits(about.low), five_digits(about.high),
                         five_digits(about.expect_low), five_digits(about.expect_high),
                         five_digits(about.resolution), five_digits(about.promised_s), about.even ? "" : " uneven",
                         five_digits(about.fastest_per_hour), about.quantity, about.unit));
    const RawRules rules = raw_rules(p);
    add_said(out, "arriving",
             fmt::format("{} failures, span {}, warm after {} s{}", rules.failures.size(), five_digits(rules.span),
                         five_digits(rules.warm_up_s), rules.counter ? ", a counter" : ""));
    if (const auto figures = vessel_figures(q, p.part, 0.5 * q.vessel.height_mm))
        add_said(out, "vessel",
                 fmt::format("top {} mm holds {} L, worst {} L at {} mm, here {} L, part ± {} mm, full {}",
                             five_digits(figures->top_mm), five_digits(figures->holds_L),
                             five_digits(figures->worst_L), five_digits(figures->worst_mm),
                             five_digits(figures->here_L), five_digits(figures->part_mm.value_or(-1)),
                             five_digits(figures->percent_full.value_or(-1))));
}

std::string readings_of(const Bench& bench) {
    std::string out;
    for (const Reading& reading : bench.readings) {
        out += reading.name + "\n";
        add_path(out, reading);
        add_doubt(out, bench, reading);
        for (const Finding& f : check_reading(bench, catalog(), reading))
            add_finding(out, f);
    }
    return out;
}

/// For each reading all parts of its kind, on its board.
std::string candidates_of(const Bench& bench) {
    std::string out;
    for (const Reading& reading : bench.readings) {
        const BoardUse* use = bench.board(reading.wiring.board);
        if (!use || !catalog().board(use->card)) continue;
        out += reading.name + "\n";
        for (const Candidate& c : candidates(bench, catalog(), reading, *use))
            add_said(out,
                     c.fitness == Fitness::fits       ? "fits"
                     : c.fitness == Fitness::does_not ? "does not"
                                                      : "with a change",
                     fmt::format("{} ± {}: {}", c.part, five_digits(c.doubt), c.because));
    }
    return out;
}

void add_loom(std::string& out, const Loom& loom) {
    add_said(out, "loom", loom.title);
    add_said(out, "note", loom.note);
    for (const LoomBlock& block : loom.blocks) {
        add_said(out, "block",
                 fmt::format("{} {} column {} rows {}–{}", block.title, block.note, block.column, block.first_row,
                             block.last_row));
        for (const LoomLeg& leg : block.legs)
            add_said(out, "leg",
                     fmt::format("{} {} row {}{}", leg.label, leg.note, leg.row, leg.right ? " right" : ""));
    }
    for (const LoomWire& wire : loom.wires)
        add_said(out, "wire",
                 fmt::format("{} {} {}.{} → {}.{} rows {} {} {} {} {} {} Ω {} {} m", wire.order, wire.colour,
                             wire.from.block, wire.from.leg, wire.to.block, wire.to.leg, wire.from_row, wire.to_row,
                             wire.net, wire.flag, wire.volts, five_digits(wire.in_line_ohm), wire.source_volts,
                             five_digits(wire.length_m)));
    for (const LoomResistor& r : loom.resistors)
        add_said(out, "resistor",
                 fmt::format("{} Ω rows {} {} column {} {} {}", five_digits(r.ohm), r.from_row, r.to_row, r.column,
                             r.from, r.to));
}

std::string wiring_of(const Bench& bench) {
    std::string out;
    for (const Reading& reading : bench.readings) {
        out += reading.name + "\n";
        const Loom loom = reading_loom(bench, catalog(), reading);
        add_loom(out, loom);
        for (const WiringStep& step : wiring_steps(bench, catalog(), reading, loom)) {
            add_said(out, "step", fmt::format("{} (wire {}) {}", step.number, step.wire, step.text));
            add_said(out, "meter", step.meter);
            add_said(out, "if not", step.if_not);
            add_said(out, "caution", step.caution);
        }
        add_said(out, "at the end", mirror_check(bench, catalog(), reading));
    }
    return out;
}

void add_budget(std::string& out, const BoardBudget& b) {
    for (const PinCount& pins : b.pins)
        add_said(out, "pins", fmt::format("{} {} of {}", pins.function, pins.used, pins.total));
    for (const RailLoad& rail : b.rails) {
        add_said(out, "rail",
                 fmt::format("{} {} V: {} mA, peak {} of {}", rail.rail, five_digits(rail.voltage_V),
                             five_digits(rail.typical_mA), five_digits(rail.peak_mA), five_digits(rail.limit_mA)));
        for (const Draw& draw : rail.draws)
            add_said(out, "draws",
                     fmt::format("{} {} mA, peak {}", draw.name, five_digits(draw.typical_mA),
                                 five_digits(draw.peak_mA)));
    }
    add_said(out, "board",
             fmt::format("{} mA, peak {}; in all {} peak {} of {} at {} V; wanted inputs {}",
                         five_digits(b.board_mA), five_digits(b.board_peak_mA), five_digits(b.total_mA),
                         five_digits(b.total_peak_mA), five_digits(b.source_mA), five_digits(b.supply_V),
                         b.analog_wanted));
    add_said(out, "regulator",
             fmt::format("{} mA of {}, {} W, {} of {} °C, {} V over {}", five_digits(b.regulator_mA),
                         five_digits(b.regulator_limit_mA), five_digits(b.heat_W), five_digits(b.junction_degC),
                         five_digits(b.junction_max_degC), five_digits(b.headroom_V), five_digits(b.dropout_V)));
    add_said(out, "bus",
             fmt::format("{} parts, {} pF, {} m, {} Ω, rises in {} of {} ns", b.bus_devices, five_digits(b.bus_pF),
                         five_digits(b.bus_m), five_digits(b.pull_up_ohm), five_digits(b.rise_ns),
                         five_digits(b.rise_limit_ns)));
    add_said(out, "line", fmt::format("{} of {} bytes/s", five_digits(b.bytes_per_s), five_digits(b.bytes_limit)));
}

void add_rates(std::string& out, const RatePlan& rates) {
    for (const RateSource& s : rates.sources)
        add_said(out, "source",
                 fmt::format("{} {} taken, {} sent a second", s.name, five_digits(s.samples_per_s),
                             five_digits(s.values_per_s)));
    for (const RateSink& s : rates.sinks)
        add_said(out, "sink",
                 fmt::format("{} ({}) {} of {} {}, lost {}. {}", s.id, s.name, five_digits(s.offered_per_s),
                             five_digits(s.accepted_per_s), s.unit, five_digits(s.lost()), s.remedy));
    for (const RateDecimation& d : rates.decimations)
        add_said(out, "decimated",
                 fmt::format("{} every {}, {} s, {}", d.name, d.every, five_digits(d.update_s), d.where));
}

std::string boards_of(const Bench& bench) {
    std::string out;
    for (const BoardUse& use : bench.boards) {
        if (!catalog().board(use.card)) continue;
        out += use.name + "\n";
        add_budget(out, board_budget(bench, catalog(), use));
        add_rates(out, rate_plan(bench, use));
        for (const WayOut& w : ways_to_more_inputs(bench, catalog(), use))
            add_said(out, w.possible ? "more inputs" : "no more inputs",
                     fmt::format("{} “{}” {} inputs, {} wires, {} pins, {} bits, a count {}, {}/s, {} €. {} {} {}",
                                 w.id, w.title, w.inputs, w.wires, w.pins, w.bits, five_digits(w.count),
                                 five_digits(w.rate), five_digits(w.price), w.code, w.brings, w.why_not));
        add_said(out, "picture", board_picture(bench, catalog(), use).spoken());
        add_loom(out, board_loom(bench, catalog(), use));
        for (const Finding& f : check_board(bench, catalog(), use))
            add_finding(out, f);
    }
    out += "Bill\n";
    const std::vector<BillRow> rows = bill_of_materials(bench, catalog());
    for (const BillRow& row : rows)
        add_said(out, "row",
                 fmt::format("{} “{}” {} at {}{} = {} for {}; or {}", row.item, row.what, five_digits(row.count),
                             five_digits(row.each), row.guessed ? " guessed" : "", five_digits(row.total()),
                             row.used_for, row.alternatives));
    add_said(out, "in all", five_digits(bill_total(rows)));
    return out;
}

/// Each of the broken benches as a whole: what is asked of its board, and its wires.
std::string boards_of_defects() {
    std::string out;
    for (const test::Defect& defect : test::all_defects())
        out += "— " + defect.id + "\n" + boards_of(defect.broken);
    return out;
}

std::string readings_of_defects() {
    std::string out;
    for (const test::Defect& defect : test::all_defects()) {
        out += "— " + defect.id + "\n";
        for (const Reading& reading : defect.broken.readings) {
            add_path(out, reading);
            add_doubt(out, defect.broken, reading);
        }
    }
    return out;
}

} // namespace

class TestSaid : public QObject {
    Q_OBJECT

    static const Bench& demo() {
        static const Bench bench = load_bench_json(COGNITUM_SOURCE_DIR "/data/demo/whelk-point.json").value();
        return bench;
    }

  private slots:
    void findingsOfDefects() { test::compare_said("findings_of_defects", findings_of_defects()); }
    void boardsOfDefects() { test::compare_said("boards_of_defects", test::each_line_once(boards_of_defects())); }
    void readingsOfDefects() {
        test::compare_said("readings_of_defects", test::each_line_once(readings_of_defects()));
    }
    void readingsOfTheDemo() { test::compare_said("demo_readings", readings_of(demo())); }
    void candidatesOfTheDemo() { test::compare_said("demo_candidates", candidates_of(demo())); }
    void wiringOfTheDemo() { test::compare_said("demo_wiring", wiring_of(demo())); }
    void boardsOfTheDemo() { test::compare_said("demo_boards", boards_of(demo())); }
};

RUN_TESTS_OF(TestSaid)
#include "tst_said.moc"
