#include "demo/station_boards.h"

#include "core/physics/sound.h"
#include "core/physics/vessel.h"
#include "demo/gauge_board.h"
#include "demo/world.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum::demo {

namespace {

constexpr std::uint64_t echo_stream = 201, salt_stream = 203, air_stream = 204, light_stream = 205,
                        soil_stream = 206, cistern_stream = 207, luck_stream = 208;
constexpr double mount_mm = 2100; ///< ranger's face above the pool's bottom

/// What the pump house's loads do: the lamp to a sensor that sees it; the pump from the cistern to a bed.
constexpr double lamp_lux = 120, pump_L_min = 6, bed_wetter_min = 1.5, most_wetter = 45;
constexpr int pumped_bed = 4;

/// The cistern: 1 m across, 2 m long, lying.
const physics::VesselShape cistern = {physics::VesselKind::lying_cylinder, 1, 2, 0, 0};

} // namespace

ScheduledBoard::ScheduledBoard(std::uint64_t seed, std::vector<TimeUs> intervals, TimeUs start)
    : m_seed(seed), m_draws(start / 1000), m_intervals(std::move(intervals)) {
    for (std::size_t i = 0; i < m_intervals.size(); ++i)
        m_due.push_back(start + second_us + static_cast<TimeUs>(i) * 100'000); // soon after power, then in turn
}

TimeUs ScheduledBoard::next() const {
    return *std::min_element(m_due.begin(), m_due.end());
}

std::vector<Sent> ScheduledBoard::step(TimeUs now) {
    std::vector<Sent> out;
    while (next() <= now) {
        const auto job = static_cast<std::size_t>(std::min_element(m_due.begin(), m_due.end()) - m_due.begin());
        const TimeUs at = m_due[job];
        m_due[job] += m_intervals[job];
        if (at < now - std::max(most_late, 2 * m_intervals[job])) continue;
        send(job, at, out);
    }
    return out;
}

std::string ScheduledBoard::command(std::string_view line, TimeUs now) {
    while (!line.empty() && (line.back() == '\r' || line.back() == '\n' || line.back() == ' '))
        line.remove_suffix(1);
    if (line == "help")
        return "# ok help: report, load NAME on [SECONDS]|off, screen on|off, hand STIMULUS READING|off, fault "
               "NAME|+NAME|-NAME|none\n";
    if (line == "report") {
        for (TimeUs& due : m_due)
            due = std::min(due, now);
        return "# ok reports now\n";
    }
    if (line.starts_with("fault ") && m_faults.change(line.substr(6))) {
        m_fault_since = now;
        return fmt::format("# ok fault={}\n", m_faults.text());
    }
    if (std::string done = load_command(line, now); !done.empty()) return done;
    if (line.starts_with("hand ") && m_hand.change(line.substr(5)))
        return fmt::format("# ok hand={}\n", m_hand.text());
    return fmt::format("# error \"{}\" is not understood; send help\n", line);
}

ShedBoard::ShedBoard(const BoardSettings& settings, TimeUs start)
    : ScheduledBoard(settings.seed, {6 * second_us, 10 * second_us, second_us}, start) {}

std::vector<Sent> ShedBoard::start(TimeUs now) {
    return {{now, "shed/status", "online", true}};
}

PoolNumbers ShedBoard::measure_pool(TimeUs now) {
    const std::int64_t draw = next_draw();
    const double luck = hash_noise(seed(), luck_stream, draw);
    ++m_tick;
    PoolNumbers out;
    // Sound's time there and back through air as warm as it is; zero is the ranger's word for no echo.
    double range = mount_mm - tide_level(seed(), now) + 1.6 * hash_normal(seed(), echo_stream, draw);
    if (m_hand.on("tide-pool", "step-of-board")) range -= 120;
    if (m_hand.on("tide-pool", "ruler")) range = 500;
    out.echo_us = std::lround(2000 * range / physics::dry_speed_of_sound(air_temperature(seed(), now)));
    if (m_faults.on("no-echo") && luck > 0.2) out.echo_us = 0;
    out.water_degC = std::floor((pool_temperature(seed(), now) + 0.08 + 2 * m_hand.warmth("pool-water")) * 16) / 16;
    if (m_faults.on("probe-lost") && luck > 0.4) out.water_degC = -127;
    if (m_faults.on("power-on-value") && m_tick % 3 == 0) out.water_degC = 85;
    // 32 mV for each mS/cm into a 12-bit converter at 3.3 V.
    double volts = 0.032 * pool_conductivity(seed(), now) * 1.012 + 0.004;
    if (m_faults.on("dry-probe") || m_hand.on("conductivity", "lift-out")) volts = 0.012;
    volts += 0.0007 * hash_normal(seed(), salt_stream, draw);
    out.salt_code = converter_code(volts, 3.3, 12);
    return out;
}

std::string ShedBoard::pool(TimeUs now) {
    const PoolNumbers numbers = measure_pool(now);
    TimeUs said = now;
    if (m_faults.on("clock-behind")) said -= 40 * second_us;
    if (m_faults.on("clock-back") && m_tick % 8 == 0) said -= 10 * minute_us;
    return fmt::format(R"({{"seq":{},"time":"{}","echo_us":{},"water_degC":{:.4f},"ec":{}}})", m_sequence++,
                       iso_time(said), numbers.echo_us, numbers.water_degC, numbers.salt_code);
}

AirNumbers ShedBoard::measure_air(TimeUs now) {
    const std::int64_t draw = next_draw();
    const double wet = m_faults.on("soaked") ? 100.0
                                             : relative_humidity(seed(), now) + (m_hand.on("humidity") ? 12 : 0) +
                                                   0.3 * hash_normal(seed(), air_stream, draw);
    return {air_pressure(seed(), now) - (m_hand.on("air-pressure") ? 0.5 : 0) +
                0.03 * hash_normal(seed(), air_stream + 50, draw),
            wet};
}

void ShedBoard::send(std::size_t job, TimeUs now, std::vector<Sent>& out) {
    if (job == 0) {
        out.push_back({now, "shed/pool", pool(now), false});
    } else if (job == 1) {
        const AirNumbers air = measure_air(now);
        out.push_back(
            {now, "shed/air",
             fmt::format(R"({{"pressure_hPa":{:.2f},"humidity":{:.1f}}})", air.pressure_hPa, air.humidity), false});
    } else {
        if (somebody_walks(seed(), now) || m_hand.on("jetty", "walk-past")) m_moved = now;
        if (m_hand.on("jetty", "nobody")) m_moved = 0;
        bool high = now - m_moved < 8 * second_us && m_moved > 0; // the detector holds its output for eight seconds
        if (m_faults.on("restless")) high = hash_noise(seed(), luck_stream + 1, next_draw()) > 0;
        out.push_back({now, "shed/jetty", high ? "1" : "0", false});
    }
}

PumpHouseBoard::PumpHouseBoard(const BoardSettings& settings, TimeUs start)
    : ScheduledBoard(settings.seed, {minute_us, 10 * second_us}, start) {}

std::vector<Sent> PumpHouseBoard::start(TimeUs) {
    return {};
}

double PumpHouseBoard::measure_light(TimeUs now) {
    double lux = daylight_lux(seed(), now) * (1 + 0.004 * hash_normal(seed(), light_stream, next_draw()));
    if (m_hand.on("daylight")) lux *= 0.08;
    if (m_faults.on("overflow")) lux = 27000 + 9000 * std::sin(seconds(now) / 60);
    if (m_faults.on("glare")) lux = 70000;
    if (!m_lamp_is_screened && m_loads.on("jetty-lamp", now)) lux += lamp_lux;
    return std::clamp(std::floor(lux * 1.2), 0.0, 65535.0) / 1.2;
}

std::string PumpHouseBoard::light(TimeUs now) {
    const double lux = measure_light(now);
    if (m_faults.on("overflow"))
        return fmt::format("lux={}", static_cast<std::int16_t>(static_cast<std::uint16_t>(std::lround(lux * 1.2))));
    return fmt::format("lux={:.1f}", lux);
}

HouseNumbers PumpHouseBoard::measure(TimeUs now, double more_litres) {
    const std::int64_t draw = next_draw();
    HouseNumbers out;
    out.litres = cistern_litres(seed(), now) + more_litres + (m_hand.on("cistern") ? 12 : 0);
    const double pumped_min = m_loads.on_for_s("bed-pump", now) / 60;
    out.litres = std::max(5.0, out.litres - pump_L_min * pumped_min);
    if (m_faults.on("tap-left-open")) out.litres = std::max(5.0, out.litres - 0.45 * seconds(now - faultSince()));
    out.range_mm = std::lround(1150 - 1000 * physics::vessel_level(cistern, out.litres) +
                               1.3 * hash_normal(seed(), cistern_stream, draw));
    for (int bed = 1; bed <= 4; ++bed) {
        const double wet = soil_moisture(seed(), now, bed) + (m_hand.on(fmt::format("bed-{}", bed)) ? 15 : 0) +
                           (bed == pumped_bed ? std::min(most_wetter, bed_wetter_min * pumped_min) : 0);
        // A 16-bit converter at ± 4.096 V: 32 768 codes upwards.
        double volts =
            2.3 - 0.013 * wet + 0.0006 * hash_normal(seed(), soil_stream + static_cast<std::uint64_t>(bed), draw);
        if (bed == 1 && m_faults.on("bed-unplugged")) volts = 1.5 + 0.9 * hash_noise(seed(), soil_stream + 9, draw);
        const bool gone = m_faults.on("converter-gone") && hash_noise(seed(), luck_stream + 2, draw) > 0;
        if (!gone) out.beds[static_cast<std::size_t>(bed - 1)] = converter_code(volts, 4.096, 15);
    }
    return out;
}

void PumpHouseBoard::send(std::size_t job, TimeUs now, std::vector<Sent>& out) {
    if (job == 1) {
        out.push_back({now, "pump-house", light(now), false});
        return;
    }
    const HouseNumbers numbers = measure(now);
    std::string beds;
    for (std::size_t i = 0; i < numbers.beds.size(); ++i)
        beds += fmt::format("{}\"A{}\":{}", i > 0 ? "," : "", i,
                            numbers.beds[i] ? std::to_string(*numbers.beds[i]) : std::string("null"));
    // The program's own arithmetic: whole litres.
    out.push_back({now, "pump-house",
                   fmt::format(R"({{"seq":{},"cistern":{{"range_mm":{},"litres":{}}},"beds":{{{}}}}})",
                               m_sequence++, numbers.range_mm, static_cast<long>(numbers.litres), beds),
                   false});
}

BeaconLog::BeaconLog(const BoardSettings& settings, TimeUs start)
    : ScheduledBoard(settings.seed, {beacon_every}, start) {}

std::vector<Sent> BeaconLog::start(TimeUs now) {
    std::vector<Sent> out = {{now, "beacon-log", "time,kPa,degC\n", false}};
    for (TimeUs t = now - 2 * hour_us; t < now; t += beacon_every)
        send(0, t, out);
    return out;
}

TyreNumbers BeaconLog::measure(TimeUs now) {
    return {std::round((tyre_pressure(seed(), now) - (m_hand.on("trailer-tyre") ? 10 : 0)) / 2.5) * 2.5,
            std::round(tyre_temperature(seed(), now))};
}

void BeaconLog::send(std::size_t, TimeUs now, std::vector<Sent>& out) {
    if (!trailer_rolls(seed(), now)) return;
    const TyreNumbers tyre = measure(now);
    out.push_back(
        {now, "beacon-log", fmt::format("{},{:.1f},{:.0f}\n", iso_time(now), tyre.kPa, tyre.degC), false});
}

std::string Board::load_command(std::string_view line, TimeUs now) {
    const bool screens = line == "screen on" || line == "screen off";
    if (screens) m_lamp_is_screened = line == "screen on";
    if (!screens && !(line.starts_with("load ") && m_loads.change(line.substr(5), now))) return {};
    return fmt::format("# ok {}\n", line);
}

bool Hand::change(std::string_view text) {
    if (text == "off") {
        m_stimulus.clear();
        m_reading.clear();
        return true;
    }
    const std::size_t space = text.find(' ');
    if (space == 0 || space == std::string_view::npos || space + 1 == text.size()) return false;
    m_stimulus = text.substr(0, space);
    m_reading = text.substr(space + 1);
    return true;
}

double Hand::warmth(std::string_view reading) const {
    if (!on(reading)) return 0;
    return m_stimulus.starts_with("warm") ? 1 : m_stimulus.starts_with("cool") ? -1 : 0;
}

const std::vector<std::string>& board_names() {
    static const std::vector<std::string> all = {"gauge", "shed", "pump-house", "beacon-log"};
    return all;
}

std::string_view stand_in(std::string_view id) {
    const auto& names = board_names();
    return std::find(names.begin(), names.end(), id) != names.end() ? id : std::string_view("gauge");
}

std::unique_ptr<Board> make_board(std::string_view name, const BoardSettings& settings, TimeUs now) {
    if (name == "gauge") return std::make_unique<GaugeBoard>(settings, now);
    if (name == "shed") return std::make_unique<ShedBoard>(settings, now);
    if (name == "pump-house") return std::make_unique<PumpHouseBoard>(settings, now);
    if (name == "beacon-log") return std::make_unique<BeaconLog>(settings, now);
    return nullptr;
}

} // namespace cognitum::demo
