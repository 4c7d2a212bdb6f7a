// What is sent when a part does not answer, or fails now and then.
#include "core/program/read/reading_rules.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace cognitum::program {

namespace {

/// With nothing at its pins: a part that does not answer has no value.
void failures(const Trial& t, ReadFindings& out) {
    std::set<std::pair<std::string, int>> said;
    for (const Line& line : t.unfitted.lines)
        for (const Printed& p : line.numbers) {
            const Origin* source = source_of(p.value.trace);
            if (!source || (source->kind != SourceKind::echo && source->kind != SourceKind::i2c &&
                            source->kind != SourceKind::spi && source->kind != SourceKind::one_pin_bus))
                continue;
            SentNumber number;
            number.label = p.label;
            const Reading* r = reading_of(t, *source, number);
            if (!r || p.text == "nan" || p.text == "inf" || p.text == "ovf") continue;
            if (!said.emplace(r->id, p.place.line).second) continue;
            out.push_back(found(t, "failure-as-number", Severity::error, p.place,
                                phrase("When {} does not answer it prints {}.", r->name, p.text),
                                phrase("A failure that looks like a value spoils every mean and every total. Send "
                                       "a word, or nothing."),
                                {}, r->id));
        }
    // A request that brings nothing gives −1 for each byte, whose source is then the bus no more.
    for (const Line& line : t.unfitted.lines)
        for (const Printed& p : line.numbers)
            for (const SentNumber& s : t.sent)
                if (s.reading && s.source && s.source->kind == SourceKind::i2c && s.place == p.place &&
                    !p.value.trace && p.text != "nan" && said.emplace(s.reading->id, p.place.line).second)
                    out.push_back(found(
                        t, "failure-as-number", Severity::error, p.place,
                        phrase("When {} does not answer it prints {}.", s.reading->name, p.text),
                        phrase("A failure that looks like a value spoils every mean and every total. Send a word, "
                               "or nothing."),
                        {}, s.reading->id));
}

/// With a part that fails now and then: a number that is neither the value nor the failure is a mean of both.
void means_of_failures(const Trial& t, ReadFindings& out) {
    const auto near = [](double a, double b) {
        return std::abs(a - b) <= 0.002 * std::max(std::abs(a), std::abs(b));
    };
    std::set<std::string> said;
    for (const Line& line : t.failing.lines)
        for (const Printed& p : line.numbers) {
            const double number = p.value.number();
            const Origin* source = source_of(p.value.trace);
            if (!source || (source->kind != SourceKind::echo && source->kind != SourceKind::i2c)) continue;
            for (const SentNumber& s : t.sent) {
                const Printed* usual = s.at[t.seen.size() / 2];
                if (!s.reading || !s.asked || !usual || s.place != p.place || s.label != p.label) continue;
                const bool moves = std::any_of(s.series.begin(), s.series.end(), [&](const auto& at) {
                    return !near(at.second, usual->value.number());
                });
                const bool is_failure =
                    std::any_of(t.unfitted.lines.begin(), t.unfitted.lines.end(), [&](const Line& without) {
                        return std::any_of(without.numbers.begin(), without.numbers.end(), [&](const Printed& f) {
                            return f.place == p.place && near(f.value.number(), number);
                        });
                    });
                if (moves || is_failure || !std::isfinite(number) || near(number, usual->value.number())) continue;
                if (!said.insert(s.reading->id).second) continue;
                out.push_back(
                    found(t, "mean-of-failures", Severity::error, source->place,
                          phrase("When one asking of three fails, it prints {} for {} instead of {}.", p.text,
                                 s.reading->name, usual->text),
                          phrase("A failure went into the sum as if it were a value. Leave it out, count what is "
                                 "left, and send a word when nothing is left."),
                          {}, s.reading->id));
            }
        }
}

} // namespace

void look_at_failures(const Trial& t, ReadFindings& out) {
    failures(t, out);
    means_of_failures(t, out);
}

} // namespace cognitum::program
