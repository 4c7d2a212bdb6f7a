// The gauge board of Whelk Point: 8 bits, 5 V, a 10-bit converter. One line of a table every interval (rock
// thermistor on A1, hut thermometer on A2, flue in quarter degrees, tips of the rain gauge, beats a minute by a
// fixed threshold), and between them the wave of the pulse probe on A0 every 16 ms.
#pragma once

#include "demo/board.h"

#include <deque>

namespace cognitum::demo {

/// What is true of this board and its thermometer, and what calibration has to find.
struct Truth {
    double zero_V = 0.5058;    ///< output at 0 °C; the data sheet says 0.500
    double slope_V = 0.010022; ///< per °C; the data sheet says 0.010
    double supply_V = 4.996;   ///< converter's reference while it is the supply
    double internal_V = 1.087; ///< its internal reference
    double response_s = 5;     ///< time constant
    double noise_V = 0.0016;   ///< 1 sigma at the pin
};

/// What its sensors say at one moment.
struct GaugeNumbers {
    int rock_code = 0, air_code = 0;
    double flue_degC = 0; ///< as its converter chip sees it; NaN: it is open
};

class GaugeBoard : public Board {
  public:
    GaugeBoard(const BoardSettings& settings, TimeUs start);

    std::vector<Sent> start(TimeUs now) override;
    std::vector<Sent> step(TimeUs now) override;
    [[nodiscard]] TimeUs next() const override;
    std::string command(std::string_view line, TimeUs now) override;

    /// Header of a reset: a comment with what the board is, and the names of the columns.
    std::string reset(TimeUs now);
    /// One measurement, as the bytes that the board sends. Half a line (no end) under the fault half-lines.
    std::string measure(TimeUs now);
    [[nodiscard]] int interval_ms() const { return m_interval_ms; }
    /// True temperature around the hut's probe, °C.
    [[nodiscard]] double surroundings(TimeUs now) const;
    GaugeNumbers numbers(TimeUs now);
    /// Code of the hut's thermometer now; moves the sensor's own temperature to `now`.
    int code(TimeUs now);
    /// Code of the pulse probe now; each call is one sample.
    int pulse_code(TimeUs now);
    /// Of the rain gauge's bucket, since the board began.
    std::int64_t tips(TimeUs now);

  private:
    void settle(TimeUs now);
    [[nodiscard]] std::int64_t own_ms(TimeUs now) const; ///< since its start, by its own clock
    [[nodiscard]] double reference_V() const {
        return m_internal_reference ? m_truth.internal_V : m_truth.supply_V;
    }
    int rock_code(TimeUs now);
    double flue_degC(TimeUs now);
    void send_line(TimeUs now, std::vector<Sent>& out);
    [[nodiscard]] std::string bench_command(std::string_view word, std::string_view rest);

    std::uint64_t m_seed;
    Truth m_truth;
    int m_interval_ms;
    TimeUs m_reset_at = 0, m_last = 0, m_next_line = 0, m_next_wave = 0;
    double m_probe_degC = 0; ///< of the sensor itself, lagging behind
    std::int64_t m_sequence = 0, m_draws = 0;
    bool m_internal_reference = false, m_wave_on = true;
    int m_stuck_code = -1;
    double m_bath_degC = 0;
    bool m_in_bath = false;
    TimeUs m_fault_since = 0;
    std::int64_t m_extra_tips = 0, m_tips_by_hand = 0, m_tips_before = 0;
    std::string m_held_back; ///< a line that another one overtakes
    std::deque<TimeUs> m_beats;
    bool m_above = false;
};

} // namespace cognitum::demo
