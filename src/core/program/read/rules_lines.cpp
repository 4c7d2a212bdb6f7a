// What is sent as lines: that they end, that a name and its number stand on one, that they come now and then.
#include "core/program/read/reading_rules.h"

#include "core/base/letters.h"
#include "core/base/phrase.h"
#include "core/decode/number.h"
#include "core/units/format.h"

#include <algorithm>
#include <set>

namespace cognitum::program {

namespace {

bool is_wire(const std::string& port) {
    return port.starts_with("Serial");
}

/// The line of a call with `from` in its name replaced; empty: it does not stand there.
std::string with_other_call(const Trial& t, const CodePlace& call, const std::string& from, const std::string& to) {
    const std::string& line = t.tree->line(call);
    const auto at = line.find(from, static_cast<std::size_t>(std::max(0, call.column - 1)));
    return at == std::string::npos
               ? std::string()
               : t.mended({call.file, call.line, static_cast<int>(at) + 1, static_cast<int>(from.size())}, to);
}

/// What is printed again and again on one line is never taken for a line.
void never_ended(const Trial& t, ReadFindings& out) {
    constexpr double few_turns = 3;
    for (const auto& [port, open] : t.usual().unended) {
        const bool says =
            std::any_of(open.text.begin(), open.text.end(), letters::is_letter_or_digit); // not only dots
        if (!is_wire(port) || !says || t.usual().loop_turns < few_turns || open.at_s > t.usual().end_s / 2)
            continue;
        out.push_back(found(t, "line-never-ends", Severity::error, open.last_call,
                            phrase("It prints more and more on one line and never ends it."),
                            phrase("A line is taken when its end has come: nothing of this arrives."),
                            with_other_call(t, open.last_call, "print(", "println(")));
    }
}

/// "air=" on one line, and its number alone on the next.
void name_without_number(const Trial& t, ReadFindings& out) {
    std::set<int> said;
    const std::vector<Line>& lines = t.usual().lines;
    for (std::size_t i = 0; i + 1 < lines.size(); ++i) {
        const Line &name = lines[i], &number = lines[i + 1];
        std::string words = name.text;
        while (!words.empty() && (words.back() == ' ' || words.back() == '\t'))
            words.pop_back();
        if (!is_wire(name.port) || number.port != name.port || !name.numbers.empty() || words.size() < 2 ||
            (words.back() != '=' && words.back() != ':') || !number_of(number.text))
            continue;
        // A heading is printed once; a name comes before each of its numbers.
        const auto times =
            std::count_if(lines.begin(), lines.end(), [&](const Line& line) { return line.text == name.text; });
        if (times < 2 || !said.insert(name.last_call.line).second) continue;
        out.push_back(found(t, "name-without-number", Severity::error, name.last_call,
                            phrase("The line ends behind “{}”, and its number comes on the next.", words),
                            phrase("A name and its number belong on one line: so the number has no name."),
                            with_other_call(t, name.last_call, "println(", "print(")));
    }
}

/// Nothing was ever sent because of a loop that was still running at the end.
void loop_without_end(const Trial& t, ReadFindings& out) {
    const Observed& seen = t.usual();
    const bool sent =
        std::any_of(seen.lines.begin(), seen.lines.end(), [](const Line& line) { return !line.numbers.empty(); });
    if (seen.loop_turns > 0 || sent || seen.last_loop.line == 0 || !seen.stopped.empty()) return;
    out.push_back(found(t, "loop-without-end", Severity::error, seen.last_loop,
                        phrase("It does not come out of this loop."),
                        phrase("Nothing was sent before it, and what stands behind it is never reached.")));
}

/// Without a pause a port is never free, and what is kept grows by as many lines.
void too_often(const Trial& t, ReadFindings& out) {
    constexpr double most_per_s = 20;
    std::set<int> said;
    for (const SentNumber& s : t.sent) {
        if (!s.reading || s.interval_s <= 0 || s.interval_s > 1 / most_per_s) continue;
        const Quantity& q = s.reading->quantity;
        if (q.about().events == Events::beats) continue; // a wave is sampled as fast as that
        const double wanted = q.sample_s > 0 ? q.sample_s : q.interval_s;
        const bool asked = std::any_of(out.begin(), out.end(), [&](const ReadFinding& f) {
            return f.id == "asked-too-fast" && f.reading == s.reading->id; // which says so already
        });
        if (asked || s.interval_s * 10 > wanted || !said.insert(s.place.line).second) continue;
        out.push_back(found(t, "too-often", Severity::look, s.place,
                            phrase("It sends {} every {}; the plan wants it every {}.", s.reading->name,
                                   wait_text(s.interval_s * 1000), wait_text(wanted * 1000)),
                            phrase("Each of these lines is kept: wait at the end of loop()."), {}, s.reading->id));
    }
}

} // namespace

void look_at_lines(const Trial& trial, ReadFindings& out) {
    never_ended(trial, out);
    name_without_number(trial, out);
    loop_without_end(trial, out);
    too_often(trial, out);
}

} // namespace cognitum::program
