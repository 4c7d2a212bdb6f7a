#include "core/program/read/program_trial.h"

#include "core/base/letters.h"
#include "core/plan/path.h"
#include "core/program/parts_at_pins.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum::program {

namespace {

constexpr double bounce_ms = 2;
constexpr int pulses_there = 150;

/// The plan's points without their times: what all readings are given at point k for a whole run.
std::vector<std::vector<ProofPoint>> points_by_number(const ProofPlan& plan) {
    std::vector<std::vector<ProofPoint>> out(trial_points);
    std::map<std::string, int> next;
    for (ProofPoint point : plan.points) {
        const int k = next[point.reading]++;
        if (k >= trial_points) continue;
        point.from_s = 0;
        point.to_s = 1e9;
        out[static_cast<std::size_t>(k)].push_back(point);
    }
    return out;
}

Observed evaluate(const Trial& trial, const ProofPlan& plan, bool to_the_end, int fails_every = 0) {
    // What comes once a minute is waited for in one of the runs.
    RunLimits limits;
    limits.enough_steps = to_the_end ? 3'000'000 : 200'000;
    if (to_the_end) limits.steps *= 5;
    BoardPins pins(*trial.card);
    const PartsAtPins parts(pins, plan, *trial.bench, *trial.catalog);
    Evaluator evaluator(*trial.tree, pins, trial.nature, limits);
    evaluator.fails_every = fails_every;
    return evaluator.run();
}

/// How well the text before a number names a reading: letters of the longest word of it that is found there.
std::size_t named(const std::string& label, const Reading& reading) {
    const std::string text = letters::small(label);
    std::size_t best = 0;
    for (const std::string& name : {reading.id, reading.name, reading.field(), reading.quantity.kind}) {
        std::string word;
        for (const char c : letters::small(name) + " ") {
            if (letters::is_letter_or_digit(c)) {
                word += c;
                continue;
            }
            if (word.size() >= 2 && text.find(word) != std::string::npos) best = std::max(best, word.size());
            word.clear();
        }
    }
    return best;
}

/// The numbers of all runs, by where they are sent; of one place with several, by their order in it.
void collect_sent(Trial& trial) {
    using Key = std::tuple<int, int, int, int, std::string>;
    std::map<Key, SentNumber> all;
    std::vector<Key> order;
    for (std::size_t k = 0; k < trial.seen.size(); ++k) {
        std::map<Key, std::vector<double>> times;
        for (const Line& line : trial.seen[k].lines) {
            std::map<std::tuple<int, int, int, std::string>, int> nth;
            for (const Printed& p : line.numbers) {
                const Origin* source = source_of(p.value.trace);
                if (!source) continue;
                // One function that prints for several readings is told apart by what it prints.
                const std::string of = fmt::format("{} {} {}", static_cast<int>(source->kind), source->key,
                                                   source->kind == SourceKind::i2c ? p.label : "");
                const int n = nth[{p.place.file, p.place.line, p.place.column, of}]++;
                const Key key{p.place.file, p.place.line, p.place.column, n, of};
                auto [at, is_new] = all.try_emplace(key);
                SentNumber& number = at->second;
                if (is_new) {
                    order.push_back(key);
                    number.place = p.place;
                    number.label = p.label;
                    number.at.resize(trial.seen.size());
                }
                number.source = source;
                number.at[k] = &p;
                const double v = p.value.number();
                if (k == trial.seen.size() / 2) number.series.emplace_back(line.at_s, v);
                times[key].push_back(line.at_s);
            }
        }
        for (auto& [key, at_s] : times) {
            // Of many only the first ones are all kept.
            const std::size_t n = std::min<std::size_t>(at_s.size(), kept_of_a_number);
            if (n < 2) continue;
            const double usual = (at_s[n - 1] - at_s.front()) / static_cast<double>(n - 1);
            all[key].interval_s = std::max(all[key].interval_s, usual);
        }
    }
    for (const Key& key : order)
        trial.sent.push_back(std::move(all[key]));
}

} // namespace

const Printed* SentNumber::last() const {
    const auto there = std::find_if(at.rbegin(), at.rend(), [](const Printed* p) { return p != nullptr; });
    return there == at.rend() ? nullptr : *there;
}

const ProofPoint* Trial::point(std::size_t k, const std::string& reading) const {
    for (const ProofPoint& p : points[k])
        if (p.reading == reading) return &p;
    return nullptr;
}

const ProofReading* Trial::asked(const std::string& reading) const {
    for (const ProofReading& r : plan.readings)
        if (r.reading == reading) return &r;
    return nullptr;
}

std::string Trial::file_name(const CodePlace& place) const {
    return place.file < 0 || place.file >= static_cast<int>(tree->files.size())
               ? std::string()
               : tree->files[static_cast<std::size_t>(place.file)].name;
}

std::string Trial::mended(const CodePlace& place, const std::string& by) const {
    std::string line = tree->line(place);
    const auto at = static_cast<std::size_t>(std::max(0, place.column - 1));
    if (place.length <= 0 || at + static_cast<std::size_t>(place.length) > line.size()) return {};
    line.replace(at, static_cast<std::size_t>(place.length), by);
    const auto first = line.find_first_not_of(" \t");
    return first == std::string::npos ? std::string()
                                      : line.substr(first, line.find_last_not_of(" \t") + 1 - first);
}

BoardNature nature_of(const BoardCard& card) {
    BoardNature out;
    // The 8-bit boards are those with 5 V pins and a converter of 10 bits; their numbers are half as wide.
    out.eight_bit = card.bits == 10 && card.logic_V > 4;
    out.bits = card.bits;
    out.supply_V = card.references.empty() ? card.logic_V : card.references.front().voltage_V;
    const VoltageReference* internal = card.reference("internal");
    out.internal_V = internal ? internal->voltage_V : 0;
    return out;
}

bool is_source_of(const Trial& trial, const Origin& source, const Reading& reading) {
    if (reading.wiring.board != trial.use->id) return false;
    const PartCard* part = trial.catalog->part(reading.sensor.part);
    const ProofReading* asked = trial.asked(reading.id);
    switch (source.kind) {
    case SourceKind::i2c: {
        if (asked && asked->channel >= 0) return source.key == fmt::format("0x{:02X}", asked->address);
        const bool on_bus = part && part->interface.speech == Speech::i2c;
        return on_bus && source.key == fmt::format("0x{:02X}", bus_address(reading.wiring.address, *part));
    }
    case SourceKind::spi: {
        const Connection* select = reading.wiring.connection("CS");
        return select && select->pin == source.key;
    }
    case SourceKind::library: return false;
    default: return reading.wiring.pin() == source.key && reading.wiring.module.empty();
    }
}

const Reading* reading_of(const Trial& trial, const Origin& source, const SentNumber& number) {
    const Reading* best = nullptr;
    double best_score = -1;
    for (const Reading& r : trial.bench->readings) {
        if (!is_source_of(trial, source, r)) continue;
        double score = static_cast<double>(named(number.label, r));
        // Of several on one bus the one whose truths it follows.
        double off = 0;
        int n = 0;
        for (std::size_t k = 0; k < number.at.size(); ++k)
            if (const ProofPoint* p = trial.point(k, r.id); p && number.at[k]) {
                off += std::abs(number.at[k]->value.ideal - p->truth) /
                       std::max(1e-9, r.quantity.high - r.quantity.low);
                ++n;
            }
        if (n > 0 && off / n < 0.05) score += 100;
        if (score > best_score) {
            best_score = score;
            best = &r;
        }
    }
    return best;
}

const Reading* named_reading(const Trial& trial, const std::string& label) {
    const Reading* out = nullptr;
    std::size_t best = 0;
    bool alone = true;
    for (const Reading& r : trial.bench->readings) {
        if (r.wiring.board != trial.use->id) continue;
        Reading plain = r; // its kind names many
        plain.quantity.kind.clear();
        const std::size_t n = named(label, plain);
        if (n < 3 || n < best) continue;
        alone = n > best;
        best = n;
        out = &r;
    }
    return alone ? out : nullptr;
}

Trial run_trial(const SyntaxTree& tree, const Bench& bench, const Catalog& catalog, const BoardUse& use) {
    Trial out;
    out.tree = &tree;
    out.bench = &bench;
    out.catalog = &catalog;
    out.use = &use;
    out.card = catalog.board(use.card);
    out.nature = nature_of(*out.card);
    ProofOptions options;
    options.points = trial_points;
    options.inset = 0.02; // numbers get too large near the ends; at the ends a program may well refuse them
    options.any_board = true;
    if (const auto plan = plan_proof(bench, catalog, use.id, options)) out.plan = *plan;
    out.plan.pulses_per_s = trial_pulses_per_s;
    out.plan.bounce_ms = bounce_ms;
    out.plan.opening_rings = false; // of a reed it hardly does, and most programs do not bear it
    out.points = points_by_number(out.plan);
    for (std::size_t k = 0; k < trial_points; ++k) {
        for (ProofPoint& p : out.points[k])
            if (const ProofReading* asked = out.asked(p.reading); asked && asked->input == ProofInput::pulses)
                p.input = pulses_there;
        ProofPlan one = out.plan;
        one.points = out.points[k];
        out.seen.push_back(evaluate(out, one, k == trial_points / 2));
    }
    ProofPlan none = out.plan;
    none.points.clear();
    std::erase_if(none.readings,
                  [](const ProofReading& r) { return r.input != ProofInput::volts || r.channel >= 0; });
    for (const ProofPoint& p : out.points[trial_points / 2])
        if (std::any_of(none.readings.begin(), none.readings.end(),
                        [&](const ProofReading& r) { return r.reading == p.reading; }))
            none.points.push_back(p);
    out.unfitted = evaluate(out, none, false);
    ProofPlan usual = out.plan;
    usual.points = out.points[trial_points / 2];
    out.failing = evaluate(out, usual, false, 3);
    collect_sent(out);
    for (SentNumber& number : out.sent) {
        const Printed* last = number.last();
        // Of several sources the one that is a reading and is followed best.
        for (const Origin* source : sources_of(last->value.trace)) {
            const Reading* r = reading_of(out, *source, number);
            if (!r) continue;
            if (!number.reading || named(number.label, *r) > named(number.label, *number.reading)) {
                number.reading = r;
                number.source = source;
            }
        }
        if (number.reading) number.asked = out.asked(number.reading->id);
    }
    return out;
}

} // namespace cognitum::program
