// The families' physics against published values, at both ends of their ranges, both ways.
#include "core/physics/air.h"
#include "core/physics/conductivity.h"
#include "core/physics/radiation.h"
#include "core/physics/salts.h"
#include "core/physics/soil.h"
#include "core/physics/sound.h"
#include "core/physics/steffen.h"
#include "core/physics/sun.h"
#include "core/physics/thermocouple.h"
#include "core/physics/water.h"
#include "support/run_tests.h"
#include "support/support.h"

using namespace cognitum;
using namespace cognitum::physics;

class TestPhysicsFamilies : public QObject {
    Q_OBJECT

  private slots:
    /// IEC 60584-1, tables of the reference functions, mV.
    void thermocouples_data() {
        QTest::addColumn<QString>("type");
        QTest::addColumn<double>("theta");
        QTest::addColumn<double>("emf");
        const auto row = [](const char* type, double theta, double emf) {
            QTest::addRow("%s at %g", type, theta) << QString::fromLatin1(type) << theta << emf;
        };
        for (const auto& [theta, emf] : {std::pair{-270.0, -6.458},
                                         {-200.0, -5.891},
                                         {-100.0, -3.554},
                                         {25.0, 1.000},
                                         {100.0, 4.096},
                                         {500.0, 20.644},
                                         {1000.0, 41.276},
                                         {1372.0, 54.886}})
            row("K", theta, emf);
        for (const auto& [theta, emf] : {std::pair{-210.0, -8.095},
                                         {-100.0, -4.633},
                                         {100.0, 5.269},
                                         {500.0, 27.393},
                                         {760.0, 42.919},
                                         {1000.0, 57.953},
                                         {1200.0, 69.553}})
            row("J", theta, emf);
        for (const auto& [theta, emf] :
             {std::pair{-270.0, -6.258}, {-200.0, -5.603}, {-100.0, -3.379}, {100.0, 4.279}, {400.0, 20.872}})
            row("T", theta, emf);
        for (const auto& [theta, emf] :
             {std::pair{-270.0, -9.835}, {-200.0, -8.825}, {100.0, 6.319}, {500.0, 37.005}, {1000.0, 76.373}})
            row("E", theta, emf);
        for (const auto& [theta, emf] :
             {std::pair{-270.0, -4.345}, {-200.0, -3.990}, {100.0, 2.774}, {500.0, 16.748}, {1300.0, 47.513}})
            row("N", theta, emf);
        for (const auto& [theta, emf] :
             {std::pair{-50.0, -0.226}, {100.0, 0.647}, {500.0, 4.471}, {1000.0, 10.506}, {1500.0, 17.451}})
            row("R", theta, emf);
        for (const auto& [theta, emf] :
             {std::pair{-50.0, -0.236}, {100.0, 0.646}, {500.0, 4.233}, {1000.0, 9.587}, {1500.0, 15.582}})
            row("S", theta, emf);
        for (const auto& [theta, emf] :
             {std::pair{100.0, 0.033}, {500.0, 1.242}, {1000.0, 4.834}, {1500.0, 10.099}, {1820.0, 13.820}})
            row("B", theta, emf);
    }
    void thermocouples() {
        QFETCH(QString, type);
        QFETCH(double, theta);
        QFETCH(double, emf);
        const auto t = thermocouple_type(type.toStdString());
        QVERIFY(t);
        CLOSE(thermocouple_emf(*t, theta), emf, 0.00051); // the tables are rounded to a microvolt
        CLOSE(thermocouple_temperature(*t, thermocouple_emf(*t, theta)), theta, 1e-6);
    }
    /// The pieces of a reference function meet: a wrong digit in a coefficient would leave a step.
    void thePiecesMeet() {
        for (const auto& [letter, at] : {std::pair{"B", 630.615},
                                         {"E", 0.0},
                                         {"J", 760.0},
                                         {"K", 0.0},
                                         {"N", 0.0},
                                         {"R", 1064.18},
                                         {"R", 1664.5},
                                         {"S", 1064.18},
                                         {"S", 1664.5},
                                         {"T", 0.0}}) {
            const ThermocoupleType t = *thermocouple_type(letter);
            const double step = thermocouple_emf(t, at + 1e-7) - thermocouple_emf(t, at - 1e-7);
            QVERIFY2(std::abs(step) < 2e-6, letter);
        }
    }
    void theColdJunctionIsAddedInVolts() {
        for (const char* letter : {"E", "J", "K", "N", "T"}) {
            const ThermocoupleType t = *thermocouple_type(letter);
            const double emf = thermocouple_emf(t, 350, 24);
            CLOSE(emf, thermocouple_emf(t, 350) - thermocouple_emf(t, 24), 1e-12);
            CLOSE(thermocouple_temperature(t, emf, 24), 350, 1e-7);
        }
        // In degrees it would be off: 24 added to what 0 °C would give.
        const double wrong =
            thermocouple_temperature(ThermocoupleType::S, thermocouple_emf(ThermocoupleType::S, 1000, 24)) + 24;
        QVERIFY(std::abs(wrong - 1000) > 5);
    }
    void aChipsStraightLineIsUndone() {
        // A chip at 25 °C that divides by 41.276 µV/°C shows 1 000 °C where 41.276 mV − 1.000 mV arrive.
        const double emf = thermocouple_emf(ThermocoupleType::K, 1000, 25);
        CLOSE(from_straight_line(ThermocoupleType::K, 25 + emf / 0.041276, 25, 0.041276), 1000, 1e-6);
    }
    void outsideIsNoNumber() {
        QVERIFY(std::isnan(thermocouple_emf(ThermocoupleType::K, -270.1)));
        QVERIFY(std::isnan(thermocouple_emf(ThermocoupleType::K, 1372.1)));
        QVERIFY(std::isnan(thermocouple_temperature(ThermocoupleType::K, 54.9)));
        QVERIFY(std::isnan(thermocouple_temperature(ThermocoupleType::K, -6.46)));
        QVERIFY(std::isnan(thermocouple_temperature(ThermocoupleType::B, 0.0001))); // two temperatures have it
        QVERIFY(std::isnan(thermocouple_emf(ThermocoupleType::K, std::nan(""))));
        QVERIFY(!thermocouple_type("X") && !thermocouple_type("KK") && !thermocouple_type(""));
    }

    void soundInAir() {
        CLOSE(dry_speed_of_sound(0), 331.3, 1e-12);
        CLOSE(dry_speed_of_sound(20), 343.2, 0.02);
        // Cramer (1993): 331.45 m/s in dry air of 0 °C and 0.0314 % carbon dioxide; 0.04 % takes 0.007 off.
        CLOSE(humid_speed_of_sound(0, 0, 101325), 331.447, 0.002);
        // Dry air by the ideal gas is the same within 0.1 m/s; damp air is faster.
        for (double theta = 0; theta <= 30; theta += 5) {
            CLOSE(humid_speed_of_sound(theta, 0, 101325), dry_speed_of_sound(theta), 0.2);
            QVERIFY(humid_speed_of_sound(theta, 1, 101325) > humid_speed_of_sound(theta, 0.2, 101325));
        }
        // The fixed-speed shortcut costs about 0.18 % a degree.
        CLOSE((dry_speed_of_sound(20) - dry_speed_of_sound(10)) / dry_speed_of_sound(20), 0.0174, 0.0006);
        QVERIFY(std::isnan(dry_speed_of_sound(-81)) && std::isnan(humid_speed_of_sound(20, 1.1, 101325)));
        QVERIFY(std::isnan(humid_speed_of_sound(20, 0.5, 1013)));
    }

    void waterInTheAir() {
        CLOSE(saturation_vapour_pressure(0), 611.2, 1e-9);
        CLOSE(saturation_vapour_pressure(20), 2337, 6); // steam tables: 2 339 Pa
        CLOSE(absolute_humidity(20, 0.5), 8.63, 0.05);  // steam tables: 17.3 g/m³ at saturation
        CLOSE(absolute_humidity(30, 1), 30.3, 0.2);     // 30.4 g/m³
        CLOSE(vapour_pressure_deficit(25, 0.6), 0.4 * saturation_vapour_pressure(25), 1e-9);
        // At the dew point the air of now is saturated.
        for (const double theta : {-10.0, 5.0, 25.0, 40.0})
            for (const double humidity : {0.1, 0.5, 0.9})
                CLOSE(saturation_vapour_pressure(dew_point(theta, humidity)),
                      humidity * saturation_vapour_pressure(theta), 1e-6);
        QVERIFY(std::isnan(absolute_humidity(20, 1.01)) && std::isnan(saturation_vapour_pressure(61)));
    }
    void pressureAndAltitude() {
        // A station in the standard atmosphere reads 1 013.25 hPa at sea level, whatever its height (ISO 2533).
        for (double altitude = 0; altitude <= 4000; altitude += 500)
            CLOSE(sea_level_pressure(standard_pressure(altitude), altitude, 15 - 0.0065 * altitude), 101325, 1);
        for (double altitude = -500; altitude <= 10000; altitude += 700)
            CLOSE(standard_altitude(standard_pressure(altitude)), altitude, 0.5);
        CLOSE(sea_level_pressure(95000, 500, 10), 95000 * std::exp(9.80665 * 500 / (287.05287 * (283.15 + 1.625))),
              3);
        QVERIFY(std::isnan(sea_level_pressure(101325, 6000, 15)));
    }

    void conductivityAt25() {
        CLOSE(conductivity_25(1.278, 20, 0.02), 1.42, 1e-12);
        CLOSE(conductivity_25(5, 25, 0.03), 5, 1e-12);
        for (double theta = 0; theta <= 50; theta += 5)
            CLOSE(conductivity_at(conductivity_25(7, theta, 0.0191), theta, 0.0191), 7, 1e-12);
        QVERIFY(std::isnan(conductivity_25(1, 51, 0.02)) && std::isnan(conductivity_25(-1, 20, 0.02)));
        CLOSE(potassium_chloride_conductivity(0.01, 25), 1.413, 1e-12);
        CLOSE(potassium_chloride_conductivity(0.01, 20), 1.278, 1e-12);
        CLOSE(potassium_chloride_conductivity(0.1, 20), 11.67, 1e-12);
        CLOSE(potassium_chloride_conductivity(1, 25), 111.8, 1e-12);
        CLOSE(potassium_chloride_conductivity(0.01, 18), 1.225, 0.0012); // between the table's steps
        CLOSE(potassium_chloride_conductivity(0.1, 22), 12.15, 0.012);
        CLOSE(potassium_chloride_conductivity(1, 18), 98.22, 0.1);
        QVERIFY(std::isnan(potassium_chloride_conductivity(0.02, 25)));
        QVERIFY(std::isnan(potassium_chloride_conductivity(1, 26)));
        CLOSE(dissolved_solids(1000, 0.64), 640, 1e-12);
        QVERIFY(std::isnan(dissolved_solids(1000, 0.9)));
    }
    /// ISO 7888, table of factors for natural waters: 0, 10, 20, 25, 30 °C.
    void naturalWaterOfIso7888() {
        CLOSE(natural_water_factor(0), 1.918, 0.006);
        CLOSE(natural_water_factor(10), 1.428, 0.003);
        CLOSE(natural_water_factor(20), 1.116, 0.0005);
        CLOSE(natural_water_factor(25), 1.000, 0.0005);
        CLOSE(natural_water_factor(30), 0.903, 0.002);
        double before = 3;
        for (double t = 0; t <= 36; t += 0.5) {
            QVERIFY(natural_water_factor(t) < before);
            before = natural_water_factor(t);
        }
        QVERIFY(std::isnan(natural_water_factor(-1)) && std::isnan(natural_water_factor(37)));
    }
    /// The fourth-power law, by its own figures: a black body needs no correction, a mirror shows the room.
    void radiation() {
        CLOSE(surface_temperature(80, 1, 20), 80, 1e-9);
        CLOSE(shown_by_radiation(200, 0.5, 200), 200, 1e-9); // in an oven everything is as warm
        const double seen = std::pow(0.9 * std::pow(373.15, 4) + 0.1 * std::pow(293.15, 4), 0.25) - 273.15;
        CLOSE(shown_by_radiation(100, 0.9, 20), seen, 1e-9);
        for (double t = -20; t < 400; t += 35)
            for (const double e : {0.3, 0.7, 0.95}) {
                CLOSE(surface_temperature(shown_by_radiation(t, e, 25), e, 25), t, 1e-6);
                if (std::abs(t - 25) > 20)
                    CLOSE(emissivity_from_contact(shown_by_radiation(t, e, 25), t, 25), e, 1e-9);
            }
        QVERIFY(std::isnan(surface_temperature(80, 0.01, 20)) && std::isnan(surface_temperature(80, 1.1, 20)));
        QVERIFY(std::isnan(surface_temperature(20, 0.1, 200))); // the mirrored share alone is more
        CLOSE(spot_size(120, 12), 10, 1e-12);
    }
    /// Points are met, and between them it never leaves their range; as good as a line through a line.
    /// Outside of its points it goes on as between the outermost two.
    void steffensCurveOutside() {
        const std::vector<double> x = {1, 3, 4}, y = {10, 14, 13};
        CLOSE(steffen_and_on(x, y, -1), 6, 1e-12);
        CLOSE(steffen_and_on(x, y, 6), 11, 1e-12);
        CLOSE(steffen_and_on(x, y, 1), 10, 1e-12);
        CLOSE(steffen_and_on(x, y, 4), 13, 1e-12);
        CLOSE(steffen_and_on(x, y, 2), steffen(x, y, 2), 0);
        CLOSE(steffen_and_on(std::vector<double>{1, 2}, std::vector<double>{5, 7}, 0), 3, 1e-12);
        CLOSE(steffen_and_on(std::vector<double>{1, 2}, std::vector<double>{5, 7}, 3), 9, 1e-12);
        for (const std::size_t n : {std::size_t(0), std::size_t(1)})
            QVERIFY(std::isnan(steffen_and_on(std::span(x).first(n), std::span(y).first(n), 0)));
        QVERIFY(std::isnan(steffen_and_on(x, std::span(y).first(2), 0)));
    }
    void steffensCurve() {
        const std::vector<double> x = {0, 1, 2, 4, 7}, y = {0, 5, 5, 6, 20};
        for (std::size_t i = 0; i < x.size(); ++i)
            CLOSE(steffen(x, y, x[i]), y[i], 1e-12);
        for (std::size_t i = 0; i + 1 < x.size(); ++i)
            for (double part = 0; part <= 1; part += 0.05) {
                const double at = steffen(x, y, x[i] + part * (x[i + 1] - x[i]));
                QVERIFY(at >= y[i] - 1e-12 && at <= y[i + 1] + 1e-12);
            }
        const std::vector<double> line = {1, 3, 5, 9, 15};
        CLOSE(steffen(x, line, 5.3), 1 + 2 * 5.3, 1e-9);
        QVERIFY(std::isnan(steffen(x, y, -0.1)) && std::isnan(steffen(x, y, 7.1)));
    }

    /// 250 mL of soil that lost 62.3 g of water at 20 °C: 62.3 / 0.998207 / 250.
    void soilByWeighing() {
        CLOSE(volumetric_water_content(412.3, 350, 250), 62.3 / 0.9982067 / 250, 1e-7);
        QVERIFY(std::isnan(volumetric_water_content(350, 412, 250)) &&
                std::isnan(volumetric_water_content(412, 350, 0)));
    }

    /// UNESCO (1983), Technical Papers in Marine Science 44, check values of PSS-78.
    void practicalSalinityOfUnesco() {
        CLOSE(practical_salinity(42.914, 15, 0), 35, 1e-6);
        CLOSE(practical_salinity(1.2 * 42.914, 20, 2000), 37.245628, 1e-5);
        CLOSE(practical_salinity(0.65 * 42.914, 5, 1500), 27.995347, 1e-5);
        QVERIFY(std::isnan(practical_salinity(0.1, 20, 0))); // fresh water is outside the scale
    }
    /// Greenspan (1977), table 2.
    void saltsOfGreenspan() {
        CLOSE(salt_humidity("lithium-chloride", 25), 0.1130, 1e-9);
        CLOSE(salt_humidity("magnesium-chloride", 20), 0.3307, 1e-9);
        CLOSE(salt_humidity("sodium-chloride", 25), 0.7529, 1e-9);
        CLOSE(salt_humidity("potassium-sulfate", 30), 0.9700, 1e-9);
        CLOSE(salt_humidity("sodium-chloride", 22.5), 0.7538, 0.0003);
        CLOSE(salt_humidity_doubt("sodium-chloride"), 0.0012, 1e-12);
        QVERIFY(std::isnan(salt_humidity("sodium-chloride", 41)) && std::isnan(salt_humidity("sugar", 25)));
        double before = 0;
        for (const std::string& name : salt_names()) {
            QVERIFY2(salt_humidity(name, 25) > before, name.c_str());
            before = salt_humidity(name, 25);
        }
    }

    /// Almanac times to the minute: Greenwich at midsummer and midwinter, the equator, and where there is no night.
    void theSun() {
        const auto minutes = [](std::optional<TimeUs> t) {
            return t ? static_cast<double>(*t % day_us) / 6e7 : std::nan("");
        };
        const SunTimes summer = sun_times(*parse_time("2026-06-21"), 51.4769, 0);
        CLOSE(minutes(summer.sunrise), 3 * 60 + 43, 1.5);
        CLOSE(minutes(summer.sunset), 20 * 60 + 21, 1.5);
        const SunTimes winter = sun_times(*parse_time("2026-12-21"), 51.4769, 0);
        CLOSE(minutes(winter.sunrise), 8 * 60 + 4, 1.5);
        CLOSE(minutes(winter.sunset), 15 * 60 + 53, 1.5);
        const SunTimes equinox = sun_times(*parse_time("2026-03-20"), 0, 0);
        CLOSE(minutes(equinox.sunset) - minutes(equinox.sunrise), 12 * 60 + 6.7, 1.5); // refraction and the disc
        const SunTimes polar = sun_times(*parse_time("2026-06-21"), 75, 20);
        QVERIFY(polar.always_up && !polar.sunrise && !polar.sunset);
        QVERIFY(sun_times(*parse_time("2026-12-21"), 75, 20).never_up);
        // Far in the east the day of UTC holds the set before the rise, and both are of that day.
        const SunTimes east = sun_times(*parse_time("2026-03-20"), -41, 174);
        QVERIFY(east.sunrise && east.sunset && *east.sunset < *east.sunrise);
        QVERIFY(*east.sunrise / day_us == *east.sunset / day_us);
    }
};

RUN_TESTS_OF(TestPhysicsFamilies)
#include "tst_physics_families.moc"
