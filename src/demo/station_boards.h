// The other senders of Whelk Point: the shed board (messages under topics), the pump-house board (posted bodies)
// and the receiver of the tyre's beacon (a growing log file).
#pragma once

#include "demo/board.h"

#include <array>
#include <optional>

namespace cognitum::demo {

/// Things that a board does at intervals of their own.
class ScheduledBoard : public Board {
  public:
    std::vector<Sent> step(TimeUs now) override;
    [[nodiscard]] TimeUs next() const override;
    std::string command(std::string_view line, TimeUs now) override;

  protected:
    ScheduledBoard(std::uint64_t seed, std::vector<TimeUs> intervals, TimeUs start);
    /// Job `job` is due at `now`.
    virtual void send(std::size_t job, TimeUs now, std::vector<Sent>& out) = 0;
    [[nodiscard]] std::uint64_t seed() const { return m_seed; }
    std::int64_t next_draw() { return m_draws++; }
    [[nodiscard]] TimeUs faultSince() const { return m_fault_since; }

  private:
    std::uint64_t m_seed;
    std::int64_t m_draws;
    std::vector<TimeUs> m_intervals, m_due;
    TimeUs m_fault_since = 0;
};

/// What the shed board's sensors say at one moment.
struct PoolNumbers {
    long echo_us = 0; ///< 0: no echo
    double water_degC = 0;
    int salt_code = 0; ///< of the conductivity probe, 12 bits
};
struct AirNumbers {
    double pressure_hPa = 0, humidity = 0;
};

/// 3.3 V, 12 bits, Wi-Fi. Topics shed/pool (JSON with sequence and time), shed/air, shed/jetty (a bare 0 or 1),
/// shed/status (retained).
class ShedBoard : public ScheduledBoard {
  public:
    ShedBoard(const BoardSettings& settings, TimeUs start);
    std::vector<Sent> start(TimeUs now) override;

    PoolNumbers measure_pool(TimeUs now);
    AirNumbers measure_air(TimeUs now);

  private:
    void send(std::size_t job, TimeUs now, std::vector<Sent>& out) override;
    std::string pool(TimeUs now);
    std::int64_t m_sequence = 0;
    int m_tick = 0;
    TimeUs m_moved = 0;
};

/// What the pump-house board's sensors say at one moment.
struct HouseNumbers {
    long range_mm = 0;                      ///< down to the cistern's water
    double litres = 0;                      ///< that the board's own program makes of it
    std::array<std::optional<int>, 4> beds; ///< codes; empty: the converter did not answer
};
inline constexpr TimeUs beacon_every = 3 * minute_us;

/// 3.3 V, Wi-Fi, one analog input and a 16-bit converter. Posts a nested JSON body every minute and the light as
/// form fields every ten seconds.
class PumpHouseBoard : public ScheduledBoard {
  public:
    PumpHouseBoard(const BoardSettings& settings, TimeUs start);
    std::vector<Sent> start(TimeUs now) override;

    /// `more_litres`: in the cistern beside what the world says.
    HouseNumbers measure(TimeUs now, double more_litres = 0);
    double measure_light(TimeUs now); ///< lx

  private:
    void send(std::size_t job, TimeUs now, std::vector<Sent>& out) override;
    std::string light(TimeUs now);
    std::int64_t m_sequence = 0;
};

/// What the tyre's beacon reports.
struct TyreNumbers {
    double kPa = 0, degC = 0;
};

/// Lines `time,kPa,degC` of a file, every three minutes while the trailer rolls.
class BeaconLog : public ScheduledBoard {
  public:
    BeaconLog(const BoardSettings& settings, TimeUs start);
    /// Header and the reports of the last two hours.
    std::vector<Sent> start(TimeUs now) override;
    TyreNumbers measure(TimeUs now);

  private:
    void send(std::size_t job, TimeUs now, std::vector<Sent>& out) override;
};

} // namespace cognitum::demo
