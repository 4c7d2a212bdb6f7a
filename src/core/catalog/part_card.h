// What a data sheet says about a kind of part, as values read from open JSON (docs/file-format.md, data/schema).
// Shipped cards stand in data/parts; a person's own under $XDG_DATA_HOME/cognitum/parts.
#pragma once

#include "core/base/json_reader.h"
#include "core/base/phrase.h"
#include "core/signal_path/stage.h"

#include <optional>
#include <string>
#include <vector>

namespace cognitum {

/// One leg, in the order in which the legs are seen from `PartCard::seen_from`.
struct Leg {
    std::string label; ///< as printed or drawn: "supply", "out", "ground"
    std::string role;  ///< one of leg_roles()
    bool operator==(const Leg&) const = default;
};
/// supply, ground, end (of a resistor or contact), bias (of a signal around half the supply), output, data, clock,
/// select, data-in, data-out, transmit, receive, trigger, control, channel, strap, unused
const std::vector<std::string>& leg_roles();
/// True for legs that go to a pin of the board (or to a channel), not to a rail or to ground.
bool is_signal(const Leg& leg);

/// A thermistor or other resistor that needs a partner to become a voltage.
struct DividerNeed {
    Constant fixed_ohm;
    UnknownLeg unknown = UnknownLeg::bottom;
};

/// ± of a data sheet for a part of the range: an amount and a share of the value, added or the larger of both.
struct AccuracyRange {
    double low = 0, high = 0;
    double accuracy = 0, percent = 0;
    bool larger = false;
};

/// One quantity that the part can measure.
struct Measurand {
    std::string quantity; ///< id of a QuantityKind
    std::string unit;     ///< of everything below
    double low = 0, high = 0;
    double accuracy = 0;               ///< data sheet's limit, ± in unit, outside of all `limits`
    double accuracy_percent = 0;       ///< and of the value
    std::vector<AccuracyRange> limits; ///< where the data sheet gives others for parts of the range
    double resolution = 0;             ///< smallest step that it gives; 0: the converter's
    double drift_per_year = 0;
    std::vector<Stage> transfer; ///< from volts (or ohms) to the quantity; empty for parts that send numbers
    /// ± at a value, in unit.
    [[nodiscard]] double limit_at(double value) const;
    /// The largest ± between two values, in unit.
    [[nodiscard]] double limit_between(double from, double to) const;
};

/// How the part talks. The names stand in cards and bench files.
enum class Speech { analog, resistive, i2c, spi, one_wire, single_bus, serial, pulse, digital, echo, radio, load };
const std::string& speech_name(Speech speech); ///< as in JSON: "one-wire"
std::string speech_title(Speech speech);       ///< for a person: "one-wire bus"

struct Interface {
    Speech speech = Speech::analog;
    std::vector<int> addresses; ///< 7-bit, first is the one it comes with
    Phrase strap;               ///< how the others are set: "address leg to supply: 0x5C"
    double max_kHz = 0;         ///< of its bus; 0: not said
    double pull_up_ohm = 0;     ///< fitted on its little board; 0: none
    double capacitance_pF = 10; ///< what it adds to a bus line
    int baud = 0;               ///< of a serial part
    double conversion_ms = 0;   ///< from asking to answering, at the resolution stated
    bool open_drain = false;    ///< pulls down only: needs a pull-up
    std::string idle;           ///< level of its output at rest: "high", "low", or empty: floats
    double high_V = 0;          ///< its outputs' high level; 0: as its supply
    double low_threshold_V = 0; ///< what its inputs need to see as high; 0: 0.7 × supply
    std::string heard_by;       ///< of a beacon: what a board must have to hear it: "Bluetooth"
};

/// Resistors that a part needs between it and the pin, beside a divider's partner.
struct Network {
    enum class Kind {
        none,
        shunt, ///< one, from the pin to ground: turns a loop's current into a voltage
        bias,  ///< two equal ones, from the logic supply and from ground to the part's bias leg, with a capacitor
    };
    Kind kind = Kind::none;
    double ohm = 0;
};

struct Supply {
    double low_V = 0, high_V = 0;
    double typical_mA = 0, peak_mA = 0;
};

/// What a part gives when it did not measure: one number or word, or any number from or up to a limit.
struct FailureValue {
    std::string value; ///< as it arrives: "85.0", "-127", "NaN"; empty: see the limits
    std::optional<double> at_least, at_most;
    Phrase means;
};
std::string failure_text(const FailureValue& value); ///< what is no value, for a person: "85.0", "at most 0"

struct Environment {
    bool water = false, food = false, outdoors = false;
    double hottest_degC = 85;
};

/// Inputs that a converter, multiplexer or bus switch adds.
struct Channels {
    int count = 0;
    int bits = 0;                     ///< for one polarity; 0: passes the signal through
    std::vector<double> full_scale_V; ///< by gain, largest first
    double tolerance = 0;             ///< of the full scale, relative
    double samples_per_s = 0;
    double resistance_ohm = 0;   ///< of a switch that passes the signal
    bool follows_supply = false; ///< its full scale is its own supply
    bool one_way = false;        ///< of a level shifter: from the parts to the board only
};

enum class PartKind : std::uint8_t { sensor, converter, multiplexer, bus_switch, level_shifter, load, receiver };
const std::string& part_kind_name(PartKind kind); ///< as in JSON: "bus-switch"

struct PartCard {
    std::string id;
    Phrase name;
    PartKind kind = PartKind::sensor;
    std::string family; ///< thermometer, ranger, …: groups cards in lists
    std::vector<Measurand> measures;
    Supply supply;
    Interface interface;
    double output_low_V = 0, output_high_V = 0; ///< usable swing of an analog output; 0 and 0: follows the supply
    std::vector<Leg> legs;
    Phrase seen_from;              ///< "flat side towards you, legs down"
    double response_s = 0;         ///< time to 63 %
    double warm_up_s = 0;          ///< after power, before its readings count
    double minimum_interval_s = 0; ///< between two readings; for a radio part: between two reports
    double sample_s = 0;           ///< longest time between two samples that still sees its signal; 0: any
    std::optional<DividerNeed> divider;
    Network network;
    Channels channels;
    double dead_zone_mm = 0, beam_deg = 0; ///< of a ranger; full angle between its half-power points
    double self_heating_K = 0;             ///< in still air at 5 V
    double decoupling_nF = 0;              ///< wanted between supply and ground
    double needs_pull_up_ohm = 0;          ///< wanted on its bus or output; 0: none
    bool mains = false;                    ///< switches or lives on the mains
    bool lamp = false;                     ///< gives light when it is switched on
    std::vector<FailureValue> failure_values;
    Environment environment;
    std::string price = "€"; ///< €, €€ or €€€
    Phrase fails, needs, care, good_for;
    Phrase school;                 ///< where practice differs: what speaks for this way
    std::string marking;           ///< a person's own words; shipped cards have none
    std::vector<Phrase> adjusters; ///< what its trimmers set, where nothing on the part says which is which
    std::string driver; ///< bytes that a program speaks with it, one of part_drivers(); empty: none needed or known

    PartCard();
    PartCard(const PartCard& other);
    PartCard(PartCard&& other) noexcept;
    PartCard& operator=(const PartCard& other);
    PartCard& operator=(PartCard&& other) noexcept;
    ~PartCard();

    [[nodiscard]] const Measurand* measurand(std::string_view quantity) const;
    [[nodiscard]] int leg(std::string_view label) const; ///< index; −1: none
    [[nodiscard]] int leg_with_role(std::string_view role) const;
};

/// What core/program can speak: "one-wire-thermometer", "light-i2c". The names stand in cards.
const std::vector<std::string>& part_drivers();

/// What a price class stands for until a person types what was paid, in euros.
double price_guess(std::string_view price_class);

Result<PartCard> read_part_card(const JsonReader& json);

} // namespace cognitum
