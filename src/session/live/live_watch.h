// The watch rules of the open bench while lines come: judged in the worker's thread, in the logbook at once, and
// told once. What was raised before the program started is read from the record, and not told again.
#pragma once

#include "core/watch/keeper.h"
#include "core/watch/teller.h"
#include "session/live/live.h"
#include "session/live/notice.h"

#include <functional>

namespace cognitum {

class BenchFile;

class LiveWatch {
  public:
    using WriteLog = std::function<void(const std::string& reading, const char* kind, const std::string& text)>;
    using Tell = std::function<void(const ToldNotice&)>;
    LiveWatch(LiveShare* share, Clock clock, WriteLog write_log, Tell tell);

    /// `file`: of the bench, where the last days are read from; nullptr: not again.
    void setPlan(const Bench& bench, const DoubtOf& doubt_of, BenchFile* file);
    void take(const std::string& reading, TimeUs time, double value);
    /// Once a second.
    void pass();
    void seen(const std::string& rule);
    void close();
    [[nodiscard]] bool looksAt(const std::string& reading) const { return m_keeper.looks_at(reading); }

  private:
    void handle(const std::vector<RuleEvent>& events);
    void tell(const Notice& notice);
    void share();
    LiveShare* m_share;
    Clock m_clock;
    WriteLog m_write_log;
    Tell m_tell;
    ZoneOffset m_zone;
    Bench m_bench;
    WatchKeeper m_keeper;
    Teller m_teller;
    std::vector<RuleEvent> m_events;
};

} // namespace cognitum
