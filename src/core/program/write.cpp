#include "core/program/program.h"

#include "core/base/phrase.h"
#include "core/program/driver.h"
#include "core/program/load_code.h"
#include "core/program/network.h"
#include "core/program/proof_plan.h"
#include "core/program/reference_code.h"
#include "core/program/skeleton.h"
#include "core/program/sleep_code.h"
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
using program::NetworkWay;

/// A reading of the board with its driver.
struct Spoken {
    const Reading* reading;
    Placed placed;
    std::string name;
    Driver driver;
    std::string value_code; ///< of its value by the plan's constants; empty: none is sent
};

constexpr double longest_interval_s = 30 * 86400.0; ///< milliseconds in four bytes go round after 49 days

class Writer {
  public:
    Writer(const Bench& bench, const Catalog& catalog, const BoardUse& use, const BoardCard& card,
           const ProgramOptions& options)
        : m_bench(bench),
          m_catalog(catalog),
          m_use(use),
          m_card(card),
          m_options(options),
          m_network(program::network_plan(use, card)) {}

    Result<WrittenProgram> write() {
        if (!m_network.refusal.empty())
            m_out.notes.push_back({"", phrase("Not through its link: ") + m_network.refusal, false});
        find_readings();
        if (m_spoken.empty()) {
            std::string why = phrase("The program of {} would read nothing", m_use.name);
            for (const ProgramNote& note : m_out.notes)
                why +=
                    fmt::format("; {}: {}", note.reading, note.text.substr(0, note.text.find_last_not_of('.') + 1));
            return failure(why + ".", m_use.id, phrase("Choose parts and pins at the stops Sensor and Wiring."));
        }
        m_loads = program::load_rows(m_bench, m_catalog, m_use, m_card, m_out.notes);
        decide_sleep();
        m_out.fingerprint = program_fingerprint(m_bench, m_catalog, m_use);
        const std::string folder = code_name(m_use.id);
        m_out.files.push_back({folder + "/" + folder + ".ino", text()});
        if (m_network.way != NetworkWay::none)
            m_out.files.push_back({folder + "/secrets.h", program::secrets_text(m_network, m_use), true});
        return m_out;
    }

  private:
    void find_readings() {
        std::map<std::string, std::string> fields; // field → name of its reading
        std::set<std::string> names;
        for (const Reading* r : program::readings_of(m_bench, m_use))
            if (const Placed p = place(m_bench, m_catalog, *r); p.reference && is_wave(p))
                m_wave_reference = p.reference->id;
        for (const Reading* r : program::readings_of(m_bench, m_use)) {
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
            if (!program::is_plain_word(name)) return phrase("its field “{}” cannot be a name in a record.", name);
        if (const auto known = fields.find(field); known != fields.end())
            return phrase("its field {} is that of {} already.", field, known->second);
        const std::string expected =
            r.path.stages.empty() ? (r.source.unit.empty() ? r.quantity.unit : r.source.unit) : r.path.first_unit();
        const bool private_wave = s.driver.own_lines;
        if (!private_wave && expected != s.driver.unit && r.source.collect.empty())
            return phrase("its path begins with {}, and its part gives {}.", unit_words(expected),
                          unit_words(s.driver.unit));
        if (s.driver.needs.contains(Help::one_wire)) {
            const auto [other, alone] = m_wires.emplace(r.wiring.pin(), r.name);
            if (!alone)
                return phrase(
                    "it is on one wire with {}: two on a wire are told apart by addresses, which the plan "
                    "does not have. Give it a pin of its own.",
                    other->second);
        }
        if (private_wave && m_network.way != NetworkWay::none)
            return phrase("a wave is too fast for one message after the other: give this board a wire.");
        if (s.driver.needs.contains(Help::converter)) {
            const VoltageReference* reference = s.placed.reference;
            if (!reference) return phrase("the reference of its input is not chosen.");
            if (!program::is_choosable(*reference))
                return phrase("this program does not know how to choose “{}”.", reference->name);
            if (!m_wave_reference.empty() && m_wave_reference != reference->id)
                m_out.notes.push_back(
                    {"",
                     r.name + phrase(" measures against another reference than the wave on this board, "
                                     "which pauses for 40 ms each time."),
                     false});
            if (std::find(m_references.begin(), m_references.end(), reference->id) == m_references.end())
                m_references.push_back(reference->id);
        }
        return {};
    }

    static bool is_wave(const Placed& p) {
        return p.part && p.is_voltage() && p.part->sample_s > 0 && p.reading->source.collect == "beats";
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

    static std::string unit_words(const std::string& unit) { return unit == "1" ? phrase("a state") : unit; }

    void decide_sleep() {
        if (!m_options.sleep) return;
        std::string why =
            is_simulated(m_card) ? "" : phrase("it is written for the 8-bit board with six analog inputs only.");
        if (!m_loads.empty()) why = phrase("it switches a load, whose time must go on.");
        for (const Spoken& s : m_spoken)
            if (why.empty()) why = program::keeps_awake(s.placed, s.driver);
        m_sleeps = why.empty();
        if (!m_sleeps) m_out.notes.push_back({"", phrase("It does not sleep deeply: ") + why, false});
        for (const Spoken& s : m_spoken)
            if (m_sleeps && s.driver.needs.contains(Help::steady))
                m_out.notes.push_back(
                    {s.reading->id, phrase("asleep it sees no change: it is looked at when it wakes."), false});
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

    [[nodiscard]] std::string functions(const Spoken& s) const {
        std::string out = "\n// " + program::comment_text(s.driver.about) + "\n" + s.driver.globals;
        const std::string before = s.driver.needs.contains(Help::converter) && m_references.size() > 1
                                       ? fmt::format("    choose_reference(\"{}\");\n", s.placed.reference->id)
                                       : std::string();
        if (!s.driver.ask.empty()) out += "void ask_" + s.name + "() {\n" + s.driver.ask + "}\n";
        if (!s.driver.own_lines) out += "void send_" + s.name + "() {\n" + before + s.driver.send + "}\n";
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
        bool must_look = false;
        std::string setup = setup_of_converter();
        for (const Spoken& s : m_spoken) {
            helps.insert(s.driver.needs.begin(), s.driver.needs.end());
            about +=
                fmt::format("//   {:<10} {} Every {}.\n", s.reading->field(), program::comment_text(s.driver.about),
                            duration_text(from_seconds(s.reading->quantity.interval_s)));
            if (!s.driver.own_lines && std::count(example.begin(), example.end(), '=') < 2)
                example += " " + s.reading->field() + "=...";
            every_turn += s.driver.every_turn;
            must_look = must_look || s.driver.must_look;
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
        if (m_sleeps) setup += program::sleep_setup;
        const bool networked = m_network.way != NetworkWay::none;
        const Names names = {
            {"board", program::comment_text(m_use.name)},
            {"card", program::comment_text(m_card.name.english())},
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
            {"reference_word", !converts()       ? "F(\"none\")"
                               : one_reference() ? "reference_now"
                                                 : "F(\"each\")"},
            {"command_words", std::string(one_reference() ? ",reference" : "") + (m_loads.empty() ? "" : ",load")},
            {"reference_help", one_reference() ? ", reference " + program::reference_words(m_card) : ""},
            {"reference_obey",
             one_reference()
                 ? " else if (!strcmp(line, \"reference\") && rest) {\n        done = use_reference(rest);\n    }"
                 : ""},
            {"load_help", m_loads.empty() ? "" : ", load NAME on [SECONDS]|off"},
            {"load_obey",
             m_loads.empty()
                 ? ""
                 : " else if (!strcmp(line, \"load\") && rest) {\n        done = obey_load(rest);\n    }"},
            {"begin_loads", m_loads.empty() ? "" : "    begin_loads();\n"},
            {"setup", setup},
            {"outbox", networked ? program::outbox_text(longest_line()) : ""},
            {"radio_begin", networked ? "    radio_begin();\n" : ""},
            {"rest", m_sleeps    ? program::sleep_rest
                     : must_look ? ""
                                 : program::skeleton_rest},
            {"heard", m_sleeps ? program::sleep_heard : ""},
            {"network_turn", networked ? "    network_turn();\n" : ""},
            {"every_turn", (m_loads.empty() ? "" : "    end_loads();\n") + every_turn},
            {"turns", turns},
        };
        std::string out = fill(program::skeleton_head, names) + program::skeleton_restart +
                          (m_options.constants ? program::skeleton_values : "") +
                          (converts() ? program::reference_code(m_card, !one_reference()) : "") + shared + own;
        if (m_sleeps) out += program::sleep_text(converts());
        if (!m_loads.empty()) out += fill(program::skeleton_loads, names);
        out += fill(program::skeleton_setup, names);
        out += fill(program::skeleton_commands, names);
        out += fill(program::skeleton_loop, names);
        if (!networked) return out;
        // What sends stands behind what is sent, and prints to its connection.
        const auto at = out.find("\nvoid setup() {\n");
        return program::through_the_outbox(out.substr(0, at)) + program::sender_text(m_network, m_use) +
               program::through_the_outbox(out.substr(at));
    }

    /// Bytes of the longest record.
    [[nodiscard]] std::size_t longest_line() const {
        constexpr std::size_t head = 64, number = 18; // seq, ms and late_ms; a number or a word
        std::size_t out = head;
        for (const Spoken& s : m_spoken)
            out += (s.reading->field().size() + number) * (s.value_code.empty() ? 1 : 2);
        return out;
    }

    [[nodiscard]] std::string setup_of_converter() const {
        std::string out;
        if (m_card.bits != 10 && converts())
            out += fmt::format("    analogReadResolution({}); // bits\n", m_card.bits);
        if (one_reference() && m_references.front() != "supply")
            out += fmt::format("    use_reference(\"{}\");\n", m_references.front());
        return out;
    }

    /// Some reading goes through the board's own converter.
    [[nodiscard]] bool converts() const { return !m_references.empty(); }
    [[nodiscard]] bool one_reference() const { return m_references.size() == 1; }

    const Bench& m_bench;
    const Catalog& m_catalog;
    const BoardUse& m_use;
    const BoardCard& m_card;
    const ProgramOptions& m_options;
    WrittenProgram m_out;
    std::vector<Spoken> m_spoken;
    std::map<std::string, std::string> m_wires; ///< one-wire pins and who is on them
    std::vector<std::string> m_references;      ///< that readings of the board's converter measure against
    std::string m_wave_reference;               ///< of the first wave; empty: there is none
    program::NetworkPlan m_network;
    std::string m_loads;
    bool m_sleeps = false;
};

} // namespace

Result<WrittenProgram> write_program(const Bench& bench, const Catalog& catalog, const std::string& board,
                                     const ProgramOptions& options) {
    const BoardUse* use = bench.board(board);
    if (!use)
        return failure(phrase("There is no board “{}”.", board), board, phrase("Name one of the bench’s boards."));
    const BoardCard* card = catalog.board(use->card);
    if (!card)
        return failure(
            phrase("{} is no board of which Cognitum has a card: its program cannot be written.", use->name), board,
            phrase("Choose its kind on the page Boards."));
    Result<WrittenProgram> shown = Writer(bench, catalog, *use, *card, options).write();
    if (!shown || !language().phrase) return shown;
    const InEnglish in_the_file; // what is left out is a comment of the program as well
    shown->files = Writer(bench, catalog, *use, *card, options).write()->files;
    return shown;
}

} // namespace cognitum
