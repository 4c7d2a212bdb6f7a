// What the command finder finds beside the window's own actions: readings, boards, parts, recipes, rules, sessions,
// findings, settings and words of the help, each with where it leads.
#pragma once

#include "ui/context.h"
#include "ui/shell/command_finder.h"

#include <vector>

namespace cognitum {

/// Ways that the window offers to what is found.
struct Ways {
    std::function<void(int stop)> stop;
    std::function<void(const std::string& id)> board;
    std::function<void(const QString& facts)> part; ///< at the stop Sensor
    std::function<void(const QString& name)> setting;
    std::function<void(const QString& topic)> help;
};

std::vector<Command> everything(Context& context, const Ways& ways, int stop_now);

} // namespace cognitum
