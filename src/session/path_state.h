// The seven stops of a reading as the path line shows them: how far each is, and its live value in words.
#pragma once

#include "session/session.h"

#include <array>

namespace cognitum {

enum class Mark { not_begun, done, look, bad };

struct StopState {
    Mark mark = Mark::not_begun;
    QString text; ///< under the stop
};

struct PathState {
    std::array<StopState, 7> stops;
    int reaches = 0; ///< index of the last stop that a fresh value gets to; −1: none
    Freshness freshness = Freshness::none;
    Mark mark = Mark::not_begun; ///< of the whole reading, for the rail
    QString value;               ///< with its unit, or a dash
    QString word;                ///< the band's word, or why there is no value
    QString age;                 ///< "2 s"; empty when nothing came yet
    QString about;               ///< beside the name: "gauge board · every 1 s · fresh"
    int next = -1;               ///< first stop at which nothing was done yet; −1: there is none
    QString next_step;           ///< what is done there
};

PathState path_state(const Session& session, const Reading& reading, const Live& live,
                     const std::vector<Finding>& findings);

/// Fills in what is done next.
void find_next_step(PathState& state);

/// "Quantity", "Sensor", …
QString stop_name(int stop);

} // namespace cognitum
