#include "core/program/parts_at_pins.h"

#include <cmath>
#include <utility>

namespace cognitum::program {

/// Places in the numbers of a part on the bus: light, too, is at the first.
constexpr std::size_t warmth = 0, humidity = 1, third = 2;

PartsAtPins::PartsAtPins(PinWorld& world, const ProofPlan& plan, const Bench& bench, const Catalog& catalog)
    : m_world(world) {
    for (const ProofReading& r : plan.readings)
        add(r, plan, place(bench, catalog, *bench.reading(r.reading)));
    world.on_spi([this](std::uint8_t byte) -> std::uint8_t {
        for (const auto& c : m_couples)
            if (c->selected()) return c->transfer();
        for (const auto& c : m_platinum)
            if (c->selected()) return c->transfer(byte);
        return 0xFF;
    });
}

void PartsAtPins::add(const ProofReading& r, const ProofPlan& plan, const Placed& p) {
    std::function<void(double)> set;
    const std::string pin = r.pin;
    if (r.channel >= 0) {
        Numbers& inputs = converter(r);
        set = [volts = &inputs[static_cast<std::size_t>(r.channel) % inputs.size()]](double v) { *volts = v; };
    } else if (r.input == ProofInput::volts) {
        set = [this, pin](double volts) { m_world.set_volts(pin, volts); };
    } else if (r.input == ProofInput::level) {
        set = [this, pin](double level) { m_world.set_level(pin, level > 0.5); };
    } else if (r.input == ProofInput::echo_us) {
        m_rangers.push_back(std::make_unique<EchoRanger>(m_world, r.trigger, pin));
        set = [ranger = m_rangers.back().get()](double echo) { ranger->set_us(echo); };
    } else if (r.input == ProofInput::pulses) {
        const bool low = p.part->interface.open_drain || p.part->interface.idle == "high";
        m_world.set_level(pin, low);
        for (const ProofPoint& point : plan.points)
            if (point.reading == r.reading)
                add_pulses(m_world, pin, point.from_s, static_cast<int>(point.input), plan.pulses_per_s,
                           plan.bounce_ms / 1000, low, plan.opening_rings);
        m_set[r.reading] = [this, pin, low, bounce_s = plan.bounce_ms / 1000](double) {
            add_pulses(m_world, pin, m_world.now_s(), 1, 1, bounce_s, low);
        };
        return;
    } else if (r.driver == "one-wire-thermometer") {
        m_probes.push_back(std::make_unique<OneWireThermometer>(m_world, pin));
        set = [probe = m_probes.back().get()](double degC) { // not a number: it is gone
            probe->take_away(std::isnan(degC));
            if (!std::isnan(degC)) probe->set_degC(degC);
        };
    } else if (r.driver == "thermocouple-spi") {
        m_couples.push_back(std::make_unique<ThermocoupleConverter>(m_world, r.select, r.clock, r.pin));
        set = [couple = m_couples.back().get()](double degC) { // not a number: a wire of it is broken
            couple->set_open(std::isnan(degC));
            if (!std::isnan(degC)) couple->set_degC(degC);
        };
    } else if (r.driver == "platinum-spi") {
        m_platinum.push_back(std::make_unique<PlatinumConverter>(m_world, r.select));
        set = [platinum = m_platinum.back().get()](double degC) {
            platinum->set_open(std::isnan(degC));
            if (!std::isnan(degC)) platinum->set_degC(degC);
        };
    } else if (r.driver.starts_with("single-wire")) {
        auto& sensor = m_wires[r.pin];
        if (!sensor) sensor = std::make_unique<SingleWireSensor>(m_world, pin, r.driver == "single-wire-fine");
        set = [s = sensor.get(), humidity = r.unit == "%"](double v) {
            humidity ? s->set_humidity(v) : s->set_degC(v);
        };
    } else if (r.driver == "load-cell") {
        m_cells.push_back(std::make_unique<LoadCell>(m_world, pin, r.clock));
        set = [cell = m_cells.back().get()](double count) { cell->set_count(count); };
    } else {
        Numbers& numbers = on_bus(r);
        const std::size_t place = r.unit == "%" ? humidity : r.unit == "hPa" || r.unit == "ppm" ? third : warmth;
        set = [number = &numbers[place]](double value) { *number = value; };
    }
    m_set[r.reading] = set;
    bool first = true;
    for (const ProofPoint& point : plan.points) {
        if (point.reading != r.reading) continue;
        if (std::exchange(first, false)) set(point.input); // from power on
        m_world.at(point.from_s, [set, input = point.input] { set(input); });
    }
}

void PartsAtPins::give(const std::string& reading, double input) {
    if (const auto known = m_set.find(reading); known != m_set.end()) known->second(input);
}

/// The converter of a reading, one for each address.
PartsAtPins::Numbers& PartsAtPins::converter(const ProofReading& r) {
    auto& inputs = m_numbers[r.address];
    if (!inputs) {
        inputs = std::make_unique<Numbers>();
        add_converter(m_world, r.address, r.driver == "converter-16bit-i2c", inputs->data());
    }
    return *inputs;
}
/// A part on the I²C bus; two readings of one address are one part.
PartsAtPins::Numbers& PartsAtPins::on_bus(const ProofReading& r) {
    auto& numbers = m_numbers[r.address];
    if (!numbers) {
        numbers = std::make_unique<Numbers>(Numbers{20, 50, 1000, 0}); // what no reading of the plan asks for
        double* const n = numbers->data();
        if (r.driver == "air-pressure-i2c")
            add_air_pressure(m_world, r.address, n + warmth, n + humidity, n + third);
        else if (r.driver == "carbon-dioxide-i2c")
            add_carbon_dioxide(m_world, r.address, n + third, n + warmth, n + humidity);
        else if (r.driver == "infrared-i2c")
            add_infrared(m_world, r.address, n);
        else if (r.driver == "thermocouple-i2c")
            add_couple_on_bus(m_world, r.address, n);
        else if (r.driver == "light-i2c")
            add_light(m_world, r.address, n);
        else if (r.driver == "humidity-i2c")
            add_air(m_world, r.address, n + 1, n);
        else
            add_thermometer(m_world, r.address, n);
    }
    return *numbers;
}

} // namespace cognitum::program
