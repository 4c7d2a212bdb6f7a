// The check by draws: known distributions, causes that cancel, a slow model beside it, and when it disagrees.
#include "core/signal_path/chain.h"
#include "core/uncertainty/monte_carlo.h"
#include "support/chains.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <random>

using namespace cognitum;
using test::chain_of;

class TestMonteCarlo : public QObject {
    Q_OBJECT

  private slots:
    void aNormalConstant() {
        const Chain chain =
            chain_of(R"({"stage":"scale","factor":2,"offset":1,"u_offset":0.5,"input_unit":"V","unit":"V"})");
        const MonteCarlo mc = monte_carlo(chain, 3, {}, 400'000, 7);
        CLOSE(mc.mean, 7, 0.005);
        CLOSE(mc.sd, 0.5, 0.005);
        CLOSE(mc.expanded(), 1.96 * 0.5, 0.01);
        QCOMPARE(mc.failed, std::size_t(0));
        QVERIFY(!disagree(budget(chain, 3), mc));
    }
    /// One tolerance with hard edges: 95 % of it lie within 0.95 of its half width, not within 1.96 sigma.
    void aRectangularOne() {
        const Chain chain =
            chain_of(R"({"stage":"scale","factor":1,"offset":0,"tol_offset":1,"input_unit":"V","unit":"V"})");
        const MonteCarlo mc = monte_carlo(chain, 0, {}, 400'000, 7);
        CLOSE(mc.expanded(), 0.95, 0.005);
        CLOSE(mc.sd, 1 / std::sqrt(3.0), 0.003);
        QVERIFY(disagree(budget(chain, 0), mc)); // 1.13 against 0.95
    }
    void oneSeedOneAnswer() {
        const Chain chain = chain_of(R"({"stage":"rtd","r0_ohm":100,"u_r0_ohm":0.1})");
        const MonteCarlo a = monte_carlo(chain, 119, {}, 5000, 3), b = monte_carlo(chain, 119, {}, 5000, 3);
        QCOMPARE(a.mean, b.mean);
        QCOMPARE(a.high, b.high);
        QVERIFY(monte_carlo(chain, 119, {}, 5000, 4).mean != a.mean);
    }
    /// The supply that is reference and divider's supply at once cancels; two different ones do not.
    void aSharedCauseCancels() {
        const auto doubt = [](const char* first, const char* second) {
            const Chain chain = chain_of(
                std::string(R"({"stage":"adc","bits":16,"reference_V":5,"u_reference_V":0.05)") + first +
                R"(},{"stage":"divider","fixed_ohm":10000,"unknown":"bottom","supply_V":5,"u_supply_V":0.05)" +
                second + "}");
            return monte_carlo(chain, 30000, {}, 100'000, 5).sd;
        };
        const double apart = doubt("", ""),
                     together = doubt(R"(,"cause_reference_V":"rail")", R"(,"cause_supply_V":"rail")");
        QVERIFY2(together < apart / 50, qPrintable(QStringLiteral("%1 %2").arg(together).arg(apart)));
    }
    /// Beside a plain model of the same circuit with the standard library's distributions.
    void besideASlowModel() {
        const Chain chain = chain_of(
            R"({"stage":"adc","bits":10,"reference_V":5,"tol_reference_V":0.05},
               {"stage":"divider","fixed_ohm":10000,"tol_fixed_ohm":100,"unknown":"bottom","supply_V":5,"tol_supply_V":0.05},
               {"stage":"thermistor_beta","r0_ohm":10000,"tol_r0_ohm":100,"t0_degC":25,"beta_K":3950,"u_beta_K":20})");
        const MonteCarlo mc = monte_carlo(chain, 400, {}, 300'000, 9);
        std::mt19937_64 random(42);
        std::uniform_real_distribution<double> flat(-1, 1);
        std::normal_distribution<double> normal;
        double sum = 0, squares = 0;
        constexpr int draws = 300'000;
        for (int i = 0; i < draws; ++i) {
            const double volts = (400.5 + 0.5 * flat(random)) * (5 + 0.05 * flat(random)) / 1024;
            const double supply = 5 + 0.05 * flat(random);
            const double ohm = (10000 + 100 * flat(random)) * volts / (supply - volts);
            const double t =
                1 / (1 / 298.15 + std::log(ohm / (10000 + 100 * flat(random))) / (3950 + 20 * normal(random))) -
                273.15;
            sum += t;
            squares += t * t;
        }
        const double mean = sum / draws, sd = std::sqrt(squares / draws - mean * mean);
        CLOSE(mc.mean, mean, 0.01);
        CLOSE(mc.sd, sd, 0.01 * sd);
        CLOSE(budget(chain, 400).standard_uncertainty, sd, 0.03 * sd);
    }
    void noiseAndTheOthers() {
        const Chain chain = chain_of(R"({"stage":"scale","factor":3,"offset":0,"input_unit":"V","unit":"V"})");
        DoubtInputs inputs;
        inputs.noise = 0.1;
        inputs.others = {{"calibration", "Calibration", 0.4}};
        CLOSE(monte_carlo(chain, 1, inputs, 300'000, 2).sd, 0.5, 0.005);
        // Few degrees of freedom: Student's t is wider, as k is.
        inputs = {};
        inputs.others = {{"calibration", "Calibration", 1, 4}};
        const MonteCarlo mc = monte_carlo(chain, 1, inputs, 400'000, 2);
        CLOSE(mc.expanded(), coverage_factor(4), 0.05);
        QVERIFY(!disagree(budget(chain, 1, inputs), mc));
    }
    void nearAnEndDrawsFail() {
        const Chain chain = chain_of(
            R"({"stage":"vessel","shape":"box","length_m":1,"width_m":1,"height_m":1},
               {"stage":"correction","offset":0,"unit":"L"})");
        DoubtInputs inputs;
        inputs.noise = 10;
        const MonteCarlo mc = monte_carlo(chain, 998, inputs, 20'000, 1);
        QVERIFY(mc.failed > 5000 && mc.failed < 12000);
        const MonteCarlo none = monte_carlo(chain, 2000, inputs, 20'000, 1);
        QVERIFY(std::isnan(none.mean) && none.failed == 20'000);
    }
};

RUN_TESTS_OF(TestMonteCarlo)
#include "tst_monte_carlo.moc"
