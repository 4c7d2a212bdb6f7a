// Rules about loads that follow a watch rule: a control that cannot reach its load, or that leaves it on.
#include "core/act/load_keeper.h"
#include "core/base/phrase.h"
#include "core/plan/rules/rules.h"
#include "core/units/format.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

namespace {

struct Driven {
    const LoadControl& control;
    const Module& load;
    const PartCard* part; ///< null: the card is gone
};

/// The controls of this board's loads, that act or are tried.
std::vector<Driven> controls_of(const BoardScene& s) {
    std::vector<Driven> out;
    for (const LoadControl& control : s.bench.controls)
        if (const Module* load = s.bench.module(control.load); load && load->board == s.use.id)
            out.push_back({control, *load, s.catalog.part(load->part)});
    return out;
}

/// A finding at the reading whose rule the load follows.
Finding at_reading(const BoardScene& s, const Driven& d, Severity severity, std::string message, std::string why,
                   std::string fix) {
    Finding f = finding(severity, Stop::watch, std::move(message), std::move(why), std::move(fix));
    if (const WatchRule* rule = s.bench.watch_rule(d.control.rule); rule && s.bench.reading(rule->reading()))
        f.reading = rule->reading();
    return f;
}

bool works_in_water(const Driven& d) {
    return d.part && d.part->kind == PartKind::load && d.part->environment.water;
}

FixAction change_control(std::string label, const std::string& id, std::function<void(LoadControl&)> change) {
    return {std::move(label),
            [id, change = std::move(change)](Bench& bench) {
                if (LoadControl* control = bench.control(id)) change(*control);
            },
            -1,
            {}};
}

FixAction stop_acting(const Driven& d) {
    return change_control(phrase("Only try it"), d.control.id, [](LoadControl& c) { c.acts = false; });
}

std::vector<Finding> does_nothing(const BoardScene& s) {
    std::vector<Finding> out;
    for (const Driven& d : controls_of(s)) {
        const std::string why = why_not(d.control, s.bench);
        if (!d.control.acts || why.empty()) continue;
        Finding f = at_reading(s, d, Severity::error, phrase("{} does not act: {}", d.control.name, why),
                               phrase("{} stays off.", d.load.name),
                               phrase("Choose a rule that is on, and readings that are there."));
        f.action = stop_acting(d);
        out.push_back(std::move(f));
    }
    return out;
}

std::vector<Finding> stays_on(const BoardScene& s) {
    std::vector<Finding> out;
    for (const Driven& d : controls_of(s)) {
        if (!d.control.acts || d.control.time_out_s > 0) continue;
        const bool only_a_lamp = d.part && d.part->lamp;
        Finding f = at_reading(
            s, d, only_a_lamp ? Severity::look : Severity::error,
            phrase("When this computer or the link dies, {} stays as it is.", d.load.name),
            phrase("Nobody tells it to go off any more, and its board waits for that."),
            phrase("Let its board turn it off when it was not told again within a minute, and say so here: "
                   "the line for on then names the seconds, {s}."));
        f.action = change_control(phrase("Its board turns it off after 60 s"), d.control.id, [](LoadControl& c) {
            c.time_out_s = 60;
            if (c.on_line.find("{s}") == std::string::npos) c.on_line += " {s}";
        });
        out.push_back(std::move(f));
    }
    return out;
}

std::vector<Finding> runs_dry(const BoardScene& s) {
    std::vector<Finding> out;
    for (const Driven& d : controls_of(s)) {
        if (!works_in_water(d) || !d.control.never_while.empty()) continue;
        Finding f =
            at_reading(s, d, Severity::look, phrase("Nothing keeps {} off when the water is gone.", d.load.name),
                       d.part->fails, phrase("Let the level of what it draws from keep it off."));
        f.action = open_stop(phrase("Look at what it follows"), Stop::watch);
        out.push_back(std::move(f));
    }
    return out;
}

/// Why its board hears no commands; empty: it does.
std::string deaf(const LoadControl& c, const LinkPlan& link) {
    if (!c.topic.empty())
        return link.kind == LinkKind::mqtt ? "" : phrase("it names a topic, and its board’s link is no broker’s");
    return link.takes_commands() ? "" : phrase("its board’s link takes no commands");
}

std::vector<Finding> cannot_be_told(const BoardScene& s) {
    std::vector<Finding> out;
    for (const Driven& d : controls_of(s)) {
        const std::string why = deaf(d.control, s.use.link);
        if (!d.control.acts || why.empty()) continue;
        Finding f =
            at_reading(s, d, Severity::error, phrase("{} cannot be told: {}.", d.load.name, why),
                       phrase("It stays as it is, whatever its rule says."),
                       phrase("Give the board a serial port, a broker with a topic for commands, or posts, whose "
                              "answers carry commands."));
        f.action = stop_acting(d);
        out.push_back(std::move(f));
    }
    return out;
}

std::vector<Finding> sleeps(const BoardScene& s) {
    std::vector<Finding> out;
    if (s.use.sleep_s <= 0) return out;
    for (const Driven& d : controls_of(s)) {
        if (!d.control.acts) continue;
        Finding f = at_reading(s, d, Severity::error,
                               phrase("{} sleeps for {}: it hears that {} is to go off so much later.", s.use.name,
                                      duration_text(from_seconds(s.use.sleep_s)), d.load.name),
                               phrase("A board that sleeps hears nothing, and what it has on stays on."),
                               phrase("Let it stay awake, or give the load to a board that does."));
        f.action =
            change_board(phrase("It stays awake"), s.use.id, [](BoardUse& use) { use.sleep_s = use.wake_s = 0; });
        out.push_back(std::move(f));
    }
    return out;
}

std::vector<Finding> told_by_two(const BoardScene& s) {
    std::vector<Finding> out;
    const std::vector<Driven> all = controls_of(s);
    for (std::size_t i = 0; i < all.size(); ++i)
        for (std::size_t k = 0; k < i; ++k) {
            if (!all[i].control.acts || !all[k].control.acts || all[i].load.id != all[k].load.id) continue;
            Finding f = at_reading(
                s, all[i], Severity::error,
                phrase("{} is told by two: {} and {}.", all[i].load.name, all[k].control.name, all[i].control.name),
                phrase("One would say on and the other off, in turns: only the first acts."),
                phrase("Let one of them act."));
            f.action = stop_acting(all[i]);
            out.push_back(std::move(f));
        }
    return out;
}

/// A plain limit without a way back, and nothing that makes the load wait.
std::vector<Finding> chatters(const BoardScene& s) {
    std::vector<Finding> out;
    for (const Driven& d : controls_of(s)) {
        const WatchRule* rule = s.bench.watch_rule(d.control.rule);
        if (!d.control.acts || !rule || rule->conditions.size() != 1 || d.control.least_on_s > 0 ||
            d.control.least_off_s > 0 || rule->count > 1 || rule->for_s > 0)
            continue;
        const WatchCondition& c = rule->conditions.front();
        const Reading* reading = s.bench.reading(c.reading);
        const bool plain = c.when == WatchWhen::above || c.when == WatchWhen::below;
        if (!plain || !reading || reading->quantity.about().is_state() ||
            std::abs(c.clear.value_or(c.value) - c.value) > 0)
            continue;
        Finding f =
            at_reading(s, d, Severity::look,
                       phrase("{} goes on and off with every line near {}.", d.load.name,
                              format_measure(c.value, reading->quantity.unit, 5)),
                       phrase("Its rule has no way back, and the load no least time on or off."),
                       phrase("Give the rule a way back that is wider than the doubt, or the load a least time."));
        f.action = change_control(phrase("On and off for at least 2 min"), d.control.id, [](LoadControl& control) {
            control.least_on_s = control.least_off_s = 120;
            if (control.longest_on_s > 0) control.longest_on_s = std::max(control.longest_on_s, 120.0);
        });
        out.push_back(std::move(f));
    }
    return out;
}

std::vector<Finding> care(const BoardScene& s) {
    std::vector<Finding> out;
    for (const Driven& d : controls_of(s)) {
        if (!d.part || d.part->care.empty()) continue;
        Finding f = at_reading(s, d, Severity::note, fmt::format("{}: {}", d.load.name, d.part->care),
                               phrase("A load that goes on by itself does so while somebody works on it."),
                               phrase("Take its supply away before you touch it."));
        f.is_caution = true;
        out.push_back(std::move(f));
    }
    return out;
}

const BoardRule all_acting_rules[] = {{"control-does-nothing", does_nothing},
                                      {"load-stays-on", stays_on},
                                      {"pump-runs-dry", runs_dry},
                                      {"load-cannot-be-told", cannot_be_told},
                                      {"load-board-sleeps", sleeps},
                                      {"load-told-by-two", told_by_two},
                                      {"load-chatters", chatters},
                                      {"caution-load", care}};

} // namespace

std::span<const BoardRule> board_acting_rules() {
    return all_acting_rules;
}

} // namespace cognitum
