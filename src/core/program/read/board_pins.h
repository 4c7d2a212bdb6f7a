// The pins of a board while its program is evaluated: a clock of its own, what parts do and when, and what a
// program reads and drives.
#pragma once

#include "core/catalog/cards.h"
#include "core/program/pin_world.h"

#include <map>
#include <optional>
#include <string>
#include <vector>

namespace cognitum::program {

class BoardPins : public PinWorld {
  public:
    explicit BoardPins(const BoardCard& card) : m_card(card) {}

    // What parts see.
    [[nodiscard]] double now_s() const override { return m_now_us * 1e-6; }
    void at(double t_s, std::function<void()> what) override;
    void set_volts(const std::string& pin, double volts) override { m_pins[pin].volts = volts; }
    void set_level(const std::string& pin, bool high) override;
    void on_pin(const std::string& pin, std::function<void(bool output, bool high)> what) override;
    void on_spi(std::function<std::uint8_t(std::uint8_t)> what) override { m_spi = std::move(what); }
    void on_i2c(I2cPart part) override { m_parts[part.address] = std::move(part); }

    // What the program sees.
    [[nodiscard]] double now_us() const { return m_now_us; }
    /// Time passes; parts do what they do. After each of their events `between` is called.
    void advance(double us, const std::function<void()>& between = {});
    [[nodiscard]] std::optional<double> next_event_us() const;
    /// Number that a converter of so many bits gives against this voltage; half of it on a pin with nothing at it.
    [[nodiscard]] int code(const std::string& pin, double reference_V, int bits) const;
    [[nodiscard]] std::optional<double> volts(const std::string& pin) const;
    [[nodiscard]] bool level(const std::string& pin) const;
    void set_mode(const std::string& pin, bool output, bool pull_up);
    void drive(const std::string& pin, bool high);
    /// The pin that was driven low last: that of the part that listens on SPI.
    [[nodiscard]] const std::string& selected() const { return m_selected; }
    std::uint8_t spi(std::uint8_t out) { return m_spi ? m_spi(out) : 0xFF; }
    [[nodiscard]] I2cPart* part(int address);
    /// Pins whose level changed since it was asked last, in order.
    std::vector<std::pair<std::string, bool>> take_changes();

    /// Label of the pin that code means by this number; empty: there is none.
    [[nodiscard]] std::string label(long number, bool analog) const;
    /// Number by which code means a pin.
    [[nodiscard]] int number(const std::string& label) const;
    [[nodiscard]] int number(std::size_t pin) const; ///< of one of the card’s pins
    /// Text of a header that names the pins of this board.
    [[nodiscard]] std::string header() const;

  private:
    struct Pin {
        std::optional<double> volts;
        std::optional<bool> outside;
        bool output = false, driven = false, pull_up = false;
        std::vector<std::function<void(bool, bool)>> watching;
    };
    void tell(Pin& pin);
    const BoardCard& m_card;
    double m_now_us = 0;
    std::multimap<double, std::function<void()>> m_events;
    std::map<std::string, Pin> m_pins;
    std::map<int, I2cPart> m_parts;
    std::function<std::uint8_t(std::uint8_t)> m_spi;
    std::vector<std::pair<std::string, bool>> m_changes;
    std::string m_selected;
};

} // namespace cognitum::program
