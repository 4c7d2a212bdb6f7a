// The controls of the open bench while lines come: decided in the worker's thread, told to the load's board and
// told again within its time-out, in the logbook at once. What cannot be told is tried again, and a person hears of
// it.
#pragma once

#include "core/act/load_keeper.h"
#include "session/live/live.h"
#include "session/live/notice.h"

#include <functional>

namespace cognitum {

class LiveActing {
  public:
    using WriteLog = std::function<void(const std::string& reading, const char* kind, const std::string& text)>;
    using Tell = std::function<void(const ToldNotice&)>;
    /// Sends what the load's board is told; false: its link is not open, or takes no commands.
    using Send = std::function<bool(const std::string& board, const std::string& load, const std::string& line,
                                    const std::string& topic)>;
    LiveActing(LiveShare* share, Clock clock, WriteLog write_log, Tell tell, Send send);

    void setPlan(const Bench& bench, const DoubtOf& doubt_of);
    void take(const std::string& reading, TimeUs time, double value);
    /// Once a second.
    void pass();
    /// On or off by a person until then; empty: by its rule again.
    void hand(const std::string& control, std::optional<bool> on, TimeUs until);
    /// What a board answered to a command.
    void answered(const std::string& board, const std::string& text);
    /// A board's link came or went: its loads are told anew.
    void linkChanged(const std::string& board, bool open);
    /// All loads off, and nothing is controlled any more.
    void close();

  private:
    /// What the load was told.
    struct Told {
        bool on = false, ok = false;
        TimeUs at = 0;           ///< of the last try
        TimeUs failing_from = 0; ///< 0: it was told
        std::string refused;     ///< what its board answered
        bool complained = false;
    };
    void handle(const std::vector<ControlEvent>& events, const Bench& bench);
    void tellLoad(const LoadControl& control, const Bench& bench, bool on);
    void complain(const LoadControl& control, Told& told);
    void notice(const LoadControl& control, const std::function<std::string()>& says, bool over);
    [[nodiscard]] std::string trouble(const Told& told) const;
    void share();
    LiveShare* m_share;
    Clock m_clock;
    WriteLog m_write_log;
    Tell m_tell;
    Send m_send;
    Bench m_bench;
    LoadKeeper m_keeper;
    std::map<std::string, Told> m_told; ///< by id of the control
    std::vector<ControlEvent> m_events;
};

} // namespace cognitum
