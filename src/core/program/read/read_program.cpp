#include "core/program/read/read_program.h"

#include "core/base/phrase.h"
#include "core/program/read/paths.h"
#include "core/program/read/reading_rules.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <set>
#include <tuple>

namespace cognitum {

namespace program {

ReadFinding found(const Trial& trial, std::string id, Severity severity, const CodePlace& place,
                  std::string message, std::string why, std::string mended, std::string reading) {
    ReadFinding out;
    out.id = std::move(id);
    out.severity = severity;
    out.reading = std::move(reading);
    out.file = trial.file_name(place);
    out.line = place.line;
    out.message = std::move(message);
    out.why = std::move(why);
    // A line that is as it was says nothing.
    if (mended !=
        trial.mended(place, trial.tree->line(place).substr(static_cast<std::size_t>(std::max(0, place.column - 1)),
                                                           static_cast<std::size_t>(std::max(0, place.length)))))
        out.mended = std::move(mended);
    return out;
}

ReadFinding found_in_setup(const Trial& trial, std::string id, const CodePlace& place, std::string message,
                           std::string why, const std::string& statement, std::string reading) {
    CodePlace setup = trial.tree->functions[static_cast<std::size_t>(trial.tree->setup)].place;
    const std::string line = trial.tree->line(setup);
    const auto brace = line.find('{');
    const bool fits = brace != std::string::npos && setup.file == place.file;
    setup.column = static_cast<int>(brace) + 1;
    setup.length = 1;
    return found(trial, std::move(id), Severity::error, fits ? setup : place, std::move(message), std::move(why),
                 fits ? trial.mended(setup, "{ " + statement) : std::string(), std::move(reading));
}

const Literal* own_literal(const Literals& literals) {
    if (literals)
        for (const Literal& l : *literals)
            if (l.place.line > 0 && l.place.file != nothing) return &l;
    return nullptr;
}

const Waited* longest_wait(const Observed& seen) {
    const Waited* out = nullptr;
    for (const auto& [at, wait] : seen.waits)
        if (wait.in_loop && (!out || wait.longest_ms > out->longest_ms)) out = &wait;
    return out;
}

std::string code_number(double value) {
    return fmt::format("{:.7g}", value);
}

std::string wait_text(double ms) {
    const std::string space(thin_space);
    if (ms < 1) return format_constant(1000 * ms, 3) + space + "µs";
    if (ms < 1000) return format_constant(ms, 3) + space + "ms";
    return format_constant(ms / 1000, 3) + space + "s";
}

} // namespace program

namespace {

using namespace program;

Result<const BoardUse*> find(const Bench& bench, const Catalog& catalog, const std::string& board) {
    const BoardUse* use = bench.board(board);
    if (!use) return failure(phrase("There is no board \"{}\".", board));
    if (!catalog.board(use->card))
        return failure(phrase("“{}” has no card of a board: its pins are not known.", use->name), board,
                       phrase("Choose its kind on the page Boards."));
    return use;
}

/// One of each rule on a line; errors first on a line, then in the order of the text.
void sort_findings(std::vector<ReadFinding>& findings) {
    std::stable_sort(findings.begin(), findings.end(), [](const ReadFinding& a, const ReadFinding& b) {
        return std::tuple(a.file, a.line, -static_cast<int>(a.severity)) <
               std::tuple(b.file, b.line, -static_cast<int>(b.severity));
    });
    std::set<std::tuple<std::string, int, std::string, std::string>> known;
    std::erase_if(findings,
                  [&](const ReadFinding& f) { return !known.emplace(f.file, f.line, f.id, f.message).second; });
}

void note_what_was_not_followed(const SyntaxTree& tree, const Trial* trial, ProgramRead& out) {
    if (!tree.said.empty() && !tree.unknown_headers.empty()) {
        std::string names;
        for (const auto& [name, place] : tree.unknown_headers)
            names += (names.empty() ? "" : ", ") + name;
        out.notes.push_back(phrase("Not known here: {}. What comes from it is not followed.", names));
    }
    if (!trial) return;
    for (const SentNumber& s : trial->sent)
        if (s.source && s.source->kind == SourceKind::library)
            out.notes.push_back(phrase("Line {} sends what “{}” gives; a library’s numbers are not followed.",
                                       s.place.line, s.source->key));
    if (tree.unknown_headers.empty())
        for (const auto& [line, text] : trial->usual().not_followed)
            out.notes.push_back(phrase("Line {} has something that is not followed: {}", line, text.substr(0, 60)));
    for (const ReadPath& p : out.readings) {
        const Reading* r = trial->bench->reading(p.reading);
        if (!r || r->path.stages.empty() || (p.sent_as != SentAs::value && p.sent_as != SentAs::on_the_way))
            continue;
        out.notes.push_back(phrase("Line {} sends {} in {}; the plan’s path begins with {}. Take the "
                                   "program’s arithmetic as its path, or send the raw number.",
                                   p.line, r->name, unit_symbol(p.unit), unit_symbol(r->path.first_unit())));
    }
    if (!trial->usual().stopped.empty())
        out.notes.push_back(phrase("It could not be followed to its end: {}.", trial->usual().stopped));
}

} // namespace

bool has_short_int(const Bench& bench, const Catalog& catalog, const std::string& board) {
    const auto use = find(bench, catalog, board);
    return use && nature_of(*catalog.board((*use)->card)).eight_bit;
}

Result<std::string> pins_header(const Bench& bench, const Catalog& catalog, const std::string& board) {
    const auto use = find(bench, catalog, board);
    if (!use) return tl::make_unexpected(use.error());
    return BoardPins(*catalog.board((*use)->card)).header();
}

Result<ProgramRead> read_program(const SyntaxTree& tree, const Bench& bench, const Catalog& catalog,
                                 const std::string& board) {
    const auto use = find(bench, catalog, board);
    if (!use) return tl::make_unexpected(use.error());
    ProgramRead out;
    if (tree.setup == nothing || tree.loop == nothing) {
        look_at_text(tree, nullptr, out.findings);
        sort_findings(out.findings);
        note_what_was_not_followed(tree, nullptr, out);
        return out;
    }
    const Trial trial = run_trial(tree, bench, catalog, **use);
    look_at_wiring(trial, out.findings);
    look_at_numbers(trial, out.findings);
    look_at_failures(trial, out.findings);
    look_at_counts(trial, out.findings);
    look_at_time(trial, out.findings);
    look_at_asking(trial, out.findings);
    look_at_lines(trial, out.findings);
    look_at_text(tree, &trial, out.findings);
    if (!trial.usual().stopped.empty() && trial.usual().stopped_at.line > 0)
        out.findings.push_back(
            found(trial, "stops", Severity::error, trial.usual().stopped_at,
                  phrase("The program goes no further: ") + trial.usual().stopped + ".",
                  phrase("With the plan’s parts at its pins it comes to this line and no further.")));
    // A part that is asked too soon answers with something old: that is no other value of the program.
    for (const ReadFinding& f : std::vector<ReadFinding>(out.findings))
        if (f.id == "asked-too-fast")
            std::erase_if(out.findings, [&](const ReadFinding& g) {
                return g.reading == f.reading && (g.id == "prints-another-value" || g.id == "constant-differs");
            });
    sort_findings(out.findings);
    out.compared = std::any_of(trial.sent.begin(), trial.sent.end(), [](const SentNumber& s) { return s.reading; });
    for (const SentNumber& s : trial.sent) {
        if (!s.reading || s.asked) continue;
        out.compared = false;
        out.notes.push_back(
            phrase("{} (line {}) is not compared: nothing is known of what its part gives here, or its path "
                   "begins with another number.",
                   s.reading->name, s.place.line));
    }
    for (const SentNumber& s : trial.sent)
        if (s.reading) out.readings.push_back(path_in_program(trial, s, standing_of(trial, s, false)));
    for (const Reading& r : bench.readings)
        if (r.wiring.board == board && r.feed() == board &&
            std::none_of(out.readings.begin(), out.readings.end(),
                         [&](const ReadPath& p) { return p.reading == r.id; }))
            out.not_in_it.push_back(r.id);
    note_what_was_not_followed(tree, &trial, out);
    return out;
}

} // namespace cognitum
