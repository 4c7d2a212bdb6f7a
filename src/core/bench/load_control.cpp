#include "core/bench/load_control.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr double longest_length_s = 366 * 86400.0;
constexpr double shortest_time_out_s = 3; ///< it is told again three times within it
constexpr const char* seconds_place = "{s}";

bool is_a_length(double s) {
    return s >= 0 && s <= longest_length_s; // false for NaN
}

bool is_one_line(const std::string& text) {
    return text.size() <= longest_load_line &&
           std::none_of(text.begin(), text.end(), [](unsigned char c) { return c < 0x20 || c == 0x7f; });
}

std::string defect_of_lines(const LoadControl& c) {
    if (!is_one_line(c.on_line) || !is_one_line(c.off_line) || !is_one_line(c.topic))
        return phrase("what is sent is one line of at most {} bytes.", longest_load_line);
    if (c.acts && (c.on_line.empty() || c.off_line.empty()))
        return phrase("it needs a line for on and a line for off.");
    if (!c.on_line.empty() && c.on_line == c.off_line) return phrase("on and off are told by the same line.");
    if (c.off_line.find(seconds_place) != std::string::npos) return phrase("only the line for on has a {s}.");
    if (c.time_out_s == 0 && c.on_line.find(seconds_place) != std::string::npos)
        return phrase("the line for on names a time-out, {s}, and there is none: say after how long it goes off by "
                      "itself.");
    if (c.topic.find_first_of("+#") != std::string::npos)
        return phrase("a topic that is written to has no + and no #.");
    return {};
}

} // namespace

std::string load_line(const LoadControl& control, bool on) {
    std::string out = on ? control.on_line : control.off_line;
    if (const std::size_t at = out.find(seconds_place); on && at != std::string::npos)
        out.replace(at, std::char_traits<char>::length(seconds_place),
                    std::to_string(std::llround(control.time_out_s)));
    return out;
}

std::string defect_of(const LoadControl& c) {
    if (c.name.empty()) return phrase("a control needs a name.");
    if (c.load.empty()) return phrase("a control needs a load.");
    if (c.rule.empty()) return phrase("a control needs a rule that it follows.");
    for (const double s : {c.least_on_s, c.least_off_s, c.longest_on_s, c.rest_s, c.value_within_s, c.time_out_s})
        if (!is_a_length(s)) return phrase("a length of time is not below 0 s and at most a year.");
    if (c.longest_on_s > 0 && c.longest_on_s < c.least_on_s)
        return phrase("its longest run, {} s, is shorter than its least time on, {} s.", c.longest_on_s,
                      c.least_on_s);
    if (c.rest_s > 0 && c.longest_on_s == 0) return phrase("it rests after its longest run, and has none.");
    if (c.time_out_s > 0 && c.time_out_s < shortest_time_out_s)
        return phrase("a time-out is at least 3 s: it is told again three times within it.");
    if (c.never_while.size() > most_conditions)
        return phrase("at most {} conditions keep it off.", most_conditions);
    for (const WatchCondition& condition : c.never_while)
        if (std::string defect = defect_of(condition); !defect.empty()) return defect;
    if (c.effects.size() > most_effects) return phrase("it has at most {} effects.", most_effects);
    for (const LoadEffect& effect : c.effects)
        if (effect.reading.empty() || !std::isfinite(effect.at_once) || !std::isfinite(effect.an_hour))
            return phrase("an effect needs a reading and numbers.");
    return defect_of_lines(c);
}

} // namespace cognitum
