#include "demo/gauge_board.h"

#include "core/base/no_number.h"
#include "core/decode/number.h"
#include "core/physics/thermocouple.h"
#include "demo/world.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace cognitum::demo {

namespace {

constexpr std::uint64_t noise_stream = 11, cut_stream = 12, thermometer_stream = 13, rock_stream = 14,
                        pulse_stream = 15, line_stream = 16, flue_stream = 17;
constexpr TimeUs wave_every = 16'000;
constexpr double mm_per_tip = 0.2;
constexpr int usual_interval_ms = 1000;

bool read_number_of(std::string_view text, double& out) {
    const char* p = text.data();
    return read_number(p, text.data() + text.size(), out) && p == text.data() + text.size();
}

} // namespace

int converter_code(double volts, double reference_V, int bits) {
    const double codes = std::ldexp(1.0, bits);
    return static_cast<int>(std::clamp(std::floor(volts * codes / reference_V), 0.0, codes - 1));
}

GaugeBoard::GaugeBoard(const BoardSettings& settings, TimeUs start)
    : m_seed(settings.seed),
      m_interval_ms(settings.interval_ms > 0 ? settings.interval_ms : usual_interval_ms),
      m_reset_at(start),
      m_last(start),
      m_next_line(start),
      m_next_wave(start),
      m_probe_degC(air_temperature(settings.seed, start)),
      m_draws(start / 1000) {
    if (settings.response_s > 0) m_truth.response_s = settings.response_s;
}

double GaugeBoard::surroundings(TimeUs now) const {
    return (m_in_bath ? m_bath_degC : air_temperature(m_seed, now)) + 8 * m_hand.warmth("hut-air");
}

void GaugeBoard::settle(TimeUs now) {
    const double dt = std::max(0.0, seconds(now - m_last));
    m_last = std::max(m_last, now);
    const double target = surroundings(now);
    m_probe_degC = target + (m_probe_degC - target) * std::exp(-dt / m_truth.response_s);
}

int GaugeBoard::code(TimeUs now) {
    settle(now);
    const std::int64_t draw = m_draws++;
    double volts =
        m_truth.zero_V + m_truth.slope_V * m_probe_degC + m_truth.noise_V * hash_normal(m_seed, noise_stream, draw);
    if (m_faults.on("unplugged-sensor") ||
        m_hand.on("hut-air", "pull-the-wire")) // an open pin: hum from the air, and a charge that wanders
        volts = 1.6 + 0.7 * hash_noise(m_seed, noise_stream, draw) +
                0.5 * std::sin(two_pi * static_cast<double>(draw) / 7.3);
    if (m_faults.on("noisy")) volts += 0.028 * hash_normal(m_seed, noise_stream + 100, draw);
    if (m_faults.on("spikes") && hash_noise(m_seed, noise_stream + 200, draw) > 0.94) volts += 0.4;
    if (m_faults.on("clipped")) volts = 9;
    int out = converter_code(volts, reference_V(), 10);
    if (m_faults.on("stuck")) {
        if (m_stuck_code < 0) m_stuck_code = out;
        out = m_stuck_code;
    }
    return out;
}

/// A 10 kΩ thermistor (β 3 950 K, 0.4 % low) under 10 kΩ: the supply cancels.
int GaugeBoard::rock_code(TimeUs now) {
    const std::int64_t draw = m_draws++;
    const double kelvin = rock_temperature(m_seed, now) + 273.15 + 5 * m_hand.warmth("rock");
    const double ohm = 9960 * std::exp(3950 * (1 / kelvin - 1 / 298.15));
    double share = ohm / (ohm + 10000);
    share += 0.0004 * hash_normal(m_seed, rock_stream, draw);
    const double coupling = m_hand.on("rock", "lift-the-wire") ? 0.15 : 1;
    if (m_faults.on("hum")) share += coupling * 0.014 * std::sin(two_pi * 50.01 * seconds(now - m_reset_at));
    if (m_faults.on("drift")) share += 0.05 * seconds(now - m_fault_since) / 600;
    if (m_faults.on("loose-wire") && hash_noise(m_seed, rock_stream + 1, now / (3 * second_us)) > 0.5) share = 1;
    if (m_hand.on("rock", "pull-the-wire")) share = 1; // the fixed resistor pulls it up
    return converter_code(share, 1, 10);
}

int GaugeBoard::pulse_code(TimeUs now) {
    const std::int64_t draw = m_draws++;
    double level = 505 + 150 * pulse_wave(m_seed, now) + 1.2 * hash_normal(m_seed, pulse_stream, draw);
    if (m_faults.on("light-leak") && !m_hand.on("pulse", "dark-cloth"))
        level = 560 + 60 * pulse_wave(m_seed, now) + 70 * std::sin(two_pi * 100 * seconds(now - m_reset_at)) +
                40 * std::sin(two_pi * 0.13 * seconds(now));
    if (m_faults.on("pressed-hard")) level = 1100 + 190 * pulse_wave(m_seed, now);
    const int code = static_cast<int>(std::clamp(std::floor(level), 0.0, 1023.0));
    // The fixed threshold that this board's program knows.
    const bool above = code > 560;
    if (above && !m_above) {
        if (!m_beats.empty() && now - m_beats.back() > 3 * second_us) m_beats.clear();
        m_beats.push_back(now);
        if (m_beats.size() > 9) m_beats.pop_front();
    }
    m_above = above;
    return code;
}

double GaugeBoard::flue_degC(TimeUs now) {
    if (m_faults.on("flue-open")) return no_number;
    const double flue = flue_temperature(m_seed, now) + 6 * m_hand.warmth("stove-flue") +
                        0.15 * hash_normal(m_seed, flue_stream, m_draws++);
    // The converter chip takes the thermocouple for a straight line over its own temperature, which is the hut's.
    const double chip = air_temperature(m_seed, now);
    return chip + physics::thermocouple_emf(physics::ThermocoupleType::K, flue, chip) / 0.041276;
}

GaugeNumbers GaugeBoard::numbers(TimeUs now) {
    GaugeNumbers out;
    out.rock_code = rock_code(now);
    out.air_code = code(now);
    const double flue = flue_degC(now);
    out.flue_degC = m_faults.on("whole-degrees") ? std::trunc(flue) : std::floor(flue * 4) / 4;
    return out;
}

std::int64_t GaugeBoard::tips(TimeUs now) {
    const auto fallen =
        m_tips_by_hand + static_cast<std::int64_t>(rain_between(m_seed, m_reset_at, now) / mm_per_tip);
    if (m_faults.on("bouncing-contact")) m_extra_tips += 2 * (fallen - m_tips_before);
    m_tips_before = fallen;
    return fallen + m_extra_tips;
}

std::int64_t GaugeBoard::own_ms(TimeUs now) const {
    const TimeUs ahead = m_faults.on("fast-clock") ? (now - m_fault_since) / 1000 * 6 : 0;
    return (now - m_reset_at + ahead) / 1000;
}

std::string GaugeBoard::reset(TimeUs now) {
    m_reset_at = now;
    m_sequence = 0;
    m_extra_tips = m_tips_by_hand = m_tips_before = 0;
    m_next_line = std::max(m_next_line, now);
    return fmt::format(
        "# board=gauge bits=10 reference={} interval_ms={} commands=help,interval,reference,wave,reset\n"
        "seq,ms,A1,A2,flue,tips,bpm\n",
        m_internal_reference ? "internal" : "supply", m_interval_ms);
}

std::string GaugeBoard::measure(TimeUs now) {
    std::string bpm = "nan"; // nothing to count yet
    if (m_beats.size() > 2 && now - m_beats.back() < 3 * second_us)
        bpm = fmt::format("{:.0f}",
                          60 * static_cast<double>(m_beats.size() - 1) / seconds(m_beats.back() - m_beats.front()));
    const GaugeNumbers n = numbers(now);
    const std::string flue = std::isnan(n.flue_degC)        ? "nan"
                             : m_faults.on("whole-degrees") ? fmt::format("{:.0f}", n.flue_degC)
                                                            : fmt::format("{:.2f}", n.flue_degC);
    std::string line = fmt::format("{},{},{},{},{},{},{}\n", m_sequence++, own_ms(now), n.rock_code, n.air_code,
                                   flue, tips(now), bpm);
    if (m_faults.on("half-lines")) {
        const double cut = hash_noise(m_seed, cut_stream, m_draws);
        if (cut > -0.2) line.resize(static_cast<std::size_t>(static_cast<double>(line.size()) * (cut + 0.2) / 1.2));
    }
    return line;
}

std::vector<Sent> GaugeBoard::start(TimeUs now) {
    m_next_line = now + m_interval_ms * 1000;
    m_next_wave = now + wave_every;
    return {{now, {}, reset(now), false}};
}

TimeUs GaugeBoard::next() const {
    return m_wave_on ? std::min(m_next_line, m_next_wave) : m_next_line;
}

void GaugeBoard::send_line(TimeUs now, std::vector<Sent>& out) {
    if (m_faults.on("brown-out") && now - m_reset_at > 10 * second_us) out.push_back({now, {}, reset(now), false});
    std::string line = measure(now);
    const double luck = hash_noise(m_seed, line_stream, m_draws);
    if (m_faults.on("lost-lines") && luck > 0.66) return;
    if (m_faults.on("shuffled-lines") && luck > 0.5 && m_held_back.empty()) {
        m_held_back = std::move(line);
        return;
    }
    out.push_back({now, {}, line, false});
    if (m_faults.on("doubled-lines") && luck > 0.5) out.push_back({now, {}, line, false});
    if (!m_held_back.empty()) out.push_back({now, {}, std::move(m_held_back), false});
    m_held_back.clear();
}

std::vector<Sent> GaugeBoard::step(TimeUs now) {
    std::vector<Sent> out;
    m_next_line = std::max(m_next_line, now - most_late);
    m_next_wave = std::max(m_next_wave, now - most_late);
    while (next() <= now) {
        if (m_wave_on && m_next_wave <= m_next_line) {
            const TimeUs at = m_next_wave;
            m_next_wave += wave_every;
            if (!m_faults.on("hangs"))
                out.push_back({at, {}, fmt::format("ms={} A0={}\n", own_ms(at), pulse_code(at)), false});
            continue;
        }
        const TimeUs at = m_next_line;
        TimeUs pause = m_interval_ms * 1000;
        if (m_faults.on("runaway")) pause /= 20;
        if (m_faults.on("uneven"))
            pause += static_cast<TimeUs>(0.6 * static_cast<double>(pause) *
                                         hash_noise(m_seed, line_stream + 1, m_draws));
        m_next_line += pause;
        if (!m_faults.on("hangs")) send_line(at, out);
    }
    return out;
}

std::string GaugeBoard::bench_command(std::string_view word, std::string_view rest) {
    double number = 0;
    if (word == "probe" && (rest == "air" || rest == "ice")) {
        m_in_bath = rest == "ice";
        m_bath_degC = 0;
        return fmt::format("# ok probe={}\n", rest);
    }
    if (word == "probe" && rest.substr(0, 5) == "bath " && read_number_of(rest.substr(5), number) && number >= 0 &&
        number <= 60) {
        m_in_bath = true;
        m_bath_degC = number;
        return fmt::format("# ok probe=bath bath_degC={}\n", number);
    }
    if (word == "tip" && rest.empty()) {
        ++m_tips_by_hand;
        return "# ok tipped by hand\n";
    }
    if (word == "hand" && m_hand.change(rest)) {
        if (m_hand.on("rain")) ++m_tips_by_hand; // each word is one tip
        return fmt::format("# ok hand={}\n", m_hand.text());
    }
    return {};
}

std::string GaugeBoard::command(std::string_view line, TimeUs now) {
    while (!line.empty() && (line.back() == '\r' || line.back() == ' '))
        line.remove_suffix(1);
    const std::size_t space = line.find(' ');
    const std::string_view word = line.substr(0, space);
    const std::string_view rest = space == std::string_view::npos ? "" : line.substr(space + 1);
    double number = 0;
    if (word == "help")
        return "# ok help: interval MS, reference supply|internal, wave on|off, load NAME on [SECONDS]|off, reset; "
               "simulated bench: probe "
               "air|ice|bath "
               "DEGC, tip, hand STIMULUS READING|off, thermometer, fault NAME|+NAME|-NAME|none\n";
    if (word == "interval" && read_number_of(rest, number) && number >= 5 && number <= 3'600'000) {
        m_interval_ms = static_cast<int>(number);
        m_next_line = std::min(m_next_line, now + m_interval_ms * 1000);
        return fmt::format("# ok interval_ms={}\n", m_interval_ms);
    }
    if (word == "reset" && rest.empty()) return reset(now);
    if (word == "wave" && (rest == "on" || rest == "off")) {
        m_wave_on = rest == "on";
        m_next_wave = now;
        return fmt::format("# ok wave={}\n", rest);
    }
    if (word == "reference" && (rest == "supply" || rest == "internal")) {
        m_internal_reference = rest == "internal";
        return fmt::format("# ok reference={}\n", rest);
    }
    if (word == "fault" && m_faults.change(rest)) {
        m_stuck_code = -1;
        m_fault_since = now;
        return fmt::format("# ok fault={}\n", m_faults.text());
    }
    settle(now);
    if (word == "thermometer" && rest.empty()) {
        // The hut's own reference thermometer: 0.1 °C divisions, an error of its own within ± 0.1 °C.
        const double error = 0.04 + 0.02 * hash_noise(m_seed, thermometer_stream, m_draws);
        return fmt::format("# ok thermometer_degC={:.1f}\n", surroundings(now) + error);
    }
    if (std::string done = load_command(line, now); !done.empty()) return done;
    if (const std::string done = bench_command(word, rest); !done.empty()) return done;
    return fmt::format("# error \"{}\" is not understood; send help\n", line);
}

} // namespace cognitum::demo
