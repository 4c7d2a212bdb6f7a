#include "core/program/read/explain.h"
#include "core/program/read/mended_text.h"
#include "core/program/read/reading_rules.h"

#include "core/base/phrase.h"
#include "core/decode/number.h"
#include "core/plan/path.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum::program {

namespace {

/// One step of the raw number in what is sent; 0: not known.
double effect_of_a_step(const Trial& t, const SentNumber& s) {
    double out = 0;
    if (!s.reading || !s.asked) {
        const TraceRef& trace = s.last()->value.trace;
        return trace->origin->is_source ? std::abs(trace->slope) : 0;
    }
    std::size_t before = s.at.size();
    for (std::size_t k = 0; k < s.at.size(); ++k) {
        const ProofPoint* here = t.point(k, s.reading->id);
        if (!s.at[k] || !here) continue;
        if (before < s.at.size()) {
            const ProofPoint* there = t.point(before, s.reading->id);
            const double raw = raw_number(t, *s.reading, *here) - raw_number(t, *s.reading, *there);
            if (raw != 0) out = std::max(out, std::abs((s.at[k]->value.ideal - s.at[before]->value.ideal) / raw));
        }
        before = k;
    }
    return out;
}

std::string value_text(const Trial&, const Reading& r, double v) {
    return format_value(v, r.quantity.accuracy / 2, r.quantity.unit);
}

/// "At 18.0 °C it prints 44.9." at one of the points; empty: nothing is printed there.
std::string example_at(const Trial& t, const SentNumber& s, std::size_t k) {
    const ProofPoint* p = s.reading ? t.point(k, s.reading->id) : nullptr;
    return p && s.at[k] ? phrase("At {} it prints {}.", value_text(t, *s.reading, p->truth), s.at[k]->text)
                        : std::string();
}

/// At the point where what is printed is farthest from the plan's value, of those that print something.
std::string worst_example(const Trial& t, const SentNumber& s) {
    std::string out;
    double most = -1;
    for (std::size_t i = 0; i < s.at.size(); ++i) {
        const std::size_t k = (i + s.at.size() / 2) % s.at.size(); // of several the one in the middle
        const ProofPoint* p = s.reading ? t.point(k, s.reading->id) : nullptr;
        if (!p || !s.at[k]) continue;
        const double off = std::abs(s.at[k]->value.number() - p->truth);
        if (!(off > 1.5 * most) && most >= 0) continue;
        most = std::isfinite(off) ? off : 1e300;
        out = example_at(t, s, k);
    }
    return out;
}

/// At the middle point, or else at an end.
std::string example(const Trial& t, const SentNumber& s) {
    for (const std::size_t k : {t.seen.size() / 2, std::size_t{0}, t.seen.size() - 1})
        if (std::string at = example_at(t, s, k); !at.empty()) return at;
    return {};
}

struct LossWords {
    const char *id, *message;
};
LossWords words_of_loss(Loss::Kind kind) {
    switch (kind) {
    case Loss::Kind::division:
        return {"whole-number-division", phrase("It divides whole numbers: the fraction is dropped.")};
    case Loss::Kind::overflow: return {"integer-overflow", phrase("The number is too large for its type.")};
    case Loss::Kind::cut: return {"cut-to-whole", phrase("The number is cut to a whole one.")};
    case Loss::Kind::map: return {"map-to-whole", phrase("map() gives whole numbers only.")};
    case Loss::Kind::text:
        return {"text-parsed-again", phrase("A number that was made a text is read back from it.")};
    }
    return {};
}

ReadFinding loss_finding(const Trial& t, const Loss& loss, const std::string& reading, const std::string& seen) {
    const auto [id, message] = words_of_loss(loss.kind);
    const MendedLine mended = mended_loss(t, loss);
    std::string why = phrase("{} became {}.", format_constant(loss.ideal, 5), format_constant(loss.board, 5));
    if (loss.kind == Loss::Kind::overflow) {
        const std::string most = format_constant(std::ldexp(1.0, loss.bits - 1) - 1, 12);
        const std::string ideal = format_constant(loss.ideal, 8), board = format_constant(loss.board, 8);
        why = mended.place.line == loss.place.line
                  ? phrase("{} bits hold at most {}; {} became {}.", loss.bits, most, ideal, board)
                  : phrase("{} bits hold at most {}; on line {}, {} became {}.", loss.bits, most, loss.place.line,
                           ideal, board);
    }
    if (loss.kind == Loss::Kind::text)
        why = phrase("Its text has two digits behind the point, and the rest is lost.");
    if (!seen.empty()) why += " " + seen;
    return found(t, id, Severity::error, mended.place, message, why, mended.text, reading);
}

/// The accuracy that is wanted, in the unit of what is sent; 0: they do not convert.
double accuracy_in(const SentNumber& s, const Standing& standing) {
    if (!s.reading || standing.unit.empty()) return 0;
    const Unit *own = find_unit(s.reading->quantity.unit), *sent = find_unit(standing.unit);
    return own && sent && own->dimension == sent->dimension
               ? s.reading->quantity.accuracy * own->factor / sent->factor
               : 0;
}

/// What the board's types lost on the way to a number that is sent, where it matters. True: something was found.
bool losses(const Trial& t, const SentNumber& s, const Standing& standing, ReadFindings& out) {
    const double effect = effect_of_a_step(t, s);
    double slack = 1.5 * effect; // whole millivolts of a fine converter lose about a step
    slack = std::max(slack, accuracy_in(s, standing) / 2);
    // Each run numbers its own losses. The one that lost the largest share; another only follows from it.
    const Loss* worst = nullptr;
    std::size_t worst_at = 0;
    double most = -1;
    for (std::size_t i = 0; i < s.at.size(); ++i) {
        const std::size_t k = (i + s.at.size() / 2) % s.at.size(); // from the point of the example on
        const Printed* p = s.at[k];
        if (!p) continue;
        const double step = p->digits < 0 ? 0 : std::pow(10.0, -p->digits) * 0.51;
        const double printed = number_of(p->text).value_or(no_number);
        const bool matters = std::abs(printed - p->value.ideal) > slack + step + 1e-5 * std::abs(p->value.ideal);
        const std::vector<Loss>& all = t.seen[k].losses;
        for (std::size_t n = 0; n < all.size() && n < 64; ++n) {
            if ((p->value.losses >> n & 1) == 0 || (!matters && all[n].kind != Loss::Kind::text)) continue;
            const double share = std::abs(all[n].board - all[n].ideal) / std::max(1e-9, std::abs(all[n].ideal));
            if (share <= most + 1e-9) continue;
            most = share;
            worst = &all[n];
            worst_at = k;
        }
    }
    if (!worst) return false;
    const ReadFinding made =
        loss_finding(t, *worst, s.reading ? s.reading->id : std::string(), example_at(t, s, worst_at));
    if (std::none_of(out.begin(), out.end(),
                     [&](const ReadFinding& f) { return f.line == made.line && f.id == made.id; }))
        out.push_back(made);
    return true;
}

/// The divisor of a full scale that is one less than the converter's steps.
void divisor(const Trial& t, const SentNumber& s, ReadFindings& out) {
    if (!s.source || s.source->kind != SourceKind::analog || !s.reading) return;
    bool has_adc = false;
    for (const Stage& stage : s.reading->path.stages) {
        const auto* adc = std::get_if<Adc>(&stage);
        has_adc = has_adc || std::holds_alternative<RatioDivider>(stage) || std::holds_alternative<Ratio>(stage) ||
                  (adc && adc->convention == CodeConvention::two_to_n);
    }
    if (!has_adc) return;
    const double codes = codes_in_program(t, *s.reading);
    std::vector<Literal> all = literals_of(s.last()->value.trace);
    const std::size_t written = all.size();
    for (const Literal& made : made_constants_of(s.last()->value.trace)) // 1 << 12
        all.push_back(made);
    for (std::size_t i = 0; i < all.size(); ++i) {
        const Literal& l = all[i];
        const bool short_one = l.value == codes - 1;
        const bool other = l.value == 1023 || l.value == 4095 || l.value == 1024 || l.value == 4096;
        if (!short_one && (!other || l.value == codes)) continue;
        out.push_back(found(
            t, "divisor-differs", short_one ? Severity::look : Severity::error, l.place,
            phrase("The converter has {} steps, not {}.", format_constant(codes), format_constant(l.value)),
            short_one ? phrase("Code {} is a rail, and every voltage comes out {} % too high.",
                               format_constant(codes - 1), format_constant(100 / (codes - 1), 1))
                      : phrase("Everything is {} times what it should be.", format_constant(codes / l.value, 2)),
            i < written ? t.mended(l.place, written_as(text_at(t, l.place), codes)) : std::string(),
            s.reading->id));
    }
}

void other_value(const Trial& t, const SentNumber& s, ReadFindings& out) {
    const Reading& r = *s.reading;
    const std::string seen = example(t, s);
    if (const auto why = explain(t, s)) {
        const CodePlace place = why->literal ? why->literal->place : why->made_at ? *why->made_at : s.place;
        const std::string mended =
            why->literal ? t.mended(why->literal->place, written_as(text_at(t, why->literal->place), why->must_be))
                         : std::string();
        if (why->key == "unknown") {
            // Where the pin's number becomes a resistance: the function that is nearest to it.
            const Origin* first = s.last()->value.trace->origin.get();
            while (!first->is_source && !first->of.empty() && !first->of.front()->origin->is_source)
                first = first->of.front()->origin.get();
            out.push_back(
                found(t, "leg-order", Severity::error, first->is_source ? s.place : first->place,
                      phrase("It takes the part for {}; the plan has it {}.", why->used_text, why->planned_text),
                      phrase("The resistance comes out upside down. ") +
                          (why->beside.empty() ? seen : why->beside + " " + seen),
                      {}, r.id));
            return;
        }
        const std::string id = why->key == "reference_V"                    ? "reference-differs"
                               : why->key == "zero" || why->key == "offset" ? "offset-differs"
                                                                            : "constant-differs";
        std::string message =
            phrase("It takes {} for {}; the plan has {}.", why->used_text, why->words, why->planned_text);
        if (why->used == 0 && id == "offset-differs")
            message = phrase("It does not take off {}: {}.", why->words, why->planned_text);
        if (!why->apart.empty())
            message = phrase("{}; {} is {} in the plan: it must be {}.", why->apart, why->words, why->planned_text,
                             format_constant(why->must_be, 4));
        out.push_back(found(t, id, Severity::error, place, message,
                            why->beside.empty() ? seen : why->beside + " " + seen, mended, r.id));
        return;
    }
    std::string whole;
    const Chain path = effective_path(r);
    if (s.source && s.source->kind == SourceKind::analog && !path.stages.empty()) {
        const Walk a = walk(path, 300), b = walk(path, 301), c = walk(path, 302);
        const double slope = b.result().number - a.result().number;
        const double offset = a.result().number - 300 * slope;
        if (a.result().ok() && b.result().ok() && c.result().ok() &&
            std::abs(c.result().number - b.result().number - slope) < 1e-9)
            whole = " " + phrase("In one: {}.",
                                 fmt::format("{} * analogRead({}) {} {}", code_number(slope), s.source->key,
                                             offset < 0 ? '-' : '+', code_number(std::abs(offset))));
    }
    out.push_back(found(
        t, "prints-another-value", Severity::error, s.place,
        seen.empty() ? phrase("It prints another value than the plan’s path gives.") : worst_example(t, s),
        phrase("The plan’s path of {} gives other values, and no single constant explains it.", r.name) + whole, {},
        r.id));
}

/// Named as one reading and read from the pin of another.
bool other_pin(const Trial& t, const SentNumber& s, ReadFindings& out) {
    const Reading* named = named_reading(t, s.label);
    if (!named || named == s.reading || !s.source || s.source->kind != SourceKind::analog ||
        !named->wiring.module.empty())
        return false;
    const Placed p = t.placed(*named);
    if (!p.is_voltage() || named->wiring.pin().empty()) return false;
    const auto use = t.usual().pins.find(s.source->key);
    if (use == t.usual().pins.end() || use->second.analog_reads.empty()) return false;
    const Literal* literal = own_literal(use->second.analog_reads.front().second);
    out.push_back(found(t, "pin-differs", Severity::error,
                        literal ? literal->place : use->second.analog_reads.front().first,
                        phrase("It reads pin {} for {}; the plan has {} on {}.", s.source->key, named->name,
                               named->name, named->wiring.pin()),
                        phrase("{} is {}.", s.source->key, s.reading->name),
                        literal ? t.mended(literal->place, named->wiring.pin()) : std::string(), named->id));
    return true;
}

void digits(const Trial& t, const SentNumber& s, const Standing& standing, ReadFindings& out) {
    const Printed& p = *s.last();
    if (!p.value.is_float || p.digits < 0) return;
    const double effect = effect_of_a_step(t, s);
    const double step = std::pow(10.0, -p.digits);
    if (!(effect > 0) || (s.asked && s.asked->input != ProofInput::volts)) return;
    const bool is_value =
        s.reading && (standing.as == SentAs::value ||
                      (standing.as == SentAs::on_the_way && standing.unit == s.reading->quantity.unit));
    if (step > 2 * effect && !(is_value && step <= s.reading->quantity.accuracy / 2))
        out.push_back(found(t, "digits-hide", Severity::look, s.place,
                            phrase("It prints steps of {}; one step of the converter is {}.", format_constant(step),
                                   format_constant(effect, 2)),
                            phrase("What lies between is lost before it is sent."), {},
                            s.reading ? s.reading->id : std::string()));
    if (step * 1000 < effect)
        out.push_back(found(t, "digits-pretend", Severity::note, s.place,
                            phrase("It prints {} digits behind the point; one step of the converter is {}.",
                                   p.digits, format_constant(effect, 2)),
                            phrase("The digits behind that are no measurement."), {},
                            s.reading ? s.reading->id : std::string()));
}

} // namespace

void look_at_numbers(const Trial& t, ReadFindings& out) {
    const auto has = [&](const char* id) {
        return std::any_of(out.begin(), out.end(), [&](const ReadFinding& f) { return f.id == id; });
    };
    const bool other_reference = has("reference-differs") || has("resolution-differs");
    for (const SentNumber& s : t.sent) {
        if (!s.source || s.source->kind == SourceKind::library || s.source->kind == SourceKind::pulses ||
            s.source->kind == SourceKind::level)
            continue;
        const Standing real = standing_of(t, s, true);
        const bool lost = losses(t, s, real, out);
        if (!s.reading || !s.asked) continue;
        const std::size_t before = out.size();
        divisor(t, s, out);
        const bool other_divisor = std::any_of(out.begin() + static_cast<std::ptrdiff_t>(before), out.end(),
                                               [](const ReadFinding& f) { return f.severity == Severity::error; });
        if (real.as != SentAs::value && other_pin(t, s, out)) {
            // Its formula is the other reading's.
        } else if (real.as == SentAs::another && !other_divisor &&
                   !(other_reference && s.source->kind == SourceKind::analog)) {
            other_value(t, s, out);
        } else if (real.as == SentAs::other_unit) {
            out.push_back(found(t, "unit-differs", Severity::look, s.place,
                                phrase("It sends {}; the plan has {} in {}.", unit_symbol(real.unit),
                                       s.reading->name, unit_symbol(s.reading->quantity.unit)),
                                phrase("Cognitum takes the number for ") + unit_symbol(s.reading->quantity.unit) +
                                    ". " + example(t, s),
                                {}, s.reading->id));
        } else if (!lost) {
            digits(t, s, real, out);
        }
    }
    for (const auto& [at, narrow] : t.usual().narrow)
        out.push_back(
            found(t, "type-too-narrow", Severity::error, narrow.first,
                  phrase("{} bits hold at most {}; the converter gives up to {}.", narrow.second,
                         (1 << narrow.second) - 1, format_constant(std::ldexp(1.0, t.card->bits) - 1)),
                  phrase("A higher count begins again at 0."),
                  replaced_first(replaced_first(t.mended(narrow.first, text_at(t, narrow.first)), "byte ", "int "),
                                 "uint8_t ", "int ")));
    for (const Loss& loss : t.usual().losses) {
        // Numbers of the text alone, as 60 * 1000: they are wrong wherever they go.
        if (loss.kind != Loss::Kind::overflow) continue;
        const bool sensor = std::any_of(t.sent.begin(), t.sent.end(), [&](const SentNumber& s) {
            const auto i = static_cast<int>(&loss - t.usual().losses.data());
            const Printed* p = s.at[t.seen.size() / 2]; // of the run whose losses these are
            return p && (p->value.losses >> i & 1) != 0;
        });
        const bool said = std::any_of(out.begin(), out.end(), [&](const ReadFinding& f) {
            return f.line == loss.place.line && f.id == "integer-overflow";
        });
        if (!sensor && !said) out.push_back(loss_finding(t, loss, {}, {}));
    }
}

} // namespace cognitum::program
