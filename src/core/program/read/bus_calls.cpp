// The core's two buses.
#include "core/program/read/evaluator.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum::program {

namespace {

using Call = Evaluator::Call;
constexpr double i2c_byte_us = 90; ///< of I²C at 100 kHz

void note_address(Evaluator& e, Call& c) {
    e.seen().addresses.try_emplace(static_cast<int>(c.number(0)), c.node.place, c.value(0).literals);
}

CodeValue begin_transmission(Evaluator& e, Call& c) {
    auto& bus = e.bus;
    bus.address = static_cast<int>(c.number(0));
    bus.written.clear();
    note_address(e, c);
    e.acted();
    return {};
}

CodeValue write_byte(Evaluator& e, Call& c) {
    auto& bus = e.bus;
    if (c.object.starts_with("Wire")) {
        if (bus.written.size() < 64)
            bus.written.push_back(static_cast<std::uint8_t>(static_cast<std::int64_t>(c.number(0))));
        e.pass_time(i2c_byte_us);
        return whole_value(1);
    }
    return write_text(e, c);
}

CodeValue end_transmission(Evaluator& e, Call&) {
    auto& bus = e.bus;
    I2cPart* part = e.pins().part(bus.address);
    if (part && part->written && !bus.written.empty()) part->written(bus.written);
    e.acted();
    e.pass_time(i2c_byte_us);
    return whole_value(part ? 0 : 2);
}

CodeValue request_from(Evaluator& e, Call& c) {
    auto& bus = e.bus;
    bus.address = static_cast<int>(c.number(0));
    bus.place = c.node.place;
    bus.read.clear();
    note_address(e, c);
    const bool answers = e.ask(fmt::format("i2c 0x{:02X}", e.bus.address), c.node.place);
    I2cPart* part = answers ? e.pins().part(bus.address) : nullptr;
    const int n = part ? std::clamp(static_cast<int>(c.number(1)), 0, 32) : 0;
    bus.answered = n;
    for (int i = 0; i < n; ++i)
        bus.read.push_back(part->read(static_cast<std::size_t>(i)));
    e.acted();
    e.pass_time(i2c_byte_us * (1 + n));
    return whole_value(n);
}

CodeValue read_byte(Evaluator& e, Call& c) {
    if (!c.object.starts_with("Wire")) { // a port: what was typed
        e.looked();
        e.pass_time(2);
        if (c.object != "Serial" || e.input.empty()) return whole_value(-1);
        const auto first = static_cast<unsigned char>(e.input.front());
        e.input.erase(0, 1);
        e.acted();
        return whole_value(first);
    }
    auto& bus = e.bus;
    if (bus.read.empty()) {
        const bool failed = bus.place.line > 0 && bus.answered == 0;
        if (!failed && e.seen().read_unasked.line == 0) e.seen().read_unasked = c.node.place;
        return whole_value(-1);
    }
    CodeValue out = whole_value(bus.read.front());
    bus.read.pop_front();
    out.trace = trace_source(SourceKind::i2c, fmt::format("0x{:02X}", bus.address), bus.place);
    return out;
}

CodeValue available(Evaluator& e, Call& c) {
    e.looked();
    e.pass_time(2);
    if (c.object == "Serial") return whole_value(static_cast<std::int64_t>(e.input.size()));
    return whole_value(c.object.starts_with("Wire") ? static_cast<std::int64_t>(e.bus.read.size()) : 0);
}

CodeValue transfer(Evaluator& e, Call& c) {
    if (!e.seen().first_transfer) e.seen().first_transfer = c.node.place;
    const bool wide = c.name == "SPIClass::transfer16";
    e.acted();
    e.pass_time(wide ? 16 : 8);
    const auto out = static_cast<std::int64_t>(c.number(0));
    std::int64_t in = e.pins().spi(static_cast<std::uint8_t>(wide ? out >> 8 : out));
    if (wide) in = in << 8 | e.pins().spi(static_cast<std::uint8_t>(out));
    CodeValue v = whole_value(in);
    v.trace = trace_source(SourceKind::spi, e.pins().selected(), c.node.place);
    return v;
}

constexpr char wire_begin[] = "Wire.begin", spi_begin[] = "SPI.begin";

template <char const* name>
CodeValue begun(Evaluator& e, Call& c) {
    note(e, c, name);
    e.acted();
    return whole_value(0);
}

} // namespace

void add_bus_calls(CoreCalls& calls) {
    calls["TwoWire::beginTransmission"] = begin_transmission;
    calls["TwoWire::endTransmission"] = end_transmission;
    calls["TwoWire::requestFrom"] = request_from;
    calls["Stream::read"] = read_byte;
    calls["Stream::available"] = available;
    calls["SPIClass::transfer"] = calls["SPIClass::transfer16"] = transfer;
    calls["TwoWire::begin"] = begun<wire_begin>;
    calls["SPIClass::begin"] = begun<spi_begin>;
    for (const char* name : {"TwoWire::end", "TwoWire::setClock", "TwoWire::setWireTimeout",
                             "TwoWire::getWireTimeoutFlag", "TwoWire::clearWireTimeoutFlag", "SPIClass::end",
                             "SPIClass::beginTransaction", "SPIClass::endTransaction", "SPIClass::setBitOrder",
                             "SPIClass::setDataMode", "SPIClass::setClockDivider"})
        calls[name] = [](Evaluator& e, Call&) { return e.acted(), whole_value(0); };
    calls["Print::write"] = write_byte;
}

} // namespace cognitum::program
