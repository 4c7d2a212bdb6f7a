// What a data sheet says about a kind of microcontroller board. Shipped cards stand in data/boards.
#pragma once

#include "core/base/json_reader.h"
#include "core/base/phrase.h"

#include <string>
#include <vector>

namespace cognitum {

struct VoltageReference {
    std::string id;
    Phrase name; ///< "supply", "internal"
    double voltage_V = 0;
    double tolerance_V = 0; ///< half width, as bought
    double stability_V = 0; ///< half width from day to day and with temperature; 0: not stated
    std::string follows; ///< label of the rail that it is, so that it cancels for what that rail feeds; empty: none
};

struct Rail {
    std::string label; ///< as printed: 5V
    double voltage_V = 0, tolerance_V = 0, current_mA = 0;
    double stability_V = 0; ///< half width from day to day; 0: not stated
    bool regulated = false; ///< comes out of the board's own regulator, whose heat it makes
};

struct Pin {
    std::string label;                  ///< as printed: A2
    int port = -1;                      ///< number that code uses; −1: the label
    std::vector<std::string> functions; ///< of pin_functions()
    std::string direction = "both";     ///< both, in
    Phrase taken_by;                    ///< by the board itself; empty: free
    bool monitor = false;               ///< the serial port by which it is programmed and speaks to the computer
    std::string boot;                   ///< level it needs at reset: high, low; empty: any
    Phrase boot_means;                  ///< what another level does: "chooses the flash memory's voltage"
    bool boot_stops = true;             ///< with another level the board does not start its program
    bool pull_up = true;                ///< can pull itself up
    bool lost_with_radio = false;       ///< its converter is busy while the radio is on
    double drive_mA = 0;                ///< what it gives or takes; 0: as the board
    [[nodiscard]] bool can(std::string_view function) const;
};
/// analog, digital, interrupt, pwm, sda, scl, spi-clock, spi-in, spi-out, serial-in, serial-out, wake, dac
const std::vector<std::string>& pin_functions();

struct Regulator {
    double dropout_V = 0, limit_mA = 0;
    double K_per_W = 0; ///< junction to air, on its board; 0: a switching regulator, no heat to speak of
    double junction_max_degC = 125;
};

struct BoardCard {
    std::string id;
    Phrase name;
    int bits = 10;
    double usable_low_V = 0, usable_high_V = 0; ///< where the converter is straight; 0 and 0: all of it
    double input_Mohm = 100;                    ///< what an analog input loads with
    double source_ohm_max = 0;                  ///< largest source resistance the converter settles with
    double input_limit_V = 0;                   ///< what a pin withstands
    double analog_limit_V = 0;                  ///< what an analog input withstands; 0: as a pin
    double logic_V = 0;
    double high_threshold_V = 0; ///< what an input needs to be read as high
    double drive_mA = 10;        ///< of one pin
    double pins_total_mA = 100;  ///< of all pins together
    int baud = 115200;
    std::vector<VoltageReference> references; ///< first is the default
    std::vector<Rail> rails;
    std::vector<Pin> pins;
    std::string ground = "GND";
    Regulator regulator;
    double input_low_V = 4.5, input_high_V = 5.5; ///< what it may be fed with
    double asleep_mA = 0, awake_mA = 0, transmitting_mA = 0;
    bool usb = true;            ///< has its own USB port for programming and power
    double usb_mA = 500;        ///< what that port may draw
    std::string radio;          ///< "Wi-Fi", "Wi-Fi and Bluetooth", "low-power radio"; empty: none
    bool wired_network = false; ///< has a socket for a network cable
    double i2c_pull_up_ohm = 0;
    bool lithium = false;            ///< has a socket for a lithium battery
    Phrase not_advised;              ///< why Cognitum advises against it; empty: it does not
    std::vector<Phrase> programming; ///< what to check before the first upload
    std::string price = "€";
    Phrase good_for;

    BoardCard();
    BoardCard(const BoardCard& other);
    BoardCard(BoardCard&& other) noexcept;
    BoardCard& operator=(const BoardCard& other);
    BoardCard& operator=(BoardCard&& other) noexcept;
    ~BoardCard();

    [[nodiscard]] const VoltageReference* reference(std::string_view id) const;
    [[nodiscard]] const Rail* rail(std::string_view label) const;
    /// The rail whose voltage is that of its pins, for pull-ups.
    [[nodiscard]] const Rail& logic_rail() const;
    [[nodiscard]] const Pin* pin(std::string_view label) const;
    /// The first pin that can do this; null: none. For buses that have their pins.
    [[nodiscard]] const Pin* pin_for(std::string_view function) const;
};

Result<BoardCard> read_board_card(const JsonReader& json);

} // namespace cognitum
