// The families' stages in a path: JSON both ways, backwards is forwards, batch is one by one, and what is no
// measurement says why.
#include "core/physics/thermocouple.h"
#include "core/signal_path/chain.h"
#include "core/uncertainty/budget.h"
#include "support/support.h"

#include <random>

using namespace cognitum;

namespace {

Result<Chain> read(const std::string& stages) {
    const auto text = JsonText::parse("chain.json", R"({"stages": [)" + stages + "]}");
    if (!text) return tl::make_unexpected(text.error());
    return read_chain(JsonReader(*text));
}
Chain chain_of(const std::string& stages) {
    auto chain = read(stages);
    if (!chain) qFatal("%s", chain.error().text().c_str());
    return *chain;
}
std::string refusal(const std::string& stages) {
    const auto chain = read(stages);
    return chain ? std::string("read") : chain.error().text();
}

} // namespace

class TestStages : public QObject {
    Q_OBJECT

  private slots:
    void bothWays_data() {
        QTest::addColumn<QByteArray>("stage");
        QTest::addColumn<double>("low");
        QTest::addColumn<double>("high");
        const auto row = [](const char* name, const char* stage, double low, double high) {
            QTest::addRow("%s", name) << QByteArray(stage) << low << high;
        };
        row("thermocouple", R"({"stage":"thermocouple","type":"K","reference_degC":24,"tol_reference_degC":0.5})",
            -5, 50);
        row("echo dry", R"({"stage":"echo","temperature_degC":12})", 100, 30000);
        row("echo humid", R"({"stage":"echo","temperature_degC":12,"humidity":0.8,"pressure_Pa":99000})", 100,
            30000);
        row("echo fixed", R"({"stage":"echo","speed_m_s":340,"u_speed_m_s":2})", 100, 30000);
        row("level", R"({"stage":"level","mount_height_mm":2100})", 0, 2100);
        row("lying", R"({"stage":"vessel","shape":"lying-cylinder","diameter_m":1,"length_m":2})", 1, 999);
        row("box", R"({"stage":"vessel","shape":"box","length_m":1,"width_m":0.5,"height_m":1})", 1, 999);
        row("strapping", R"({"stage":"vessel","shape":"strapping","levels_mm":[0,200,900],"volumes_L":[0,50,400]})",
            1, 899);
        row("conductivity", R"({"stage":"conductivity25","temperature_degC":14,"alpha_per_K":0.0191})", 0.1, 60);
    }
    void bothWays() {
        QFETCH(QByteArray, stage);
        QFETCH(double, low);
        QFETCH(double, high);
        const Chain chain = chain_of(stage.toStdString());
        const Chain again = chain_of(stage_json(chain.stages[0]).dump());
        QVERIFY2(again == chain, stage_json(again.stages[0]).dump().c_str());
        std::mt19937_64 random(1);
        std::vector<double> in, out;
        for (int i = 0; i < 500; ++i)
            in.push_back(std::uniform_real_distribution<double>(low, high)(random));
        in.push_back(std::nan(""));
        out.resize(in.size());
        forward(chain, in, out);
        for (std::size_t i = 0; i < in.size(); ++i) {
            const Value one = forward(chain, in[i]);
            QCOMPARE(std::isfinite(out[i]), one.ok());
            if (!one.ok()) continue;
            CLOSE(out[i], one.number, 1e-9 * (1 + std::abs(one.number)));
            CLOSE(inverse(chain, one.number).number, in[i], 1e-6 * high);
        }
        QVERIFY(!arithmetic_text(chain.stages[0], (low + high) / 2).empty());
        for (const Contribution& c : budget(chain, (low + high) / 2).contributions)
            QVERIFY2(std::isfinite(c.u) && c.label.find('_') == std::string::npos, c.label.c_str());
    }

    /// An ADC behind a 32 mV probe, by hand; a cistern from an echo, by hand.
    void wholePathsByHand() {
        const Chain cistern =
            chain_of(R"({"stage":"echo","temperature_degC":20},{"stage":"level","mount_height_mm":1150},
            {"stage":"vessel","shape":"lying-cylinder","diameter_m":1,"length_m":2})");
        // 650 mm of air are 650 · 2000 / 343.2 µs; half full is 785.4 L.
        const double c = 331.3 * std::sqrt(1 + 20 / 273.15);
        CLOSE(forward(cistern, 2000 * 650 / c).number, 785.398, 0.001);
        CLOSE(inverse(cistern, 785.398163).number, 2000 * 650 / c, 1e-3);
        const Chain flue = chain_of(R"({"stage":"thermocouple","type":"K","reference_degC":25})");
        CLOSE(forward(flue, 20.644 - 1.000).number, 500, 0.02);
        CLOSE(forward(chain_of(R"({"stage":"conductivity25","temperature_degC":20})"), 1.278).number, 1.42, 1e-12);
    }

    void whatIsNoMeasurementSaysWhy() {
        const Chain cistern = chain_of(R"({"stage":"echo","speed_m_s":340},{"stage":"level","mount_height_mm":1000},
            {"stage":"vessel","shape":"box","length_m":1,"width_m":1,"height_m":0.8})");
        QCOMPARE(forward(cistern, 0).cause, Cause::failed); // an echo that never came is not "full"
        QVERIFY2(walk(cistern, 0).cause.find("never came") != std::string::npos, walk(cistern, 0).cause.c_str());
        QCOMPARE(forward(cistern, 200 / 0.17).cause, Cause::none);
        QCOMPARE(forward(cistern, 100 / 0.17).cause, Cause::overfull);
        QCOMPARE(forward(cistern, 1100 / 0.17).cause, Cause::below_empty);
        QCOMPARE(inverse(cistern, 801).cause, Cause::overfull);
        QCOMPARE(inverse(cistern, -1).cause, Cause::below_empty);
        const Chain couple = chain_of(R"({"stage":"thermocouple","type":"K","reference_degC":25})");
        QCOMPARE(forward(couple, 60).cause, Cause::out_of_range);
        QCOMPARE(inverse(couple, 1400).cause, Cause::out_of_range);
    }

    void badStagesNameTheirPlace() {
        const auto says = [](const std::string& stage, const char* text) {
            const std::string told = refusal(stage);
            return told.find(text) != std::string::npos ? std::string() : told;
        };
        QCOMPARE(says(R"({"stage":"thermocouple","type":"Q","reference_degC":0})", "B, E, J"), std::string());
        QCOMPARE(says(R"({"stage":"echo"})", "temperature, or its speed"), std::string());
        QCOMPARE(says(R"({"stage":"echo","temperature_degC":20,"speed_m_s":340})", "not both"), std::string());
        QCOMPARE(says(R"({"stage":"echo","temperature_degC":20,"humidity":50})", "share from 0 to 1"),
                 std::string());
        QCOMPARE(says(R"({"stage":"vessel","shape":"bottle"})", "known are box"), std::string());
        QCOMPARE(says(R"({"stage":"vessel","shape":"box","length_m":1,"width_m":-1,"height_m":1})", "width"),
                 std::string());
        QCOMPARE(says(R"({"stage":"vessel","shape":"sphere","diameter_m":1,"length_m":1})", "length_m"),
                 std::string());
        QCOMPARE(says(R"({"stage":"vessel","shape":"strapping","levels_mm":[0,9,5],"volumes_L":[0,1,2]})", "row 3"),
                 std::string());
        QCOMPARE(says(R"({"stage":"conductivity25","temperature_degC":20,"alpha_per_K":2})", "alpha"),
                 std::string());
        QCOMPARE(says(R"({"stage":"level","mount_height_mm":1},{"stage":"conductivity25","temperature_degC":20})",
                      "takes mS/cm"),
                 std::string());
    }

    /// The doubt of half a degree at the cold junction is half a degree at the probe, times the ratio of the
    /// slopes.
    void theColdJunctionsDoubtReachesTheProbe() {
        const Chain couple =
            chain_of(R"({"stage":"thermocouple","type":"K","reference_degC":25,"u_reference_degC":0.5})");
        using namespace physics;
        const double emf = thermocouple_emf(ThermocoupleType::K, 600, 25);
        const auto slope = [](double at) {
            return (thermocouple_emf(ThermocoupleType::K, at + 0.1) -
                    thermocouple_emf(ThermocoupleType::K, at - 0.1)) /
                   0.2;
        };
        const Budget b = budget(couple, emf);
        const Contribution* cold = b.find("reference_degC");
        QVERIFY(cold);
        CLOSE(cold->u, 0.5 * slope(25) / slope(600), 1e-3);
    }
};

QTEST_APPLESS_MAIN(TestStages)
#include "tst_stages.moc"
