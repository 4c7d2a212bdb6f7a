// What is said while a part is brought up: what fields of unknown lines may be, and every stimulus test of every
// reading of the demo as it is seen when the hand does what it should, does it the wrong way, too little or
// nothing; beside what was read by a person and kept in tests/fixtures/said.
#include "core/bringup/adjuster.h"
#include "core/bringup/field_proposal.h"
#include "core/bringup/trial.h"
#include "core/units/quantity_kind.h"
#include "support/run_tests.h"
#include "support/said.h"

#include <cmath>
#include <functional>
#include <map>

using namespace cognitum;
using test::add_said;
using test::catalog;
using test::five_digits;

namespace {

using Course = std::function<double(int)>; ///< value at a second; the hand begins at second 40

constexpr int touched = 40;

std::vector<RawSample> samples_of(const Course& course, int seconds, double step_s = 1) {
    std::vector<RawSample> out;
    for (int i = 0; i * step_s < seconds; ++i)
        out.push_back({from_seconds(i * step_s), course(static_cast<int>(i * step_s))});
    return out;
}

std::string proposals() {
    struct Named {
        const char *name, *unit, *example;
        Course course;
    };
    const Course flat = [](int) { return 21.5; };
    const auto around = [](double middle, double width) {
        return [=](int i) { return middle + width * ((i * 7 % 5) - 2); };
    };
    const auto up = [](double from, double step) { return [=](int i) { return from + step * i; }; };
    const auto turns = [](double low, double high) { return [=](int i) { return i % 7 < 3 ? high : low; }; };
    const std::vector<Named> fields = {
        {"seq", "", "12", up(12, 1)},
        {"n", "", "12", up(12, 1)},
        {"ms", "", "12000", up(12000, 1000)},
        {"millis", "", "5", up(5, 1000)},
        {"uptime", "s", "5", up(5, 1)},
        {"time", "", "09:00:01", flat},
        {"t", "", "21.5", around(21.5, 0.1)},
        {"temp", "C", "21.5", around(21.5, 0.1)},
        {"temp_f", "F", "70.1", around(70.1, 0.2)},
        {"temperature", "K", "294.6", around(294.6, 0.1)},
        {"t_water", "", "12.1", around(12.1, 0.1)},
        {"rh", "%", "48", around(48, 1)},
        {"hum", "", "48.2", around(48.2, 0.3)},
        {"p", "hPa", "1013.2", around(1013.2, 0.2)},
        {"pressure", "", "101320", around(101320, 5)},
        {"tyre", "kPa", "221", around(221, 1)},
        {"lux", "", "350", around(350, 8)},
        {"light", "", "612", around(612, 3)},
        {"adc", "", "512", around(512, 2)},
        {"a0", "", "1019", around(1019, 4)},
        {"raw", "", "3900", around(3900, 9)},
        {"raw", "", "15900", around(15900, 9)},
        {"raw", "", "64000", around(64000, 20)},
        {"raw", "", "1023", up(1023, -3)},
        {"raw", "", "1024", up(1024, -3)},
        {"adc", "", "4095", up(4000, 95)},
        {"adc", "", "16383", up(16383, -1)},
        {"adc", "", "65535", up(65535, -20)},
        {"ms", "", "5", up(5, 905)},
        {"ms", "", "5", up(5, 895)},
        {"ms", "", "5", up(5, 1099)},
        {"n", "", "9", up(90, -1)},
        {"seq", "", "0", up(0, 2)},
        {"level", "mm", "812", around(812, 1)},
        {"dist", "cm", "81.2", around(81.2, 0.2)},
        {"echo", "us", "4712", around(4712, 20)},
        {"range", "", "812", around(812, 1)},
        {"rain", "mm", "3.2", up(3.2, 0)},
        {"tips", "", "17", [](int i) { return 17 + std::floor(i / 10.0); }},
        {"pulses", "", "1003", up(1003, 3)},
        {"count", "", "3", turns(3, 4)},
        {"wind", "m/s", "3.4", around(3.4, 0.6)},
        {"flow", "L/min", "1.9", around(1.9, 0.1)},
        {"door", "", "open", turns(0, 1)},
        {"pir", "", "1", turns(0, 1)},
        {"contact", "", "0", flat},
        {"soil", "", "431", around(431, 3)},
        {"moisture", "%", "31", around(31, 1)},
        {"ec", "mS/cm", "1.41", around(1.41, 0.01)},
        {"ph", "", "6.9", around(6.9, 0.02)},
        {"u", "V", "3.71", around(3.71, 0.01)},
        {"vbat", "mV", "3710", around(3710, 5)},
        {"i", "A", "0.41", around(0.41, 0.01)},
        {"power", "W", "41", around(41, 1)},
        {"co2", "ppm", "612", around(612, 9)},
        {"weight", "g", "104.2", around(104.2, 0.2)},
        {"hr", "", "71", around(71, 1)},
        {"ir", "", "50210", around(50210, 300)},
        {"ok", "", "yes", flat},
        {"id", "", "FL", flat},
        {"name", "", "hut", flat},
        {"x", "", "0.02", around(0.02, 0.03)},
        {"value", "", "-127", around(-127, 0)},
        {"t1", "", "85", around(85, 0)},
        {"tank_l", "", "812", around(812, 2)},
        {"luftfeuchte", "", "48", around(48, 1)},
    };
    std::string out;
    for (const Named& f : fields) {
        const bool words = std::string(f.example).find_first_of("0123456789") == std::string::npos;
        const std::vector<RawSample> samples = words ? std::vector<RawSample>() : samples_of(f.course, 60);
        std::string before;
        for (const auto& [lines, how_much] :
             {std::pair(0u, ""), {3u, ", three lines"}, {4u, ", four lines"}, {60u, ", a minute of it"}}) {
            const FieldProposal p =
                propose_field({f.name, f.unit, f.example, !words,
                               std::span(samples).first(std::min<std::size_t>(lines, samples.size()))});
            const std::string now =
                fmt::format("role {} kind {} in {}, “{}”, {} bits on {}: {}", static_cast<int>(p.role), p.kind,
                            p.unit, p.title, p.bits, propose_board(catalog(), p.bits), p.why);
            if (now != before || lines == 0 || lines == 60)
                add_said(out, fmt::format("{} {} {}{}", f.name, f.example, f.unit, how_much).c_str(), now);
            before = now;
        }
    }
    return out;
}

const char* phase_name(TrialPhase phase) {
    static const char* names[] = {"gathering", "acting", "undoing", "passed", "failed"};
    return names[static_cast<int>(phase)];
}

/// The raw signal of a reading at a share of its expected range; NaN where its path does not lead back.
double raw_at(const Reading& reading, double share) {
    const Quantity& q = reading.quantity;
    const Value raw = inverse(effective_path(reading), q.low + share * (q.high - q.low));
    return raw.ok() ? raw.number : no_number;
}

void add_trials(std::string& out, const Bench& bench, const Reading& reading, const Stimulus& stimulus) {
    const Placed placed = place(bench, catalog(), reading);
    TrialAbout about = trial_about(placed);
    about.signal.promised_s = 1;
    const double rest = raw_at(reading, 0.4), more = raw_at(reading, 0.6), less = raw_at(reading, 0.2),
                 hardly = raw_at(reading, 0.4005), all = raw_at(reading, 0.98);
    const double noise = std::abs(more - rest) * 1e-3;
    const auto shake = [=](int i) { return noise * ((i * 7 % 5) - 2); };
    const std::pair<const char*, Course> courses[] = {
        {"nothing", [=](int i) { return rest + shake(i); }},
        {"more", [=](int i) { return (i < touched ? rest : more) + shake(i); }},
        {"less", [=](int i) { return (i < touched ? rest : less) + shake(i); }},
        {"hardly", [=](int i) { return (i < touched ? rest : hardly) + shake(i); }},
        {"more and back", [=](int i) { return (i < touched || i >= touched + 15 ? rest : more) + shake(i); }},
        {"slowly to the end",
         [=](int i) {
             return (i < touched ? rest : rest + (all - rest) * std::min(1.0, (i - touched) / 25.0)) + shake(i);
         }},
        {"gone", [=](int i) { return i < touched ? rest + shake(i) : no_number; }},
        {"wild", [=](int i) { return i < touched  ? rest + shake(i)
                                     : i % 2 == 0 ? less
                                                  : more; }},
        {"calm", [=](int i) { return i < touched ? rest + 30 * shake(i) : rest; }},
        {"counts three", [=](int i) { return i < touched ? 100.0 : 100.0 + std::min(3, (i - touched) / 4); }},
    };
    for (const auto& [name, course] : courses) {
        Trial trial{&stimulus,
                    touched * second_us,
                    {touched, 0},
                    reading.quantity.low + 0.6 * (reading.quantity.high - reading.quantity.low),
                    0.1};
        std::string phases;
        TrialView view;
        for (int now = touched; now < touched + 400; ++now) {
            const std::vector<RawSample> samples = samples_of(course, now);
            const TrialView next =
                judge_trial(trial, about, samples, {static_cast<std::uint64_t>(now), 0}, now * second_us);
            if (now == touched + 1)
                add_said(out, stimulus.id.c_str(),
                         fmt::format("{}: from {} marks {} {}. {} {}", name, five_digits(next.level),
                                     five_digits(next.mark_low), five_digits(next.mark_high), next.now, next.must));
            if (now == touched + 10 || (next.phase != view.phase && now > touched))
                phases += fmt::format(" [{} s {}, {} s left] {}", now - touched, phase_name(next.phase),
                                      five_digits(next.seconds_left), next.seen);
            view = next;
            if (view.over()) break;
        }
        add_said(out, name, phases);
    }
}

/// What one turn of a trimmer did, from figures before and after.
std::string adjusters() {
    std::string out;
    const std::vector<std::string> labelled = {"hold time", "reach"};
    for (const SignalKind kind : {SignalKind::contact, SignalKind::codes, SignalKind::measured}) {
        SignalAbout about;
        about.kind = kind;
        about.bits = 10;
        std::vector<AdjusterFigures> all;
        if (kind == SignalKind::contact)
            for (const auto& [events, hold, to_end] : std::vector<std::tuple<int, double, bool>>{{0, 0, false},
                                                                                                 {3, 4, false},
                                                                                                 {3, 4.5, false},
                                                                                                 {3, 12, false},
                                                                                                 {1, 4, false},
                                                                                                 {6, 4, false},
                                                                                                 {1, 30, true}})
                all.push_back({events, hold, to_end, 0, 0, 0, 200});
        else
            for (const auto& [rest, swing, noise] : std::vector<std::tuple<double, double, double>>{{500, 100, 1},
                                                                                                    {500, 102, 1},
                                                                                                    {500, 130, 1},
                                                                                                    {500, 60, 1},
                                                                                                    {540, 100, 1},
                                                                                                    {540, 130, 1},
                                                                                                    {506, 100, 1},
                                                                                                    {500, 4, 1},
                                                                                                    {500, -100, 1},
                                                                                                    {500, 100, 30}})
                all.push_back({0, 0, false, rest, swing, noise, 200});
        for (const AdjusterFigures& after : all)
            for (const bool clockwise : {true, false})
                for (const auto& could_be : {std::vector<std::string>{}, labelled}) {
                    const AdjusterVerdict v =
                        judge_adjuster(all[kind == SignalKind::contact ? 1 : 0], after, clockwise, about, could_be);
                    add_said(out,
                             kind == SignalKind::contact ? "contact"
                             : kind == SignalKind::codes ? "codes"
                                                         : "measured",
                             fmt::format("sets {}{}: {}", v.sets.empty() ? "nothing" : v.sets,
                                         v.clockwise_more ? ", clockwise more" : ", clockwise less", v.text));
                }
    }
    return out;
}

} // namespace

class TestSaidOfBringUp : public QObject {
    Q_OBJECT

  private slots:
    void fieldsOfUnknownLines() { test::compare_said("fields", proposals()); }

    void trimmers() { test::compare_said("adjusters", adjusters()); }

    void stimulusTests() {
        VALUE_OF(bench, load_bench_json(COGNITUM_SOURCE_DIR "/data/demo/whelk-point.json"));
        const std::vector<Stimulus> stimuli = load_catalog().guide.stimuli;
        std::string out;
        std::map<std::string, int> shown; // each test on two readings
        for (const Reading& reading : bench.readings) {
            out += reading.name + "\n";
            if (std::isnan(raw_at(reading, 0.4))) continue;
            for (const Stimulus& stimulus : stimuli)
                if (suits(stimulus, stimulus_for(place(bench, catalog(), reading))) && ++shown[stimulus.id] <= 2)
                    add_trials(out, bench, reading, stimulus);
        }
        test::compare_said("stimulus_tests", out);
    }
};

RUN_TESTS_OF(TestSaidOfBringUp)
#include "tst_said_of_bring_up.moc"
