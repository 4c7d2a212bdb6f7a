// What a stage says of itself against what it does: the straight line that it calls itself, the size of a code, its
// units, for numbers drawn at random.
#include "core/signal_path/chain.h"
#include "core/signal_path/stage.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <cmath>
#include <random>

using namespace cognitum;

namespace {

Constant number(double value) {
    Constant out;
    out.value = value;
    return out;
}

/// Drawn from [low, high].
double any(std::mt19937_64& random, double low, double high) {
    return low + (high - low) * static_cast<double>(random() % 1000001) / 1000000;
}

Adc converter(int bits, double reference_V, bool centre, CodeConvention convention) {
    Adc out;
    out.bits = bits;
    out.reference_V = number(reference_V);
    out.centre = centre;
    out.convention = convention;
    return out;
}

/// Stages that are straight lines, with constants at random, and an input at which each gives a number.
std::vector<std::pair<Stage, double>> straight_ones(std::mt19937_64& random) {
    Linear linear;
    linear.slope = number(any(random, 0.001, 0.1));
    linear.zero = number(any(random, -1, 1));
    linear.input_unit = "V";
    linear.unit = "degC";
    Scale scale;
    scale.factor = number(any(random, -5, -0.1));
    scale.offset = number(any(random, -100, 100));
    scale.input_unit = "V";
    scale.unit = "V";
    CurrentLoop loop;
    loop.shunt_ohm = number(any(random, 100, 250));
    LevelBelow below;
    below.mount_height_mm = number(any(random, 1500, 3000));
    Correction correction;
    correction.gain = number(any(random, 0.9, 1.1));
    correction.offset = number(any(random, -2, 2));
    correction.unit = "degC";
    const int bits = 8 + static_cast<int>(random() % 9);
    const double code = std::floor(any(random, 2, std::ldexp(1, bits) - 3));
    const double volt = any(random, 1, 5);
    return {{converter(bits, volt, true, CodeConvention::two_to_n), code},
            {converter(bits, volt, false, CodeConvention::two_to_n), code},
            {converter(bits, volt, false, CodeConvention::two_to_n_minus_1), code},
            {linear, any(random, 0, 5)},
            {scale, any(random, -10, 10)},
            {loop, loop.shunt_ohm.value * any(random, 4, 20) / 1000},
            {below, any(random, 300, 1400)},
            {correction, any(random, -40, 80)}};
}

} // namespace

class TestStraightStages : public QObject {
    Q_OBJECT

  private slots:
    void theLineIsWhatTheStageDoes() {
        std::mt19937_64 random(11);
        for (int turn = 0; turn < 500; ++turn)
            for (const auto& [stage, x] : straight_ones(random)) {
                Affine line{};
                QVERIFY2(as_affine(stage, line), stage_title(stage).c_str());
                const Value there = forward(stage, x);
                QVERIFY2(there.ok(), stage_title(stage).c_str());
                CLOSE(there.number, line.a * x + line.b, 1e-9 * (std::abs(there.number) + 1));
                const Value back = inverse(stage, there.number);
                QVERIFY2(back.ok(), stage_title(stage).c_str());
                CLOSE(back.number, x, 1e-6 * (std::abs(x) + 1));
            }
    }
    /// Curves are no lines, however nearly.
    void whatIsCurvedSaysSo() {
        Affine line{};
        for (const Stage& stage : {Stage(ThermistorBeta{}), Stage(Rtd{}), Stage(Divider{}), Stage(Echo{}),
                                   Stage(VesselFill{}), Stage(Table{}), Stage(CorrectionCurve{}), Stage(Between{})})
            QVERIFY2(!as_affine(stage, line), stage_title(stage).c_str());
    }
    void aCodeIsTheStepBetweenNeighbours() {
        std::mt19937_64 random(12);
        for (int turn = 0; turn < 300; ++turn) {
            const int bits = 8 + static_cast<int>(random() % 9);
            const double code = std::floor(any(random, 1, std::ldexp(1, bits) - 4));
            Ratio ratio;
            ratio.bits = bits;
            for (const Stage& stage :
                 {Stage(converter(bits, 3.3, turn % 2 == 0, CodeConvention::two_to_n)),
                  Stage(converter(bits, 5, false, CodeConvention::two_to_n_minus_1)), Stage(ratio)}) {
                QCOMPARE(code_bits(stage), bits);
                const Value here = forward(stage, code), next = forward(stage, code + 1);
                QVERIFY(here.ok() && next.ok());
                CLOSE(quantum(stage, code), next.number - here.number, 1e-12);
            }
        }
        QCOMPARE(code_bits(Stage(Linear{})), 0);
        QCOMPARE(quantum(Stage(Linear{}), 3), 0.0);
    }
    /// A 10-bit converter against 5 V: code 0 and 1023 touch the rails, 1 and 1022 do not.
    void theEndCodesAreRails() {
        const Stage stage = converter(10, 5, true, CodeConvention::two_to_n);
        for (const double code : {0.0, 1023.0})
            QVERIFY2(!forward(stage, code).ok(), qPrintable(QString::number(code)));
        for (const double code : {1.0, 1022.0})
            QVERIFY2(forward(stage, code).ok(), qPrintable(QString::number(code)));
        QVERIFY(!forward(stage, -1).ok());
        QVERIFY(!forward(stage, 1024).ok());
        CLOSE(forward(stage, 512).number, 512.5 / 1024 * 5, 1e-12);
        CLOSE(forward(Stage(converter(10, 5, false, CodeConvention::two_to_n)), 512).number, 2.5, 1e-12);
        CLOSE(forward(Stage(converter(10, 5, false, CodeConvention::two_to_n_minus_1)), 512).number,
              512.0 / 1023 * 5, 1e-12);
    }
    /// A loop of 4 to 20 mA at 250 Ω: 1 V is 4 mA and 5 V is 20 mA.
    void aLoopIsOhmsLaw() {
        CurrentLoop loop;
        loop.shunt_ohm = number(250);
        CLOSE(forward(Stage(loop), 1).number, 4, 1e-12);
        CLOSE(forward(Stage(loop), 5).number, 20, 1e-12);
        CLOSE(inverse(Stage(loop), 12).number, 3, 1e-12);
    }
};

RUN_TESTS_OF(TestStraightStages)
#include "tst_straight_stages.moc"
