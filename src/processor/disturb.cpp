#include "processor/disturb.h"

#include "core/base/phrase.h"
#include "core/decode/number.h"
#include "core/decode/number_text.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <set>

namespace cognitum::machine {

namespace {

constexpr double hang_s = 4, settle_s = 0.5, longest_silence_s = 1;

/// Text behind "name=" in a line; empty: it is not there.
std::string text_of(const std::string& line, const std::string& field) {
    const std::string key = " " + field + "=";
    const auto at = (" " + line).find(key);
    if (at == std::string::npos) return {};
    const std::string rest = (" " + line).substr(at + key.size());
    return rest.substr(0, rest.find(' '));
}

/// The last text of each field in a stretch of time.
std::map<std::string, std::string> last_texts(const std::vector<ProofLine>& lines, double from_s, double to_s,
                                              const std::set<std::string>& fields) {
    std::map<std::string, std::string> out;
    for (const ProofLine& line : lines)
        if (line.at_s >= from_s && line.at_s < to_s)
            for (const std::string& field : fields)
                if (std::string text = text_of(line.text, field); !text.empty()) out[field] = text;
    return out;
}

Disturbance hung_bus(SimulatedAvr& avr, const std::set<std::string>& fields, double again_s) {
    Disturbance out{"hung-bus", true, {}};
    const double from = avr.now_s();
    const int restarts = avr.restarts();
    const auto before = last_texts(avr.lines(), from - again_s, from, fields);
    avr.hang_bus(true);
    bool lives = avr.run_to(from + hang_s);
    avr.hang_bus(false);
    lives = avr.run_to(from + hang_s + again_s) && lives;
    std::set<std::string> words;
    const auto fail = [&](const std::string& why) {
        if (out.held) out.text = why;
        out.held = false;
    };
    double last_s = from, silence_s = 0;
    for (const ProofLine& line : avr.lines()) {
        if (line.at_s < from || line.at_s > from + hang_s) continue;
        silence_s = std::max(silence_s, line.at_s - last_s);
        last_s = line.at_s;
        if (line.at_s < from + settle_s) continue;
        for (const std::string& field : fields) {
            const std::string text = text_of(line.text, field);
            if (number_of(text)) fail(phrase("while the I²C bus hung, {} was sent as {}.", field, text));
            if (!text.empty()) words.insert(text);
        }
    }
    silence_s = std::max(silence_s, from + hang_s - last_s);
    const auto after = last_texts(avr.lines(), from + hang_s, from + hang_s + again_s, fields);
    if (!lives) fail(phrase("when the I²C bus hung the program broke down."));
    if (avr.restarts() != restarts) fail(phrase("when the I²C bus hung the board restarted."));
    if (silence_s > longest_silence_s)
        fail(phrase("while the I²C bus hung the board was silent for {:.1f} s.", silence_s));
    if (after != before) fail(phrase("after the I²C bus had hung its readings did not come back."));
    if (!out.held) return out;
    std::string said;
    for (const std::string& word : words)
        said += (said.empty() ? "" : ", ") + word;
    out.text = phrase("The I²C bus hung for {:.0f} s: its readings said “{}”, the others went on, and all came "
                      "back.",
                      hang_s, said);
    return out;
}

/// What broke or went is a word, and none that is read as a number or a state.
Disturbance parts_away(SimulatedAvr& avr, program::PartsAtPins& parts, const std::vector<const Reading*>& readings,
                       double again_s) {
    Disturbance out{"parts-away", true, {}};
    std::set<std::string> fields;
    for (const Reading* r : readings) {
        parts.give(r->id, std::nan(""));
        fields.insert(r->field());
    }
    const double from = avr.now_s();
    const bool lives = avr.run_to(from + 2 * again_s);
    const auto said = last_texts(avr.lines(), from + again_s, from + 2 * again_s, fields);
    std::string words;
    for (const std::string& field : fields) {
        const auto text = said.find(field);
        const bool bad = !lives || text == said.end() || read_number_text(text->second).there;
        if (bad && out.held)
            out.text = phrase("without its part {} was sent as “{}”.", field,
                              text == said.end() ? "nothing" : text->second);
        out.held = out.held && !bad;
        if (text != said.end()) words += (words.empty() ? "" : ", ") + field + "=" + text->second;
    }
    if (out.held) out.text = phrase("Without their parts, or with a broken wire: {}.", words);
    return out;
}

Disturbance reset(SimulatedAvr& avr, double again_s) {
    Disturbance out{"reset", false, phrase("after a reset the board said nothing.")};
    const std::size_t from = avr.lines().size();
    const double began = avr.now_s();
    avr.press_reset();
    if (!avr.run_to(began + again_s)) out.text = phrase("after a reset the program broke down.");
    bool said_why = false;
    for (std::size_t i = from; i < avr.lines().size(); ++i) {
        const std::string& text = avr.lines()[i].text;
        if (text.rfind("# board=", 0) == 0) {
            said_why = text.find(" restart=reset") != std::string::npos;
            out.text = phrase("after a reset the board did not say why it began.");
        }
        if (const std::string sequence = text_of(text, "seq"); said_why && !sequence.empty()) {
            out.held = sequence == "0";
            out.text = out.held ? phrase("Its reset was pressed: it said so, and measured again after {:.0f} ms.",
                                         1000 * (avr.lines()[i].at_s - began))
                                : phrase("after a reset it went on counting its records.");
            break;
        }
    }
    return out;
}

} // namespace

std::vector<Disturbance> disturb(SimulatedAvr& avr, program::PartsAtPins& parts, const ProofPlan& plan,
                                 const Bench& bench) {
    std::vector<Disturbance> out;
    std::set<std::string> on_bus;
    std::vector<const Reading*> can_go;
    for (const ProofReading& r : plan.readings)
        if (r.address != 0)
            on_bus.insert(bench.reading(r.reading)->field());
        else if (r.driver == "one-wire-thermometer" || r.driver == "thermocouple-spi" || r.driver == "platinum-spi")
            can_go.push_back(bench.reading(r.reading));
    const double again_s = std::max(2.0, 2 * plan.point_s);
    if (!on_bus.empty()) out.push_back(hung_bus(avr, on_bus, again_s));
    out.push_back(reset(avr, again_s));
    if (!can_go.empty()) out.push_back(parts_away(avr, parts, can_go, again_s));
    return out;
}

} // namespace cognitum::machine
