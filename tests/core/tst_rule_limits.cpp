// Where rules of every sort end: just at each limit nothing is wrong, just beyond it the sentence about that limit
// is said and no other.
#include "core/bench/bench.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <cmath>
#include <functional>
#include <limits>

using namespace cognitum;

namespace {

constexpr double a_year_s = 366 * 86400.0;
const double none = std::nan("");

/// One number of a rule, and the last value at which it is sound; beyond it the sentence holds these words.
template <typename Rule>
struct Limit {
    const char* name;
    std::function<void(Rule&, double)> set;
    double last, beyond;
    const char* says;
};

template <typename Rule>
void look_at(const Rule& sound, const std::vector<Limit<Rule>>& limits) {
    QVERIFY2(defect_of(sound).empty(), std::string(defect_of(sound)).c_str());
    for (const Limit<Rule>& limit : limits) {
        Rule rule = sound;
        limit.set(rule, limit.last);
        const std::string at_it(defect_of(rule));
        QVERIFY2(at_it.empty(), (limit.name + (": " + at_it)).c_str());
        limit.set(rule, limit.beyond);
        const std::string beyond(defect_of(rule));
        QVERIFY2(beyond.find(limit.says) != std::string::npos, (limit.name + (": " + beyond)).c_str());
    }
}

WatchCondition condition_of(WatchWhen when, double value, double over_s = 0) {
    WatchCondition out;
    out.reading = "cistern";
    out.when = when;
    out.value = value;
    out.over_s = over_s;
    return out;
}

std::vector<CorridorStep> steps(int count) {
    std::vector<CorridorStep> out;
    for (int i = 0; i < count; ++i)
        out.push_back({1.0 + i, 18, 20});
    return out;
}

double above(double x) {
    return std::nextafter(x, std::numeric_limits<double>::infinity());
}
double under(double x) {
    return std::nextafter(x, -std::numeric_limits<double>::infinity());
}

} // namespace

class TestRuleLimits : public QObject {
    Q_OBJECT

  private slots:
    void singleValues() {
        const auto value = [](WatchCondition& c, double v) { c.value = v; };
        const auto clear = [](WatchCondition& c, double v) { c.clear = v; };
        const auto hysteresis = [](WatchCondition& c, double v) { c.hysteresis = v; };
        look_at<WatchCondition>(condition_of(WatchWhen::above, 30),
                                {{"cleared at the limit", clear, 30, above(30), "cannot be over above"},
                                 {"a hysteresis beside a clear", hysteresis, 0, 0.1, "instead of a hysteresis"},
                                 {"below no hysteresis", hysteresis, 0, -0.1, "not below 0"},
                                 {"a time", [](auto& c, double v) { c.over_s = v; }, 0, 1, "no over_s"},
                                 {"no number", value, 30, none, "must be a number"},
                                 {"no upper number", [](auto& c, double v) { c.upper = v; }, 1e9, none, "must be"},
                                 {"no clear number", clear, -1e9, none, "must be a number"}});
        look_at<WatchCondition>(condition_of(WatchWhen::below, 30),
                                {{"cleared at the limit", clear, 30, under(30), "cannot be over below"}});
        WatchCondition outside = condition_of(WatchWhen::outside, 10);
        outside.upper = 20;
        look_at<WatchCondition>(
            outside,
            {{"both alike", [](auto& c, double v) { c.upper = v; }, above(10), 10, "is not above the lower"},
             {"nothing between", hysteresis, under(5), 5, "leaves nothing between"},
             {"a clear", [](auto& c, double v) { v > 0 ? void(c.clear = v) : c.clear.reset(); }, 0, 15,
              "only above and below"}});
        look_at<WatchCondition>(condition_of(WatchWhen::equal, 1),
                                {{"hysteresis", hysteresis, 0.5, under(0), "not below 0"}});
    }

    void whatLooksOverTime() {
        const auto value = [](WatchCondition& c, double v) { c.value = v; };
        const auto over = [](WatchCondition& c, double v) { c.over_s = v; };
        const char* no_time = "above 0 and at most a year";
        look_at<WatchCondition>(condition_of(WatchWhen::changes, 1, 60),
                                {{"change", value, above(0), 0, "a change is above 0"},
                                 {"shortest", over, above(0), 0, no_time},
                                 {"longest", over, a_year_s, above(a_year_s), no_time},
                                 {"no time", over, 1, none, no_time}});
        look_at<WatchCondition>(condition_of(WatchWhen::unchanged, 1, 60),
                                {{"change", value, 0, under(0), "a change is not below 0"}});
        for (const WatchWhen when : {WatchWhen::rises, WatchWhen::falls, WatchWhen::grows})
            look_at<WatchCondition>(condition_of(when, 1, 60), {{"rate", value, 0, under(0), "is not below 0"}});
        look_at<WatchCondition>(condition_of(WatchWhen::silent, 60),
                                {{"shortest", value, above(0), 0, "a silence is"},
                                 {"longest", value, a_year_s, above(a_year_s), "a silence is"}});
        look_at<WatchCondition>(
            condition_of(WatchWhen::night, 60),
            {{"earliest", value, 0, under(0), "night begins"}, {"latest", value, 240, above(240), "night begins"}});
    }

    void corridors() {
        WatchCondition corridor = condition_of(WatchWhen::corridor, 0);
        corridor.corridor = steps(3);
        const auto count = [](WatchCondition& c, double n) { c.corridor = steps(static_cast<int>(n)); };
        look_at<WatchCondition>(
            corridor,
            {{"steps", count, most_corridor_steps, most_corridor_steps + 1, "at most 60 steps"},
             {"no step", count, 1, 0, "needs its limits"},
             {"first day", [](auto& c, double v) { c.corridor[0].from_day = v; }, 1, under(1), "are 1 to 366"},
             {"last day", [](auto& c, double v) { c.corridor[2].from_day = v; }, 366, above(366), "are 1 to 366"},
             {"order", [](auto& c, double v) { c.corridor[1].from_day = v; }, above(1), 1, "does not come after"},
             {"limits", [](auto& c, double v) { c.corridor[1].low = v; }, under(20), 20, "is not below the upper"},
             {"room", [](auto& c, double v) { c.hysteresis = v; }, under(1), 1, "leaves nothing between"},
             {"no number", [](auto& c, double v) { c.corridor[2].high = v; }, 1e9, none, "must be a number"}});
        look_at<WatchCondition>(condition_of(WatchWhen::above, 3), {{"of none", count, 0, 1, "only a corridor"}});
    }

    void rules() {
        WatchRule rule;
        rule.name = "Nearly empty";
        rule.conditions = {condition_of(WatchWhen::below, 100)};
        const char* length = "not below 0 s and at most a year";
        std::vector<Limit<WatchRule>> limits = {
            {"conditions",
             [](auto& r, double n) { r.conditions.resize(static_cast<std::size_t>(n), r.conditions[0]); },
             most_conditions, most_conditions + 1, "at most 8 conditions"},
            {"few lines", [](auto& r, double n) { r.count = static_cast<int>(n); }, 1, 0, "1 to 1 000 000 lines"},
            {"many lines", [](auto& r, double n) { r.count = static_cast<int>(n); }, 1e6, 1e6 + 1,
             "1 000 000 lines"},
            {"marks",
             [](auto& r, double n) {
                 r.marked.resize(static_cast<std::size_t>(n), MarkedStretch{1, 2});
             },
             most_marked, most_marked + 1, "at most 200 stretches"},
            {"mark",
             [](auto& r, double n) {
                 r.marked = {{5, static_cast<TimeUs>(n)}};
             },
             5, 4, "ends before"},
        };
        for (double WatchRule::*member : {&WatchRule::for_s, &WatchRule::repeat_s, &WatchRule::escalate_s}) {
            limits.push_back(
                {"longest", [=](auto& r, double v) { r.*member = v; }, a_year_s, above(a_year_s), length});
            limits.push_back({"shortest", [=](auto& r, double v) { r.*member = v; }, 0, under(0), length});
        }
        for (int DayHours::*member : {&DayHours::from_min, &DayHours::to_min}) {
            const auto set = [=](WatchRule& r, double v) { r.hours.*member = static_cast<int>(v); };
            limits.push_back({"first minute", set, 0, -1, "0 to 1439"});
            limits.push_back({"last minute", set, 1439, 1440, "0 to 1439"});
        }
        look_at<WatchRule>(rule, limits);
        for (const WatchWhen when : {WatchWhen::silent, WatchWhen::night}) {
            rule.conditions = {condition_of(when, 60)};
            look_at<WatchRule>(rule, {{"lines of a clock", [](auto& r, double n) { r.count = static_cast<int>(n); },
                                       1, 2, "no lines"}});
        }
        rule.name.clear();
        QCOMPARE(defect_of(rule), std::string("a rule needs a name."));
        rule.name = "Empty";
        rule.conditions.clear();
        QCOMPARE(defect_of(rule), std::string("a rule needs a condition."));
    }

    void loads() {
        LoadControl pump;
        pump.name = "Pump";
        pump.load = "pump";
        pump.rule = "low";
        pump.acts = true;
        pump.on_line = "pump on";
        pump.off_line = "pump off";
        pump.longest_on_s = 600;
        const auto text = [](std::string LoadControl::*member) {
            return [=](LoadControl& c, double n) { c.*member = std::string(static_cast<std::size_t>(n), 'x'); };
        };
        const char* length = "not below 0 s and at most a year";
        std::vector<Limit<LoadControl>> limits = {
            {"run", [](auto& c, double v) { c.least_on_s = v; }, 600, above(600), "shorter than its least time"},
            {"rest", [](auto& c, double v) { c.rest_s = 60, c.longest_on_s = v; }, above(0), 0, "and has none"},
            {"time-out", [](auto& c, double v) { c.time_out_s = v; }, 3, under(3), "at least 3 s"},
            {"no time-out", [](auto& c, double v) { c.time_out_s = v; }, 0, above(0), "at least 3 s"},
            {"keeps off",
             [](auto& c, double n) {
                 c.never_while.assign(static_cast<std::size_t>(n), condition_of(WatchWhen::below, 1));
             },
             most_conditions, most_conditions + 1, "at most 8 conditions"},
            {"effects",
             [](auto& c, double n) {
                 c.effects.assign(static_cast<std::size_t>(n), {"cistern", 1, 2});
             },
             most_effects, most_effects + 1, "at most 4 effects"},
            {"effect",
             [](auto& c, double v) {
                 c.effects = {{"cistern", v, 0}};
             },
             -1e9, none, "needs a reading"},
            {"effect an hour",
             [](auto& c, double v) {
                 c.effects = {{"cistern", 0, v}};
             },
             1e9, none, "needs a read"},
            {"on", text(&LoadControl::on_line), longest_load_line, longest_load_line + 1, "at most 200 bytes"},
            {"off", text(&LoadControl::off_line), longest_load_line, longest_load_line + 1, "at most 200 bytes"},
            {"topic", text(&LoadControl::topic), longest_load_line, longest_load_line + 1, "at most 200 bytes"},
            {"no line", text(&LoadControl::on_line), 1, 0, "a line for on and a line for off"},
            {"blank",
             [](auto& c, double v) {
                 c.off_line = {'o', static_cast<char>(v)};
             },
             0x20, 0x1f, "one line"},
            {"delete",
             [](auto& c, double v) {
                 c.off_line = {'o', static_cast<char>(v)};
             },
             0x7e, 0x7f, "one line"},
        };
        for (double LoadControl::*member : {&LoadControl::least_off_s, &LoadControl::longest_on_s,
                                            &LoadControl::value_within_s, &LoadControl::time_out_s}) {
            const auto set = [=](LoadControl& c, double v) { c.*member = v; };
            limits.push_back({"longest", set, a_year_s, above(a_year_s), length});
            limits.push_back({"shortest", set, 0, under(0), length});
            limits.push_back({"no number", set, 60, none, length});
        }
        look_at<LoadControl>(pump, limits);
        pump.acts = false; // tried on the record: nothing is sent yet
        pump.on_line.clear();
        QVERIFY(defect_of(pump).empty());
    }

    void sessions() {
        SessionRule stove;
        stove.name = "Stove";
        look_at<SessionRule>(
            stove,
            {{"shortest", [](auto& r, double v) { r.least_s = v; }, 0, under(0), "not below 0"},
             {"pause", [](auto& r, double v) { r.pause_s = v; }, above(0), 0, "pause above 0"},
             {"long", [](auto& r, double v) { r.least_s = v; }, a_year_s, above(a_year_s), "at most a year"},
             {"long pause", [](auto& r, double v) { r.pause_s = v; }, a_year_s, above(a_year_s), "at most a year"},
             {"limit", [](auto& r, double v) { r.limit = v; }, -1e9, none, "a number"}});
    }

    void namedBands() {
        const auto count = [](std::vector<NamedBand>& bands, double n) {
            bands.clear();
            for (int i = 0; i < static_cast<int>(n); ++i)
                bands.push_back({"band", static_cast<double>(i), WatchRank::note});
        };
        std::vector<NamedBand> three;
        count(three, 3);
        look_at<std::vector<NamedBand>>(
            three, {{"bands", count, most_bands, most_bands + 1, "at most 12 bands"},
                    {"one", count, 2, 1, "name at least two"},
                    {"none", count, 0, 1, "name at least two"},
                    {"order", [](auto& b, double v) { b[1].to = v; }, above(0), 0, "put them in order"},
                    {"the last has no end", [](auto& b, double v) { b[2].to = v; }, -5, none, "must be a number"}});
    }
};

RUN_TESTS_OF(TestRuleLimits)
#include "tst_rule_limits.moc"
