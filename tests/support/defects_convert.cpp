// Defects of a path's constants: whom they follow, and for which board they were made.
#include "support/defects.h"

namespace cognitum::test {

namespace {

Constant* constant(Reading& reading, const std::string& key) {
    for (Stage& stage : reading.path.stages)
        for (const NamedConstant& named : constants(stage))
            if (named.key == key) return named.constant;
    qFatal("%s has no %s", reading.id.c_str(), key.c_str());
}

/// Two thermocouples whose cold ends are as warm as the other one says.
Bench couples(const char* first_follows) {
    Bench bench = bench_with("temperature", "thermocouple-k-spi", "board-5v-8bit-6-analog", [](Reading& r) {
        r.quantity.low = 5; // below zero the chip shows nothing
    });
    Reading second = bench.readings[0];
    second.id = "r2";
    second.name = "Second";
    second.wiring.pins.clear();
    bench.readings.push_back(second);
    const auto placed = choose_part(bench, catalog(), "r2", "thermocouple-k-spi", "gauge");
    if (!placed) qFatal("%s", placed.error().text().c_str());
    bench = *placed;
    constant(bench.readings[0], "reference_degC")->from = first_follows;
    constant(bench.readings[1], "reference_degC")->from = "r1";
    return bench;
}

Bench thermometer(int bits) {
    return with_first(bench_with("temperature", "analog-thermometer-with-offset"),
                      [=](Reading& r) { std::get<Adc>(r.path.stages.front()).bits = bits; });
}

} // namespace

void add_convert(std::vector<Defect>& d) {
    d.push_back({"feeds-in-a-circle", couples("r2"), couples("")});
    d.push_back({"partner-gone", couples("r7"), couples("")});
    d.push_back({"bits-of-another-converter", thermometer(12), thermometer(10)});
}

} // namespace cognitum::test
