// What data sheets say, as values: kinds of sensor (PartCard) and kinds of board (BoardCard), read from open JSON.
// The form is described in docs/file-format.md; shipped cards stand in data/parts and data/boards.
#pragma once

#include "core/base/json_reader.h"
#include "core/signal_path/stage.h"

#include <optional>
#include <string>
#include <vector>

namespace cognitum {

struct Leg {
    std::string label; ///< as printed or drawn: "supply", "out", "ground"
    std::string role;  ///< supply, output, ground, end (of a resistor)
    bool operator==(const Leg&) const = default;
};

/// A thermistor or other resistor that needs a partner to become a voltage.
struct DividerNeed {
    Constant fixed_ohm;
    UnknownLeg unknown = UnknownLeg::bottom;
};

struct PartCard {
    std::string id, name, quantity; ///< quantity: id of a QuantityKind
    std::string unit;               ///< of range and accuracy
    double low = 0, high = 0;       ///< what it can measure
    double accuracy = 0;            ///< data sheet's typical limit, ± in unit
    double drift_per_year = 0;      ///< ± in unit
    double supply_low_V = 0, supply_high_V = 0, supply_mA = 0;
    double response_s = 0;                      ///< time to 63 % in air
    double output_low_V = 0, output_high_V = 0; ///< usable swing; 0 and 0: follows the supply
    std::vector<Leg> legs;                      ///< in the order in which they are seen
    std::string seen_from;                      ///< "flat side towards you, legs down"
    std::vector<Stage> transfer;                ///< from volts (or ohms) to the quantity
    std::optional<DividerNeed> divider;
    std::string interface = "analog";
    std::string price, fails, needs, care, good_for;
};

struct VoltageReference {
    std::string id, name;                  ///< "supply", "internal"
    double voltage_V = 0, tolerance_V = 0; ///< half width
};

struct Rail {
    std::string label; ///< as printed: 5V
    double voltage_V = 0, tolerance_V = 0, current_mA = 0;
};

struct Pin {
    std::string label;                  ///< as printed: A2
    std::vector<std::string> functions; ///< analog, digital, interrupt, serial, …
    std::string taken_by;               ///< by the board itself; empty: free
    [[nodiscard]] bool can(std::string_view function) const;
};

struct BoardCard {
    std::string id, name;
    int bits = 10;
    double input_limit_V = 0;  ///< what a pin stands
    double source_ohm_max = 0; ///< largest source resistance the converter settles with
    int baud = 115200;
    std::vector<VoltageReference> references; ///< first is the default
    std::vector<Rail> rails;
    std::vector<Pin> pins;
    std::string ground = "GND";
    [[nodiscard]] const VoltageReference* reference(std::string_view id) const;
    [[nodiscard]] const Rail* rail(std::string_view label) const;
    [[nodiscard]] const Pin* pin(std::string_view label) const;
};

Result<PartCard> read_part_card(const JsonReader& json);
Result<BoardCard> read_board_card(const JsonReader& json);

/// All cards that are known: shipped ones, then the user's own.
struct Catalog {
    std::vector<PartCard> parts;
    std::vector<BoardCard> boards;
    [[nodiscard]] const PartCard* part(std::string_view id) const;
    [[nodiscard]] const BoardCard* board(std::string_view id) const;
};

} // namespace cognitum
