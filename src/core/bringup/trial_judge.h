// Inside of judge_trial(): the samples parted at the start of a trial, and one judge for each movement.
#pragma once

#include "core/base/no_number.h"
#include "core/bringup/trial.h"

#include <algorithm>

namespace cognitum {

/// The samples of a trial, parted at its start, with what is worked out of those before.
struct Parted {
    std::vector<double> before;     ///< finite
    std::vector<RawSample> after;   ///< all
    std::vector<double> after_good; ///< finite ones of them
    double level = no_number, noise = 0, scatter = 0;
};

/// `gathers`: the first values after the start may serve as the level before.
Parted part(const Trial& trial, std::span<const RawSample> samples, double interval_s, bool gathers);

class Judge {
  public:
    Judge(const Trial& trial, const TrialAbout& about, std::span<const RawSample> samples, LineCount lines,
          TimeUs now)
        : s(*trial.stimulus),
          m_trial(trial),
          m_about(about),
          m_lines(lines),
          m_now(now),
          m_interval(about.signal.promised_s > 0 ? about.signal.promised_s : 1),
          m_parted(part(trial, samples, m_interval, needs_level())),
          m_limit(std::max({s.within_s, 4 * about.response_s, 8 * m_interval})) {}

    TrialView judge();

  private:
    [[nodiscard]] bool needs_level() const {
        return s.movement != Movement::agrees && s.movement != Movement::arrives && s.movement != Movement::beats &&
               s.movement != Movement::counts;
    }
    [[nodiscard]] std::string amount(double raw) const;
    [[nodiscard]] double raw_step(double change) const;
    [[nodiscard]] double recent() const;
    [[nodiscard]] double size() const;
    [[nodiscard]] std::string seen_move() const;
    void move(int direction);
    void come_back();
    void sweep();
    void count();
    void stand();
    void calm();
    void agree();
    void arrive();
    void beat();
    void break_off();
    void end(bool passed) { v.phase = passed ? TrialPhase::passed : TrialPhase::failed; }
    [[nodiscard]] bool late() const { return elapsed() >= m_limit; }
    [[nodiscard]] double elapsed() const { return seconds(m_now - m_trial.started); }

    const Stimulus& s;
    const Trial& m_trial;
    const TrialAbout& m_about;
    LineCount m_lines;
    TimeUs m_now;
    double m_interval;
    Parted m_parted;
    double m_limit;
    TrialView v;
};

} // namespace cognitum
