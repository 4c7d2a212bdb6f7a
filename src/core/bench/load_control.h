// How a load follows a watch rule: what it is told, how long it may be on, and what keeps it off whatever the rule
// says. core/act judges it.
#pragma once

#include "core/bench/watch_rule.h"

#include <string>
#include <vector>

namespace cognitum {

/// What a load does to a reading while it is on. Known, a control can be tried before anything is switched.
struct LoadEffect {
    std::string reading; ///< id
    double at_once = 0;  ///< added to its value while the load is on, unit of the reading: a lamp's light
    double an_hour = 0;  ///< added for each hour that it is on: a pump's litres, below zero where it draws
    bool operator==(const LoadEffect&) const = default;
};

struct LoadControl {
    std::string id, name;
    std::string load;                        ///< id of a Module
    std::string rule;                        ///< id of a WatchRule: on while it is raised
    bool acts = false;                       ///< false: it is tried on the record, and tells nobody anything
    double least_on_s = 0;                   ///< it stays on so long, unless something keeps it off
    double least_off_s = 0;                  ///< and off so long
    double longest_on_s = 0;                 ///< 0: no limit
    double rest_s = 0;                       ///< off for so long after its longest run
    bool safe_on = false;                    ///< its state while the rule's readings say nothing; plain: off
    double value_within_s = 0;               ///< a value that is older says nothing; 0: as each reading reports
    std::vector<WatchCondition> never_while; ///< each of them alone keeps it off; at most most_conditions
    std::string on_line, off_line;           ///< what is sent; {s} in on_line becomes time_out_s
    std::string topic = {};                  ///< of a broker; empty: the way of its board's commands
    double time_out_s = 0; ///< it goes off by itself when it was not told for so long; 0: it does not
    std::vector<LoadEffect> effects = {};
    bool operator==(const LoadControl&) const = default;
};

inline constexpr std::size_t most_effects = 4;
inline constexpr std::size_t longest_load_line = 200; ///< bytes

/// What is sent for on or off, with the seconds of its own time-out filled in.
std::string load_line(const LoadControl& control, bool on);
/// First defect of a control, in a sentence; empty: there is none.
std::string defect_of(const LoadControl& control);

} // namespace cognitum
