// The core's functions of a wireless network: it is there at once, and nobody answers.
#include "core/program/read/evaluator.h"

namespace cognitum::program {

namespace {

using Call = Evaluator::Call;
constexpr char wifi_begin[] = "WiFi.begin", wifi_off[] = "WiFi.off";

CodeValue wifi_connect(Evaluator& e, Call& c) {
    note(e, c, wifi_begin);
    e.acted();
    return whole_value(3);
}
CodeValue wifi_status(Evaluator& e, Call&) {
    e.pass_time(1);
    constexpr int connected = 3, disconnected = 6;
    return whole_value(e.has_network ? connected : disconnected);
}

} // namespace

void add_network_calls(CoreCalls& calls) {
    calls["WiFiClass::begin"] = wifi_connect;
    calls["WiFiClass::status"] = wifi_status;
    calls["WiFiClass::disconnect"] = [](Evaluator& e, Call& c) { return note(e, c, wifi_off), CodeValue{}; };
    calls["WiFiClass::mode"] = [](Evaluator& e, Call& c) {
        if (c.number(0) == 0) note(e, c, wifi_off);
        return whole_value(1);
    };
    for (const char* name :
         {"HTTPClient::begin", "HTTPClient::addHeader", "HTTPClient::setTimeout", "HTTPClient::end"})
        calls[name] = [](Evaluator& e, Call&) { return e.acted(), whole_value(1); };
    // One connection, of which nobody answers.
    calls["WiFiClient::connect"] = [](Evaluator& e, Call&) {
        e.connected = true;
        return e.acted(), whole_value(1);
    };
    calls["WiFiClient::connected"] = [](Evaluator& e, Call&) { return whole_value(e.connected ? 1 : 0); };
    calls["WiFiClient::stop"] = [](Evaluator& e, Call&) {
        e.connected = false;
        return e.acted(), CodeValue{};
    };
    calls["HTTPClient::POST"] = calls["HTTPClient::PUT"] = [](Evaluator& e, Call& c) {
        Text text = e.text_of(c.value(0));
        text.words += "\n";
        e.send(c.object, text, c.node.place);
        e.pass_time(50e3);
        return whole_value(200);
    };
}

} // namespace cognitum::program
