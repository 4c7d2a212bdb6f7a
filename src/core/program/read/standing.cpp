// Where on the plan's path the number stands that a program sends.
#include "core/program/read/explain.h"
#include "core/program/read/pairs.h"

#include "core/decode/number.h"
#include "core/plan/path.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>

namespace cognitum::program {

namespace {
constexpr double echo_slack = 0.02; ///< sound is that much slower or faster within ten degrees
} // namespace

Pairs pairs_of(const Trial& trial, const SentNumber& sent, bool real) {
    Pairs out;
    const Reading& r = *sent.reading;
    out.echo = sent.asked && sent.asked->input == ProofInput::echo_us;
    out.number = sent.asked && sent.asked->input == ProofInput::number;
    out.bearable = r.path.stages.empty() ? 0 : r.quantity.accuracy / 8;
    const Placed p = trial.placed(r);
    if (out.number && p.measurand && sent.asked->unit != "count")
        out.resolution = std::max(p.measurand->resolution, 1e-4);
    for (std::size_t k = 0; k < sent.at.size(); ++k) {
        const ProofPoint* point = trial.point(k, r.id);
        if (!point || !sent.at[k]) continue;
        const CodeValue& v = sent.at[k]->value;
        out.raw.push_back(raw_number(trial, r, *point));
        out.printed.push_back(real ? v.ideal : number_of(sent.at[k]->text).value_or(no_number));
        out.step.push_back(sent.at[k]->digits < 0 ? 1 : std::pow(10.0, -sent.at[k]->digits));
    }
    // Numbers that hardly differ would fit any path that hardly moves.
    const auto [least, most] = std::minmax_element(out.printed.begin(), out.printed.end());
    if (!out.printed.empty() && std::isfinite(*most - *least))
        out.bearable = std::min(out.bearable, (*most - *least) / 20);
    return out;
}

bool follows(const Pairs& pairs, const Chain& path, std::size_t stage, double factor, bool real) {
    if (pairs.raw.size() < 2) return false;
    bool moves = false;
    for (std::size_t k = 0; k < pairs.raw.size(); ++k) {
        const Walk here = walk(path, pairs.raw[k]);
        const double one = pairs.echo     ? echo_slack * pairs.raw[k]
                           : pairs.number ? std::max(pairs.resolution, 1e-9)
                                          : 1;
        const Walk next = walk(path, pairs.raw[k] + one);
        if (stage >= here.steps.size() || !here.steps[stage].ok()) return false;
        const double wanted = factor * here.steps[stage].number;
        double slack = next.steps[stage].ok() ? std::abs(factor * next.steps[stage].number - wanted) * 1.05 : 0;
        slack += 3e-4 * std::abs(wanted) + (real ? 0 : 1.01 * pairs.step[k]);
        // A table or a straight line through a curve may be off by a little of what is wanted.
        if (stage == path.stages.size() && factor == 1) slack = std::max(slack, pairs.bearable);
        if (!(std::abs(pairs.printed[k] - wanted) <= slack + 1e-9)) return false;
        moves = moves || pairs.printed[k] != pairs.printed[0];
    }
    return moves;
}

double codes_in_program(const Trial& trial, const Reading& reading) {
    const CallSeen* set = trial.usual().call("analogReadResolution");
    const int own = trial.placed(reading).bits();
    const double bits = set && !set->given.empty() && reading.wiring.module.empty() ? set->given[0].number() : own;
    return std::ldexp(1.0, bits >= 1 && bits <= 16 ? static_cast<int>(bits) : own);
}

double raw_number(const Trial& trial, const Reading& reading, const ProofPoint& point, Counts counts) {
    const ProofReading* asked = trial.asked(reading.id);
    if (!asked || asked->input != ProofInput::volts) return point.input;
    const Placed p = trial.placed(reading);
    const double codes =
        counts == Counts::of_program ? codes_in_program(trial, reading) : std::ldexp(1.0, p.bits());
    return std::floor(point.input / p.full_scale_V() * codes);
}

Standing standing_of(const Trial& trial, const SentNumber& sent, bool real) {
    Standing out;
    if (!sent.reading || !sent.asked) return out;
    if (sent.asked->input == ProofInput::pulses) return out; // counts are judged by how many there were
    const Reading& r = *sent.reading;
    const Pairs pairs = pairs_of(trial, sent, real);
    if (pairs.raw.size() < 2) return out;
    std::vector<Chain> paths = {effective_path(r), r.path};
    for (const Chain& path : paths) {
        const std::size_t stages = path.stages.size();
        if (follows(pairs, path, stages, 1, real) || (stages == 0 && follows(pairs, path, 0, 1, real))) {
            out.as = stages == 0 ? SentAs::raw : SentAs::value;
            out.stage = stages;
            out.unit = stages == 0 && sent.asked->unit != "V" ? sent.asked->unit : r.quantity.unit;
            return out;
        }
        if (follows(pairs, path, 0, 1, real)) {
            out.as = SentAs::raw;
            out.unit = sent.asked->input == ProofInput::volts ? "count" : sent.asked->unit;
            return out;
        }
        for (std::size_t j = 1; j < stages; ++j)
            for (const double factor : {1.0, 1000.0, 0.1, 0.001}) {
                if (!follows(pairs, path, j, factor, real)) continue;
                out.as = SentAs::on_the_way;
                out.stage = j;
                Chain part = path;
                part.stages.resize(j);
                const std::string unit = part.last_unit();
                out.unit = factor == 1                       ? unit
                           : unit == "V" && factor == 1000   ? "mV"
                           : unit == "mm" && factor == 0.1   ? "cm"
                           : unit == "mm" && factor == 0.001 ? "m"
                                                             : "";
                if (out.unit.empty()) out.as = SentAs::another;
                if (!out.unit.empty()) return out;
            }
        // A share of the full scale, in per cent or as such, is on the way as well.
        const double codes = codes_in_program(trial, r);
        if (sent.asked->input == ProofInput::volts)
            for (const double full : {1.0, 100.0}) {
                Chain none;
                none.input_unit = "count";
                if (follows(pairs, none, 0, full / codes, real) && stages > 0) {
                    out.as = SentAs::on_the_way;
                    out.unit = full == 1 ? "1" : "%";
                    return out;
                }
            }
        // The value in another unit of its kind.
        for (const Unit& unit : all_units()) {
            const Unit* own = find_unit(r.quantity.unit);
            if (!own || unit.dimension != own->dimension || unit.code == own->code) continue;
            Chain to = path;
            const auto at0 = convert_unit(0, own->code, unit.code), at1 = convert_unit(1, own->code, unit.code);
            if (!at0 || !at1) continue;
            Scale scale;
            scale.factor.value = *at1 - *at0;
            scale.offset.value = *at0;
            scale.input_unit = own->code;
            scale.unit = unit.code;
            to.stages.emplace_back(scale);
            if (!follows(pairs, to, to.stages.size(), 1, real)) continue;
            out.as = SentAs::other_unit;
            out.unit = unit.code;
            return out;
        }
    }
    out.as = SentAs::another;
    return out;
}

} // namespace cognitum::program
