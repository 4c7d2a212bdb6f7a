#include "core/program/load_code.h"

#include "core/base/phrase.h"

#include <fmt/format.h>

namespace cognitum::program {

namespace {

/// Name by which the plan tells a load: of "load pump on {s}" it is "pump"; empty: it is told otherwise.
std::string told_name(const LoadControl& control) {
    const std::string_view line = control.on_line;
    const auto end = line.find(" on");
    if (!line.starts_with("load ") || end == std::string_view::npos || end <= 5) return {};
    const std::string name(line.substr(5, end - 5));
    return is_plain_word(name) && control.off_line == "load " + name + " off" ? name : std::string();
}

} // namespace

std::string load_rows(const Bench& bench, const Catalog& catalog, const BoardUse& use, const BoardCard& card,
                      std::vector<ProgramNote>& notes) {
    std::string out;
    for (const Module& m : bench.modules) {
        const PartCard* part = catalog.part(m.part);
        if (m.board != use.id || !part || part->kind != PartKind::load || m.pins.empty()) continue;
        const std::string pin = pin_code(card, m.pins.front().pin);
        if (pin.empty()) continue;
        std::string name = code_name(m.id);
        double time_out_s = 60;
        for (const LoadControl& c : bench.controls) {
            if (c.load != m.id) continue;
            if (const std::string told = told_name(c); !told.empty())
                name = told;
            else
                notes.push_back({"",
                                 phrase("{} is told “{}” by the plan; this program understands “load {} on "
                                        "SECONDS” and “load {} off”.",
                                        m.name, c.on_line, name, name),
                                 false});
            if (c.time_out_s > 0) time_out_s = c.time_out_s;
        }
        out += fmt::format("    {{\"{}\", {}, {}, {:.0f}, false, 0, 0}}, // {}\n", name, pin,
                           part->interface.idle == "high" ? "LOW" : "HIGH", time_out_s, comment_text(m.name));
    }
    return out;
}

} // namespace cognitum::program
