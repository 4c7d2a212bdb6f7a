#include "simboard/processor_board.h"

#include "core/plan/path.h"
#include "core/program/program.h"
#include "demo/world.h"
#include "machine/compile.h"
#include "machine/workplace.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fstream>
#include <numbers>

namespace cognitum::demo {

namespace {

constexpr TimeUs slice_us = 4'000; ///< how often a wave's pin gets another voltage
constexpr TimeUs between_measurements = 100'000;
constexpr double swing_s = 300; ///< period of what the world does not have
constexpr double slowest_tips_per_s = 20;
constexpr std::uint64_t luck_stream = 71;

bool is_wave(const Reading& r) {
    return r.source.collect == "beats";
}

/// Words that are for the bench around the board.
bool is_of_the_bench(std::string_view word) {
    for (const char* known : {"probe", "tip", "hand", "thermometer", "fault"})
        if (word == known) return true;
    return false;
}

} // namespace

Result<std::unique_ptr<Board>> ProcessorBoard::make(const Bench& bench, const Catalog& catalog,
                                                    const std::string& board, const BoardSettings& settings,
                                                    TimeUs now) {
    ProofOptions none;
    none.points = 0;
    none.bounce_ms = 1;
    COGNITUM_TRY(plan, plan_proof(bench, catalog, board, none));
    COGNITUM_TRY(written, write_program(bench, catalog, board));
    const machine::Scratch scratch;
    const std::string source = (scratch.path() / "program.ino").string();
    std::ofstream(source, std::ios::binary) << written.files.front().text;
    COGNITUM_TRY(compiled, machine::compile(source, scratch.path().string(), machine::cache_folder()));
    const double supply_V = catalog.board(bench.board(board)->card)->logic_V;
    return std::make_unique<ProcessorBoard>(bench, catalog, plan, compiled.elf, supply_V, settings, now);
}

ProcessorBoard::ProcessorBoard(const Bench& bench, const Catalog& catalog, ProofPlan plan, const std::string& elf,
                               double supply_V, const BoardSettings& settings, TimeUs now)
    : m_bench(bench),
      m_catalog(catalog),
      m_plan(std::move(plan)),
      m_world(settings, now),
      m_avr(elf, supply_V, 0),
      m_parts(m_avr, m_plan, m_bench, m_catalog),
      m_supply_V(supply_V),
      m_began(now),
      m_now(now),
      m_seed(settings.seed) {
    measure(now);
    if (settings.interval_ms > 0)
        m_avr.at(1, [this, ms = settings.interval_ms] { m_avr.type(fmt::format("interval {}\n", ms)); });
}

std::vector<Sent> ProcessorBoard::start(TimeUs) {
    return {};
}

TimeUs ProcessorBoard::next() const {
    return m_now + 5 * slice_us;
}

std::vector<Sent> ProcessorBoard::step(TimeUs now) {
    std::vector<Sent> out;
    if (now - m_now > most_late) { // this computer slept: the board's clock stood still, as at a breakpoint
        m_began += now - most_late - m_now;
        m_now = now - most_late;
    }
    while (m_now + slice_us <= now) {
        m_now += slice_us;
        if (m_faults.on("hangs")) {
            m_began += slice_us;
            continue;
        }
        measure(m_now);
        m_avr.run_to(seconds(m_now - m_began));
        for (const ProofLine& line : m_avr.take_lines())
            say(line, m_now, out);
    }
    return out;
}

void ProcessorBoard::measure(TimeUs now) {
    for (const ProofReading& r : m_plan.readings)
        if (is_wave(*m_bench.reading(r.reading))) m_parts.give(r.reading, input_of(r, now));
    if (now - m_measured < between_measurements) return;
    m_measured = now;
    m_numbers = m_world.numbers(now);
    if (m_faults.on("brown-out") && (now - m_began) / between_measurements % 100 == 99) m_avr.press_reset();
    for (const ProofReading& r : m_plan.readings)
        if (r.input == ProofInput::pulses)
            tip(now);
        else if (!is_wave(*m_bench.reading(r.reading)))
            m_parts.give(r.reading, input_of(r, now));
}

/// Those that the world's bucket has tipped, one after another.
void ProcessorBoard::tip(TimeUs now) {
    const std::int64_t tips = m_world.tips(now);
    for (const ProofReading& r : m_plan.readings)
        if (r.input == ProofInput::pulses)
            for (std::int64_t k = 0; k < tips - m_tips; ++k)
                m_avr.at(m_avr.now_s() + static_cast<double>(k) / slowest_tips_per_s,
                         [this, id = r.reading] { m_parts.give(id, 1); });
    m_tips = tips;
}

double ProcessorBoard::input_of(const ProofReading& asked, TimeUs now) {
    const Reading& r = *m_bench.reading(asked.reading);
    const auto volts = [&](int code) { return (code + 0.5) / 1024 * m_supply_V; };
    if (asked.input == ProofInput::volts && asked.channel < 0) {
        if (r.id == "hut-air") return volts(m_numbers.air_code);
        if (r.id == "rock") return volts(m_numbers.rock_code);
        if (is_wave(r)) return volts(m_world.pulse_code(now));
    }
    if (r.id == "stove-flue" && asked.driver == "thermocouple-spi") return m_numbers.flue_degC;
    const double phase = 2 * std::numbers::pi * seconds(now) / swing_s;
    const double share = 0.5 - 0.5 * std::cos(phase);
    if (asked.input == ProofInput::level) return share > 0.5 ? 1 : 0;
    return input_for(place(m_bench, m_catalog, r), asked,
                     r.quantity.low + share * (r.quantity.high - r.quantity.low));
}

void ProcessorBoard::say(const ProofLine& line, TimeUs now, std::vector<Sent>& out) {
    const double luck = hash_noise(m_seed, luck_stream, m_sent++);
    if (m_faults.on("lost-lines") && luck > 0.66) return;
    std::string text = line.text + "\n";
    if (m_faults.on("half-lines") && luck > -0.2)
        text.resize(static_cast<std::size_t>(static_cast<double>(text.size()) * (luck + 0.2) / 1.2));
    out.push_back({now, {}, text, false});
    if (m_faults.on("doubled-lines") && luck > 0.5) out.push_back({now, {}, text, false});
}

std::string ProcessorBoard::command(std::string_view line, TimeUs now) {
    while (!line.empty() && (line.back() == '\r' || line.back() == ' '))
        line.remove_suffix(1);
    const std::string_view word = line.substr(0, line.find(' '));
    if (line == "reset") {
        m_avr.press_reset();
        return {};
    }
    if (is_of_the_bench(word)) {
        if (word == "fault" && line.size() > 6) m_faults.change(line.substr(6));
        return m_world.command(line, now);
    }
    m_avr.type(std::string(line) + "\n");
    return {};
}

} // namespace cognitum::demo
