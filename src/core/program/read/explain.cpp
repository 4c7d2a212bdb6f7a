#include "core/program/read/explain.h"
#include "core/program/read/pairs.h"

#include "core/base/json_reader.h"
#include "core/base/phrase.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum::program {

namespace {

constexpr double zero_degC_K = 273.15;

bool is_constant_key(const std::string& key, const Json& value) {
    if (!value.is_number() || key == "bits") return false;
    for (const char* prefix : {"tol_", "u_", "origin_", "known_by_", "stability_", "from_", "cause_"})
        if (key.starts_with(prefix)) return false;
    return true;
}

std::string name_of(const std::string& key) {
    static const std::vector<std::pair<std::string, std::string>> words = {
        {"reference_V", for_people("the converter’s reference")},
        {"zero", for_people("the part’s zero")},
        {"slope", for_people("the part’s slope")},
        {"fixed_ohm", for_people("the divider’s resistor")},
        {"r0_ohm", for_people("the part’s resistance")},
        {"t0_degC", for_people("the temperature of that resistance")},
        {"beta_K", "β"},
        {"mount_height_mm", for_people("the sensor’s height")},
        {"supply_V", for_people("the divider’s supply")},
        {"factor", for_people("the factor")},
        {"offset", for_people("the offset")},
        {"temperature_degC", for_people("the temperature")},
        {"speed_m_s", for_people("the speed of sound")},
        {"gain", for_people("the gain")},
        {"shunt_ohm", for_people("the shunt")},
        {"at_0", for_people("the number at 0 %")},
        {"at_100", for_people("the number at 100 %")},
    };
    for (const auto& [k, w] : words)
        if (k == key) return phrase_of(w);
    return key;
}

/// Unit of a constant, by the name of its key; of a zero that of what comes into its stage.
std::string unit_of_key(const Json& stage, const std::string& key) {
    for (const auto& [ending, unit] : std::vector<std::pair<std::string, std::string>>{
             {"_V", "V"}, {"_ohm", "ohm"}, {"_degC", "degC"}, {"_K", "K"}, {"_mm", "mm"}})
        if (key.ends_with(ending)) return unit;
    return key == "zero" && stage.contains("input_unit") ? stage["input_unit"].get<std::string>() : std::string();
}

bool nearly(double a, double b) {
    return std::abs(a - b) <= 1e-6 * std::max(1.0, std::abs(b));
}

struct Slot {
    std::size_t stage;
    std::string key;
    double planned;
};

/// The numbers of a program that a constant of the path may have been written with.
struct Numbers {
    std::vector<Literal> literals, made;
    std::vector<Slot> slots;

    /// What the plan has for another constant is that constant, and not this one in another unit.
    [[nodiscard]] bool is_another(const Literal& l, const std::string& key) const {
        return std::any_of(slots.begin(), slots.end(),
                           [&](const Slot& slot) { return slot.key != key && nearly(l.value, slot.planned); });
    }
    /// Within a hundredth of it.
    [[nodiscard]] bool is_like_another(const Literal& l, const std::string& key) const {
        return std::any_of(slots.begin(), slots.end(), [&](const Slot& slot) {
            return slot.key != key && std::abs(l.value - slot.planned) <= 0.01 * std::abs(slot.planned);
        });
    }
};

struct Form {
    double (*of)(double);   ///< what a constant is when it was written as this number
    double (*back)(double); ///< the number for a constant
};

/// As it stands, negative, in thousandths, in thousands, upside down, in per cent, in kelvins; added where it has
/// to be taken off, in per cent and in thousandths.
constexpr Form forms[] = {{[](double v) { return v; }, [](double v) { return v; }},
                          {[](double v) { return -v; }, [](double v) { return -v; }},
                          {[](double v) { return v / 1000; }, [](double v) { return v * 1000; }},
                          {[](double v) { return v * 1000; }, [](double v) { return v / 1000; }},
                          {[](double v) { return 1 / v; }, [](double v) { return 1 / v; }},
                          {[](double v) { return 100 / v; }, [](double v) { return 100 / v; }},
                          {[](double v) { return v - zero_degC_K; }, [](double v) { return v + zero_degC_K; }},
                          {[](double v) { return v / 100; }, [](double v) { return v * 100; }},
                          {[](double v) { return -v / 100; }, [](double v) { return -v * 100; }},
                          {[](double v) { return -v / 1000; }, [](double v) { return -v * 1000; }}};

/// Values that a constant may have been given by mistake: numbers of the program, and the usual ones.
std::vector<double> candidates(const Numbers& numbers, const std::string& key) {
    std::vector<double> out = {0, 1};
    if (key == "reference_V" || key == "supply_V") out.insert(out.end(), {5.0, 3.3, 1.1, 2.56, 4.096, 1.0, 3.0});
    for (const auto* all : {&numbers.literals, &numbers.made})
        for (const Literal& l : *all) {
            out.push_back(l.value);
            if (numbers.is_another(l, key)) continue;
            for (const Form& form : forms)
                if (const double v = form.of(l.value); std::isfinite(v)) out.push_back(v);
        }
    return out;
}

std::optional<Chain> with(const Json& form, const std::vector<std::pair<Slot, double>>& changes) {
    Json changed = form;
    for (const auto& [slot, value] : changes)
        changed["stages"][slot.stage][slot.key] = value;
    JsonText text{"", json_dump(changed), changed};
    const auto chain = read_chain(JsonReader(text));
    if (!chain) return std::nullopt;
    return *chain;
}

/// Whether a number is all that a step works with which such a constant could be in: what is taken off is a zero,
/// and what multiplies is none.
bool stands_right(const Literal& l, const std::string& key, const Trace& trace) {
    const bool is_zero = key == "zero" || key == "offset";
    return std::any_of(trace.steps.begin(), trace.steps.end(), [&](const TraceStep& step) {
        return (step.op == '+' || step.op == '-') == is_zero && step.literals && step.literals->size() == 1 &&
               step.literals->front().place == l.place;
    });
}

/// Where the wrong number stands in the program, and what has to stand there. One that is nearly what the plan has
/// for another constant is rather that constant.
void find_literal(Explanation& out, const Numbers& numbers, const Trace& trace) {
    for (const int pass : {0, 1, 2})
        for (const Literal& l : numbers.literals) {
            if (l.place.line == 0 || (pass == 0 && !stands_right(l, out.key, trace)) ||
                (pass == 1 && numbers.is_like_another(l, out.key)))
                continue;
            const bool another = numbers.is_another(l, out.key);
            for (const Form& form : forms) {
                if (!nearly(form.of(l.value), out.used)) continue;
                if (another && !nearly(l.value, out.used)) continue;
                out.literal = l;
                out.must_be = form.back(out.planned);
                return;
            }
        }
    for (const Literal& l : numbers.made)
        for (const Form& form : forms)
            if (nearly(form.of(l.value), out.used)) out.made_at = l.place;
}

/// A factor that somebody worked out for another board.
void take_apart(Explanation& out, const SentNumber& sent, const Chain& path) {
    double slope = 1;
    for (const Stage& stage : path.stages)
        if (const auto* line = std::get_if<Linear>(&stage)) slope = line->slope.value;
    for (const TraceStep& step : sent.last()->value.trace->steps) {
        if (step.op != '*' || !step.literals || step.literals->size() != 1) continue;
        const Literal& l = step.literals->front();
        for (const double volts : {5.0, 3.3, 1.1, 2.56, 4.096, out.used})
            for (const double codes : {1024.0, 1023.0, 4096.0, 4095.0})
                for (const double by : {1.0, 1000.0, 1 / slope}) {
                    const double made = volts / codes * by;
                    if (std::abs(made - l.value) > 6e-4 * made) continue;
                    if (out.key == "reference_V" && std::abs(volts - out.used) > 0.02 * out.used) continue;
                    out.apart =
                        phrase("{} is {} V / {}{}", format_constant(l.value), format_constant(volts),
                               format_constant(codes), by == 1 ? "" : fmt::format(" · {}", format_constant(by)));
                    out.literal = l;
                    out.must_be =
                        out.key == "reference_V" ? l.value * out.planned / volts : l.value * out.planned / out.used;
                    return;
                }
    }
}

} // namespace

std::optional<Explanation> explain(const Trial& trial, const SentNumber& sent) {
    if (!sent.reading || !sent.asked || sent.reading->path.stages.empty()) return std::nullopt;
    const Pairs pairs = pairs_of(trial, sent, true);
    const Chain& path = sent.reading->path;
    const Json form = chain_json(path);
    Numbers numbers{literals_of(sent.last()->value.trace), made_constants_of(sent.last()->value.trace), {}};
    const std::size_t stages = path.stages.size();
    const auto fits = [&](const std::optional<Chain>& chain) {
        return chain && follows(pairs, *chain, stages, 1, true);
    };
    // What is sent may be a number on the way: volts, or thousandths of them.
    const auto fits_on_the_way = [&](const std::optional<Chain>& chain) {
        for (std::size_t j = 1; chain && j < stages; ++j)
            if (follows(pairs, *chain, j, 1, true) || follows(pairs, *chain, j, 1000, true)) return true;
        return false;
    };
    std::vector<Slot>& slots = numbers.slots;
    for (std::size_t i = 0; i < form["stages"].size(); ++i)
        for (const auto& [key, value] : form["stages"][i].items())
            if (is_constant_key(key, value)) slots.push_back({i, key, value.get<double>()});
    const auto differs = [](const Slot& slot, double v) {
        return std::abs(v - slot.planned) > 1e-3 * std::max(1e-9, std::abs(slot.planned));
    };
    // Two constants at once can make any straight line: only with values that somebody may have meant.
    const auto is_likely = [](const Slot& slot, double v) {
        constexpr double most = 50;
        return v == 0 || slot.planned == 0 || (v / slot.planned < most && v / slot.planned > 1 / most);
    };
    const auto beside = [&](const Slot& slot, double used) {
        const std::string unit = unit_of_key(form["stages"][slot.stage], slot.key);
        return phrase("And {} is {} instead of {}.", name_of(slot.key), format_measure(used, unit, 6),
                      format_measure(slot.planned, unit, 6));
    };
    // The divider's leg, alone or with another constant beside it.
    for (std::size_t i = 0; i < form["stages"].size(); ++i) {
        if (!form["stages"][i].contains("unknown")) continue;
        Json turned = form;
        const bool top = form["stages"][i]["unknown"] == "top";
        turned["stages"][i]["unknown"] = top ? "bottom" : "top";
        const std::string above = phrase("between the supply and the pin"),
                          below = phrase("between the pin and ground");
        Explanation out{
            "unknown", phrase("the divider’s leg"), 0, 0, top ? above : below, top ? below : above, {}, 0, {}, {},
            {}};
        if (fits(with(turned, {}))) return out;
        for (const Slot& slot : slots)
            for (const double v : candidates(numbers, slot.key))
                if (differs(slot, v) && is_likely(slot, v) && fits(with(turned, {{slot, v}}))) {
                    out.beside = beside(slot, v);
                    return out;
                }
    }
    const auto made = [&](const Slot& slot, double used) {
        Explanation out;
        out.key = slot.key;
        out.words = name_of(slot.key);
        out.planned = slot.planned;
        out.used = used;
        const std::string unit = unit_of_key(form["stages"][slot.stage], slot.key);
        out.planned_text = format_measure(slot.planned, unit, 6);
        out.used_text = format_measure(used, unit, 6);
        find_literal(out, numbers, *sent.last()->value.trace);
        if (!out.literal && (slot.key == "reference_V" || slot.key == "slope" || slot.key == "supply_V"))
            take_apart(out, sent, path);
        return out;
    };
    for (const Slot& slot : slots)
        for (const double v : candidates(numbers, slot.key))
            if (differs(slot, v) && fits(with(form, {{slot, v}}))) return made(slot, v);
    for (const Slot& slot : slots)
        for (const double v : candidates(numbers, slot.key))
            if (differs(slot, v) && is_likely(slot, v) && fits_on_the_way(with(form, {{slot, v}})))
                return made(slot, v);
    // Two at once.
    for (std::size_t a = 0; a < slots.size(); ++a)
        for (const double v : candidates(numbers, slots[a].key)) {
            if (!differs(slots[a], v) || !is_likely(slots[a], v)) continue;
            for (std::size_t b = a + 1; b < slots.size(); ++b)
                for (const double w : candidates(numbers, slots[b].key))
                    if (differs(slots[b], w) && is_likely(slots[b], w) &&
                        fits(with(form, {{slots[a], v}, {slots[b], w}}))) {
                        Explanation out = made(slots[a], v);
                        // A line is offered for it alone, so it must be where that constant would be.
                        if (out.literal && out.apart.empty() &&
                            !stands_right(*out.literal, slots[a].key, *sent.last()->value.trace))
                            continue;
                        out.beside = beside(slots[b], w);
                        return out;
                    }
        }
    return std::nullopt;
}

} // namespace cognitum::program
