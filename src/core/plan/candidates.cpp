#include "core/plan/candidates.h"

#include "core/plan/path.h"
#include "core/uncertainty/budget.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cctype>
#include <cmath>
#include <fmt/format.h>
#include <limits>

namespace cognitum {

namespace {

/// What a calibration at two points with a good thermometer leaves: reading by counts, supply, reference ± 0.1.
double calibrated_doubt(const Budget& as_bought) {
    std::vector<Contribution> left = {{"calibration", "Calibration", 0.1}};
    for (const Contribution& c : as_bought.contributions)
        if (c.id == "quantisation" || c.id == "reference_V") left.push_back(c);
    return combine(as_bought.value, std::move(left)).expanded();
}

Candidate judge(const PartCard& part, const Reading& reading, const BoardUse& use, const BoardCard& board,
                const Bench& bench) {
    const Quantity& q = reading.quantity;
    const auto measure = [&](double v) { return format_measure(v, q.unit, 2); };
    Candidate out{part.id, std::numeric_limits<double>::quiet_NaN(), Fitness::does_not, {}};

    Wiring wiring = reading.wiring;
    if (reading.sensor.part != part.id || wiring.pin.empty()) {
        Bench others = bench; // its own pin is free for it
        if (Reading* self = others.reading(reading.id)) self->wiring = {};
        const auto first = first_wiring(part, use, board, others);
        if (!first) {
            out.because = first.error().what;
            return out;
        }
        wiring = *first;
    }
    Reading trial = reading;
    trial.wiring = wiring;
    trial.path = build_path(part, board, wiring);
    const double middle = std::clamp((q.low + q.high) / 2, part.low, part.high);
    if (const Value code = inverse(trial.path, middle); code.ok())
        out.doubt = budget(trial.path, code.number).expanded();

    if (q.low < part.low || q.high > part.high) {
        const double lost = std::max(part.low - q.low, q.high - part.high);
        out.because = fmt::format("Reaches {} to {}; {} of what you want is outside.", format_constant(part.low),
                                  measure(part.high), format_measure(lost, q.unit, 3));
        return out;
    }
    const VoltRange volts = output_range(q, part, board, wiring);
    const VoltageReference* reference = board.reference(wiring.reference);
    if (!part.divider && reference && volts.high > reference->voltage_V) {
        out.because = fmt::format("Gives {} where the converter is full at {}.", format_measure(volts.high, "V", 3),
                                  format_measure(reference->voltage_V, "V", 3));
        return out;
    }
    if (part.response_s > 10 * q.interval_s && q.interval_s > 1) {
        out.because = fmt::format("Needs {:.0f} s to follow; you want a value every {:.0f} s.", part.response_s,
                                  q.interval_s);
        return out;
    }
    if (!std::isfinite(out.doubt)) {
        out.because = "Its output cannot be computed for the middle of your range.";
        return out;
    }
    if (out.doubt <= q.accuracy) {
        out.fitness = Fitness::fits;
        out.because = fmt::format("± {} as bought, you need ± {}.", measure(out.doubt), measure(q.accuracy));
        return out;
    }
    const Value code = inverse(trial.path, middle);
    const double after = calibrated_doubt(budget(trial.path, code.number));
    if (after <= q.accuracy) {
        out.fitness = Fitness::fits_with_change;
        out.because = fmt::format("Calibrate it: ± {} as bought, about ± {} after two points.", measure(out.doubt),
                                  measure(after));
        return out;
    }
    const Reading probe = trial;
    if (const VoltageReference* finer = finer_reference(probe, part, board)) {
        out.fitness = Fitness::fits_with_change;
        out.because = fmt::format("Calibrate it and use {}: one count is {}.", finer->name,
                                  measure(count_size(trial) * finer->voltage_V / reference->voltage_V));
        return out;
    }
    out.because = fmt::format("± {} even when calibrated; you need ± {}.", measure(after), measure(q.accuracy));
    return out;
}

std::string lower(std::string_view text) {
    std::string out(text);
    std::transform(out.begin(), out.end(), out.begin(),
                   [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    return out;
}

} // namespace

std::vector<Candidate> candidates(const Reading& reading, const BoardUse& use, const BoardCard& board,
                                  const Bench& bench, const Catalog& catalog) {
    std::vector<Candidate> out;
    for (const PartCard& part : catalog.parts)
        if (part.quantity == reading.quantity.kind && same_unit(part.unit, reading.quantity.unit))
            out.push_back(judge(part, reading, use, board, bench));
    std::stable_sort(out.begin(), out.end(), [](const Candidate& a, const Candidate& b) {
        return a.fitness != b.fitness ? a.fitness < b.fitness : a.doubt < b.doubt;
    });
    return out;
}

bool matches_facts(const PartCard& part, std::string_view query) {
    std::string facts = lower(fmt::format("{} {} {} {} legs {} {} v {} v {} {}", part.name, part.quantity,
                                          part.interface, part.legs.size(), part.id, part.supply_low_V,
                                          part.supply_high_V, part.good_for, part.needs));
    std::string compact;
    for (const char c : facts)
        if (c != ' ') compact += c;
    const std::string wanted = lower(query);
    std::size_t start = 0;
    std::string number; // "3 legs" is one fact: a number belongs to the word behind it
    while (start < wanted.size()) {
        const std::size_t end = std::min(wanted.find(' ', start), wanted.size());
        std::string word = number + wanted.substr(start, end - start);
        number.clear();
        if (end < wanted.size() && !word.empty() && word.find_first_not_of("0123456789.") == std::string::npos) {
            number = word;
            word.clear();
        }
        if (!word.empty() && facts.find(word) == std::string::npos && compact.find(word) == std::string::npos)
            return false;
        start = end + 1;
    }
    return true;
}

} // namespace cognitum
