#include "demo/history.h"

#include "core/units/format.h"
#include "core/watch/bands.h"
#include "core/watch/rule_words.h"
#include "demo/gauge_board.h"
#include "demo/station_boards.h"
#include "demo/world.h"
#include "store/exchange/csv_intake.h"
#include "store/figures/reading_figures.h"
#include "store/figures/session_figures.h"
#include "store/figures/watch_trial.h"
#include "store/file/data_files.h"
#include "store/samples/samples.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <set>

namespace cognitum {

namespace {

constexpr TimeUs all_readings_every = demo::beacon_every;
constexpr TimeUs last_days = 2 * day_us; ///< that the hut's air has every half minute
constexpr TimeUs hut_air_every = 30 * second_us;

/// What happened in the sixty days, as moments before their end.
struct Story {
    TimeUs end;
    [[nodiscard]] TimeUs days_before(double days) const { return end - from_seconds(days * 86400); }
    /// Midnight (UTC) that came so many whole days before the end's own.
    [[nodiscard]] TimeUs midnight(int days) const { return end - end % day_us - days * day_us; }

    [[nodiscard]] TimeUs storm_from() const { return midnight(19) + 9 * hour_us; }
    [[nodiscard]] TimeUs storm_to() const { return midnight(17) + 14 * hour_us; }
    [[nodiscard]] TimeUs leak_from() const { return midnight(8) + hour_us; }
    [[nodiscard]] TimeUs leak_to() const { return midnight(8) + 5 * hour_us + 30 * minute_us; }
    [[nodiscard]] TimeUs silent_from() const { return midnight(11) + 14 * hour_us; }
    [[nodiscard]] TimeUs silent_to() const { return silent_from() + 19 * hour_us; }
    [[nodiscard]] TimeUs restart() const { return midnight(14) + 7 * hour_us + 12 * minute_us; }
    [[nodiscard]] TimeUs wet_from() const { return midnight(23); }
    [[nodiscard]] TimeUs sealed() const { return midnight(20) + 11 * hour_us; }

    /// How much of the world's restless weather falls as rain: most days none.
    [[nodiscard]] double rain_share(TimeUs t) const {
        if (t >= storm_from() && t < storm_to()) return 3.2;
        for (const int day : {52, 47, 44, 37, 30, 29, 25, 11, 5, 4, 1})
            if (t >= midnight(day) && t < midnight(day - 1)) return 0.5;
        return 0;
    }
    [[nodiscard]] double pressure_dip_hPa(TimeUs t) const {
        const double days = seconds(t - (storm_from() + storm_to()) / 2) / 86400;
        return 14 * std::exp(-days * days / 1.8);
    }
    /// Litres in the cistern beside its usual coming and going: the storm's, less the leak's; both wear off.
    [[nodiscard]] double more_litres(TimeUs t) const {
        const auto share = [t](TimeUs from, TimeUs to, double lasts_days) {
            if (t < from) return 0.0;
            if (t < to) return seconds(t - from) / seconds(to - from);
            return std::exp(-seconds(t - to) / 86400 / lasts_days);
        };
        return 230 * share(storm_from(), storm_to(), 4) - 140 * share(leak_from(), leak_to(), 1.5);
    }
    [[nodiscard]] bool swims(TimeUs t) const {
        const TimeUs in_day = t % day_us;
        return (t / day_us) % 2 == 0 && in_day >= 7 * hour_us + 10 * minute_us &&
               in_day < 7 * hour_us + 36 * minute_us;
    }
    [[nodiscard]] bool on_the_road(TimeUs t) const {
        const TimeUs in_day = t % day_us;
        return (t / day_us) % 4 == 1 && in_day >= 9 * hour_us && in_day < 12 * hour_us;
    }
    [[nodiscard]] bool gauge_speaks(TimeUs t) const { return t < restart() || t >= restart() + 4 * minute_us; }
    [[nodiscard]] bool shed_speaks(TimeUs t) const { return t < silent_from() || t >= silent_to(); }
};

/// The plan with the calibrations that were in force at a moment.
Result<Bench> plan_at(BenchFile& file, const Bench& bench, TimeUs t) {
    Bench plan = bench;
    for (Reading& reading : plan.readings) {
        COGNITUM_TRY(records, file.calibrations(reading.id));
        reading.correction.reset();
        for (const CalibrationRecord& record : records)
            if (record.time <= t) reading.correction = record.correction;
    }
    return plan;
}

/// Rows of numbers as the boards sent them, on the way through the same intake as live lines and files.
class Rows {
  public:
    explicit Rows(const Bench& bench) {
        for (const Reading& r : bench.readings) {
            CsvColumn column;
            column.name = column.reading = r.id;
            column.use = r.source.collect.empty() ? CsvColumn::Use::raw : CsvColumn::Use::values;
            m_columns.push_back(column);
        }
        m_cells.assign(m_columns.size(), {no_number, Cause::none});
    }
    /// From now on numbers go through this plan, which must outlive its use.
    void use(const Bench& plan, const Catalog& catalog) {
        m_intake.emplace(plan, &catalog, m_columns);
        m_lanes = m_intake->lanes();
    }
    void set(std::string_view reading, double number) {
        for (std::size_t i = 0; i < m_columns.size(); ++i)
            if (m_columns[i].reading == reading) m_cells[i].number = number;
    }
    void take(TimeUs time) {
        for (const auto& taken : m_intake->take(time, m_cells))
            m_samples[m_lanes[taken.lane]].push_back(taken.sample);
        std::fill(m_cells.begin(), m_cells.end(), csv::Cell{no_number, Cause::none});
    }
    std::map<std::string, std::vector<Sample>>& samples() { return m_samples; }

  private:
    std::vector<CsvColumn> m_columns;
    std::vector<csv::Cell> m_cells;
    std::optional<csv::RowIntake> m_intake;
    std::vector<std::string> m_lanes;
    std::map<std::string, std::vector<Sample>> m_samples;
};

/// Everything that the boards reported every three minutes.
class Station {
  public:
    Station(std::uint64_t seed, const Story& story, TimeUs start)
        : m_seed(seed),
          m_story(story),
          m_gauge({seed, 30'000, {}}, start),
          m_shed({seed, 0, {}}, start),
          m_house({seed, 0, {}}, start),
          m_beacon({seed, 0, {}}, start) {}

    void report(TimeUs t, Rows& rows) {
        m_fallen_mm += m_story.rain_share(t) * demo::rain_between(m_seed, t - all_readings_every, t);
        if (m_story.gauge_speaks(t)) {
            const demo::GaugeNumbers gauge = m_gauge.numbers(t);
            rows.set("rock", gauge.rock_code);
            rows.set("hut-air", gauge.air_code);
            rows.set("stove-flue", gauge.flue_degC);
            rows.set("rain", std::floor(m_fallen_mm / 0.2));
        }
        if (m_story.shed_speaks(t)) {
            const demo::PoolNumbers pool = m_shed.measure_pool(t);
            rows.set("tide-pool", static_cast<double>(pool.echo_us));
            rows.set("pool-water", water_gets_in(t) ? -127 : pool.water_degC);
            rows.set("conductivity", pool.salt_code);
            const demo::AirNumbers air = m_shed.measure_air(t);
            rows.set("air-pressure", air.pressure_hPa - m_story.pressure_dip_hPa(t));
            rows.set("humidity", air.humidity);
        }
        const demo::HouseNumbers house = m_house.measure(t, m_story.more_litres(t));
        rows.set("cistern", static_cast<double>(house.range_mm));
        rows.set("daylight", m_house.measure_light(t));
        static constexpr std::array<const char*, 4> beds = {"bed-1", "bed-2", "bed-3", "bed-4"};
        for (std::size_t i = 0; i < beds.size(); ++i)
            if (house.beds[i]) rows.set(beds[i], *house.beds[i]);
        if (m_story.on_the_road(t) && demo::trailer_rolls(m_seed, t)) {
            const demo::TyreNumbers tyre = m_beacon.measure(t);
            rows.set("trailer-tyre", tyre.kPa);
            rows.set("tyre-warmth", tyre.degC);
        }
        rows.take(t);
    }

  private:
    /// The pool's probe before it was sealed: it is lost more and more often.
    [[nodiscard]] bool water_gets_in(TimeUs t) const {
        if (t < m_story.wet_from() || t >= m_story.sealed()) return false;
        const double share = 0.4 * seconds(t - m_story.wet_from()) / seconds(m_story.sealed() - m_story.wet_from());
        return std::abs(demo::hash_noise(m_seed, 301, t / all_readings_every)) < share;
    }
    std::uint64_t m_seed;
    Story m_story;
    double m_fallen_mm = 0;
    demo::GaugeBoard m_gauge;
    demo::ShedBoard m_shed;
    demo::PumpHouseBoard m_house;
    demo::BeaconLog m_beacon;
};

/// The jetty's detector every minute and when it changes; the pulse while somebody swims.
void add_people(Rows& rows, std::uint64_t seed, const Story& story, TimeUs start) {
    constexpr TimeUs look_every = 4 * second_us;
    constexpr TimeUs beat_every = 5 * second_us;
    TimeUs moved = 0;
    bool before = false;
    for (TimeUs t = start; t < story.end; t += look_every) {
        if (demo::somebody_walks(seed, t)) moved = t;
        const bool high = moved > 0 && t - moved < 8 * second_us;
        const bool speaks = story.shed_speaks(t) && (high != before || t % minute_us == 0);
        before = high;
        if (speaks) {
            rows.set("jetty", high ? 1 : 0);
            rows.take(t);
        }
    }
    for (TimeUs t = start; t < story.end; t += beat_every) {
        if (!story.swims(t)) {
            t += minute_us - beat_every;
            continue;
        }
        const double effort = 34 * (1 - std::exp(-seconds(t % day_us - 7 * hour_us - 10 * minute_us) / 240));
        const double noise = 1.5 * demo::hash_normal(seed, 302, t / beat_every);
        const bool lost = demo::hash_noise(seed, 303, t / beat_every) > 0.9; // the clip slips
        if (lost) continue;
        rows.set("pulse", std::round(demo::heart_rate(seed, t) + effort + noise));
        rows.take(t);
    }
}

/// The hut's air every half minute.
std::vector<Sample> hut_air_closely(const Reading& reading, std::uint64_t seed, TimeUs start, TimeUs end) {
    demo::GaugeBoard board({seed, 30'000, {}}, start);
    const Chain path = effective_path(reading);
    std::vector<Sample> out;
    for (TimeUs t = start; t < end; t += hut_air_every) {
        const double code = board.code(t);
        const Value value = forward(path, code);
        out.push_back({t, code, value.number, value.cause});
    }
    return out;
}

Result<void> log_bands(BenchFile& file, const Reading& reading, const std::vector<Sample>& samples) {
    std::vector<TimedNumber> series;
    series.reserve(samples.size());
    for (const Sample& s : samples)
        series.push_back({s.time, s.value});
    for (const ZoneChange& change : zone_changes(series, *reading.bands))
        COGNITUM_CHECK(file.append_log({0, change.time, reading.id,
                                        change.to == Zone::in_range ? log_kind::recovery : log_kind::alert,
                                        fmt::format("{}: {} at {}.", reading.name, zone_word(change.to),
                                                    format_value(change.value, 0.3, reading.quantity.unit)),
                                        0}));
    return {};
}

/// What the rules of the plan said over it, but those that speak so often that nobody would have left them on.
Result<void> log_rules(BenchFile& file, const Bench& plan, const Catalog& catalog, TimeUs end) {
    const auto doubt_of = [&](const Reading& reading, double value) {
        return 2 * value_u(plan, catalog, reading, value, end);
    };
    const auto trials = try_rules(file, plan, plan.watch_rules, {.to = end, .now = end}, doubt_of, {});
    for (std::size_t i = 0; i < trials.size(); ++i) {
        const WatchRule& rule = plan.watch_rules[i];
        if (!rule.on || speaks_too_often(rule, trials[i])) continue;
        for (const WatchEvent& e : trials[i].events)
            COGNITUM_CHECK(file.append_log({0, e.time, rule.reading(),
                                            e.kind == WatchKind::cleared ? log_kind::recovery : log_kind::alert,
                                            event_says(rule, e, plan), 0}));
    }
    return {};
}

Result<void> log_story(BenchFile& file, const Story& s, TimeUs start) {
    const LogEntry entries[] = {
        {0, start, "", log_kind::recording, "Recording started.", 0},
        {0, s.days_before(50.2), "trailer-tyre", log_kind::upkeep, "Beacon battery: 3.0 V.", 0},
        {0, s.days_before(30.4), "trailer-tyre", log_kind::upkeep, "Beacon battery: 2.9 V.", 0},
        {0, s.midnight(25) + 10 * hour_us, "rain", log_kind::upkeep, "Cleaned the funnel: a leaf and two spiders.",
         0},
        {0, s.wet_from() + 15 * hour_us, "pool-water", log_kind::note,
         "The probe drops out at times; its cable looks cracked.", 0},
        {0, s.sealed(), "pool-water", log_kind::upkeep, "Sealed the probe’s cable with heat-shrink and glue.", 0},
        {0, s.storm_from() + 5 * hour_us, "", log_kind::note, "Storm from the south-west.", 0},
        {0, s.restart(), "", log_kind::alert, "The gauge board restarted after a brown-out.", 0},
        {0, s.silent_from() + 10 * minute_us, "", log_kind::alert, "The shed board is silent: no lines for 10 min.",
         0},
        {0, s.silent_to(), "", log_kind::recovery, "The shed board’s lines come again after 19 h.", 0},
        {0, s.silent_to() + 20 * minute_us, "", log_kind::note, "The shed’s plug had been pulled for the kettle.",
         0},
        {0, s.midnight(8) + 9 * hour_us, "cistern", log_kind::note,
         "Some 90 L gone since last night: the bed valve dripped. Closed it.", 0},
        {0, s.days_before(6.3), "trailer-tyre", log_kind::upkeep, "Beacon battery: 2.8 V.", 0},
        {0, s.end, "", log_kind::recording, "Recording stopped.", 0}};
    for (const LogEntry& entry : entries)
        COGNITUM_CHECK(file.append_log(entry));
    return {};
}

/// Swims and evenings at the stove as rules find them in the last weeks, drives as somebody noted them.
Result<void> add_sessions(BenchFile& file, Bench& plan, const Story& story) {
    const TimeUs last_week = story.midnight(7), last_three = story.midnight(21);
    SessionRule swim{"swim-rule", "Swim", SessionKind::swim, "pulse", SessionWhen::valued, 0, 300, 300};
    swim.readings = {"pool-water"};
    SessionRule fire{"fire-rule", "Fire in the stove", SessionKind::fire, "stove-flue", SessionWhen::above, 60};
    fire.least_s = fire.pause_s = 20 * 60;
    fire.readings = {"hut-air"};
    for (const auto& [rule, since] : {std::pair{swim, last_three}, std::pair{fire, last_week}}) {
        if (!plan.reading(rule.reading)) continue;
        plan.session_rules.push_back(rule);
        COGNITUM_TRY(found, find_sessions(file, plan, rule, since, story.end));
        for (const Interval& s : found) {
            TimedSession session{plan.free_id(rule.name), rule.name, rule.kind, s.from, s.to,
                                 {rule.reading},          rule.id};
            session.readings.insert(session.readings.end(), rule.readings.begin(), rule.readings.end());
            plan.sessions.push_back(std::move(session));
        }
    }
    for (TimeUs day = last_three - last_three % day_us; day < story.end - day_us; day += day_us)
        if (plan.reading("trailer-tyre") && story.on_the_road(day + 9 * hour_us))
            plan.sessions.push_back({plan.free_id("Drive"),
                                     "To the harbour and back",
                                     SessionKind::drive,
                                     day + 9 * hour_us,
                                     day + 12 * hour_us,
                                     {"trailer-tyre", "tyre-warmth"}});
    return {};
}

Result<void> add_two_days(BenchFile& file, const Reading& hut_air, std::uint64_t seed, TimeUs end) {
    const TimeUs start = end - last_days;
    const std::array<SeriesBatch, 1> batches = {{{hut_air.id, hut_air_closely(hut_air, seed, start, end)}}};
    COGNITUM_CHECK(add_samples(file, batches));
    COGNITUM_CHECK(file.append_log({0, start, hut_air.id, log_kind::recording, "Recording started.", 0}));
    COGNITUM_CHECK(log_bands(file, hut_air, batches[0].samples));
    COGNITUM_CHECK(file.append_log({0, end, hut_air.id, log_kind::recording, "Recording stopped.", 0}));
    return {};
}

} // namespace

Result<void> add_demo_history(BenchFile& file, Bench& bench, std::uint64_t seed, TimeUs end, DemoHistory length) {
    const Reading* hut_air = bench.reading("hut-air");
    if (!hut_air) return failure("the demo has no reading hut-air.", "data/demo/whelk-point.json");
    if (length == DemoHistory::two_days) return add_two_days(file, *hut_air, seed, end);

    const LoadedCatalog cards = load_catalog();
    const Story story{end};
    const TimeUs start = story.midnight(60);
    std::set<TimeUs> changes = {start};
    for (const Reading& reading : bench.readings) {
        COGNITUM_TRY(records, file.calibrations(reading.id));
        for (const CalibrationRecord& record : records)
            if (record.time > start && record.time < end) changes.insert(record.time);
    }
    Rows rows(bench);
    Station station(seed, story, start);
    Bench plan;
    for (TimeUs t = start; t < end; t += all_readings_every) {
        if (!changes.empty() && *changes.begin() <= t) {
            while (!changes.empty() && *changes.begin() <= t)
                changes.erase(changes.begin());
            COGNITUM_TRY(now, plan_at(file, bench, t));
            plan = std::move(now);
            rows.use(plan, cards.catalog);
        }
        station.report(t, rows);
    }
    add_people(rows, seed, story, start);
    std::vector<Sample>& air = rows.samples()["hut-air"];
    std::erase_if(air, [&](const Sample& s) { return s.time >= end - last_days; });
    const auto closely = hut_air_closely(*hut_air, seed, end - last_days, end);
    air.insert(air.end(), closely.begin(), closely.end());
    COGNITUM_CHECK(log_bands(file, *hut_air, air));
    COGNITUM_CHECK(log_story(file, story, start));
    std::vector<SeriesBatch> batches;
    for (auto& [reading, samples] : rows.samples())
        batches.push_back({reading, std::move(samples)});
    COGNITUM_CHECK(add_samples(file, batches));
    COGNITUM_CHECK(log_rules(file, bench, cards.catalog, story.end));
    return add_sessions(file, bench, story);
}

} // namespace cognitum
