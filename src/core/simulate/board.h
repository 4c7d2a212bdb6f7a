// The gauge board of Whelk Point as a simulation: an 8-bit 5 V board with a 10-bit converter that prints one line
// every interval, reads an analog thermometer on A2, obeys commands, and takes faults by name.
#pragma once

#include "core/base/time.h"

#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

namespace cognitum::simulate {

enum class Fault { none, unplugged_sensor, stuck, clipped, noisy, half_lines };
/// "unplugged-sensor", …; "none".
std::string fault_name(Fault fault);
bool find_fault(std::string_view name, Fault& out);
const std::vector<Fault>& all_faults();

/// What is true of this board and this sensor, and what calibration has to find.
struct Truth {
    double zero_V = 0.5058;    ///< output at 0 °C; the data sheet says 0.500
    double slope_V = 0.010022; ///< per °C; the data sheet says 0.010
    double supply_V = 4.996;   ///< converter's reference while it is the supply
    double internal_V = 1.087; ///< its internal reference
    double response_s = 5;     ///< time constant
    double noise_V = 0.0016;   ///< 1 sigma at the pin
};

struct BoardSettings {
    std::uint64_t seed = 20261;
    int interval_ms = 1000;
    Truth truth;
};

class Board {
  public:
    Board(BoardSettings settings, TimeUs start);

    /// Header of a reset: a comment with what the board is, and the names of the columns.
    std::string reset(TimeUs now);
    /// One measurement, as the bytes that the board sends. Half a line (no end) under the fault half-lines.
    std::string measure(TimeUs now);
    /// Answer to one command line, as comment lines. Commands: help.
    std::string command(std::string_view line, TimeUs now);

    [[nodiscard]] int interval_ms() const { return m_settings.interval_ms; }
    /// True temperature around the probe, °C.
    [[nodiscard]] double surroundings(TimeUs now) const;
    /// Code that the converter would give now; moves the sensor's own temperature to `now`.
    int code(TimeUs now);

  private:
    void settle(TimeUs now);

    BoardSettings m_settings;
    TimeUs m_reset_at = 0, m_last = 0;
    double m_probe_degC = 0; ///< of the sensor itself, lagging behind
    std::int64_t m_sequence = 0, m_draws = 0;
    bool m_internal_reference = false;
    Fault m_fault = Fault::none;
    int m_stuck_code = -1;
    double m_bath_degC = 0;
    bool m_in_bath = false;
};

} // namespace cognitum::simulate
