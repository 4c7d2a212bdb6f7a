// A simulated board: a schedule of things that it sends, commands that it obeys, faults by name. What it sends is
// the text that its program makes of the codes that its sensors give.
#pragma once

#include "core/base/time.h"
#include "demo/faults.h"
#include "demo/loads.h"

#include <memory>
#include <string>
#include <string_view>
#include <vector>

namespace cognitum::demo {

/// One thing sent: a line on the wire, a message under a topic, a posted body, a line of a log file.
struct Sent {
    TimeUs time = 0;
    std::string channel; ///< topic or path; empty: the wire
    std::string bytes;
    bool retained = false;
};

struct BoardSettings {
    std::uint64_t seed = 20261;
    int interval_ms = 0;   ///< between lines; 0: the board's own
    double response_s = 0; ///< time constant of its thermometer; 0: the sensor's own
};

/// What a person does to one of the sensors: the stimulus of a test, by its id in data/bringup/stimuli.json.
class Hand {
  public:
    /// "STIMULUS READING", or "off". False when it is neither.
    bool change(std::string_view text);
    [[nodiscard]] bool on(std::string_view reading) const { return m_reading == reading; }
    [[nodiscard]] bool on(std::string_view reading, std::string_view stimulus) const {
        return m_reading == reading && m_stimulus == stimulus;
    }
    /// +1 for a hand that warms, −1 for one that cools, 0 for none of both.
    [[nodiscard]] double warmth(std::string_view reading) const;
    [[nodiscard]] std::string text() const { return m_reading.empty() ? "off" : m_stimulus + " " + m_reading; }

  private:
    std::string m_stimulus, m_reading;
};

/// What is due longer than this is left out.
inline constexpr TimeUs most_late = minute_us;

class Board {
  public:
    virtual ~Board() = default;
    /// What it sends after power: a header, a status.
    virtual std::vector<Sent> start(TimeUs now) = 0;
    /// Everything that is due up to `now`, in order of time. Bounded: what is more than a minute late is left out.
    virtual std::vector<Sent> step(TimeUs now) = 0;
    /// When step() has something to do next.
    [[nodiscard]] virtual TimeUs next() const = 0;
    /// Answer to one command line: comment lines ("# ok …", "# error …"). Known to all: help, fault, reset.
    virtual std::string command(std::string_view line, TimeUs now) = 0;
    [[nodiscard]] const Faults& faults() const { return m_faults; }

  protected:
    Faults m_faults;
    Hand m_hand;
    /// Answer to "load NAME on SECONDS", "screen off" and the like; empty: it is no such line.
    std::string load_command(std::string_view line, TimeUs now);
    Loads m_loads;
    bool m_lamp_is_screened = true; ///< from the light sensor
};

/// The boards of Whelk Point: "gauge", "shed", "pump-house", and "beacon-log", the receiver's growing file. Null
/// for any other name.
std::unique_ptr<Board> make_board(std::string_view name, const BoardSettings& settings, TimeUs now);
const std::vector<std::string>& board_names();
/// Name of the board that is simulated where a bench calls one `id`: itself, or the gauge board, so that any board
/// of any bench may be simulated.
std::string_view stand_in(std::string_view id);

/// Whole code of an ideal converter of so many bits, clipped at its rails.
int converter_code(double volts, double reference_V, int bits);

} // namespace cognitum::demo
