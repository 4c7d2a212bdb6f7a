#include "core/bringup/stages.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

const std::vector<BringUpStage>& bring_up_stages() {
    static const std::vector<BringUpStage> stages = {
        {"board-alone",
         for_people("board alone"),
         for_people("Nothing is wired to it: does its program run, and does a line come at all?"),
         {for_people("The programming adapter gives the board’s voltage, no more."),
          for_people("The adapter’s transmit goes to the board’s receive, and receive to transmit."),
          for_people("The boot pin was held while the program went in, and is let go."),
          for_people("What is built into a mains unit is pulled out of the mains."),
          for_people("Both ends run at the same speed.")},
         false},
        {"sensor-alone",
         for_people("sensor alone"),
         for_people("One sensor on its wire, with a short test program: does its number follow what you do to it?"),
         {for_people("Supply and ground are measured at the sensor’s own legs."),
          for_people("No other part shares its pin or its bus address.")},
         false},
        {"link-alone",
         for_people("link alone"),
         for_people(
             "Made-up numbers over the real link: does the network let the board in, and does every line arrive?"),
         {for_people("Names and passwords are exact, in upper and lower case."),
          for_people("The address answers from this computer."),
          for_people("The board’s place has signal: try it there, not on the desk.")},
         false},
        {"together",
         for_people("together"),
         for_people("Sensor and link at once: the two may disturb each other through supply and time."),
         {for_people("The supply stays up while the radio sends."),
          for_people("Lines keep their interval while the sensor measures.")},
         false},
        {"housed",
         for_people("housed"),
         for_people("In its box: does it still answer as it did in the open?"),
         {for_people("No wire is pinched, and every plug has a hold."),
          for_people("Nothing warm stands beside the sensor.")},
         true},
        {"in-place",
         for_people("in place"),
         for_people("Where it will stay: the real cable, the real supply, the real target."),
         {for_people(
              "Ladders, water and moving machines: have a second person there, and follow what your place asks."),
          for_people("The cable runs apart from mains cables.")},
         true},
        {"sealed",
         for_people("sealed"),
         for_people("After glue, gel or lid: sealing bends and warms, and both move a calibration."),
         {for_people("The seal has set: some glues warm up while they do."),
          for_people("What was calibrated before is checked against a reference again.")},
         true},
    };
    return stages;
}

const BringUpStage* find_stage(std::string_view id) {
    for (const BringUpStage& stage : bring_up_stages())
        if (stage.id == id) return &stage;
    return nullptr;
}

std::vector<StageReport> stage_reports(const BringUp& bring_up) {
    std::vector<StageReport> out;
    for (const BringUpStage& stage : bring_up_stages()) {
        StageReport report{&stage, StageState::open, nullptr};
        for (const SignOff& sign : bring_up.signs)
            if (sign.stage == stage.id) report.last = &sign;
        if (report.last && !report.last->passed)
            report.state = StageState::failed;
        else if (report.last && stage.repeats && report.last->time < bring_up.disturbed)
            report.state = StageState::again;
        else if (report.last)
            report.state = StageState::passed;
        out.push_back(report);
    }
    return out;
}

std::size_t next_stage(const std::vector<StageReport>& reports) {
    for (const auto wanted : {+[](StageState s) { return s == StageState::failed; },
                              +[](StageState s) { return s == StageState::open || s == StageState::again; }})
        for (std::size_t i = 0; i < reports.size(); ++i)
            if (wanted(reports[i].state)) return i;
    return reports.size();
}

std::string bring_up_summary(const BringUp& bring_up) {
    const auto reports = stage_reports(bring_up);
    const auto count = [&](StageState state) {
        return std::count_if(reports.begin(), reports.end(),
                             [&](const StageReport& r) { return r.state == state; });
    };
    if (const auto failed = count(StageState::failed); failed > 0)
        return phrase("{} did not pass", reports[next_stage(reports)].stage->title);
    if (const auto again = count(StageState::again); again > 0) return phrase("{} to repeat", again);
    return phrase("{} of {} signed", count(StageState::passed), reports.size());
}

} // namespace cognitum
