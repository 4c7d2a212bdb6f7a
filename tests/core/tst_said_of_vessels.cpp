// What is drawn and judged of vessels with a sensor that looks into them, and the ways to more analog inputs of
// each board; beside what was read by a person and kept in tests/fixtures/said.
#include "core/plan/more_inputs.h"
#include "core/plan/vessel_view.h"
#include "support/defects.h"
#include "support/run_tests.h"
#include "support/said.h"

using namespace cognitum;
using test::add_said;
using test::catalog;
using test::five_digits;

namespace {

/// A vessel of about a cubic metre; what its shape does not need is left at nothing.
Vessel vessel_like(const char* shape) {
    Vessel out;
    out.shape = shape;
    out.width_mm = 800;
    out.length_mm = 1200;
    out.height_mm = 1000;
    out.mount_mm = 1250;
    out.full_mm = 900;
    out.empty_mm = 50;
    if (out.shape == "strapping") out.levels_mm = {0, 200, 900}, out.volumes_L = {0, 90, 700};
    if (out.shape == "frustum") out.diameter_mm = 500;
    if (out.shape == "rounded-box") out.diameter_mm = 200;
    return out;
}

void add_vessel(std::string& out, const char* what, const Quantity& quantity, const PartCard& part, double level) {
    const auto figures = vessel_figures(quantity, &part, level);
    if (!figures) return add_said(out, what, figures.error().text());
    std::string widths;
    for (const double mm : {-1.0, 0.0, 250.0, 500.0, 999.0, 1001.0})
        widths += " " + five_digits(vessel_half_width_mm(quantity.vessel, mm));
    add_said(out, what,
             fmt::format("{} L up to {} mm, {} L/mm at {} mm, here {}, part ± {} mm, {} % full; half as wide as{}; "
                         "400 is at {} mm",
                         five_digits(figures->holds_L), five_digits(figures->top_mm), five_digits(figures->worst_L),
                         five_digits(figures->worst_mm), five_digits(figures->here_L),
                         five_digits(figures->part_mm.value_or(no_number)),
                         five_digits(figures->percent_full.value_or(no_number)), widths,
                         five_digits(vessel_level_mm(quantity, 400))));
    if (const auto beam = beam_in_vessel(quantity, part))
        add_said(out, "  beam",
                 fmt::format("from {} to {}, half {}, {} where {} is free{}", five_digits(beam->from_mm),
                             five_digits(beam->to_mm), five_digits(beam->half_mm), five_digits(beam->beam_mm),
                             five_digits(beam->free_mm), beam->meets_wall() ? ": it meets the wall" : ""));
}

std::string vessels() {
    std::string out;
    struct Change {
        const char* what;
        std::function<void(Vessel&)> change;
        double level_mm = 300;
    };
    const std::vector<Change> changes = {
        {"as it is", [](Vessel&) {}},
        {"nobody knows the level", [](Vessel&) {}, no_number},
        {"below its outlet", [](Vessel&) {}, 20},
        {"over the brim", [](Vessel&) {}, 1100},
        {"its outlet not said", [](Vessel& v) { v.empty_mm = 0; }},
        {"full not said", [](Vessel& v) { v.full_mm = 0; }},
        {"full where it is empty", [](Vessel& v) { v.empty_mm = v.full_mm; }},
        {"height not said", [](Vessel& v) { v.height_mm = 0; }},
        {"face not said", [](Vessel& v) { v.mount_mm = 0; }},
        {"face below the brim", [](Vessel& v) { v.mount_mm = 880; }},
        {"narrow", [](Vessel& v) { v.width_mm = 150; }},
        {"bulges", [](Vessel& v) { v.bulge_percent = 2; }},
    };
    for (const char* shape : {"box", "rounded-box", "upright-cylinder", "lying-cylinder", "dished-cylinder",
                              "sphere", "cone", "frustum", "lying-oval", "strapping", ""})
        for (const char* part : {"echo-ranger-open", "pressure-transducer-water"}) {
            out += fmt::format("{} under {}\n", *shape ? shape : "no shape", part);
            for (const bool of_litres : {false, true}) {
                Quantity quantity;
                quantity.kind = of_litres ? "volume" : "level";
                quantity.unit = of_litres ? "L" : "mm";
                quantity.low = 0, quantity.high = of_litres ? 800 : 900;
                for (const Change& c : changes) {
                    quantity.vessel = vessel_like(shape);
                    c.change(quantity.vessel);
                    add_vessel(out, c.what, quantity, *catalog().part(part), c.level_mm);
                }
            }
        }
    return test::each_line_once(out);
}

std::string more_inputs() {
    std::string out;
    for (const BoardCard& card : catalog().boards) {
        if (!card.not_advised.empty()) continue;
        for (const auto& [kind, part] :
             {std::pair("temperature", "analog-thermometer-with-offset"), {"soil-moisture", "soil-capacitive"}}) {
            Bench bench = test::bench_with(kind, part, card.id.c_str());
            Reading waiting = bench.readings[0];
            waiting.id = waiting.name = "waits";
            waiting.wiring.pins.clear();
            bench.readings.push_back(waiting);
            out += fmt::format("{} on {}\n", part, card.id);
            for (const WayOut& w : ways_to_more_inputs(bench, catalog(), bench.boards[0]))
                add_said(out, w.id.c_str(),
                         fmt::format("“{}” {} inputs, {} wires, {} pins, {} bits, a count {}, {}/s, {} €. {} {} {}",
                                     w.title, w.inputs, w.wires, w.pins, w.bits, five_digits(w.count),
                                     five_digits(w.rate), five_digits(w.price), w.code, w.brings, w.why_not));
        }
    }
    return out;
}

} // namespace

class TestSaidOfVessels : public QObject {
    Q_OBJECT

  private slots:
    void vesselsWithASensor() { test::compare_said("vessels", vessels()); }
    void moreInputs() { test::compare_said("more_inputs", more_inputs()); }
};

RUN_TESTS_OF(TestSaidOfVessels)
#include "tst_said_of_vessels.moc"
