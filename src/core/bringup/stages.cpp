#include "core/bringup/stages.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

const std::vector<BringUpStage>& bring_up_stages() {
    static const std::vector<BringUpStage> stages = {
        {"board-alone",
         "board alone",
         "Nothing is wired to it: does its program run, and does a line come at all?",
         {"The programming adapter gives the board’s voltage, no more.",
          "The adapter’s transmit goes to the board’s receive, and receive to transmit.",
          "The boot pin was held while the program went in, and is let go.",
          "What is built into a mains unit is pulled out of the mains.", "Both ends run at the same speed."},
         false},
        {"sensor-alone",
         "sensor alone",
         "One sensor on its wire, with a short test program: does its number follow what you do to it?",
         {"Supply and ground are measured at the sensor’s own legs.",
          "No other part shares its pin or its bus address."},
         false},
        {"link-alone",
         "link alone",
         "Made-up numbers over the real link: does the network let the board in, and does every line arrive?",
         {"Names and passwords are exact, in upper and lower case.", "The address answers from this computer.",
          "The board’s place has signal: try it there, not on the desk."},
         false},
        {"together",
         "together",
         "Sensor and link at once: the two may disturb each other through supply and time.",
         {"The supply stays up while the radio sends.", "Lines keep their interval while the sensor measures."},
         false},
        {"housed",
         "housed",
         "In its box: does it still answer as it did in the open?",
         {"No wire is pinched, and every plug has a hold.", "Nothing warm stands beside the sensor."},
         true},
        {"in-place",
         "in place",
         "Where it will stay: the real cable, the real supply, the real target.",
         {"Ladders, water and moving machines: have a second person there, and follow what your place asks.",
          "The cable runs apart from mains cables."},
         true},
        {"sealed",
         "sealed",
         "After glue, gel or lid: sealing bends and warms, and both move a calibration.",
         {"The seal has set: some glues warm up while they do.",
          "What was calibrated before is checked against a reference again."},
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

std::string bring_up_summary(const BringUp& bring_up, TimeUs now) {
    const auto reports = stage_reports(bring_up);
    const auto count = [&](StageState state) {
        return std::count_if(reports.begin(), reports.end(),
                             [&](const StageReport& r) { return r.state == state; });
    };
    if (const auto failed = count(StageState::failed); failed > 0)
        return fmt::format("{} did not pass", reports[next_stage(reports)].stage->title);
    if (const auto again = count(StageState::again); again > 0)
        return fmt::format("{} {} ago: {} to repeat",
                           bring_up.disturbed_how.empty() ? "moved" : bring_up.disturbed_how,
                           age_text(now - bring_up.disturbed), again);
    return fmt::format("{} of {} signed", count(StageState::passed), reports.size());
}

} // namespace cognitum
