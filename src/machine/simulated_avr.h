// A program for an 8-bit board in an instruction-level simulator (libsimavr), with voltages, pulses and parts at
// its pins. Time is that of the simulated processor.
#pragma once

#include "core/program/pin_world.h"
#include "core/program/proof_plan.h"

#include <cstdint>
#include <functional>
#include <limits>
#include <map>
#include <memory>
#include <string>
#include <utility>
#include <vector>

struct avr_t;
struct avr_irq_t;
struct avr_int_vector_t;

namespace cognitum::machine {

/// Pins of the 8-bit boards: printed label to port and bit. Analog inputs have a channel as well.
struct PinPlace {
    char port = 0; ///< 'B'; 0: there is none
    int bit = 0;
    int channel = -1; ///< of the converter
};
PinPlace pin_place(const std::string& label);

class SimulatedAvr : public program::PinWorld {
  public:
    /// `loop_address`: of loop() in the program, bytes; 0: not known.
    SimulatedAvr(const std::string& elf, double supply_V, std::uint32_t loop_address);
    ~SimulatedAvr() override;

    [[nodiscard]] double now_s() const override;
    /// Runs to that time. False: the program crashed.
    bool run_to(double t_s);
    void set_volts(const std::string& pin, double volts) override;
    void set_level(const std::string& pin, bool high) override;
    void at(double t_s, std::function<void()> what) override;
    void type(const std::string& text); ///< into its serial port, as fast as it takes it
    void press_reset();
    /// Its I²C bus hangs, as one does whose data line something holds low: what it begins there does not end.
    void hang_bus(bool hangs) { m_bus_hangs = hangs; }

    void on_pin(const std::string& pin, std::function<void(bool output, bool high)> what) override;
    void on_spi(std::function<std::uint8_t(std::uint8_t)> what) override;
    void on_i2c(program::I2cPart part) override;

    [[nodiscard]] const std::vector<ProofLine>& lines() const { return m_lines; }
    std::vector<ProofLine> take_lines() { return std::exchange(m_lines, {}); } ///< those since the last call
    [[nodiscard]] double longest_loop_s() const { return m_longest_loop_s; }
    [[nodiscard]] int restarts() const { return m_restarts; }

  private:
    struct Watched {
        SimulatedAvr* owner;
        PinPlace pin;
        std::function<void(bool, bool)> what;
        bool output = false, high = false;
        void change(bool is_output, bool is_high);
    };
    static void on_byte(avr_irq_t* irq, std::uint32_t value, void* self);
    static void on_convert(avr_irq_t* irq, std::uint32_t value, void* self);
    static void on_spi_byte(avr_irq_t* irq, std::uint32_t value, void* self);
    static void on_twi(avr_irq_t* irq, std::uint32_t value, void* self);
    static void on_direction(avr_irq_t* irq, std::uint32_t value, void* watched);
    static void on_port(avr_irq_t* irq, std::uint32_t value, void* watched);
    void feed_serial();
    void take_char(char c);
    void due_events();
    void set_next_event();
    void keep_bus_hanging();
    void stop_clock_in_power_down(bool asleep);
    void begin_levels();
    void watch_enabled_levels();
    [[nodiscard]] double reference_V() const;
    static std::uint64_t on_event_time(avr_t* avr, std::uint64_t when, void* self);

    avr_t* m_avr = nullptr;
    avr_int_vector_t* m_twi_interrupt = nullptr;
    double m_supply_V;
    std::map<int, double> m_volts;                                ///< by channel
    std::multimap<std::uint64_t, std::function<void()>> m_events; ///< by cycle
    static constexpr std::uint64_t never = std::numeric_limits<std::uint64_t>::max();
    std::uint64_t m_next_event = never; ///< cycle of the first of them
    bool m_clock_stands = false;
    std::uint8_t m_enabled_levels = 0; ///< EIMSK as it was
    std::uint64_t m_type_at = 0;       ///< cycle, when the next letter may come
    std::vector<std::unique_ptr<Watched>> m_watched;
    struct Outside;
    std::unique_ptr<Outside> m_outside; ///< levels that something outside gives
    std::function<std::uint8_t(std::uint8_t)> m_spi;
    std::vector<program::I2cPart> m_parts;
    program::I2cPart* m_addressed = nullptr;
    std::vector<std::uint8_t> m_written;
    std::size_t m_read = 0;
    std::string m_line, m_typed;
    bool m_bus_hangs = false;
    std::vector<ProofLine> m_lines;
    std::uint32_t m_loop = 0;
    std::uint64_t m_loop_at = 0;
    double m_longest_loop_s = 0;
    int m_restarts = 0;
};

} // namespace cognitum::machine
