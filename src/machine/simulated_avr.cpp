#include "machine/simulated_avr.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <cmath>
#include <cstdarg>
#include <stdexcept>
#include <string_view>

// The simulator's headers are C.
extern "C" {
#include <avr_adc.h>
#include <avr_extint.h>
#include <avr_ioport.h>
#include <avr_spi.h>
#include <avr_timer.h>
#include <avr_twi.h>
#include <avr_uart.h>
#include <sim_avr.h>
#include <sim_elf.h>
#include <sim_irq.h>
}

namespace cognitum::machine {

namespace {

constexpr std::uint32_t processor_Hz = 16'000'000;
constexpr std::uint8_t twi_vector = 24;                ///< data sheet, reset and interrupt vectors; 0 is the reset
constexpr int eimsk = 0x3D;                            ///< data sheet, register summary: which of these are enabled
constexpr std::uint8_t external_interrupts[] = {0, 1}; ///< INT0 and INT1, at the pins 2 and 3

std::uint32_t twi_message(std::uint8_t msg, std::uint8_t address, std::uint8_t data) {
    avr_twi_msg_irq_t out{};
    out.u.twi.msg = msg;
    out.u.twi.addr = address;
    out.u.twi.data = data;
    return out.u.v;
}

void say_nothing(avr_t*, const int, const char*, va_list) {}
void sleep_no_longer(avr_t*, avr_cycle_count_t) {} ///< a sleeping processor costs no real time

/// Phase-correct PWM, in which the boards' core leaves the timers 1 and 2, is unknown to the simulator: such a
/// timer overflows at each of its counts, which takes more time than the program. Real ones count to 255 and back
/// (data sheet: 510 counts a period); here they count to 511 and begin again. Nobody looks at their PWM pins.
void count_in_phase_correct_pwm(avr_t* avr) {
    constexpr int phase_correct_8_bit = 1; // data sheet, waveform generation mode bits, of each of the three timers
    for (avr_io_t* io = avr->io_port; io; io = io->next) {
        if (std::string_view(io->kind) != "timer") continue;
        avr_timer_wgm_t& mode = reinterpret_cast<avr_timer_t*>(io)->wgm_op[phase_correct_8_bit];
        mode.kind = avr_timer_wgm_fast_pwm;
        mode.size = 9; // bits
    }
}

} // namespace

PinPlace pin_place(const std::string& label) {
    if (label.size() == 2 && label[0] == 'A' && label[1] >= '0' && label[1] <= '5')
        return {'C', label[1] - '0', label[1] - '0'};
    if (label.empty() || label.size() > 2 || label.find_first_not_of("0123456789") != std::string::npos) return {};
    const int number = std::stoi(label);
    if (number < 8) return {'D', number, -1};
    if (number < 14) return {'B', number - 8, -1};
    return {};
}

struct SimulatedAvr::Outside {
    std::map<char, avr_ioport_external_t> ports;
};

SimulatedAvr::SimulatedAvr(const std::string& elf, double supply_V, std::uint32_t loop_address)
    : m_supply_V(supply_V), m_outside(std::make_unique<Outside>()), m_loop(loop_address) {
    avr_global_logger_set(say_nothing);
    elf_firmware_t firmware{};
    if (elf_read_firmware(elf.c_str(), &firmware) != 0)
        throw std::runtime_error(phrase("the compiled program cannot be read"));
    m_avr = avr_make_mcu_by_name("atmega328p");
    if (!m_avr) throw std::runtime_error(phrase("the simulator does not know this processor"));
    avr_init(m_avr);
    firmware.frequency = processor_Hz;
    avr_load_firmware(m_avr, &firmware);
    m_avr->frequency = processor_Hz;
    m_avr->vcc = m_avr->avcc = m_avr->aref = static_cast<std::uint32_t>(std::lround(1000 * supply_V));
    m_avr->log = 0;
    count_in_phase_correct_pwm(m_avr);
    m_avr->sleep = &sleep_no_longer;
    for (int i = 0; i < m_avr->interrupts.vector_count; ++i)
        if (m_avr->interrupts.vector[i]->vector == twi_vector) m_twi_interrupt = m_avr->interrupts.vector[i];
    begin_levels();

    std::uint32_t flags = 0;
    avr_ioctl(m_avr, AVR_IOCTL_UART_GET_FLAGS('0'), &flags);
    flags &= ~static_cast<std::uint32_t>(AVR_UART_FLAG_STDIO);
    avr_ioctl(m_avr, AVR_IOCTL_UART_SET_FLAGS('0'), &flags);
    avr_irq_register_notify(avr_io_getirq(m_avr, AVR_IOCTL_UART_GETIRQ('0'), UART_IRQ_OUTPUT), &on_byte, this);
    avr_irq_register_notify(avr_io_getirq(m_avr, AVR_IOCTL_ADC_GETIRQ, ADC_IRQ_OUT_TRIGGER), &on_convert, this);
    avr_irq_register_notify(avr_io_getirq(m_avr, AVR_IOCTL_SPI_GETIRQ(0), SPI_IRQ_OUTPUT), &on_spi_byte, this);
    avr_irq_register_notify(avr_io_getirq(m_avr, AVR_IOCTL_TWI_GETIRQ(0), TWI_IRQ_OUTPUT), &on_twi, this);
}

SimulatedAvr::~SimulatedAvr() {
    if (m_avr) avr_terminate(m_avr);
}

double SimulatedAvr::now_s() const {
    return static_cast<double>(m_avr->cycle) / processor_Hz;
}

void SimulatedAvr::at(double t_s, std::function<void()> what) {
    m_events.emplace(static_cast<std::uint64_t>(t_s * processor_Hz), std::move(what));
    set_next_event();
}

/// A processor that sleeps is passed over to its next timer: what comes from outside is one of them.
void SimulatedAvr::set_next_event() {
    const std::uint64_t next = m_events.empty() ? never : m_events.begin()->first;
    if (next == m_next_event) return;
    m_next_event = next;
    avr_cycle_timer_cancel(m_avr, &on_event_time, this);
    if (next != never && next > m_avr->cycle)
        avr_cycle_timer_register(m_avr, next - m_avr->cycle, &on_event_time, this);
}

std::uint64_t SimulatedAvr::on_event_time(avr_t*, std::uint64_t, void*) {
    return 0; // the loop in run_to() does what is due
}

void SimulatedAvr::due_events() {
    while (m_next_event <= m_avr->cycle) {
        const auto what = std::move(m_events.begin()->second);
        m_events.erase(m_events.begin());
        set_next_event();
        what();
    }
}

/// An input that interrupts at a low level does so again for as long as it is low. The simulator looks at it at
/// each cycle, also where the program asks for no interrupt: it is told to only once the program does.
void SimulatedAvr::begin_levels() {
    for (const std::uint8_t pin : external_interrupts)
        avr_extint_set_strict_lvl_trig(m_avr, pin, 0);
    m_enabled_levels = 0;
}

void SimulatedAvr::watch_enabled_levels() {
    const std::uint8_t enabled = m_avr->data[eimsk];
    for (const std::uint8_t pin : external_interrupts) {
        const unsigned bit = 1U << pin;
        if ((enabled & bit) == (m_enabled_levels & bit)) continue;
        avr_extint_set_strict_lvl_trig(m_avr, pin, (enabled & bit) != 0);
        avr_irq_t* level = avr_io_getirq(m_avr, AVR_IOCTL_EXTINT_GETIRQ(), pin);
        if (enabled & bit) avr_raise_irq(level, level->value);
    }
    m_enabled_levels = enabled;
}

/// In power-down the timer of the core's clock stands still, which the simulator does not do by itself.
void SimulatedAvr::stop_clock_in_power_down(bool asleep) {
    constexpr int smcr = 0x53, timsk0 = 0x6E; // data sheet, register summary
    constexpr std::uint8_t mode = 0x0E, power_down = 0x04, overflow = 0x01;
    const bool stands = asleep && (m_avr->data[smcr] & mode) == power_down;
    if (stands == m_clock_stands) return;
    m_clock_stands = stands;
    std::uint8_t& enabled = m_avr->data[timsk0];
    enabled = static_cast<std::uint8_t>(stands ? enabled & ~overflow : enabled | overflow);
}

bool SimulatedAvr::run_to(double t_s) {
    constexpr std::uint64_t between_letters = 1400; // cycles: one at 115 200 Bd
    const auto end = static_cast<std::uint64_t>(t_s * processor_Hz);
    while (m_avr->cycle < end) {
        if (m_next_event <= m_avr->cycle) due_events();
        if (m_loop != 0 && m_avr->pc == m_loop) {
            if (m_loop_at != 0)
                m_longest_loop_s =
                    std::max(m_longest_loop_s, static_cast<double>(m_avr->cycle - m_loop_at) / processor_Hz);
            m_loop_at = m_avr->cycle;
        }
        const std::uint32_t before = m_avr->pc;
        const int state = avr_run(m_avr);
        if (state == cpu_Crashed || state == cpu_Done) return false;
        if (state == cpu_Sleeping || m_clock_stands) stop_clock_in_power_down(state == cpu_Sleeping);
        if (m_avr->data[eimsk] != m_enabled_levels) watch_enabled_levels();
        if (m_bus_hangs) keep_bus_hanging();
        if (m_avr->pc == 0 && before != 0) {
            ++m_restarts;
            m_loop_at = 0;
        }
        if (!m_typed.empty() && m_avr->cycle >= m_type_at) {
            m_type_at = m_avr->cycle + between_letters;
            feed_serial();
        }
    }
    return true;
}

/// Its flag never comes: the program waits for it.
void SimulatedAvr::keep_bus_hanging() {
    constexpr std::uint32_t twcr = 0xBC; // data sheet of the processor, register summary
    constexpr std::uint8_t twint = 0x80;
    if (m_twi_interrupt && m_twi_interrupt->pending) avr_clear_interrupt(m_avr, m_twi_interrupt);
    m_avr->data[twcr] = static_cast<std::uint8_t>(m_avr->data[twcr] & ~twint);
}

void SimulatedAvr::press_reset() {
    avr_reset(m_avr);
    begin_levels();
    avr_regbit_set(m_avr, m_avr->reset_flags.extrf);
    m_loop_at = 0;
    m_line.clear();
    m_addressed = nullptr;
    m_next_event = never; // its timers went
    set_next_event();
}

double SimulatedAvr::reference_V() const {
    constexpr std::uint32_t admux = 0x7C;
    constexpr double internal_V = 1.1;
    return m_avr->data[admux] >> 6 == 3 ? internal_V : m_supply_V;
}

void SimulatedAvr::set_volts(const std::string& label, double volts) {
    const PinPlace pin = pin_place(label);
    m_volts[pin.channel] = volts;
}

/// The converter of a real board has 2^N steps (data sheet: code = V · 1024 / reference); the simulator's has one
/// less. It is given the voltage at which it says what the real one says.
void SimulatedAvr::on_convert(avr_irq_t*, std::uint32_t value, void* self) {
    auto& me = *static_cast<SimulatedAvr*>(self);
    union {
        avr_adc_mux_t mux;
        std::uint32_t v;
    } asked{};
    asked.v = value;
    const int channel = asked.mux.src;
    const auto volts = me.m_volts.find(channel);
    if (asked.mux.kind != ADC_MUX_SINGLE || channel > 5) return;
    const double reference_V = me.reference_V();
    const double code =
        std::clamp(std::floor((volts == me.m_volts.end() ? 0 : volts->second) * 1024 / reference_V), 0.0, 1023.0);
    avr_raise_irq(avr_io_getirq(me.m_avr, AVR_IOCTL_ADC_GETIRQ, ADC_IRQ_ADC0 + channel),
                  static_cast<std::uint32_t>(std::ceil(code * 1000 * reference_V / 1023)));
}

void SimulatedAvr::set_level(const std::string& label, bool high) {
    const PinPlace pin = pin_place(label);
    if (pin.port == 0) return; // the plan has it on no pin of this board
    // Told to the port as well: where the program writes to its other pins, it would go by its own pull-ups.
    avr_ioport_external_t& outside = m_outside->ports[pin.port];
    outside.name = static_cast<unsigned char>(pin.port) & 0x7FU;
    outside.mask = static_cast<std::uint8_t>(outside.mask | 1U << pin.bit);
    outside.value =
        static_cast<std::uint8_t>(high ? outside.value | 1U << pin.bit : outside.value & ~(1U << pin.bit));
    avr_ioctl(m_avr, AVR_IOCTL_IOPORT_SET_EXTERNAL(static_cast<std::uint32_t>(pin.port)), &outside);
    avr_raise_irq(avr_io_getirq(m_avr, AVR_IOCTL_IOPORT_GETIRQ(static_cast<std::uint32_t>(pin.port)),
                                IOPORT_IRQ_PIN0 + pin.bit),
                  high ? 1 : 0);
}

void SimulatedAvr::type(const std::string& text) {
    m_typed += text;
}

void SimulatedAvr::feed_serial() {
    avr_raise_irq(avr_io_getirq(m_avr, AVR_IOCTL_UART_GETIRQ('0'), UART_IRQ_INPUT),
                  static_cast<unsigned char>(m_typed.front()));
    m_typed.erase(0, 1);
}

void SimulatedAvr::on_byte(avr_irq_t*, std::uint32_t value, void* self) {
    static_cast<SimulatedAvr*>(self)->take_char(static_cast<char>(value));
}

void SimulatedAvr::take_char(char c) {
    constexpr std::size_t longest_line = 4096, most_lines = 200'000;
    if (c == '\r') return;
    if (c != '\n') {
        if (m_line.size() < longest_line) m_line += c;
        return;
    }
    if (m_lines.size() < most_lines) m_lines.push_back({now_s(), m_line});
    m_line.clear();
}

void SimulatedAvr::on_pin(const std::string& label, std::function<void(bool, bool)> what) {
    const PinPlace pin = pin_place(label);
    if (pin.port == 0) return; // the plan has it on no pin of this board
    m_watched.push_back(std::make_unique<Watched>(Watched{this, pin, std::move(what)}));
    Watched* watched = m_watched.back().get();
    const auto port = AVR_IOCTL_IOPORT_GETIRQ(static_cast<std::uint32_t>(pin.port));
    avr_irq_register_notify(avr_io_getirq(m_avr, port, IOPORT_IRQ_DIRECTION_ALL), &on_direction, watched);
    avr_irq_register_notify(avr_io_getirq(m_avr, port, IOPORT_IRQ_REG_PORT), &on_port, watched);
}

void SimulatedAvr::on_direction(avr_irq_t*, std::uint32_t value, void* watched) {
    auto& w = *static_cast<Watched*>(watched);
    w.change((value >> w.pin.bit & 1U) != 0, w.high);
}

void SimulatedAvr::on_port(avr_irq_t*, std::uint32_t value, void* watched) {
    auto& w = *static_cast<Watched*>(watched);
    w.change(w.output, (value >> w.pin.bit & 1U) != 0);
}

void SimulatedAvr::Watched::change(bool is_output, bool is_high) {
    if (is_output == output && is_high == high) return;
    output = is_output;
    high = is_high;
    what(output, high);
}

void SimulatedAvr::on_spi(std::function<std::uint8_t(std::uint8_t)> what) {
    m_spi = std::move(what);
}

void SimulatedAvr::on_spi_byte(avr_irq_t*, std::uint32_t value, void* self) {
    auto& me = *static_cast<SimulatedAvr*>(self);
    const std::uint8_t back = me.m_spi ? me.m_spi(static_cast<std::uint8_t>(value)) : 0xFF;
    avr_raise_irq(avr_io_getirq(me.m_avr, AVR_IOCTL_SPI_GETIRQ(0), SPI_IRQ_INPUT), back);
}

void SimulatedAvr::on_i2c(program::I2cPart part) {
    m_parts.push_back(std::move(part));
}

void SimulatedAvr::on_twi(avr_irq_t*, std::uint32_t value, void* self) {
    auto& me = *static_cast<SimulatedAvr*>(self);
    avr_twi_msg_irq_t message{};
    message.u.v = value;
    const auto answer = [&](std::uint8_t msg, std::uint8_t data) {
        avr_raise_irq(avr_io_getirq(me.m_avr, AVR_IOCTL_TWI_GETIRQ(0), TWI_IRQ_INPUT),
                      twi_message(msg, message.u.twi.addr, data));
    };
    if (message.u.twi.msg & TWI_COND_STOP || message.u.twi.msg & TWI_COND_START) {
        if (me.m_addressed && !me.m_written.empty() && me.m_addressed->written)
            me.m_addressed->written(me.m_written);
        me.m_written.clear();
        if (message.u.twi.msg & TWI_COND_STOP) me.m_addressed = nullptr;
    }
    if (message.u.twi.msg & TWI_COND_START) {
        me.m_addressed = nullptr;
        me.m_read = 0;
        for (program::I2cPart& part : me.m_parts)
            if (message.u.twi.addr >> 1 == part.address) me.m_addressed = &part;
        if (me.m_addressed) answer(TWI_COND_ACK, 1);
        return;
    }
    if (!me.m_addressed) return;
    if (message.u.twi.msg & TWI_COND_WRITE) {
        me.m_written.push_back(message.u.twi.data);
        answer(TWI_COND_ACK, 1);
    }
    if (message.u.twi.msg & TWI_COND_READ)
        answer(TWI_COND_READ, me.m_addressed->read ? me.m_addressed->read(me.m_read++) : 0xFF);
}

} // namespace cognitum::machine
