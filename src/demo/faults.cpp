#include "demo/faults.h"

#include "core/base/phrase.h"

#include <algorithm>

namespace cognitum::demo {

const std::vector<Fault>& all_faults() {
    static const std::vector<Fault> all = {
        {"unplugged-sensor", for_people("unplugged sensor"), "gauge", "hut-air",
         for_people("The thermometer’s signal wire is off: the pin floats."), "floating"},
        {"stuck", for_people("stuck"), "gauge", "hut-air", for_people("The thermometer repeats one code."),
         "stuck"},
        {"clipped", for_people("clipped"), "gauge", "hut-air",
         for_people("The thermometer’s ground is off: its output is above the reference."), "clipped"},
        {"noisy", for_people("noisy"), "gauge", "hut-air",
         for_people("No capacitor at the thermometer: its output shakes."), "noisy"},
        {"spikes", for_people("spikes"), "gauge", "hut-air",
         for_people("A pump switches nearby: single values jump out."), "spikes"},
        {"hum", for_people("hum"), "gauge", "rock",
         for_people("The probe’s wire runs beside a mains cable; seen at an interval of 5 ms."), "hum"},
        {"drift", for_people("drift"), "gauge", "rock",
         for_people("The divider warms itself: the code creeps in one direction."), "drift"},
        {"loose-wire", for_people("loose wire"), "gauge", "rock",
         for_people("A screw of the divider is loose: the code falls to the rail and back."), "loose-contact"},
        {"flue-open", for_people("flue open"), "gauge", "stove-flue",
         for_people("The thermocouple is open: the converter says so."), "failed"},
        {"whole-degrees", for_people("whole degrees"), "gauge", "stove-flue",
         for_people("The program divides whole numbers: no quarters of a degree."), "whole-steps"},
        {"bouncing-contact", for_people("bouncing contact"), "gauge", "rain",
         for_people("The bucket’s contact bounces: one tip counts several times."), "bounce"},
        {"light-leak", for_people("light leak"), "gauge", "pulse",
         for_people("Lamps on the mains get past the finger."), "light-leak"},
        {"pressed-hard", for_people("pressed hard"), "gauge", "pulse",
         for_people("The finger presses: the top of the wave is cut."), "clipped"},
        {"half-lines", for_people("half lines"), "gauge", "",
         for_people("Two programs share the port: lines are cut."), "half-lines"},
        {"wrong-speed", for_people("wrong speed"), "gauge", "", for_people("The board speaks at 9 600 Bd."),
         "wrong-speed"},
        {"doubled-lines", for_people("doubled lines"), "gauge", "", for_people("Every fourth line is sent twice."),
         "duplicates"},
        {"shuffled-lines", for_people("shuffled lines"), "gauge", "", for_people("Lines overtake each other."),
         "reordered"},
        {"lost-lines", for_people("lost lines"), "gauge", "", for_people("One line in six is lost."), "gaps"},
        {"uneven", for_people("uneven"), "gauge", "", for_people("A slow display in the loop: intervals scatter."),
         "jitter"},
        {"fast-clock", for_people("fast clock"), "gauge", "", for_people("The board’s resonator is 0.6 % fast."),
         "clock-rate"},
        {"brown-out", for_people("brown out"), "gauge", "",
         for_people("The supply dips: the board starts anew every ten seconds."), "restarts"},
        {"hangs", for_people("hangs"), "gauge", "", for_people("The program hangs: nothing is sent."), "silent"},
        {"runaway", for_people("runaway"), "gauge", "",
         for_people("The program’s pause is missing: lines come twenty times as fast."), "too-fast"},
        {"no-echo", for_people("no echo"), "shed", "tide-pool",
         for_people("Spray on the ranger’s face: four echoes in ten do not come back."), "failed"},
        {"probe-lost", for_people("probe lost"), "shed", "pool-water",
         for_people("The probe’s wire is open now and then: it says −127."), "failed"},
        {"power-on-value", for_people("power on value"), "shed", "pool-water",
         for_people("The probe is read before it has measured: it says 85.0."), "failed"},
        {"dry-probe", for_people("dry probe"), "shed", "conductivity",
         for_people("The conductivity probe is out of the water."), "outside"},
        {"restless", for_people("restless"), "shed", "jetty",
         for_people("The motion detector’s hold time is at its shortest and the sun shines in."), "bounce"},
        {"soaked", for_people("soaked"), "shed", "humidity",
         for_people("Dew on the humidity sensor: it says 100 %."), "clipped"},
        {"clock-back", for_people("clock back"), "shed", "",
         for_people("The board’s clock is set back by ten minutes now and then."), "clock-back"},
        {"clock-behind", for_people("clock behind"), "shed", "",
         for_people("The board’s clock was set by hand, forty seconds late."), "clock-offset"},
        {"overflow", for_people("overflow"), "pump-house", "daylight",
         for_people("The program counts light in 16 signed bits."), "overflow"},
        {"glare", for_people("glare"), "pump-house", "daylight",
         for_people("A lamp shines into the light sensor: its counter is full."), "failed"},
        {"bed-unplugged", for_people("bed unplugged"), "pump-house", "bed-1",
         for_people("The probe of bed 1 is off the converter: the channel floats."), "floating"},
        {"converter-gone", for_people("converter gone"), "pump-house", "bed-2",
         for_people("The converter does not answer now and then."), "failed"},
        {"tap-left-open", for_people("tap left open"), "pump-house", "cistern",
         for_people("The cistern runs out through an open tap."), "drift"},
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
