// The families' stages in a path: JSON both ways, backwards is forwards, batch is one by one, and what is no
// measurement says why.
#include "core/physics/thermocouple.h"
#include "core/signal_path/chain.h"
#include "core/uncertainty/budget.h"
#include "support/chains.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <QFile>
#include <fmt/format.h>
#include <random>

using namespace cognitum;
using test::chain_of;

namespace {

std::string stage_refusal(const std::string& stages) {
    const auto chain = test::read_chain_of(stages);
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
        row("natural water", R"({"stage":"conductivity25","compensation":"natural-water","temperature_degC":8})",
            0.1, 60);
        row("bulging tank",
            R"({"stage":"vessel","shape":"box","length_m":1,"width_m":0.5,"height_m":1,"bulge":0.03,"u_bulge":0.01})",
            1, 999);
        row("stack",
            R"({"stage":"vessel","shape":"stack","sections":[{"shape":"cone","diameter_m":1,"height_m":0.4},
            {"shape":"upright-cylinder","diameter_m":1,"height_m":0.8}]})",
            1, 1199);
        row("loop", R"({"stage":"current_loop","shunt_ohm":150,"tol_shunt_ohm":0.15})", 0.55, 3.1);
        row("photo resistor", R"({"stage":"photo_resistor","r10_ohm":14000,"tol_r10_ohm":3000,"gamma":0.7})", 200,
            90000);
        row("straight couple", R"({"stage":"straight_couple","type":"K","reference_degC":22,"u_reference_degC":1})",
            0, 900);
        row("infrared", R"({"stage":"infrared","emissivity":0.9,"u_emissivity":0.02,"ambient_degC":21})", 30, 380);
        row("dissolved solids", R"({"stage":"dissolved_solids","k":0.7,"tol_k":0.05})", 0.01, 5);
        row("salinity", R"({"stage":"salinity","temperature_degC":12,"u_temperature_degC":0.1})", 5, 45);
        row("dew point", R"({"stage":"moist_air","wanted":"dew-point","temperature_degC":18})", 10, 99);
        row("absolute humidity", R"({"stage":"moist_air","wanted":"absolute-humidity","temperature_degC":18})", 10,
            99);
        row("what air lacks", R"({"stage":"moist_air","wanted":"vapour-pressure-deficit","temperature_degC":18})",
            10, 99);
        row("sea level", R"({"stage":"sea_level","altitude_m":420,"tol_altitude_m":5})", 900, 1020);
        row("altitude", R"({"stage":"altitude","base_hPa":1009})", 500, 1040);
        row("gas", R"({"stage":"gas_at","temperature_degC":38,"u_temperature_degC":1,"reference_degC":20})", 100,
            400);
        row("between", R"({"stage":"between","at_0":2.3,"tol_at_0":0.1,"at_100":1.0,"input_unit":"V"})", 1.0, 2.3);
        row("correction-curve",
            R"({"stage":"correction_curve","inputs":[0,1,3,6],"outputs":[0,2,3,9],"unit":"mm"})", -3, 8);
        row("table", R"({"stage":"table","inputs":[0,1,3,6],"outputs":[0,2,3,9],"input_unit":"V","unit":"mm"})", 0,
            6);
        row("formula", R"({"stage":"formula","expression":"a * ln(x) + b","names":["a","b"],"a":3,"u_a":0.1,"b":-2,
            "input_unit":"ohm","unit":"degC"})",
            1, 5000);
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

    /// The sentence that a person can follow with a calculator: its figures, their signs, their order.
    void theArithmeticInFigures_data() {
        QTest::addColumn<QByteArray>("stage");
        QTest::addColumn<double>("x");
        QTest::addColumn<QByteArray>("says");
        const auto row = [](const char* stage, double x, const char* says) {
            QTest::addRow("%s", says) << QByteArray(stage) << x << QByteArray(says);
        };
        row(R"({"stage":"adc","bits":10,"reference_V":5})", 138, "(138 + ½) × 5.000 V ÷ 1 024");
        row(R"({"stage":"ratio_divider","fixed_ohm":10000,"unknown":"bottom","bits":10})", 138,
            "10 000 Ω × 138.5 ÷ (1 024 − 138.5)");
        row(R"({"stage":"ratio_divider","fixed_ohm":10000,"unknown":"top","bits":10})", 138,
            "10 000 Ω × (1 024 − 138.5) ÷ 138.5");
        row(R"({"stage":"signed_word","bits":16})", 138, "138, as it is");
        row(R"({"stage":"signed_word","bits":16})", 65535, "65 535 − 65 536");
        row(R"({"stage":"current_loop","shunt_ohm":150})", 1.5, "1.5 V ÷ 150 Ω");
        row(R"({"stage":"linear","zero":0.5,"slope":0.01,"input_unit":"V","unit":"degC"})", 0.7,
            "(0.7 V − 0.5 V) ÷ 0.01 V/°C");
        row(R"({"stage":"linear","zero":-0.5,"slope":0.01,"input_unit":"V","unit":"degC"})", 0.7,
            "(0.7 V + 0.5 V) ÷ 0.01 V/°C");
        row(R"({"stage":"scale","factor":2,"offset":-3,"input_unit":"degC","unit":"degC"})", 5, "2 × 5 − 3");
        row(R"({"stage":"scale","factor":2,"offset":3,"input_unit":"degC","unit":"degC"})", 5, "2 × 5 + 3");
        row(R"({"stage":"scale","factor":2,"input_unit":"degC","unit":"degC"})", 5, "2 × 5");
        row(R"({"stage":"between","at_0":2.3,"at_100":1,"input_unit":"V"})", 1.5, "(1.5 − 2.3) V ÷ (1 − 2.3) V");
        row(R"({"stage":"between","at_0":-1,"at_100":1,"input_unit":"V"})", 0.5, "(0.5 + 1) V ÷ (1 + 1) V");
        row(R"({"stage":"correction","gain":1,"offset":0,"unit":"degC"})", 20, "20, as it is");
        row(R"({"stage":"correction","gain":1.02,"offset":0,"unit":"degC"})", 20, "1.02 × 20");
        row(R"({"stage":"correction","gain":1,"offset":-0.3,"unit":"degC"})", 20, "20 − 0.3");
        row(R"({"stage":"correction","gain":1.02,"offset":0.3,"unit":"degC"})", 20, "1.02 × 20 + 0.3");
        row(R"({"stage":"thermistor_beta","r0_ohm":10000,"t0_degC":25,"beta_K":3950})", 8000,
            "1/T = 1/298.15 K + ln(8 000 ÷ 10 000) ÷ 3 950 K");
        row(R"({"stage":"straight_couple","type":"K","reference_degC":-5})", 450,
            "(450 + 5) °C × 41.276 µV/°C is what the chip saw; ITS-90, type K");
        row(R"({"stage":"infrared","emissivity":0.9,"ambient_degC":21})", 205,
            "T⁴ = ((205 °C)⁴ − 0.1 × (21 °C)⁴) ÷ 0.9");
        row(R"({"stage":"level","mount_height_mm":2100})", 850, "2 100 mm − 850 mm");
        row(R"({"stage":"vessel","shape":"lying-cylinder","diameter_m":1,"length_m":2})", 500,
            "lying cylinder up to 500 mm; a millimetre is 2 L here");
        row(R"({"stage":"echo","speed_m_s":340})", 6000, "6 000 µs × 340.0 m/s ÷ 2");
        row(R"({"stage":"conductivity25","temperature_degC":14,"alpha_per_K":0.0191})", 30,
            "30 ÷ (1 + 0.0191 × (14 − 25))");
        row(R"({"stage":"gas_at","temperature_degC":38,"reference_degC":20})", 250,
            "(250 + 101.33) kPa × 293.15 K ÷ 311.15 K − 101.33 kPa");
        row(R"({"stage":"threshold","level":1,"hysteresis":0.1,"input_unit":"V"})", 3,
            "on above 1 V, and it is 3 V");
    }
    void theArithmeticInFigures() {
        QFETCH(QByteArray, stage);
        QFETCH(double, x);
        QFETCH(QByteArray, says);
        const Chain chain = chain_of(stage.toStdString());
        QCOMPARE(test::plain(arithmetic_text(chain.stages[0], x)), says.toStdString());
    }

    /// On, off, and in between neither; there is no way back from a state to what made it.
    void thresholds() {
        for (const bool above : {true, false}) {
            const QByteArray stage =
                R"({"stage":"threshold","level":2.5,"hysteresis":0.4,"on":"SIDE","input_unit":"V"})";
            const Chain wet = chain_of(QByteArray(stage).replace("SIDE", above ? "above" : "below").toStdString());
            QCOMPARE(forward(wet, 3).number, above ? 1.0 : 0.0);
            QCOMPARE(forward(wet, 2).number, above ? 0.0 : 1.0);
            QCOMPARE(forward(wet, 2.6).cause, Cause::undecided);
            QVERIFY(walk(wet, 2.6).cause.find("too close") != std::string::npos);
            QCOMPARE(inverse(wet, 1).cause, Cause::ambiguous);
            QVERIFY(chain_of(stage_json(wet.stages[0]).dump()) == wet);
            std::vector<double> in = {3, 2, 2.6, std::nan("")}, out(4);
            forward(wet, in, out);
            QCOMPARE(out[0] + 2 * out[1], above ? 1.0 : 2.0);
            QVERIFY(std::isnan(out[2]) && std::isnan(out[3]));
        }
        QCOMPARE(forward(chain_of(R"({"stage":"threshold","level":2,"input_unit":"V"})"), 2).number, 1.0);
    }
    /// Words below zero, and which codes they are not.
    void signedWords() {
        const Chain word = chain_of(R"({"stage":"signed_word","bits":12})");
        QCOMPARE(forward(word, 5).number, 5.0);
        QCOMPARE(forward(word, 2047).number, 2047.0);
        QCOMPARE(forward(word, 2048).number, -2048.0);
        QCOMPARE(forward(word, 4095).number, -1.0);
        QCOMPARE(forward(word, 4096).cause, Cause::outside_codes);
        QCOMPARE(forward(word, 0.5).cause, Cause::outside_codes);
        QCOMPARE(inverse(word, -1).number, 4095.0);
        QCOMPARE(inverse(word, 2048).cause, Cause::out_of_range);
        // A one-wire thermometer at twelve bits: −10.125 °C is 0xFF5E, sixteenths.
        const Chain probe = chain_of(R"({"stage":"signed_word","bits":16},
            {"stage":"scale","factor":0.0625,"input_unit":"count","unit":"degC"})");
        QCOMPARE(forward(probe, 0xFF5E).number, -10.125);
        QCOMPARE(forward(probe, 0x0191).number, 25.0625);
    }

    /// A part that follows its supply: half of it is half, whatever it is; and the rails are no share.
    void shareOfTheSupply() {
        const Chain pot = chain_of(R"({"stage":"ratio","bits":10},
            {"stage":"between","at_0":0.1,"at_100":0.9,"input_unit":"1"})");
        CLOSE(forward(pot, 511.5).number, 50, 1e-9);
        CLOSE(inverse(pot, 50).number, 511.5, 1e-9);
        QCOMPARE(forward(pot, 1023).cause, Cause::at_high_rail);
        CLOSE(budget(pot, 500).find("quantisation")->u, 100 / 0.8 / 1024 / std::sqrt(12.0), 1e-6);
        CLOSE(quantum(pot.stages[0], 5), 1 / 1024.0, 1e-15);
    }

    /// The new stages against figures that stand elsewhere or follow by hand.
    void newStagesByHand() {
        const auto value = [](const char* stage, double x) { return forward(chain_of(stage), x).number; };
        CLOSE(value(R"({"stage":"current_loop","shunt_ohm":250})", 1.0), 4, 1e-12);
        CLOSE(value(R"({"stage":"photo_resistor","r10_ohm":10000,"gamma":0.5})", 1000), 1000,
              1e-9); // a tenth: 100 times
        // A straight-line chip at 25 °C shows 500 °C·: ITS-90 says what the real temperature is, 20.644 mV − 1.000
        // mV.
        CLOSE(value(R"({"stage":"straight_couple","type":"K","slope_uV_per_K":41.276,"reference_degC":25})",
                    25 + (20.644 - 1.000) / 0.041276),
              500, 0.03);
        // Polished steel at 100 °C: an emissivity of 0.1 in a room of 20 °C looks like 31.2 °C.
        CLOSE(value(R"({"stage":"infrared","emissivity":0.1,"ambient_degC":20})", 31.24), 100, 0.3);
        CLOSE(value(R"({"stage":"gas_at","temperature_degC":40,"reference_degC":20,"ambient_kPa":100})", 213.15),
              313.15 * 293.15 / 313.15 - 100, 1e-9);
        CLOSE(value(R"({"stage":"salinity","temperature_degC":15})", 42.914), 35, 1e-6);
        CLOSE(value(R"({"stage":"moist_air","wanted":"dew-point","temperature_degC":20})", 50), 9.27, 0.02);
        CLOSE(value(R"({"stage":"moist_air","wanted":"absolute-humidity","temperature_degC":20})", 100), 17.3, 0.1);
        CLOSE(value(R"({"stage":"altitude"})", 898.746), 1000, 0.05);
        CLOSE(value(R"({"stage":"between","at_0":2.3,"at_100":1.0,"input_unit":"V"})", 1.65), 50, 1e-9);
        CLOSE(value(R"({"stage":"vessel","shape":"box","length_m":1,"width_m":1,"height_m":1,"bulge":0.04})", 1000),
              1040, 1e-9);
        // Cone 0.4 m high under a cylinder: a third of the cylinder's volume, and what stands above it.
        const double area = 3.14159265358979 / 4;
        CLOSE(value(R"({"stage":"vessel","shape":"stack","sections":[{"shape":"cone","diameter_m":1,"height_m":0.4},
            {"shape":"upright-cylinder","diameter_m":1,"height_m":0.8}]})",
                    700),
              1000 * area * (0.4 / 3 + 0.3), 1e-9);
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
        // A loop below 3.6 mA or above 21 mA is a transmitter that says that it failed.
        const Chain loop = chain_of(R"({"stage":"current_loop","shunt_ohm":250})");
        QCOMPARE(forward(loop, 0.85).cause, Cause::failed);
        QCOMPARE(forward(loop, 5.3).cause, Cause::failed);
        QCOMPARE(forward(loop, 0.91).cause, Cause::none);
        // Beyond its two points a scale says so, and is not clamped.
        const Chain soil = chain_of(R"({"stage":"between","at_0":2.3,"at_100":1.0,"input_unit":"V"})");
        CLOSE(forward(soil, 2.313).number, -1, 1e-9);
        QCOMPARE(forward(soil, 2.4).cause, Cause::below_empty);
        QCOMPARE(forward(soil, 0.9).cause, Cause::overfull);
        QVERIFY(walk(soil, 0.9).cause.find("no longer holds") != std::string::npos);
    }

    /// docs/chains.md names every stage.
    void theHandbookNamesEveryStage() {
        QFile file(QStringLiteral(COGNITUM_SOURCE_DIR "/docs/chains.md"));
        QVERIFY(file.open(QIODevice::ReadOnly));
        const QByteArray book = file.readAll();
        const std::string told = stage_refusal(R"({"stage":"magic"})");
        const QString list = QString::fromStdString(told.substr(told.find("known are ") + 10)).section('.', 0, 0);
        const QStringList names = list.split(QStringLiteral(", "));
        QCOMPARE(names.size(), qsizetype(std::variant_size_v<StageVariant>));
        for (const QString& name : names)
            QVERIFY2(book.contains("| `" + name.toUtf8() + "` |"), qPrintable(name));
    }

    /// How a constant is known has a key of its own; files from before have only the words of the programs then.
    void howAConstantIsKnown() {
        const auto known = [](const std::string& keys) {
            const Chain chain = chain_of(R"({"stage":"level","mount_height_mm":2000)" + keys + "}");
            if (chain_of(stage_json(chain.stages[0]).dump()).stages != chain.stages)
                qFatal("it is another one when it was written and read again");
            return std::get<LevelBelow>(chain.stages[0]).mount_height_mm.known_by;
        };
        QVERIFY(known("") == KnownBy::statement);
        QVERIFY(known(R"(,"known_by_mount_height_mm":"statement","origin_mount_height_mm":"assumed")") ==
                KnownBy::statement);
        QVERIFY(known(R"(,"known_by_mount_height_mm":"assumption")") == KnownBy::assumption);
        QVERIFY(known(R"(,"known_by_mount_height_mm":"hand")") == KnownBy::hand);
        QVERIFY(known(R"(,"known_by_mount_height_mm":"calibration")") == KnownBy::calibration);
        const std::pair<const char*, KnownBy> words[] = {{"assumed", KnownBy::assumption},
                                                         {"typed by hand", KnownBy::hand},
                                                         {"typed by hand, 2026-11-03", KnownBy::hand},
                                                         {"measured with a meter, 12 May", KnownBy::hand},
                                                         {"from 3 points, 2026-11-03", KnownBy::calibration},
                                                         {"data sheet", KnownBy::statement},
                                                         {"from the catalogue", KnownBy::statement},
                                                         {"program, line 7", KnownBy::statement}};
        for (const auto& [origin, by] : words)
            QVERIFY2(known(fmt::format(",\"origin_mount_height_mm\":\"{}\"", origin)) == by, origin);
        QVERIFY(stage_refusal(R"({"stage":"level","mount_height_mm":1,"known_by_mount_height_mm":"guess"})")
                    .find("assumption") != std::string::npos);
    }

    void badStagesNameTheirPlace() {
        const auto says = [](const std::string& stage, const char* text) {
            const std::string told = stage_refusal(stage);
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
        QCOMPARE(
            says(R"({"stage":"conductivity25","temperature_degC":20,"compensation":"cubic"})", "natural-water"),
            std::string());
        QCOMPARE(says(R"({"stage":"infrared","emissivity":1.2,"ambient_degC":20})", "0.05 and 1"), std::string());
        QCOMPARE(says(R"({"stage":"between","at_0":1,"at_100":1,"input_unit":"V"})", "the same"), std::string());
        QCOMPARE(
            says(R"({"stage":"table","inputs":[0,2,1],"outputs":[0,1,2],"input_unit":"V","unit":"mm"})", "row 3"),
            std::string());
        QCOMPARE(says(R"({"stage":"table","inputs":[0,2],"outputs":[0],"input_unit":"V","unit":"mm"})", "as many"),
                 std::string());
        QCOMPARE(says(R"({"stage":"vessel","shape":"stack","sections":[]})", "one to twenty"), std::string());
        QCOMPARE(
            says(R"({"stage":"vessel","shape":"stack","sections":[{"shape":"box","width_m":1}]})", "section 1"),
            std::string());
        QCOMPARE(says(R"({"stage":"vessel","shape":"sphere","diameter_m":1,"bulge":0.9})", "bulges"),
                 std::string());
        QCOMPARE(says(R"({"stage":"signed_word","bits":1})", "two bits"), std::string());
        QCOMPARE(says(R"({"stage":"threshold","level":1,"hysteresis":-1,"input_unit":"V"})", "below zero"),
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

RUN_TESTS_OF(TestStages)
#include "tst_stages.moc"
