#include "core/simulate/board.h"

#include "core/decode/number.h"
#include "core/simulate/world.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace cognitum::simulate {

namespace {

struct NamedFault {
    Fault fault;
    const char* name;
};
constexpr NamedFault faults[] = {
    {Fault::none, "none"},   {Fault::unplugged_sensor, "unplugged-sensor"},
    {Fault::stuck, "stuck"}, {Fault::clipped, "clipped"},
    {Fault::noisy, "noisy"}, {Fault::half_lines, "half-lines"},
};

constexpr std::uint64_t noise_stream = 11, cut_stream = 12, thermometer_stream = 13;

} // namespace

std::string fault_name(Fault fault) {
    return faults[static_cast<std::size_t>(fault)].name;
}

bool find_fault(std::string_view name, Fault& out) {
    for (const NamedFault& f : faults)
        if (name == f.name) {
            out = f.fault;
            return true;
        }
    return false;
}

const std::vector<Fault>& all_faults() {
    static const std::vector<Fault> all = {Fault::unplugged_sensor, Fault::stuck, Fault::clipped, Fault::noisy,
                                           Fault::half_lines};
    return all;
}

Board::Board(BoardSettings settings, TimeUs start)
    : m_settings(settings),
      m_reset_at(start),
      m_last(start),
      m_probe_degC(air_temperature(settings.seed, start)),
      m_draws(start / 1000) {}

double Board::surroundings(TimeUs now) const {
    return m_in_bath ? m_bath_degC : air_temperature(m_settings.seed, now);
}

void Board::settle(TimeUs now) {
    const double dt = std::max(0.0, seconds(now - m_last));
    m_last = std::max(m_last, now);
    const double target = surroundings(now);
    m_probe_degC = target + (m_probe_degC - target) * std::exp(-dt / m_settings.truth.response_s);
}

int Board::code(TimeUs now) {
    settle(now);
    const Truth& truth = m_settings.truth;
    const std::int64_t draw = m_draws++;
    double volts = truth.zero_V + truth.slope_V * m_probe_degC +
                   truth.noise_V * hash_normal(m_settings.seed, noise_stream, draw);
    if (m_fault == Fault::unplugged_sensor) // an open pin: hum from the air, and a charge that wanders
        volts = 1.6 + 0.7 * hash_noise(m_settings.seed, noise_stream, draw) +
                0.5 * std::sin(2 * std::numbers::pi * static_cast<double>(draw) / 7.3);
    if (m_fault == Fault::noisy) volts += 0.028 * hash_normal(m_settings.seed, noise_stream + 100, draw);
    if (m_fault == Fault::clipped) volts = 9;
    const double reference = m_internal_reference ? truth.internal_V : truth.supply_V;
    int out = static_cast<int>(std::clamp(std::floor(volts * 1024 / reference), 0.0, 1023.0));
    if (m_fault == Fault::stuck) {
        if (m_stuck_code < 0) m_stuck_code = out;
        out = m_stuck_code;
    }
    return out;
}

std::string Board::reset(TimeUs now) {
    m_reset_at = now;
    m_sequence = 0;
    return fmt::format("# board=gauge bits=10 reference={} interval_ms={} commands=help,interval,reference,reset\n"
                       "seq,ms,A2\n",
                       m_internal_reference ? "internal" : "supply", m_settings.interval_ms);
}

std::string Board::measure(TimeUs now) {
    std::string line = fmt::format("{},{},{}\n", m_sequence++, (now - m_reset_at) / 1000, code(now));
    if (m_fault == Fault::half_lines) {
        const double cut = hash_noise(m_settings.seed, cut_stream, m_draws);
        if (cut > -0.2) line.resize(static_cast<std::size_t>(static_cast<double>(line.size()) * (cut + 0.2) / 1.2));
    }
    return line;
}

std::string Board::command(std::string_view line, TimeUs now) {
    while (!line.empty() && (line.back() == '\r' || line.back() == ' '))
        line.remove_suffix(1);
    const std::size_t space = line.find(' ');
    const std::string_view word = line.substr(0, space);
    const std::string_view rest = space == std::string_view::npos ? "" : line.substr(space + 1);
    double number = 0;
    const auto rest_number = [&](std::string_view text) {
        const char* p = text.data();
        return read_number(p, text.data() + text.size(), number) && p == text.data() + text.size();
    };
    if (word == "help")
        return "# ok help: interval MS, reference supply|internal, reset; simulated bench: probe air|ice|bath "
               "DEGC, "
               "thermometer, fault NAME|none\n";
    if (word == "interval" && rest_number(rest) && number >= 5 && number <= 3'600'000) {
        m_settings.interval_ms = static_cast<int>(number);
        return fmt::format("# ok interval_ms={}\n", m_settings.interval_ms);
    }
    if (word == "reset" && rest.empty()) return reset(now);
    if (word == "reference" && (rest == "supply" || rest == "internal")) {
        m_internal_reference = rest == "internal";
        return fmt::format("# ok reference={}\n", rest);
    }
    if (word == "fault" && find_fault(rest, m_fault)) {
        m_stuck_code = -1;
        return fmt::format("# ok fault={}\n", rest);
    }
    settle(now);
    if (word == "probe" && (rest == "air" || rest == "ice")) {
        m_in_bath = rest == "ice";
        m_bath_degC = 0;
        return fmt::format("# ok probe={}\n", rest);
    }
    if (word == "probe" && rest.substr(0, 5) == "bath " && rest_number(rest.substr(5)) && number >= 0 &&
        number <= 60) {
        m_in_bath = true;
        m_bath_degC = number;
        return fmt::format("# ok probe=bath bath_degC={}\n", number);
    }
    if (word == "thermometer" && rest.empty()) {
        // The hut's own reference thermometer: 0.1 °C divisions, an error of its own within ± 0.1 °C.
        const double error = 0.04 + 0.02 * hash_noise(m_settings.seed, thermometer_stream, m_draws);
        return fmt::format("# ok thermometer_degC={:.1f}\n", surroundings(now) + error);
    }
    return fmt::format("# error \"{}\" is not understood; send help\n", line);
}

} // namespace cognitum::simulate
