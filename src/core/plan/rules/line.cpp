// Rules about lines: speeds at both ends, what a line carries, levels between boards, services, sleep.
#include "core/base/phrase.h"
#include "core/plan/electrical.h"
#include "core/plan/rules/rules.h"
#include "core/units/format.h"

#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

std::string baud_text(double baud) {
    return fmt::format("{}{}Bd", format_constant(baud, 8), thin_space);
}

std::vector<Finding> baud_differs(const BoardScene& s) {
    std::vector<Finding> out;
    if (s.use.code_baud > 0 && s.use.link.is_wire() && s.use.code_baud != s.use.link.baud) {
        Finding f = finding(Severity::error, Stop::raw,
                            phrase("The program of {} sends at {}; the link listens at {}.", s.use.name,
                                   baud_text(s.use.code_baud), baud_text(s.use.link.baud)),
                            phrase("Odd characters, or nothing."), phrase("Use one speed at both ends."));
        f.action = change_board(phrase("Listen at {}", baud_text(s.use.code_baud)), s.use.id,
                                [](BoardUse& use) { use.link.baud = use.code_baud; });
        out.push_back(std::move(f));
    }
    const Uplink& u = s.use.uplink;
    if (!u.to.empty() && u.baud != u.far_baud) {
        Finding f = finding(Severity::error, Stop::wiring,
                            phrase("{} sends at {}; the other board listens at {}.", s.use.name, baud_text(u.baud),
                                   baud_text(u.far_baud)),
                            phrase("Odd characters, or nothing."), phrase("Use one speed at both ends."));
        f.action = change_board(phrase("Use {} at both ends", baud_text(u.baud)), s.use.id,
                                [](BoardUse& use) { use.uplink.far_baud = use.uplink.baud; });
        out.push_back(std::move(f));
    }
    return out;
}

std::vector<Finding> line_too_full(const BoardScene& s) {
    const BoardBudget& b = s.budget;
    if (b.bytes_per_s <= b.bytes_limit || !s.use.link.is_wire()) return {};
    const double bytes = line_bytes(s.bench, s.use);
    int faster = 0;
    for (const int baud : {9600, 19200, 38400, 57600, 115200, 230400, 460800, 921600})
        if (faster == 0 && baud / 10.0 >= b.bytes_per_s) faster = baud;
    Finding f =
        finding(Severity::error, Stop::raw,
                phrase("{} sends {} bytes {} times a second: {} a second; {} carries {}.", s.use.name,
                       format_fixed(bytes, 0), format_constant(1 / line_interval_s(s.bench, s.use), 3),
                       format_fixed(b.bytes_per_s, 0), baud_text(s.use.link.baud), format_fixed(b.bytes_limit, 0)),
                phrase("Lines come late, then pieces are missing."), phrase("Send less often, or faster."));
    if (faster > 0)
        f.action = change_board(phrase("Use {}", baud_text(faster)), s.use.id, [faster](BoardUse& use) {
            use.link.baud = faster;
            if (use.code_baud > 0) use.code_baud = faster;
        });
    return {std::move(f)};
}

std::vector<Finding> serial_too_high(const BoardScene& s) {
    const Uplink& u = s.use.uplink;
    const BoardUse* far = s.bench.board(u.to);
    const BoardCard* far_card = far ? s.catalog.board(far->card) : nullptr;
    if (!s.card || !far_card) return {};
    const double highest = s.card->logic_V + s.card->logic_rail().tolerance_V;
    const double arrives = u.divider.there() ? highest_output(u.divider, highest, 0) : highest;
    if (arrives <= far_card->input_limit_V) return {};
    Finding f = finding(Severity::error, Stop::wiring,
                        phrase("{} sends {}; the receiver of {} withstands {}.", s.use.name, volts(arrives),
                               far->name, volts(far_card->input_limit_V)),
                        phrase("The receiving pin heats, and dies today or in a month."),
                        phrase("Put a level shifter between."));
    if (const auto choice =
            choose_divider({s.card->logic_V, highest, s.card->logic_V - s.card->logic_rail().tolerance_V,
                            far_card->logic_V * 1.04, far_card->high_threshold_V, 0})) {
        const std::string pair =
            phrase("{} and {}", format_ohm(choice->divider.top_ohm), format_ohm(choice->divider.bottom_ohm));
        f.fix = phrase("Put {} between them: {}.", pair, volts(choice->output_V));
        f.action = change_board(phrase("Put in {}", pair), s.use.id,
                                [divider = choice->divider](BoardUse& use) { use.uplink.divider = divider; });
    }
    return {std::move(f)};
}

std::vector<Finding> serial_too_low(const BoardScene& s) {
    const Uplink& u = s.use.uplink;
    const BoardUse* far = s.bench.board(u.to);
    const BoardCard* far_card = far ? s.catalog.board(far->card) : nullptr;
    if (!s.card || !far_card) return {};
    const double arrives = loaded_output(u.divider, s.card->logic_V, 0);
    if (arrives >= far_card->high_threshold_V - 1e-9) return {};
    return {finding(Severity::error, Stop::wiring,
                    phrase("{} sends {}; {} calls high what is above {}.", s.use.name, volts(arrives), far->name,
                           volts(far_card->high_threshold_V)),
                    phrase("The other board hears nothing, or something when it is warm."),
                    phrase("Put a level shifter between."))};
}

std::vector<Finding> adapter_voltage(const BoardScene& s) {
    if (!s.card || s.use.adapter_V <= s.card->input_limit_V) return {};
    Finding f = finding(Severity::error, Stop::wiring,
                        phrase("The programming adapter of {} is set to {}; its pins withstand {}.", s.use.name,
                               volts(s.use.adapter_V), volts(s.card->input_limit_V)),
                        phrase("The first upload is the last."),
                        phrase("Set the adapter to {}, and measure it.", volts(s.card->logic_V)));
    f.action = change_board(phrase("It is set to {}", volts(s.card->logic_V)), s.use.id,
                            [logic = s.card->logic_V](BoardUse& use) { use.adapter_V = logic; });
    return {std::move(f)};
}

std::vector<Finding> quota(const BoardScene& s) {
    if (s.use.quota_s <= 0 || s.use.upload_s <= 0 || s.use.upload_s >= s.use.quota_s) return {};
    Finding f = finding(Severity::error, Stop::raw,
                        phrase("{} sends every {}; the service takes one every {}.", s.use.name,
                               format_measure(s.use.upload_s, "s"), format_measure(s.use.quota_s, "s")),
                        phrase("It refuses the rest, and which ones is chance."),
                        phrase("Send the mean, the least and the most of each stretch."));
    f.action = change_board(phrase("Send every {}", format_measure(s.use.quota_s, "s")), s.use.id,
                            [](BoardUse& use) { use.upload_s = use.quota_s; });
    return {std::move(f)};
}

std::vector<Finding> lamp_lights_sensor(const BoardScene& s) {
    std::vector<Finding> out;
    for (const Module& m : s.bench.modules) {
        const PartCard* part = s.catalog.part(m.part);
        const Reading* r = s.bench.reading(m.switched_by);
        for (const LoadControl& control : s.bench.controls)
            if (const WatchRule* rule = s.bench.watch_rule(control.rule); rule && control.load == m.id && !r)
                r = s.bench.reading(rule->reading());
        if (m.board != s.use.id || !part || !part->lamp || !r || r->quantity.kind != "light" || m.screened)
            continue;
        Finding f = finding(Severity::error, Stop::watch, phrase("{} sees {}, which it switches.", r->name, m.name),
                            phrase("It switches itself off, then on, all night."),
                            phrase("Screen the sensor from the lamp, or switch by the computed sunset."));
        f.action = FixAction{phrase("It is screened"),
                             [id = m.id](Bench& bench) {
                                 if (Module* module = bench.module(id)) module->screened = true;
                             },
                             -1,
                             {}};
        out.push_back(std::move(f));
    }
    return out;
}

std::vector<Finding> pin_cannot_carry(const BoardScene& s) {
    std::vector<Finding> out;
    if (!s.card) return out;
    for (const Module& m : s.bench.modules) {
        const PartCard* part = s.catalog.part(m.part);
        if (m.board != s.use.id || !part || part->kind != PartKind::load || m.pins.empty()) continue;
        if (part->leg_with_role("supply") >= 0) continue; // its supply leg carries the current
        const Pin* pin = s.card->pin(m.pins.front().pin);
        if (!pin || part->supply.peak_mA <= pin->drive_mA) continue;
        out.push_back(finding(Severity::error, Stop::wiring,
                              phrase("{} draws {} through pin {}, which gives {}.", m.name,
                                     milliamps(part->supply.peak_mA), pin->label, milliamps(pin->drive_mA)),
                              phrase("The pin sags, and may end with the board."),
                              phrase("Switch it through a transistor.")));
    }
    return out;
}

const BoardRule all_line_board_rules[] = {{"baud-differs", baud_differs},
                                          {"line-too-full", line_too_full},
                                          {"serial-too-high", serial_too_high},
                                          {"serial-too-low", serial_too_low},
                                          {"adapter-voltage", adapter_voltage},
                                          {"upload-below-quota", quota},
                                          {"pin-cannot-carry-load", pin_cannot_carry},
                                          {"sees-its-own-lamp", lamp_lights_sensor}};

} // namespace

std::span<const BoardRule> board_line_rules() {
    return all_line_board_rules;
}

} // namespace cognitum
