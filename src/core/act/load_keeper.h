// All controls of a bench that act: told every line, it says which loads are to be switched.
#pragma once

#include "core/act/load_judge.h"

#include <map>
#include <string>
#include <vector>

namespace cognitum {

struct ControlEvent {
    std::string control; ///< id
    LoadEvent event;
};

/// Why this control cannot be judged: its load, its rule or a reading is gone, its rule is off, or it has a defect;
/// empty: it can.
std::string why_not(const LoadControl& control, const Bench& bench);

class LoadKeeper {
  public:
    explicit LoadKeeper(ZoneOffset zone = {}) : m_zone(std::move(zone)) {}

    /// A control that did not change, with the same rule on the same readings, keeps its state; one that changed
    /// or went while its load was on ends with it off. Of two that act on one load the first does.
    void set_plan(const Bench& bench, const DoubtOf& doubt_of, TimeUs now, std::vector<ControlEvent>& out);
    /// A line of a reading; NaN: without a value. `arrival`: see RuleJudge::take().
    void take(const std::string& reading, TimeUs time, double value, std::vector<ControlEvent>& out,
              std::optional<TimeUs> arrival = {});
    void pass(TimeUs now, std::vector<ControlEvent>& out);
    void hand(const std::string& control, std::optional<bool> on, TimeUs until, TimeUs now,
              std::vector<ControlEvent>& out);

    /// nullptr: no such control, or it does not act.
    [[nodiscard]] const LoadJudge* judge(const std::string& control) const;
    [[nodiscard]] std::vector<std::string> controls() const;

  private:
    struct Kept {
        LoadJudge judge;
        std::vector<Quantity> quantities; ///< of its readings when it was made
    };
    void tell(const std::string& control, std::vector<ControlEvent>& out);
    ZoneOffset m_zone;
    std::map<std::string, Kept> m_kept;                                           ///< by id of the control
    std::map<std::string, std::vector<std::pair<std::string, int>>> m_by_reading; ///< controls, with its place
    std::vector<LoadEvent> m_events;
};

} // namespace cognitum
