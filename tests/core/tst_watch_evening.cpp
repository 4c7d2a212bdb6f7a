// An evening and a night at Whelk Point, a minute at a time: dusk, a full cistern, a board that falls silent, a
// leak at night. How many notices that makes, and each with its reason.
#include "core/watch/keeper.h"
#include "core/watch/rule_words.h"
#include "core/watch/teller.h"
#include "demo/world.h"
#include "store/file/data_files.h"
#include "support/run_tests.h"
#include "support/support.h"

using namespace cognitum;

namespace {

constexpr std::uint64_t evening_seed = 1;
constexpr TimeUs noon = 1795608000LL * second_us; // 2026-11-25T12:00:00Z
constexpr TimeUs day_end = noon + 20 * hour_us;   // eight in the morning
constexpr TimeUs storm = noon + 5 * hour_us, silence = noon + 7 * hour_us + 40 * minute_us,
                 leak_from = noon + 13 * hour_us + 15 * minute_us;

/// The cistern nearly full after a storm at five, and from a quarter past one with a tap that runs at 22 L/h.
double litres(TimeUs t) {
    const double filled = 1280 + 110 * std::clamp(seconds(t - storm) / 3600, 0.0, 1.0);
    const double drawn =
        4 * seconds(t - noon) / 3600 * (t < noon + 11 * hour_us ? 1 : 0) + (t < noon + 11 * hour_us ? 0 : 44);
    const double lost = 22 * std::max(0.0, seconds(t - leak_from) / 3600);
    return filled - drawn - lost + 2 * demo::hash_normal(evening_seed, 900, t / minute_us);
}

struct HeardEvents {
    std::string at, rule;
    WatchKind kind = WatchKind::raised;
    bool urgent = false;
    std::string says;
};

struct Evening {
    std::vector<HeardEvents> heard; ///< what a person is told
    int lines_beyond = 0; ///< what a board without rules would have sent: a notice for each line beyond a limit
};

Evening played() {
    const auto bench = load_bench_json(data_folder() + "/demo/whelk-point.json");
    if (!bench) qFatal("%s", bench.error().text().c_str());
    std::vector<WatchRule> rules = bench->watch_rules;
    std::erase_if(rules, [](const WatchRule& r) { return r.id == "hut-warm"; }); // the nervous one
    WatchKeeper keeper;
    keeper.set_rules(rules, *bench);
    Teller teller;
    teller.set_quiet(bench->telling.quiet);
    Evening out;
    std::vector<RuleEvent> events;
    const auto rule_of = [&](const std::string& id) -> const WatchRule& {
        return *std::find_if(rules.begin(), rules.end(), [&](const WatchRule& r) { return r.id == id; });
    };
    const auto tell = [&](const Notice& notice, TimeUs now) {
        const WatchRule& rule = rule_of(notice.rule);
        if (rule.rank == WatchRank::note) return; // good to know: no notice
        out.heard.push_back({iso_time(now).substr(11, 5), notice.rule, notice.event.kind, notice.urgent,
                             test::plain(event_says(rule, notice.event, *bench))});
    };
    double rain = 100;
    for (TimeUs t = noon; t < day_end; t += minute_us) {
        rain += t >= storm && t < storm + hour_us ? 0.1 : 0;
        const std::pair<const char*, double> now[] = {
            {"cistern", litres(t)},
            {"daylight", demo::daylight_lux(evening_seed, t)},
            {"rain", 0.2 * std::floor(rain / 0.2)},
            {"stove-flue", demo::flue_temperature(evening_seed, t)},
            {"hut-air", demo::air_temperature(evening_seed, t) + 8},
        };
        for (const auto& [reading, value] : now) {
            keeper.take(reading, t, value, events);
            for (const WatchRule& rule : rules) {
                const WatchCondition& c = rule.conditions.front();
                if (c.reading != reading) continue;
                out.lines_beyond += (c.when == WatchWhen::above && value > c.value) ||
                                    (c.when == WatchWhen::below && value < c.value);
            }
        }
        if (t < silence)
            for (const auto& [reading, value] :
                 {std::pair{"tide-pool", demo::tide_level(evening_seed, t)}, std::pair{"humidity", 70.0},
                  std::pair{"air-pressure", demo::air_pressure(evening_seed, t)}})
                keeper.take(reading, t, value, events);
        keeper.pass(t, events);
        for (const RuleEvent& e : events)
            if (const auto notice = teller.take(rule_of(e.rule), e.event)) tell(*notice, t);
        events.clear();
        for (const Notice& notice : teller.pass(rules, t))
            tell(notice, t);
    }
    return out;
}

} // namespace

class TestWatchEvening : public QObject {
    Q_OBJECT

  private slots:
    void oneNoticeForEachThing() {
        const Evening evening = played();
        for (const HeardEvents& h : evening.heard)
            qInfo("%s  %s%s", h.at.c_str(), h.says.c_str(), h.urgent ? "  (urgent: nobody looked)" : "");
        qInfo("%zu notices; a notice for each line beyond a limit would have been %d", evening.heard.size(),
              evening.lines_beyond);
        const auto heard = [&](const char* rule, WatchKind kind, bool urgent = false) {
            return std::count_if(evening.heard.begin(), evening.heard.end(), [&](const HeardEvents& h) {
                return h.rule == rule && h.kind == kind && h.urgent == urgent;
            });
        };
        QCOMPARE(heard("cistern-full", WatchKind::raised), 1);
        QCOMPARE(heard("pool-silent", WatchKind::raised), 1);
        QCOMPARE(heard("pool-silent", WatchKind::repeated, true), 1); // nobody looked for two hours
        QCOMPARE(heard("cistern-leak", WatchKind::raised), 1);        // at night, because it breaks the quiet
        QCOMPARE(heard("dusk", WatchKind::raised), 0);                // good to know is no notice
        QCOMPARE(heard("cistern-low", WatchKind::raised), 0);
        QVERIFY(evening.heard.size() <= 8);
        QVERIFY(evening.lines_beyond > 300);
        const auto leak_heard = std::find_if(evening.heard.begin(), evening.heard.end(),
                                             [](const HeardEvents& h) { return h.rule == "cistern-leak"; });
        QVERIFY(leak_heard->at >= "02:00" && leak_heard->at <= "04:00");
    }
};

RUN_TESTS_OF(TestWatchEvening)
#include "tst_watch_evening.moc"
