// What parts at a board's pins see of the board: whoever runs its program gives them this. Pins by the label that
// is printed on the board; times in seconds of the board's own clock.
#pragma once

#include <cstdint>
#include <functional>
#include <string>
#include <vector>

namespace cognitum::program {

/// A part on the I²C bus. Reads are filled by `read`, which gets the number of the byte.
struct I2cPart {
    int address = 0;
    std::function<void(const std::vector<std::uint8_t>& written)> written;
    std::function<std::uint8_t(std::size_t index)> read;
};

class PinWorld {
  public:
    PinWorld() = default;
    virtual ~PinWorld() = default;
    PinWorld(const PinWorld&) = delete;
    PinWorld& operator=(const PinWorld&) = delete;

    [[nodiscard]] virtual double now_s() const = 0;
    /// Called at that time, in order.
    virtual void at(double t_s, std::function<void()> what) = 0;
    virtual void set_volts(const std::string& pin, double volts) = 0;
    /// What something outside gives; the board may drive against it.
    virtual void set_level(const std::string& pin, bool high) = 0;
    /// Called when the program drives the pin or lets go of it.
    virtual void on_pin(const std::string& pin, std::function<void(bool output, bool high)> what) = 0;
    /// A byte out, a byte back.
    virtual void on_spi(std::function<std::uint8_t(std::uint8_t)> what) = 0;
    virtual void on_i2c(I2cPart part) = 0;
};

} // namespace cognitum::program
