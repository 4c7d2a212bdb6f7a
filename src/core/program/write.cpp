#include "core/program/program.h"

#include "core/program/driver.h"
#include "core/program/skeleton.h"
#include "core/program/stage_code.h"
#include "core/units/format.h"
#include "core/units/quantity_kind.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>

namespace cognitum {

namespace {

using program::code_name;
using program::Driver;
using program::fill;
using program::Help;
using program::Names;

/// A reading of the board with its driver.
struct Spoken {
    const Reading* reading;
    Placed placed;
    std::string name;
    Driver driver;
    std::string value_code; ///< of its value by the plan's constants; empty: none is sent
};

std::vector<const Reading*> readings_of(const Bench& bench, const BoardUse& board) {
    std::vector<const Reading*> out;
    for (const Reading& r : bench.readings)
        if (r.wiring.board == board.id && r.feed() == board.id) out.push_back(&r);
    return out;
}

std::vector<const Module*> loads_of(const Bench& bench, const Catalog& catalog, const BoardUse& board) {
    std::vector<const Module*> out;
    for (const Module& m : bench.modules) {
        const PartCard* part = catalog.part(m.part);
        if (m.board == board.id && part && part->kind == "load" && !m.pins.empty()) out.push_back(&m);
    }
    return out;
}

/// Name by which the plan tells a load: of "load pump on {s}" it is "pump"; empty: it is told otherwise.
std::string told_name(const LoadControl& control) {
    const std::string_view line = control.on_line;
    const auto end = line.find(" on");
    if (!line.starts_with("load ") || end == std::string_view::npos || end <= 5) return {};
    const std::string name(line.substr(5, end - 5));
    return program::is_plain_word(name) && control.off_line == "load " + name + " off" ? name : std::string();
}

constexpr double longest_interval_s = 30 * 86400.0; ///< milliseconds in four bytes go round after 49 days

/// FNV-1a of 32 bits.
std::string fnv(std::string_view text) {
    std::uint32_t sum = 2166136261U;
    for (const char c : text)
        sum = (sum ^ static_cast<unsigned char>(c)) * 16777619U;
    return fmt::format("{:08x}", sum);
}

class Writer {
  public:
    Writer(const Bench& bench, const Catalog& catalog, const BoardUse& use, const BoardCard& card,
           const ProgramOptions& options)
        : m_bench(bench), m_catalog(catalog), m_use(use), m_card(card), m_options(options) {}

    Result<WrittenProgram> write() {
        find_readings();
        if (m_spoken.empty()) {
            std::string why = fmt::format("The program of {} would read nothing", m_use.name);
            for (const ProgramNote& note : m_out.notes)
                why += fmt::format("; {}: {}", note.reading, note.text);
            return failure(why + ".", m_use.id, "Choose parts and pins at the stops Sensor and Wiring.");
        }
        find_loads();
        m_out.fingerprint = program_fingerprint(m_bench, m_catalog, m_use);
        const std::string folder = code_name(m_use.id);
        m_out.files.push_back({folder + "/" + folder + ".ino", text()});
        return m_out;
    }

  private:
    void find_readings() {
        std::map<std::string, std::string> fields; // field → name of its reading
        std::set<std::string> names;
        for (const Reading* r : readings_of(m_bench, m_use)) {
            Spoken s{r, place(m_bench, m_catalog, *r), code_name(r->id), {}, {}};
            while (!names.insert(s.name).second) // "a-b" beside "a_b"
                s.name += "_";
            s.driver = program::driver_for(s.placed, s.name, m_options);
            if (s.driver.left_out.empty()) s.driver.left_out = why_not(s, fields);
            if (!s.driver.left_out.empty()) {
                m_out.notes.push_back({r->id, s.driver.left_out, true});
                continue;
            }
            if (m_options.constants) add_value(s);
            fields[r->field()] = r->name;
            m_out.fields.push_back(r->field());
            m_spoken.push_back(std::move(s));
        }
    }

    /// What speaks against a reading beside its own wiring.
    std::string why_not(const Spoken& s, const std::map<std::string, std::string>& fields) {
        const Reading& r = *s.reading;
        const std::string& field = r.field();
        for (const std::string& name : {field, r.source.signal.empty() ? field : r.source.signal})
            if (!program::is_plain_word(name))
                return fmt::format("its field “{}” cannot be a name in a record.", name);
        if (const auto known = fields.find(field); known != fields.end())
            return fmt::format("its field {} is that of {} already.", field, known->second);
        const std::string expected =
            r.path.stages.empty() ? (r.source.unit.empty() ? r.quantity.unit : r.source.unit) : r.path.first_unit();
        const bool private_wave = s.driver.own_lines;
        if (!private_wave && expected != s.driver.unit && r.source.collect.empty())
            return fmt::format("its path begins with {}, and its part gives {}.", unit_words(expected),
                               unit_words(s.driver.unit));
        if (s.driver.needs.contains(Help::one_wire)) {
            const auto [other, alone] = m_wires.emplace(r.wiring.pin(), r.name);
            if (!alone)
                return fmt::format(
                    "it is on one wire with {}: two on a wire are told apart by addresses, which the plan "
                    "does not have. Give it a pin of its own.",
                    other->second);
        }
        if (s.driver.needs.contains(Help::converter)) {
            const VoltageReference* reference = s.placed.reference;
            if (!reference) return "the reference of its input is not chosen.";
            if (m_reference.empty()) m_reference = reference->id;
            if (m_reference != reference->id)
                return "it measures against another reference than the readings before it: a program that changes "
                       "between them waits 20 ms each time, and this one does not.";
        }
        return {};
    }

    void add_value(Spoken& s) {
        const Chain path = effective_path(*s.reading);
        if (s.driver.own_lines || path.stages.empty()) return; // its number is the value, or a wave's beats are
        const auto code = program::stage_code(path);
        if (code)
            s.value_code = *code;
        else
            m_out.notes.push_back({s.reading->id, code.error().text(), false});
    }

    static std::string unit_words(const std::string& unit) { return unit == "1" ? "a state" : unit; }

    void find_loads() {
        for (const Module* m : loads_of(m_bench, m_catalog, m_use)) {
            const std::string pin = program::pin_code(m_card, m->pins.front().pin);
            if (pin.empty()) continue;
            std::string name = code_name(m->id);
            double time_out_s = 60;
            for (const LoadControl& c : m_bench.controls) {
                if (c.load != m->id) continue;
                if (const std::string told = told_name(c); !told.empty())
                    name = told;
                else
                    m_out.notes.push_back(
                        {"",
                         fmt::format("{} is told “{}” by the plan; this program understands “load {} on "
                                     "SECONDS” and “load {} off”.",
                                     m->name, c.on_line, name, name),
                         false});
                if (c.time_out_s > 0) time_out_s = c.time_out_s;
            }
            const PartCard* part = m_catalog.part(m->part);
            m_loads += fmt::format("    {{\"{}\", {}, {}, {:.0f}, false, 0, 0}}, // {}\n", name, pin,
                                   part && part->interface.idle == "high" ? "LOW" : "HIGH", time_out_s,
                                   program::comment_text(m->name));
        }
    }

    [[nodiscard]] std::string tasks() const {
        std::string out;
        for (const Spoken& s : m_spoken)
            if (!s.driver.own_lines)
                out += fmt::format(
                    "    {{\"{}\", {}UL, {}UL, 0, true, false, 0}},\n", s.reading->field(),
                    std::lround(1000 * std::clamp(s.reading->quantity.interval_s, 0.005, longest_interval_s)),
                    std::lround(1000 * s.placed.part->minimum_interval_s));
        return out;
    }

    [[nodiscard]] std::string task_names() const {
        std::string out;
        int place = 0;
        for (const Spoken& s : m_spoken)
            if (!s.driver.own_lines) out += fmt::format("const byte TASK_{} = {};\n", s.name, place++);
        return out;
    }

    /// What loop() does for one reading.
    static std::string turn(const Spoken& s) {
        if (s.driver.own_lines) return {};
        const Names names = {
            {"name", s.name}, {"wait", std::to_string(std::lround(s.driver.wait_ms))}, {"value", value_turn(s)}};
        if (s.driver.ask.empty())
            return fill("    if (due(tasks[TASK_$name$])) {\n        field(tasks[TASK_$name$]);\n        "
                        "send_$name$();\n$value$    }\n",
                        names);
        return fill("    if (!tasks[TASK_$name$].asked && due(tasks[TASK_$name$])) {\n" // while it measures nobody
                                                                                        // asks again
                    "        ask_$name$();\n"
                    "        tasks[TASK_$name$].asked = true;\n"
                    "        tasks[TASK_$name$].asked_at = millis();\n"
                    "    }\n"
                    "    if (tasks[TASK_$name$].asked && millis() - tasks[TASK_$name$].asked_at >= $wait$) {\n"
                    "        tasks[TASK_$name$].asked = false;\n"
                    "        field(tasks[TASK_$name$]);\n"
                    "        send_$name$();\n$value$"
                    "    }\n",
                    names);
    }

    static std::string value_turn(const Spoken& s) {
        if (s.value_code.empty()) return {};
        // Twenty steps in what it promises.
        const double step = s.reading->quantity.accuracy / 20;
        const int digits = step > 0 ? std::clamp(static_cast<int>(std::ceil(-std::log10(step))), 0, 4) : 2;
        return fmt::format("        say_value(F(\" {}_value=\"), value_of_{}(measured), {});\n", s.reading->field(),
                           s.name, digits);
    }

    static std::string functions(const Spoken& s) {
        std::string out = "\n// " + program::comment_text(s.driver.about) + "\n" + s.driver.globals;
        if (!s.driver.ask.empty()) out += "void ask_" + s.name + "() {\n" + s.driver.ask + "}\n";
        if (!s.driver.own_lines) out += "void send_" + s.name + "() {\n" + s.driver.send + "}\n";
        if (!s.value_code.empty())
            out += fmt::format("// Its value in {}, by the plan's constants.\nfloat value_of_{}(float x) {{\n    "
                               "if (isnan(x)) return NAN;\n{}    return x;\n}}\n",
                               unit_symbol(s.reading->quantity.unit), s.name, s.value_code);
        return out;
    }

    std::string text() const {
        std::set<Help> helps;
        std::string about;
        std::string example;
        std::string every_turn;
        std::string turns;
        std::string own;
        std::set<std::string> told; ///< keys of what several readings share
        std::string field_words;
        std::string setup = setup_of_converter();
        for (const Spoken& s : m_spoken) {
            helps.insert(s.driver.needs.begin(), s.driver.needs.end());
            about +=
                fmt::format("//   {:<10} {} Every {}.\n", s.reading->field(), program::comment_text(s.driver.about),
                            duration_text(from_seconds(s.reading->quantity.interval_s)));
            if (!s.driver.own_lines && std::count(example.begin(), example.end(), '=') < 2)
                example += " " + s.reading->field() + "=...";
            every_turn += s.driver.every_turn;
            turns += turn(s);
            for (const auto& [key, text] : s.driver.shared)
                if (told.insert(key).second) own += "\n" + text;
            own += functions(s);
            field_words += " " + s.reading->field();
        }
        for (const ProgramNote& note : m_out.notes)
            if (note.left_out)
                about += fmt::format("//   left out: {}: {}\n", program::comment_text(note.reading),
                                     program::comment_text(note.text));
        std::string includes;
        std::string shared;
        for (const Help help : helps) {
            includes += program::help_text(help).includes;
            shared += program::help_text(help).globals;
            setup += program::help_text(help).setup;
        }
        for (const Spoken& s : m_spoken)
            setup += s.driver.setup;
        const Names names = {
            {"board", program::comment_text(m_use.name)},
            {"card", program::comment_text(m_card.name)},
            {"bench", program::comment_text(m_bench.name)},
            {"id", code_name(m_use.id)},
            {"plan", m_out.fingerprint + (m_options.constants ? "-" + constants_fingerprint(m_bench, m_use) : "")},
            {"example", example},
            {"about", about},
            {"includes", includes},
            {"tasks", tasks()},
            {"task_names", task_names()},
            {"loads", m_loads},
            {"bits", std::to_string(m_card.bits)},
            {"baud", std::to_string(m_use.code_baud > 0 ? m_use.code_baud : m_use.link.baud)},
            {"field_words", field_words},
            {"reference_word", converts() ? "reference_now" : "F(\"none\")"},
            {"reference", m_reference},
            {"command_words", std::string(converts() ? ",reference" : "") + (m_loads.empty() ? "" : ",load")},
            {"reference_help", converts() ? ", reference supply|internal" : ""},
            {"reference_obey",
             converts()
                 ? " else if (!strcmp(line, \"reference\") && rest) {\n        done = use_reference(rest);\n    }"
                 : ""},
            {"load_help", m_loads.empty() ? "" : ", load NAME on [SECONDS]|off"},
            {"load_obey",
             m_loads.empty()
                 ? ""
                 : " else if (!strcmp(line, \"load\") && rest) {\n        done = obey_load(rest);\n    }"},
            {"begin_loads", m_loads.empty() ? "" : "    begin_loads();\n"},
            {"setup", setup},
            {"every_turn", (m_loads.empty() ? "" : "    end_loads();\n") + every_turn},
            {"turns", turns},
        };
        std::string out = fill(program::skeleton_head, names) + program::skeleton_restart +
                          (m_options.constants ? program::skeleton_values : "") + shared + own;
        if (converts()) out += program::skeleton_reference;
        if (!m_loads.empty()) out += fill(program::skeleton_loads, names);
        out += fill(program::skeleton_setup, names);
        out += fill(program::skeleton_commands, names);
        out += fill(program::skeleton_loop, names);
        return out;
    }

    [[nodiscard]] std::string setup_of_converter() const {
        std::string out;
        if (m_card.bits != 10 && converts())
            out += fmt::format("    analogReadResolution({}); // bits\n", m_card.bits);
        if (m_reference == "internal") out += "    use_reference(\"internal\");\n";
        return out;
    }

    /// Some reading goes through the board's own converter.
    [[nodiscard]] bool converts() const { return !m_reference.empty(); }

    const Bench& m_bench;
    const Catalog& m_catalog;
    const BoardUse& m_use;
    const BoardCard& m_card;
    const ProgramOptions& m_options;
    WrittenProgram m_out;
    std::vector<Spoken> m_spoken;
    std::map<std::string, std::string> m_wires; ///< one-wire pins and who is on them
    std::string m_reference;                    ///< of all readings of the board's converter
    std::string m_loads;
};

} // namespace

std::string program_fingerprint(const Bench& bench, const Catalog& catalog, const BoardUse& board) {
    std::string all =
        fmt::format("1|{}|{}|{}|", board.id, board.card, board.code_baud > 0 ? board.code_baud : board.link.baud);
    for (const Reading* r : readings_of(bench, board)) {
        const PartCard* part = catalog.part(r->sensor.part);
        all += fmt::format("{}|{}|{}|{}|{}|{}|{}|{}|", r->id, r->field(), r->sensor.part, part ? part->driver : "",
                           r->wiring.reference, r->wiring.module, r->wiring.address, r->quantity.interval_s);
        for (const Connection& c : r->wiring.pins)
            all += fmt::format("{}={}|", c.leg, c.pin);
    }
    for (const Module& m : bench.modules) {
        if (m.board != board.id) continue;
        all += fmt::format("{}|{}|{}|", m.id, m.part, m.address);
        for (const Connection& c : m.pins)
            all += fmt::format("{}={}|", c.leg, c.pin);
    }
    return fnv(all);
}

std::string constants_fingerprint(const Bench& bench, const BoardUse& board) {
    std::string all;
    for (const Reading* r : readings_of(bench, board))
        if (const auto code = program::stage_code(effective_path(*r))) all += r->id + "|" + *code;
    return fnv(all);
}

Result<WrittenProgram> write_program(const Bench& bench, const Catalog& catalog, const std::string& board,
                                     const ProgramOptions& options) {
    const BoardUse* use = bench.board(board);
    if (!use)
        return failure(fmt::format("There is no board “{}”.", board), board, "Name one of the bench’s boards.");
    const BoardCard* card = catalog.board(use->card);
    if (!card)
        return failure(
            fmt::format("{} is no board of which Cognitum has a card: its program cannot be written.", use->name),
            board, "Choose its kind on the page Boards.");
    return Writer(bench, catalog, *use, *card, options).write();
}

} // namespace cognitum
