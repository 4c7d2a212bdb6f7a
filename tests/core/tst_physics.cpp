// Published values: each number below stands in the source that is named beside it.
#include "core/physics/thermometry.h"
#include "core/physics/water.h"
#include "support/run_tests.h"
#include "support/support.h"

using namespace cognitum::physics;

class TestPhysics : public QObject {
    Q_OBJECT

  private slots:
    void platinumOfIec60751_data() {
        QTest::addColumn<double>("theta");
        QTest::addColumn<double>("ohm");
        // IEC 60751, table for R0 = 100 Ω.
        for (const auto& [theta, ohm] : {std::pair{-200.0, 18.52},
                                         {-100.0, 60.26},
                                         {-50.0, 80.31},
                                         {0.0, 100.0},
                                         {25.0, 109.73},
                                         {100.0, 138.51},
                                         {400.0, 247.09},
                                         {850.0, 390.48}})
            QTest::addRow("%g", theta) << theta << ohm;
    }
    void platinumOfIec60751() {
        QFETCH(double, theta);
        QFETCH(double, ohm);
        CLOSE(platinum_resistance(theta, 100), ohm, 0.005);
        CLOSE(platinum_temperature(platinum_resistance(theta, 100), 100), theta, 1e-6);
    }
    void platinumOutsideItsRangeIsNoNumber() {
        QVERIFY(std::isnan(platinum_resistance(-201, 100)));
        QVERIFY(std::isnan(platinum_resistance(851, 100)));
        QVERIFY(std::isnan(platinum_temperature(-1, 100)));
        QVERIFY(std::isnan(platinum_temperature(5, 100)));
    }

    void boilingPointOfIf97() {
        // Release on IAPWS-IF97, table 36.
        CLOSE(boiling_point(0.1e6) + zero_celsius_K, 0.372755919e3, 1e-6);
        CLOSE(boiling_point(1e6) + zero_celsius_K, 0.453035632e3, 1e-6);
        CLOSE(boiling_point(10e6) + zero_celsius_K, 0.584149488e3, 1e-6);
        QVERIFY(std::isnan(boiling_point(100)));
        QVERIFY(std::isnan(boiling_point(23e6)));
    }
    void standardAtmosphere() {
        // ISO 2533: 1 000 m → 898.746 hPa, 5 000 m → 540.199 hPa.
        CLOSE(standard_pressure(0), 101325, 1e-6);
        CLOSE(standard_pressure(1000), 89874.6, 3);
        CLOSE(standard_pressure(5000), 54019.9, 5);
    }

    void waterDensityOfTanaka() {
        // Metrologia 38 (2001), table 2.
        CLOSE(water_density(4), 999.9750, 1e-4);
        CLOSE(water_density(20), 998.2067, 1e-4);
        CLOSE(water_density(25), 997.0470, 1e-4);
        QVERIFY(std::isnan(water_density(41)));
    }

    void dewPointIsTheAirAtSaturation() {
        CLOSE(dew_point(20, 1), 20, 1e-12);
        CLOSE(dew_point(25, 0.5), 13.85, 0.02); // WMO-No. 8 form, worked by hand
        QVERIFY(std::isnan(dew_point(20, 0)));
    }

    void thermistorTwoForms() {
        CLOSE(thermistor_beta_temperature(10000, 10000, 25, 3950), 25, 1e-12);
        // The β form is Steinhart–Hart with C = 0.
        const double b = 1.0 / 3950;
        const double a = 1 / 298.15 - b * std::log(10000.0);
        for (const double ohm : {300.0, 1000.0, 10000.0, 33000.0, 330000.0})
            CLOSE(steinhart_hart_temperature(ohm, a, b, 0), thermistor_beta_temperature(ohm, 10000, 25, 3950),
                  1e-9);
    }
    void steinhartHartComesBack() {
        // Without its cubic part it is the two-parameter form, both ways.
        CLOSE(steinhart_hart_resistance(60, 1 / 298.15 - std::log(10000) / 3950, 1 / 3950.0, 0),
              thermistor_beta_resistance(60, 10000, 25, 3950), 1e-6);
        QVERIFY(std::isnan(steinhart_hart_resistance(60, 1e-3, 0, 1e-7)));
        constexpr double a = 1.129148e-3, b = 2.34125e-4, c = 8.76741e-8; // a usual 10 kΩ thermistor
        CLOSE(steinhart_hart_temperature(10000, a, b, c), 25, 0.01);
        for (double theta = -40; theta <= 125; theta += 5)
            CLOSE(steinhart_hart_temperature(steinhart_hart_resistance(theta, a, b, c), a, b, c), theta, 1e-8);
        QVERIFY(std::isnan(steinhart_hart_temperature(0, a, b, c)));
    }
};

RUN_TESTS_OF(TestPhysics)
#include "tst_physics.moc"
