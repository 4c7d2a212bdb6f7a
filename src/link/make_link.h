// From a board's plan to its link, real or simulated.
#pragma once

#include "core/bench/bench.h"
#include "link/link.h"
#include "link/simulated_link.h"

#include <functional>
#include <map>
#include <memory>

namespace cognitum {

class HttpReceiver;

/// What links of one bench share. Lives in their thread.
struct LinkServices {
    QStringList simulation_arguments; ///< for cognitum-simboard
    /// The simulated board that stands for one of this id; not set: the one with the same id.
    std::function<std::string(const std::string&)> simulated_as = {};
    /// Keeps the plan as it is now for a simulated processor, and says where; not set: there are no such boards.
    std::function<QString()> plan_file = {};
    QString folder; ///< for files that simulated boards write
    std::unique_ptr<LocalBroker> broker = {};
    std::map<std::pair<int, bool>, std::weak_ptr<HttpReceiver>> receivers = {};
};

/// Null for a board without a link.
std::unique_ptr<Link> make_link(const BoardUse& board, LinkServices& services);

} // namespace cognitum
