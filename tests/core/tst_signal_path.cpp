// The path: the contract's example, rails, backwards = forwards, batch = one by one, and JSON both ways.
#include "core/signal_path/chain.h"
#include "support/run_tests.h"
#include "support/support.h"

using namespace cognitum;

namespace {

Chain parse(const char* json) {
    const auto text = JsonText::parse("chain.json", json);
    return *read_chain(JsonReader(*text));
}

Error error_of(const char* json) {
    const auto text = JsonText::parse("chain.json", json);
    const auto chain = read_chain(JsonReader(*text));
    return chain ? Error{} : chain.error();
}

const char* hut_air = R"({"name": "hut air", "input_unit": "count", "stages": [
  {"stage": "adc", "bits": 10, "reference_V": 5.0, "tol_reference_V": 0.005, "convention": "2^N"},
  {"stage": "linear", "zero": 0.5, "slope": 0.01, "input_unit": "V", "unit": "degC"},
  {"stage": "correction", "offset": -0.62, "u_offset": 0.18, "unit": "degC"}]})";

const char* thermistor = R"({"stages": [
  {"stage": "adc", "bits": 12, "reference_V": 3.3},
  {"stage": "divider", "fixed_ohm": 10000, "unknown": "top", "supply_V": 3.3},
  {"stage": "thermistor_beta", "r0_ohm": 10000, "t0_degC": 25, "beta_K": 3950}]})";

const char* ratio = R"({"stages": [
  {"stage": "ratio_divider", "fixed_ohm": 10000, "unknown": "bottom", "bits": 10},
  {"stage": "thermistor_steinhart_hart", "a": 1.129148e-3, "b": 2.34125e-4, "c": 8.76741e-8},
  {"stage": "scale", "factor": 1.01, "offset": -0.2, "input_unit": "degC", "unit": "degC"}]})";

} // namespace

class TestSignalPath : public QObject {
    Q_OBJECT

  private slots:
    void countToDegreesByHand() {
        const Chain chain = parse(hut_air);
        // (142 + ½) · 5 / 1024 = 0.69580078125 V; less 0.5 V at 10 mV/°C is 19.580…; less 0.62.
        CLOSE(forward(chain, 142).number, 18.960078125, 1e-12);
        const Walk w = walk(chain, 142);
        CLOSE(w.steps[1].number, 0.69580078125, 1e-15);
        QCOMPARE(w.steps.size(), std::size_t(4));
    }

    void theTwoConventionsDifferByLessThanACode() {
        Chain other = parse(hut_air);
        std::get<Adc>(other.stages[0]).convention = CodeConvention::two_to_n_minus_1;
        const Chain chain = parse(hut_air);
        for (int code = 1; code < 1023; ++code) {
            const double apart = forward(other, code).number - forward(chain, code).number;
            QVERIFY(apart > 0 && apart <= 0.489);
        }
    }

    void rails_data() {
        QTest::addColumn<double>("code");
        QTest::addColumn<int>("cause");
        QTest::addRow("low rail") << 0.0 << int(Cause::at_low_rail);
        QTest::addRow("high rail") << 1023.0 << int(Cause::at_high_rail);
        QTest::addRow("no such code") << 1024.0 << int(Cause::outside_codes);
        QTest::addRow("negative") << -1.0 << int(Cause::outside_codes);
        QTest::addRow("not a number") << std::nan("") << int(Cause::not_a_number);
        QTest::addRow("lowest good") << 1.0 << int(Cause::none);
        QTest::addRow("highest good") << 1022.0 << int(Cause::none);
    }
    void rails() {
        QFETCH(double, code);
        QFETCH(int, cause);
        for (const char* json : {hut_air, ratio}) {
            const Walk w = walk(parse(json), code);
            QCOMPARE(int(w.result().cause), cause);
            QCOMPARE(w.cause.empty(), cause == 0);
            QCOMPARE(std::isnan(w.result().number), cause != 0);
        }
    }

    void backwardsIsForwards_data() {
        QTest::addColumn<QByteArray>("json");
        QTest::addRow("linear") << QByteArray(hut_air);
        QTest::addRow("divider") << QByteArray(thermistor);
        QTest::addRow("ratio") << QByteArray(ratio);
    }
    void backwardsIsForwards() {
        QFETCH(QByteArray, json);
        const Chain chain = parse(json.constData());
        int compared = 0;
        for (double code = 3; code < 1020; code += 7.25) {
            const Value value = forward(chain, code);
            if (!value.ok()) continue;
            CLOSE(inverse(chain, value.number).number, code, 1e-6);
            ++compared;
        }
        QVERIFY(compared > 100);
    }

    void aValueFollowedFromAnyStepMeetsBothEnds() {
        const Chain chain = parse(hut_air);
        const Walk from_code = walk(chain, 142);
        for (std::size_t step = 0; step < from_code.steps.size(); ++step) {
            const Walk w = walk_through(chain, step, from_code.steps[step].number);
            for (std::size_t i = 0; i < w.steps.size(); ++i)
                CLOSE(w.steps[i].number, from_code.steps[i].number, 1e-9);
        }
    }

    void whatThePinCannotGiveHasNoCode() {
        const Walk w = walk_back(parse(hut_air), 600); // 6.5 V
        QVERIFY(!w.steps.front().ok());
        QVERIFY(!w.cause.empty());
    }

    void batchIsOneByOne_data() { backwardsIsForwards_data(); }
    void batchIsOneByOne() {
        QFETCH(QByteArray, json);
        const Chain chain = parse(json.constData());
        std::vector<double> in;
        for (double code = -2; code < 1030; code += 0.5)
            in.push_back(code);
        in.push_back(std::nan(""));
        in.push_back(INFINITY);
        std::vector<double> out(in.size());
        forward(chain, in, out);
        for (std::size_t i = 0; i < in.size(); ++i) {
            const Value one = forward(chain, in[i]);
            QCOMPARE(std::isnan(out[i]), !one.ok());
            if (one.ok()) CLOSE(out[i], one.number, 1e-12 * std::max(1.0, std::abs(one.number)));
        }
        // In place as well.
        forward(chain, in, in);
        for (std::size_t i = 0; i < in.size(); ++i)
            QVERIFY(in[i] == out[i] || (std::isnan(in[i]) && std::isnan(out[i])));
    }

    void jsonComesBack_data() { backwardsIsForwards_data(); }
    void jsonComesBack() {
        QFETCH(QByteArray, json);
        const Chain chain = parse(json.constData());
        QVERIFY(parse(chain_json(chain).dump().c_str()) == chain);
    }

    void badChains_data() {
        QTest::addColumn<QByteArray>("json");
        QTest::addColumn<QByteArray>("where");
        QTest::addColumn<QByteArray>("what");
        const auto row = [](const char* name, const char* json, const char* where, const char* what) {
            QTest::addRow("%s", name) << QByteArray(json) << QByteArray(where) << QByteArray(what);
        };
        row("unknown stage", "{\"stages\": [\n{\"stage\": \"magic\"}]}", "chain.json:2: /stages/0/stage",
            "not known");
        row("unknown key",
            "{\"stages\": [\n{\"stage\": \"adc\", \"bits\": 10,\n\"reference_V\": 5, \"colour\": 1}]}",
            "chain.json:3: /stages/0/colour", "not known");
        row("missing key", "{\"stages\": [{\"stage\": \"adc\", \"bits\": 10}]}", "chain.json:1: /stages/0",
            "missing");
        row("bits", "{\"stages\": [{\"stage\": \"adc\", \"bits\": 10.5, \"reference_V\": 5}]}", "/stages/0/bits",
            "whole");
        row("reference", "{\"stages\": [{\"stage\": \"adc\", \"bits\": 10, \"reference_V\": 0}]}",
            "/stages/0/reference_V", "above zero");
        row("slope zero",
            "{\"stages\": [{\"stage\": \"linear\", \"zero\": 0, \"slope\": 0, \"input_unit\": \"V\", \"unit\": "
            "\"degC\"}]}",
            "/stages/0/slope", "zero");
        row("unit",
            "{\"stages\": [{\"stage\": \"linear\", \"zero\": 0, \"slope\": 1, \"input_unit\": \"V\", \"unit\": "
            "\"furlong\"}]}",
            "/stages/0/unit", "not known");
        row("units that do not meet",
            "{\"stages\": [{\"stage\": \"adc\", \"bits\": 10, \"reference_V\": 5},\n{\"stage\": \"rtd\", "
            "\"r0_ohm\": 100}]}",
            "chain.json:2: /stages/1", "takes ohm");
        row("two doubts",
            "{\"stages\": [{\"stage\": \"adc\", \"bits\": 10, \"reference_V\": 5, \"u_reference_V\": 1, "
            "\"tol_reference_V\": 1}]}",
            "/stages/0/tol_reference_V", "not both");
        row("text", "{\"stages\": [{\"stage\": \"rtd\", \"r0_ohm\": \"100\"}]}", "/stages/0/r0_ohm", "number");
        row("no stages", "{\"name\": \"x\"}", "chain.json:1: /", "missing");
    }
    void badChains() {
        QFETCH(QByteArray, json);
        QFETCH(QByteArray, where);
        QFETCH(QByteArray, what);
        const Error e = error_of(json.constData());
        QVERIFY2(QByteArray::fromStdString(e.where).contains(where), e.where.c_str());
        QVERIFY2(QByteArray::fromStdString(e.what).contains(what), e.what.c_str());
    }
};

RUN_TESTS_OF(TestSignalPath)
#include "tst_signal_path.moc"
