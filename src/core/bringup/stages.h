// The bring-up of a reading in seven stages: a fixed order tells where a fault is. What is signed stands in the
// plan (BringUp); here is what each stage asks for and which of them hold today.
#pragma once

#include "core/base/phrase.h"
#include "core/bench/bench.h"

namespace cognitum {

struct BringUpStage {
    std::string id;             ///< "board-alone"; stands in bench files
    Phrase title;               ///< "board alone"
    Phrase about;               ///< what is tested, and what it leaves out
    std::vector<Phrase> checks; ///< to look at before it
    bool repeats = false;       ///< to be done again after sealing or any mechanical change
};
/// In their order.
const std::vector<BringUpStage>& bring_up_stages();
const BringUpStage* find_stage(std::string_view id);

enum class StageState {
    open,   ///< never signed
    passed, ///< signed, and nothing has moved since
    failed, ///< signed as not passed
    again,  ///< passed, but it was moved, opened or sealed after that
};

struct StageReport {
    const BringUpStage* stage = nullptr;
    StageState state = StageState::open;
    const SignOff* last = nullptr; ///< the signature that counts; null: none
};
/// One for each stage, in order. Points into `bring_up`.
std::vector<StageReport> stage_reports(const BringUp& bring_up);

/// Index of the stage to do next: the first that failed, else the first that is open or must be repeated; the
/// number of stages when all hold.
std::size_t next_stage(const std::vector<StageReport>& reports);

/// "5 of 7 signed", "3 to repeat"; a few words for a person.
std::string bring_up_summary(const BringUp& bring_up);

} // namespace cognitum
