#include "core/base/letters.h"
#include "core/base/phrase.h"
#include "core/program/read/reading_rules.h"

#include <algorithm>
#include <fmt/format.h>
#include <functional>
#include <set>

namespace cognitum::program {

namespace {

/// Every node below this one, with the node itself; what a node refers to is not below it.
void walk_nodes(const SyntaxTree& tree, int index, const std::function<void(const Node&)>& what) {
    std::vector<int> left = {index};
    while (!left.empty()) {
        const int at = left.back();
        left.pop_back();
        if (at == nothing) continue;
        const Node& n = tree.node(at);
        what(n);
        left.insert(left.end(), n.children.rbegin(), n.children.rend());
    }
}

bool is_own(const CodeFunction& f) {
    return f.body != nothing && f.place.file != nothing;
}

ReadFinding in_text(const SyntaxTree& tree, std::string id, Severity severity, const CodePlace& place,
                    std::string message, std::string why, std::string mended = {}) {
    ReadFinding out;
    out.id = std::move(id);
    out.severity = severity;
    if (place.file >= 0 && place.file < static_cast<int>(tree.files.size()))
        out.file = tree.files[static_cast<std::size_t>(place.file)].name;
    out.line = place.line;
    out.message = std::move(message);
    out.why = std::move(why);
    out.mended = std::move(mended);
    return out;
}

std::string trimmed_line(const std::string& line) {
    const auto first = line.find_first_not_of(" \t");
    return first == std::string::npos ? std::string()
                                      : line.substr(first, line.find_last_not_of(" \t") + 1 - first);
}

void equal_floats(const SyntaxTree& tree, ReadFindings& out) {
    for (const CodeFunction& f : tree.functions) {
        if (!is_own(f)) continue;
        walk_nodes(tree, f.body, [&](const Node& n) {
            if (n.kind != NodeKind::binary || (n.word != "==" && n.word != "!=") || n.place.file == nothing) return;
            const auto plain = [&](int index) {
                const Node* at = &tree.node(index);
                while (at->kind == NodeKind::convert || (at->kind == NodeKind::unary && at->word == "-"))
                    at = &tree.node(at->children[0]);
                return at;
            };
            const Node *a = plain(n.children[0]), *b = plain(n.children[1]);
            const bool real = tree.type_of(tree.node(n.children[0])).kind == CodeType::Kind::floating;
            if (!real) return;
            // x != x asks whether it is a number; −127, 0 and such words of a library come back as they are.
            if (a->kind == NodeKind::variable && b->kind == NodeKind::variable && a->target == b->target) return;
            const auto is_word = [](const Node& x) {
                return x.kind == NodeKind::whole_number ||
                       (x.kind == NodeKind::real_number &&
                        x.real == static_cast<double>(static_cast<long>(x.real)));
            };
            if (is_word(*a) || is_word(*b)) return;
            out.push_back(in_text(
                tree, "float-equality", Severity::look, n.place,
                phrase("It compares numbers with a point for equality."),
                phrase(
                    "Two that should be equal differ in the last digit: ask whether they are near each other.")));
        });
    }
}

/// Functions that run as interrupts, with all that they call.
std::set<int> interrupt_functions(const SyntaxTree& tree) {
    std::vector<int> left;
    for (std::size_t i = 0; i < tree.functions.size(); ++i) {
        if (tree.functions[i].is_interrupt && is_own(tree.functions[i])) left.push_back(static_cast<int>(i));
        if (!is_own(tree.functions[i])) continue;
        walk_nodes(tree, tree.functions[i].body, [&](const Node& n) {
            if (n.kind != NodeKind::call || n.word != "attachInterrupt" || n.children.size() < 2) return;
            walk_nodes(tree, n.children[1], [&](const Node& inner) {
                if (inner.kind == NodeKind::function) left.push_back(inner.target);
            });
        });
    }
    std::set<int> out;
    while (!left.empty()) {
        const int f = left.back();
        left.pop_back();
        if (f == nothing || !out.insert(f).second) continue;
        if (tree.functions[static_cast<std::size_t>(f)].body == nothing) continue;
        walk_nodes(tree, tree.functions[static_cast<std::size_t>(f)].body, [&](const Node& n) {
            if (n.kind == NodeKind::call && n.target != nothing) left.push_back(n.target);
        });
    }
    return out;
}

/// The variable behind what is written: of an element its array.
int written_variable(const SyntaxTree& tree, const Node& n) {
    const bool writes = n.kind == NodeKind::assign || (n.kind == NodeKind::unary && n.word.size() == 3);
    if (!writes) return nothing;
    const Node* at = &tree.node(n.children[0]);
    while ((at->kind == NodeKind::element || at->kind == NodeKind::member || at->kind == NodeKind::convert) &&
           !at->children.empty())
        at = &tree.node(at->children[0]);
    return at->kind == NodeKind::variable ? at->target : nothing;
}

/// A line without the comment at its end, and without blanks around it.
std::string code_of(const std::string& line) {
    bool quoted = false;
    for (std::size_t i = 0; i < line.size(); ++i) {
        if (line[i] == '\\')
            ++i;
        else if (line[i] == '"')
            quoted = !quoted;
        else if (!quoted && line.compare(i, 2, "//") == 0)
            return trimmed_line(line.substr(0, i));
    }
    return trimmed_line(line);
}

/// Whether more statements can stand before those of this line: not where it is the one statement of the `if`
/// above.
bool begins_a_statement(const SyntaxTree& tree, CodePlace place) {
    std::string above;
    while (above.empty() && --place.line > 0)
        above = code_of(tree.line(place));
    return above.empty() || above.front() == '#' || std::string(";{}:").find(above.back()) != std::string::npos;
}

/// Where a variable stands on the line of `place`, from right to left.
std::vector<CodePlace> places_on_line(const SyntaxTree& tree, int variable, const CodePlace& place) {
    std::vector<CodePlace> out;
    for (const Node& n : tree.nodes)
        if (n.kind == NodeKind::variable && n.target == variable && n.place.file == place.file &&
            n.place.line == place.line && n.place.column > 0)
            out.push_back(n.place);
    std::sort(out.begin(), out.end(), [](const CodePlace& a, const CodePlace& b) { return a.column > b.column; });
    out.erase(std::unique(out.begin(), out.end()), out.end());
    return out;
}

/// "copy", or another name that the program does not have.
std::string name_of_copy(const SyntaxTree& tree, const std::string& name) {
    const auto taken = [&](const std::string& wanted) {
        const auto has_it = [&](const auto& one) { return one.name == wanted; };
        return std::any_of(tree.variables.begin(), tree.variables.end(), has_it) ||
               std::any_of(tree.functions.begin(), tree.functions.end(), has_it);
    };
    std::string out = "copy";
    for (int i = 1; taken(out); ++i)
        out = i == 1 ? "copy_of_" + name : fmt::format("copy_{}_of_{}", i, name);
    return out;
}

/// Whether the text on both sides of a variable changes it: an assignment, a step.
bool changes_it(const std::string& before, const std::string& behind) {
    if (behind.starts_with("++") || behind.starts_with("--") || before.ends_with("++") || before.ends_with("--"))
        return true;
    const auto equals = behind.find('=');
    return (equals == 0 || (equals == 1 && std::string("+-*/|&^%").find(behind[0]) != std::string::npos)) &&
           !behind.substr(equals).starts_with("==");
}

/// The line with what an interrupt changes read, or written, while there are none. Empty: it is only a part of a
/// statement, or is a loop that has to read it again.
std::string undisturbed(const SyntaxTree& tree, int variable, const CodePlace& place) {
    const std::string& line = tree.line(place);
    const std::string whole = code_of(line);
    if (whole.empty() || !begins_a_statement(tree, place)) return {};
    const std::string first_word = whole.substr(0, whole.find_first_not_of("abcdefghijklmnopqrstuvwxyz"));
    for (const char* word : {"else", "while", "for", "do", "case"})
        if (first_word == word) return {};
    if (std::string("}&|+*/?:.").find(whole.front()) != std::string::npos && !whole.starts_with("++")) return {};
    if (std::string(";{)").find(whole.back()) == std::string::npos) return {};
    const Variable& read = tree.variables[static_cast<std::size_t>(variable)];
    const std::string copy = name_of_copy(tree, read.name);
    const std::string& type = tree.type(read.type).name;
    std::string copied = line;
    for (const CodePlace& at : places_on_line(tree, variable, place)) {
        const auto begin = static_cast<std::size_t>(at.column - 1);
        if (line.substr(std::min(begin, line.size()), read.name.size()) != read.name) return {}; // a macro wrote it
        if (changes_it(trimmed_line(line.substr(0, begin)), trimmed_line(line.substr(begin + read.name.size()))))
            return whole.back() == ';' ? "noInterrupts(); " + whole + " interrupts();" : std::string();
        copied.replace(begin, read.name.size(), copy);
    }
    if (copied == line) return {};
    return fmt::format("noInterrupts(); const {} {} = {}; interrupts(); {}", type.empty() ? "unsigned long" : type,
                       copy, read.name, code_of(copied));
}

void interrupt_variables(const SyntaxTree& tree, bool eight_bit, ReadFindings& out) {
    const std::set<int> interrupts = interrupt_functions(tree);
    std::set<int> written;
    for (const int f : interrupts)
        if (tree.functions[static_cast<std::size_t>(f)].body != nothing)
            walk_nodes(tree, tree.functions[static_cast<std::size_t>(f)].body, [&](const Node& n) {
                const int v = written_variable(tree, n);
                if (v != nothing && tree.variables[static_cast<std::size_t>(v)].is_global) written.insert(v);
            });
    for (const int v : written) {
        const Variable& variable = tree.variables[static_cast<std::size_t>(v)];
        const CodeType& type = tree.type(variable.type);
        bool used = false;
        CodePlace torn;
        for (std::size_t i = 0; i < tree.functions.size(); ++i) {
            const CodeFunction& f = tree.functions[i];
            if (!is_own(f) || interrupts.contains(static_cast<int>(i))) continue;
            bool guarded = false;
            walk_nodes(tree, f.body, [&](const Node& n) {
                if (n.kind == NodeKind::call && (n.word == "cli" || n.word == "detachInterrupt")) guarded = true;
                if (n.kind == NodeKind::call && (n.word == "sei" || n.word == "attachInterrupt")) guarded = false;
                if (n.kind != NodeKind::variable || n.target != v) return;
                used = true;
                if (!guarded && torn.line == 0 && i != static_cast<std::size_t>(tree.setup)) torn = n.place;
            });
        }
        if (!used) continue;
        if (!variable.is_volatile) {
            const std::string line = trimmed_line(tree.line(variable.place));
            out.push_back(
                in_text(tree, "not-volatile", Severity::error, variable.place,
                        phrase("{} is changed by an interrupt and is not volatile.", variable.name),
                        phrase("The compiler may keep an old copy of it, and the program never sees it change."),
                        line.empty() ? std::string() : "volatile " + line));
        } else if (eight_bit && type.bits > 8 && torn.line > 0) {
            out.push_back(in_text(
                tree, "torn-variable", Severity::look, torn,
                phrase("{} has {} bits and is read while its interrupt may change it.", variable.name, type.bits),
                phrase("The board reads eight bits at a time: between two of them it may change. Switch "
                       "interrupts off while you copy it."),
                undisturbed(tree, v, torn)));
        }
    }
}

bool is_secret_name(const std::string& given) {
    const std::string name = letters::small(given);
    return name.find("pass") != std::string::npos || name.find("pwd") != std::string::npos ||
           name.find("secret") != std::string::npos || name.find("token") != std::string::npos ||
           name.find("apikey") != std::string::npos || name.find("api_key") != std::string::npos ||
           name == "ssid" || name == "psk";
}

void secrets(const SyntaxTree& tree, ReadFindings& out) {
    std::set<int> lines;
    const auto say = [&](const CodePlace& place) {
        const std::string file = place.file >= 0 && place.file < static_cast<int>(tree.files.size())
                                     ? tree.files[static_cast<std::size_t>(place.file)].name
                                     : std::string();
        // A file of their own is where they belong.
        if (place.line == 0 || file.find("secret") != std::string::npos || !lines.insert(place.line).second) return;
        out.push_back(
            in_text(tree, "secret-in-text", Severity::look, place,
                    phrase("A name or password of a network stands in the program."),
                    phrase("Whoever is given the program has it. Put it into a file of its own, secrets.h, that "
                           "you do not pass on. Cognitum does not keep it.")));
    };
    const auto text_in = [&](int node) {
        bool out_text = false;
        walk_nodes(tree, node,
                   [&](const Node& n) { out_text = out_text || (n.kind == NodeKind::text && !n.word.empty()); });
        return out_text;
    };
    for (const Variable& v : tree.variables)
        if (v.init != nothing && v.place.file != nothing && is_secret_name(v.name) && text_in(v.init)) say(v.place);
    for (const Node& n : tree.nodes) {
        if (n.kind != NodeKind::call || n.word != "WiFiClass::begin" || n.place.file == nothing) continue;
        for (std::size_t i = 2; i < n.children.size(); ++i) // behind the object and the network's name
            if (tree.node(n.children[i]).kind == NodeKind::text && !tree.node(n.children[i]).word.empty())
                say(n.place);
    }
}

} // namespace

void look_at_text(const SyntaxTree& tree, const Trial* trial, ReadFindings& out) {
    constexpr std::size_t most_errors = 5;
    std::size_t errors = 0;
    for (const ParserWord& word : tree.said)
        if (word.is_error && word.is_certain && errors++ < most_errors)
            out.push_back(in_text(tree, "does-not-compile", Severity::error, word.place,
                                  phrase("The compiler says: {}.", word.text),
                                  phrase("Nothing of it runs before this is mended.")));
    equal_floats(tree, out);
    interrupt_variables(tree, !trial || trial->nature.eight_bit, out);
    secrets(tree, out);
}

} // namespace cognitum::program
