#include "core/act/load_words.h"

#include "core/base/phrase.h"
#include "core/units/format.h"
#include "core/watch/rule_words.h"

#include <fmt/format.h>

namespace cognitum {

namespace {

std::string length(double s) {
    return duration_text(from_seconds(s));
}

std::string load_name(const LoadControl& control, const Bench& bench) {
    const Module* load = bench.module(control.load);
    return load ? load->name : control.load;
}

std::string capital(std::string text) {
    if (!text.empty() && text[0] >= 'a' && text[0] <= 'z') text[0] = static_cast<char>(text[0] - 'a' + 'A');
    return text;
}

std::string reading_name(const std::string& id, const Bench& bench) {
    const Reading* reading = bench.reading(id);
    return reading ? reading->name : id;
}

std::string times(std::uint64_t n) {
    return n == 1 ? phrase("once") : n == 2 ? phrase("twice") : phrase("{} times", n);
}

std::string never_says(const LoadControl& control, int which, const Bench& bench) {
    if (which < 0 || static_cast<std::size_t>(which) >= control.never_while.size()) return {};
    const WatchCondition& c = control.never_while[static_cast<std::size_t>(which)];
    return reading_name(c.reading, bench) + " " + condition_says(c, bench, c.reading);
}

} // namespace

std::string follows_says(const LoadControl& control, const Bench& bench) {
    const WatchRule* rule = bench.watch_rule(control.rule);
    if (!rule) return phrase("the rule that it follows is gone");
    return phrase("on while “{}” holds: {} {}", rule->name, reading_name(rule->reading(), bench),
                  rule_says(*rule, bench));
}

std::vector<std::string> limits_say(const LoadControl& c, const Bench& bench) {
    std::vector<std::string> out;
    std::string times_say;
    const auto add = [&](const std::string& text) { times_say += (times_say.empty() ? "" : ", ") + text; };
    if (c.least_on_s > 0) add(phrase("on for at least {}", length(c.least_on_s)));
    if (c.longest_on_s > 0) add(phrase("on for at most {}", length(c.longest_on_s)));
    if (c.rest_s > 0) add(phrase("then off for {}", length(c.rest_s)));
    if (c.least_off_s > 0) add(phrase("off for at least {}", length(c.least_off_s)));
    if (!times_say.empty()) out.push_back(times_say);
    for (std::size_t i = 0; i < c.never_while.size(); ++i)
        out.push_back(phrase("never while {}", never_says(c, static_cast<int>(i), bench)));
    const WatchRule* rule = bench.watch_rule(c.rule);
    out.push_back(phrase("{} while {} says nothing{}", c.safe_on ? phrase("on") : phrase("off"),
                         rule ? reading_name(rule->reading(), bench) : phrase("its reading"),
                         c.value_within_s > 0 ? phrase(" for {}", length(c.value_within_s)) : ""));
    out.push_back(c.time_out_s > 0 ? phrase("goes off by itself {} after it was told last", length(c.time_out_s))
                                   : phrase("stays as it is when this computer dies"));
    return out;
}

std::string cause_says(const LoadControl& c, const std::vector<std::string>& readings, LoadCause cause, int which,
                       const Bench& bench) {
    const WatchRule* rule = bench.watch_rule(c.rule);
    const std::string rule_name = rule ? "“" + rule->name + "”" : phrase("its rule");
    switch (cause) {
    case LoadCause::rule_holds: return phrase("{} holds", rule_name);
    case LoadCause::rule_over: return phrase("{} does not hold", rule_name);
    case LoadCause::longest_run: return phrase("its longest run of {} is over", length(c.longest_on_s));
    case LoadCause::kept_off: {
        const std::string never = never_says(c, which, bench);
        return never.empty() ? std::string(phrase("what keeps it off"))
                             : phrase("{}, or nearer to that than its doubt", never);
    }
    case LoadCause::no_value:
        return phrase("{} says nothing", (which >= 0 && static_cast<std::size_t>(which) < readings.size()
                                              ? reading_name(readings[static_cast<std::size_t>(which)], bench)
                                              : std::string(phrase("its reading"))));
    case LoadCause::by_hand: return phrase("by hand");
    case LoadCause::not_acting: return phrase("what it follows was changed or switched off");
    }
    return {};
}

std::string load_event_says(const LoadControl& control, const std::vector<std::string>& readings,
                            const LoadEvent& event, const Bench& bench) {
    return phrase("{} is {}: {}.", capital(load_name(control, bench)), event.on ? phrase("on") : phrase("off"),
                  cause_says(control, readings, event.cause, event.which, bench));
}

std::string trial_says(const LoadControl& control, const LoadTrial& t, const Bench& bench) {
    if (!t.trouble.empty()) return capital(t.trouble);
    if (t.lines == 0) return phrase("There is no record yet to try it on.");
    const std::string over = duration_text(t.last - t.first);
    if (t.runs == 0) return phrase("It would never have been on in {} of record.", over);
    std::string out = phrase("It would have been on {} in {} of record, {} in all, {} at the longest.",
                             times(t.runs), over, duration_text(t.on), duration_text(t.longest));
    const auto ended = [&](LoadCause cause) { return t.ends[static_cast<std::size_t>(cause)]; };
    if (ended(LoadCause::longest_run) > 0)
        out += phrase(" Its longest run ended it {}.", times(ended(LoadCause::longest_run)));
    if (ended(LoadCause::kept_off) > 0)
        out += phrase(" What keeps it off ended it {}.", times(ended(LoadCause::kept_off)));
    if (ended(LoadCause::no_value) > 0)
        out += phrase(" A reading that said nothing ended it {}.", times(ended(LoadCause::no_value)));
    if (t.unseen_silence > 0)
        out += phrase(" A silence below {} cannot be told from the steps of this record.",
                      duration_text(t.unseen_silence));
    if (!t.with_effects && control.effects.empty())
        out += phrase(" What {} does to the readings is not said, and not in this.", load_name(control, bench));
    return out;
}

std::vector<std::string> trial_warns(const LoadControl& control, const LoadTrial& t, const Bench& bench) {
    std::vector<std::string> out;
    const std::string name = capital(load_name(control, bench));
    const WatchRule* rule = bench.watch_rule(control.rule);
    const std::string watched = rule ? reading_name(rule->reading(), bench) : std::string(phrase("its reading"));
    if (answers_itself(t))
        out.push_back(phrase("{} answers itself: on {} times, and {} if {} did not notice it. Screen the sensor "
                             "from it, widen the way back beyond what it adds, or give it a least time on.",
                             name, t.runs, t.runs_without, watched));
    if (t.dry_runs > 0)
        out.push_back(phrase("{} runs dry: {} comes to its end {}, for {} in all, first on {} UTC. Let {} keep "
                             "it off in time.",
                             name, reading_name(t.dry_reading, bench), times(t.dry_runs), duration_text(t.dry),
                             iso_time(t.dry_first).substr(0, 10) + " " + iso_time(t.dry_first).substr(11, 5),
                             reading_name(t.dry_reading, bench)));
    constexpr TimeUs of_account = minute_us;
    if (t.blind > of_account && t.blind > t.on / 20)
        out.push_back(phrase("{} runs for {} while {} had said nothing for three of its intervals. Let an old "
                             "value count as none sooner.",
                             name, duration_text(t.blind), watched));
    if (t.tips_missed > 0)
        out.push_back(phrase("Its board sleeps: of {} tips on record it would have missed about {}. Let the tip "
                             "wake it, or count them by a part that stays awake.",
                             t.tips, t.tips_missed));
    constexpr TimeUs often = 10 * minute_us;
    if (t.runs > 10 && !answers_itself(t) && t.on / static_cast<TimeUs>(t.runs) < minute_us &&
        (t.last - t.first) / static_cast<TimeUs>(t.runs) < often)
        out.push_back(phrase("{} would switch {} times, for {} each: a relay or a pump wears out on that. Widen "
                             "the way back, or give it a least time on and off.",
                             name, t.runs, duration_text(t.on / static_cast<TimeUs>(t.runs))));
    return out;
}

} // namespace cognitum
