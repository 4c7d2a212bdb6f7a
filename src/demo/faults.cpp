#include "demo/faults.h"

#include <algorithm>

namespace cognitum::demo {

const std::vector<Fault>& all_faults() {
    static const std::vector<Fault> all = {
        {"unplugged-sensor", "gauge", "hut-air", "The thermometer’s signal wire is off: the pin floats.",
         "floating"},
        {"stuck", "gauge", "hut-air", "The thermometer repeats one code.", "stuck"},
        {"clipped", "gauge", "hut-air", "The thermometer’s ground is off: its output is above the reference.",
         "clipped"},
        {"noisy", "gauge", "hut-air", "No capacitor at the thermometer: its output shakes.", "noisy"},
        {"spikes", "gauge", "hut-air", "A pump switches nearby: single values jump out.", "spikes"},
        {"hum", "gauge", "rock", "The probe’s wire runs beside a mains cable; seen at an interval of 5 ms.", "hum"},
        {"drift", "gauge", "rock", "The divider warms itself: the code creeps in one direction.", "drift"},
        {"loose-wire", "gauge", "rock", "A screw of the divider is loose: the code falls to the rail and back.",
         "loose-contact"},
        {"flue-open", "gauge", "stove-flue", "The thermocouple is open: the converter says so.", "failed"},
        {"whole-degrees", "gauge", "stove-flue", "The program divides whole numbers: no quarters of a degree.",
         "whole-steps"},
        {"bouncing-contact", "gauge", "rain", "The bucket’s contact bounces: one tip counts several times.",
         "bounce"},
        {"light-leak", "gauge", "pulse", "Lamps on the mains get past the finger.", "light-leak"},
        {"pressed-hard", "gauge", "pulse", "The finger presses: the top of the wave is cut.", "clipped"},
        {"half-lines", "gauge", "", "Two programs share the port: lines are cut.", "half-lines"},
        {"wrong-speed", "gauge", "", "The board speaks at 9 600 Bd.", "wrong-speed"},
        {"doubled-lines", "gauge", "", "Every fourth line is sent twice.", "duplicates"},
        {"shuffled-lines", "gauge", "", "Lines overtake each other.", "reordered"},
        {"lost-lines", "gauge", "", "One line in six is lost.", "gaps"},
        {"uneven", "gauge", "", "A slow display in the loop: intervals scatter.", "jitter"},
        {"fast-clock", "gauge", "", "The board’s resonator is 0.6 % fast.", "clock-rate"},
        {"brown-out", "gauge", "", "The supply dips: the board starts anew every ten seconds.", "restarts"},
        {"hangs", "gauge", "", "The program hangs: nothing is sent.", "silent"},
        {"runaway", "gauge", "", "The program’s pause is missing: lines come twenty times as fast.", "too-fast"},
        {"no-echo", "shed", "tide-pool", "Spray on the ranger’s face: four echoes in ten do not come back.",
         "failed"},
        {"probe-lost", "shed", "pool-water", "The probe’s wire is open now and then: it says −127.", "failed"},
        {"power-on-value", "shed", "pool-water", "The probe is read before it has measured: it says 85.0.",
         "failed"},
        {"dry-probe", "shed", "conductivity", "The conductivity probe is out of the water.", "outside"},
        {"restless", "shed", "jetty", "The motion detector’s hold time is at its shortest and the sun shines in.",
         "bounce"},
        {"soaked", "shed", "humidity", "Dew on the humidity sensor: it says 100 %.", "clipped"},
        {"clock-back", "shed", "", "The board’s clock is set back by ten minutes now and then.", "clock-back"},
        {"clock-behind", "shed", "", "The board’s clock was set by hand, forty seconds late.", "clock-offset"},
        {"overflow", "pump-house", "daylight", "The program counts light in 16 signed bits.", "overflow"},
        {"glare", "pump-house", "daylight", "A lamp shines into the light sensor: its counter is full.", "failed"},
        {"bed-unplugged", "pump-house", "bed-1", "The probe of bed 1 is off the converter: the channel floats.",
         "floating"},
        {"converter-gone", "pump-house", "bed-2", "The converter does not answer now and then.", "failed"},
        {"tap-left-open", "pump-house", "cistern", "The cistern runs out through an open tap.", "drift"},
    };
    return all;
}

const Fault* find_fault(std::string_view name) {
    const auto& all = all_faults();
    const auto known = std::find_if(all.begin(), all.end(), [&](const Fault& f) { return f.name == name; });
    return known == all.end() ? nullptr : &*known;
}

bool Faults::change(std::string_view text) {
    if (text == "none") {
        m_on.clear();
        return true;
    }
    const char sign = text.empty() ? ' ' : text.front();
    if (sign == '+' || sign == '-') text.remove_prefix(1);
    if (!find_fault(text)) return false;
    if (sign != '+' && sign != '-') m_on.clear();
    if (sign == '-')
        m_on.erase(std::string(text));
    else
        m_on.emplace(text);
    return true;
}

std::string Faults::text() const {
    std::string out;
    for (const std::string& name : m_on)
        out += (out.empty() ? "" : " ") + name;
    return out.empty() ? "none" : out;
}

} // namespace cognitum::demo
