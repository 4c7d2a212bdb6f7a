// What a control would have done over what was recorded, with what its load does to the readings put on top.
#pragma once

#include "core/act/load_judge.h"
#include "core/base/no_number.h"

#include <array>
#include <cstdint>
#include <string>
#include <vector>

namespace cognitum {

inline constexpr std::size_t most_load_events = 2000;

struct LoadTrial {
    std::vector<LoadEvent> events; ///< in order of time, the first most_load_events
    std::uint64_t runs = 0;
    TimeUs on = 0, longest = 0;          ///< in all; of one run
    std::array<std::uint64_t, 7> ends{}; ///< runs by what ended them, by LoadCause
    std::uint64_t runs_without = 0;      ///< had it no effect on any reading
    std::uint64_t dry_runs = 0;    ///< in which a reading that the load draws from came to the low end of its range
    TimeUs dry = 0, dry_first = 0; ///< how long in all, and when first
    std::string dry_reading;       ///< id
    TimeUs blind = 0;              ///< on while its rule's reading had said nothing for three of its intervals
    std::uint64_t tips = 0, tips_missed = 0; ///< on record, and while its board would sleep
    TimeUs unseen_silence = 0; ///< a shorter one cannot be told from the steps of the record; 0: as while it acts
    std::uint64_t lines = 0;
    TimeUs first = 0, last = 0; ///< of them
    bool goes_on = false;       ///< on at the end
    bool with_effects = false;
    std::string trouble; ///< why it could not be tried; empty: it was
};

/// Follows one control line by line, with what its load does: each value is what was recorded and what the load
/// adds to it. Something that the load fills or empties stays within its range; what it put in is lost as the rest
/// is, in proportion as the record falls.
class LoadTrialRun {
  public:
    /// See LoadJudge; `readings` names those of the lines, by place: all of the control's and of its effects'.
    LoadTrialRun(const LoadControl& control, const WatchRule& rule, const Bench& bench,
                 std::vector<std::string> readings, const DoubtOf& doubt_of, const ZoneOffset& zone,
                 bool with_effects);
    void take(int reading, TimeUs time, double value);
    /// The end of what was recorded.
    LoadTrial finish();

  private:
    struct Driven {
        double at_once = 0, an_hour = 0;
        double low = 0, high = 0;
        double added = 0;            ///< by the load so far
        double recorded = no_number; ///< where the record stood when it last moved by more than noise
        TimeUs on_before = 0;        ///< how long it had been on at the reading's last line
        TimeUs ran_at_line = 0;      ///< time of that line
    };
    [[nodiscard]] double driven(int reading, TimeUs time, double value);
    [[nodiscard]] TimeUs on_until(TimeUs now) const;
    void count(const std::vector<LoadEvent>& events);
    void count_blind(TimeUs now);
    LoadJudge m_judge;
    std::vector<std::string> m_readings;
    std::vector<int> m_places; ///< of each reading in the judge's list; -1: only driven
    std::vector<Driven> m_driven;
    std::vector<bool> m_is_driven;
    int m_watched = 0; ///< the rule's first reading
    TimeUs m_patience; ///< three of its intervals
    TimeUs m_last_value = 0, m_blind_counted = 0;
    TimeUs m_dry_run = 0; ///< begin of the run that was counted as dry
    LoadTrial m_trial;
    TimeUs m_on_since = 0;
    std::vector<LoadEvent> m_events;
};

/// All readings that a trial needs, each once.
std::vector<std::string> trial_readings(const LoadControl& control, const WatchRule& rule);
/// The load answers to its own effect: it would have run far more often than without it.
bool answers_itself(const LoadTrial& trial);

} // namespace cognitum
