#include "core/program/proof_plan.h"

#include "core/base/phrase.h"
#include "core/decode/number.h"
#include "core/decode/stream.h"
#include "core/plan/intake.h"
#include "core/plan/path.h"
#include "core/plan/reading_doubt.h"
#include "core/program/driver.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr double start_s = 1.0;  ///< of the simulated processor: it says who it is
constexpr int interval_ms = 100; ///< told to the program
constexpr int pulses_each = 12;  ///< of one point: they come in its first half
constexpr double shortest_point_s = 0.6;
constexpr double longest_warm_up_s = 5;
constexpr double settled = 0.5; ///< share of a point from where on a line counts

/// Pin of a leg; empty: none.
std::string leg_pin(const Reading& reading, std::string_view leg) {
    const Connection* at = reading.wiring.connection(leg);
    return at ? at->pin : std::string();
}

/// Count of the converter for a value; of a path without stages the value is one. Its ends are no measurement. NaN:
/// the path never gives this value.
double count_for(const Placed& p, const Chain& path, double value) {
    const double codes = std::ldexp(1.0, p.bits());
    const double count = path.stages.empty() ? value : inverse(path, value).number;
    return std::isfinite(count) ? std::clamp(count, 1.0, codes - 2) : no_number;
}

/// The part of the expected range that the path of a voltage can give, to a 64th of it; low > high: nothing of it.
std::pair<double, double> reachable(const Placed& p, const Chain& path) {
    const Quantity& q = p.reading->quantity;
    double low = no_number, high = no_number;
    constexpr int steps = 64;
    for (int i = 0; i <= steps; ++i) {
        const double value = q.low + (q.high - q.low) * i / steps;
        const double count = count_for(p, path, value);
        // A code stands for its middle: at the end of a table that may lie behind it.
        if (!std::isfinite(count) || !forward(path, count - 1).ok() || !forward(path, count + 1).ok()) continue;
        if (std::isnan(low)) low = value;
        high = value;
    }
    return std::isnan(low) ? std::pair(1.0, 0.0) : std::pair(low, high);
}

/// The part of the expected range that a part which sends the quantity itself can measure by its card; all of it
/// where they do not meet.
std::pair<double, double> measurable(const Placed& p) {
    const Quantity& q = p.reading->quantity;
    const bool sends_it = !q.about().in_vessel; // else its range is that of a distance
    if (!sends_it || !p.measurand || p.measurand->quantity != q.kind || p.measurand->high <= p.measurand->low)
        return {q.low, q.high};
    const auto low = convert_unit(p.measurand->low, p.measurand->unit, q.unit);
    const auto high = convert_unit(p.measurand->high, p.measurand->unit, q.unit);
    if (!low || !high || std::max(q.low, *low) >= std::min(q.high, *high)) return {q.low, q.high};
    return {std::max(q.low, *low), std::min(q.high, *high)};
}

/// What a reading's pin or bus is given; empty `reason`: it can be proven.
std::string describe(const Placed& p, ProofReading& out) {
    const Reading& r = *p.reading;
    out.reading = r.id;
    out.pin = r.wiring.pin();
    out.driver = p.part->driver;
    out.select = leg_pin(r, "CS");
    out.trigger = leg_pin(r, "trigger");
    out.clock = leg_pin(r, "SCK");
    if (p.module) {
        const std::string& label = out.pin;
        out.driver = p.module_part ? p.module_part->driver : "";
        if (!p.is_voltage() || !out.driver.ends_with("-i2c") || label.empty())
            return phrase("the simulator has no model of the part that it is read through.");
        out.input = ProofInput::volts;
        out.unit = "V";
        out.address = bus_address(p.module->address, *p.module_part);
        out.channel = label.back() - '0';
        return {};
    }
    if (p.is_voltage()) {
        out.input = ProofInput::volts;
        out.unit = "V";
        if (!r.path.stages.empty())
            if (const auto [low, high] = reachable(p, effective_path(r)); low > high)
                return phrase("its path gives no value of the range that is expected.");
        return {};
    }
    static const std::vector<std::string> modelled = {
        "one-wire-thermometer", "thermocouple-spi",   "thermometer-i2c", "light-i2c",        "humidity-i2c",
        "single-wire-fine",     "single-wire-coarse", "load-cell",       "air-pressure-i2c", "carbon-dioxide-i2c",
        "infrared-i2c",         "thermocouple-i2c",   "platinum-spi"};
    if (std::find(modelled.begin(), modelled.end(), out.driver) != modelled.end()) {
        out.input = ProofInput::number;
        out.unit = program::driver_for(p, "x", {}).unit;
        out.address = p.part->interface.addresses.empty() ? 0 : bus_address(r.wiring.address, *p.part);
        return {};
    }
    if (p.part->interface.speech == Speech::pulse) {
        out.input = ProofInput::pulses;
        out.unit = "pulses";
        return {};
    }
    if (p.part->interface.speech == Speech::echo) {
        out.input = ProofInput::echo_us;
        out.unit = "us";
        return {};
    }
    if (p.part->interface.speech == Speech::digital && r.quantity.about().is_state()) {
        if (p.part->warm_up_s > longest_warm_up_s) return phrase("it warms up for longer than the proof takes.");
        out.input = ProofInput::level;
        out.unit = "level";
        return {};
    }
    return phrase("the simulator has no model of its part.");
}

/// From low to high; see ProofOptions::inset for the ends.
double grid(double low, double high, int point, const ProofOptions& options) {
    const int last = std::max(1, options.points - 1);
    const double inset = point == 0 ? options.inset : point == last ? -options.inset : 0;
    return low + (high - low) * point / last + (high - low) * inset;
}

double volts_of(const Placed& p, double count) {
    return (count + 0.5) / std::ldexp(1.0, p.bits()) * p.full_scale_V();
}

void add_points(const Placed& p, const ProofReading& asked, const ProofOptions& options, ProofPlan& plan) {
    const Reading& r = *p.reading;
    const Chain path = effective_path(r);
    const double codes = std::ldexp(1.0, p.bits());
    for (int k = 0; k < options.points; ++k) {
        ProofPoint point;
        point.reading = r.id;
        point.from_s = plan.begin_s + k * plan.point_s;
        point.to_s = point.from_s + plan.point_s;
        switch (asked.input) {
        case ProofInput::volts: {
            // Truths over the range that is expected; a wave, which has no path, over its counts.
            const bool counts = path.stages.empty();
            const auto [low, high] = counts ? std::pair(1.5, codes - 2.5) : reachable(p, path);
            const double count = count_for(p, path, grid(low, high, k, options));
            if (!std::isfinite(count)) continue; // between two that the path gives it may have a gap
            point.truth = counts ? std::floor(count + 0.5) : forward(path, count).number;
            point.input = volts_of(p, count);
            break;
        }
        case ProofInput::number:
        case ProofInput::echo_us: {
            const auto [low, high] = measurable(p);
            point.truth = grid(low, high, k, options);
            point.input = input_for(p, asked, point.truth);
            break;
        }
        case ProofInput::pulses: {
            point.input = pulses_each;
            const double count = (k + 1) * pulses_each;
            point.truth = path.stages.empty() ? count : forward(path, count).number;
            break;
        }
        case ProofInput::level:
            point.input = k % 2;
            point.truth = p.part->interface.open_drain ? 1 - point.input : point.input;
            break;
        }
        plan.points.push_back(point);
    }
}

/// Text behind "name=" in a line; empty: it is not there.
std::string sent_text(const std::string& line, const std::string& field) {
    const std::string key = " " + field + "=";
    const auto at = (" " + line).find(key);
    if (at == std::string::npos) return {};
    const std::string rest = (" " + line).substr(at + key.size());
    return rest.substr(0, rest.find_first_of(" \r\n"));
}

/// All that one reading's lines say, through the program's own way in.
struct Heard {
    double at_s;
    std::string text;
    double value;
    std::string board_value; ///< by the board's own constants
};

std::vector<Heard> hear(const Placed& p, const std::vector<ProofLine>& lines) {
    const Reading& r = *p.reading;
    RawRules rules = raw_rules(p);
    rules.warm_up_s = 0;
    Reading each = r; // a wave counts sample by sample here, not as beats
    each.source.collect.clear();
    Intake intake(each, rules);
    Stream stream;
    std::vector<Heard> out;
    for (const ProofLine& line : lines) {
        for (const Stream::Row& row : stream.feed(line.text + "\n", from_seconds(line.at_s))) {
            const auto field = stream.decoder().field(r.field());
            if (field == FieldTable::none) continue;
            const auto raw = stream.records().value(row.row, field);
            if (!raw) continue;
            const auto arrived = intake.take(row.time, *raw, {}, 1);
            out.push_back({line.at_s, sent_text(line.text, r.field()),
                           arrived && arrived->value.ok() ? arrived->value.number : no_number,
                           sent_text(line.text, r.field() + "_value")});
        }
    }
    return out;
}

/// What one step of the number that was sent amounts to at the end of the path.
double step_of(const Placed& p, const ProofReading& asked, double sent) {
    const Chain path = effective_path(*p.reading);
    const auto through = [&](double raw) { return path.stages.empty() ? raw : forward(path, raw).number; };
    double step = 1;
    // The clock counts in 4 us, and each of two edges is looked for every 4 us or so.
    if (asked.input == ProofInput::echo_us) step = 12;
    if (asked.input == ProofInput::number && p.measurand && asked.unit != "count")
        step = std::max(p.measurand->resolution, 1e-4);
    // A part rounds down to its step; a converter's code stands for its middle.
    const double up = std::abs(through(sent + step) - through(sent));
    const double down = std::abs(through(sent) - through(sent - step));
    return std::fmax(up, down);
}

ProofResult judge(const Placed& p, const ProofReading& asked, const ProofPoint& point,
                  const std::vector<Heard>& heard) {
    ProofResult out;
    out.point = point;
    out.said = no_number;
    for (const Heard& h : heard)
        if (h.at_s >= point.from_s + settled * (point.to_s - point.from_s) && h.at_s < point.to_s) {
            out.sent = h.text;
            out.said = h.value;
            out.board_said = h.board_value;
        }
    out.off_by = out.said - point.truth;
    const double sent = number_of(out.sent).value_or(0);
    out.step = asked.input == ProofInput::pulses || asked.input == ProofInput::level ? 0 : step_of(p, asked, sent);
    const Budget budget = reading_budget(*p.reading, p.part, sent, 0, 0, part_limit(p, sent));
    out.doubt = budget.expanded();
    out.holds = std::abs(out.off_by) <= out.step + 1e-9 * std::max(1.0, std::abs(point.truth));
    // What the board computes has a float's digits, and those that it prints.
    if (!out.board_said.empty() && std::isfinite(out.said)) {
        const double printed = std::max(p.reading->quantity.accuracy / 20, 1e-4);
        const double slack = printed + 1e-5 * std::max(1.0, std::abs(out.said));
        out.holds = out.holds && std::abs(number_of(out.board_said).value_or(no_number) - out.said) <= slack;
    }
    return out;
}

} // namespace

double input_for(const Placed& p, const ProofReading& asked, double value) {
    const Chain path = effective_path(*p.reading);
    if (asked.input == ProofInput::volts) return volts_of(p, count_for(p, path, value));
    return path.stages.empty() ? value : inverse(path, value).number;
}

bool is_simulated(const BoardCard& card) {
    return card.bits == 10 && card.logic_V == 5 && !card.pins.empty() &&
           std::all_of(card.pins.begin(), card.pins.end(),
                       [](const Pin& pin) { return pin.port >= 0 && pin.port < 20; });
}

Result<ProofPlan> plan_proof(const Bench& bench, const Catalog& catalog, const std::string& board,
                             const ProofOptions& options) {
    COGNITUM_TRY(written, write_program(bench, catalog, board));
    const BoardCard& card = *catalog.board(bench.board(board)->card);
    if (!options.any_board && !is_simulated(card))
        return failure(
            phrase("The simulator knows the 8-bit board with six analog inputs; this is “{}”.", card.name), board,
            phrase("Its program is written, and not proven."));
    ProofPlan out;
    out.pulses_per_s = options.pulses_per_s;
    out.bounce_ms = options.bounce_ms;
    out.command = fmt::format("interval {}", interval_ms);
    // What was given at a point's start is asked for, measured and sent before the next: the last part of a point
    // holds one turn of the slowest part.
    double slowest_s = 0;
    out.begin_s = start_s;
    for (const Reading& r : bench.readings) {
        const PartCard* part = catalog.part(r.sensor.part);
        if (r.wiring.board != board || r.feed() != board || !part) continue;
        slowest_s = std::max({slowest_s, program::driver_for(place(bench, catalog, r), "x", {}).wait_ms / 1000,
                              part->minimum_interval_s});
        if (part->warm_up_s <= longest_warm_up_s) out.begin_s = std::max(out.begin_s, start_s + part->warm_up_s);
    }
    out.point_s =
        std::max({shortest_point_s, options.point_s, (slowest_s + 1.5 * interval_ms / 1000.0) / (1 - settled)});
    out.end_s = out.begin_s + options.points * out.point_s + 0.2;
    for (const ProgramNote& note : written.notes)
        if (note.left_out) out.not_proven.emplace_back(note.reading, note.text);
    for (const Reading& r : bench.readings) {
        const bool in_program =
            std::find(written.fields.begin(), written.fields.end(), r.field()) != written.fields.end();
        if (r.wiring.board != board || r.feed() != board || !in_program) continue;
        const Placed p = place(bench, catalog, r);
        if (!p.part) continue;
        ProofReading asked;
        if (std::string why = describe(p, asked); !why.empty()) {
            out.not_proven.emplace_back(r.id, why);
            continue;
        }
        out.readings.push_back(asked);
        add_points(p, asked, options, out);
    }
    if (out.readings.empty())
        return failure(phrase("Nothing of this program can be proven in the simulator."), board,
                       out.not_proven.empty() ? std::string() : out.not_proven.front().second);
    return out;
}

std::vector<ProofRow> judge_proof(const ProofPlan& plan, const Bench& bench, const Catalog& catalog,
                                  const std::vector<ProofLine>& lines) {
    std::vector<ProofRow> out;
    for (const ProofReading& asked : plan.readings) {
        const Reading* reading = bench.reading(asked.reading);
        if (!reading) continue;
        const Placed p = place(bench, catalog, *reading);
        const std::vector<Heard> heard = hear(p, lines);
        ProofRow row;
        row.reading = asked.reading;
        double worst = -1;
        for (const ProofPoint& point : plan.points) {
            if (point.reading != asked.reading) continue;
            row.all.push_back(judge(p, asked, point, heard));
            const ProofResult& r = row.all.back();
            ++row.points;
            row.held += r.holds;
            const double badness = std::isnan(r.off_by) ? 1e300 : std::abs(r.off_by) / std::max(r.step, 1e-12);
            if (badness > worst) {
                worst = badness;
                row.worst = r;
            }
        }
        out.push_back(std::move(row));
    }
    return out;
}

} // namespace cognitum
