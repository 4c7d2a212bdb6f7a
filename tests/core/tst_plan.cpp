// Cards, findings (each rule fires once and stays silent once), candidates, and the loom.
#include "core/plan/candidates.h"
#include "core/plan/findings.h"
#include "core/plan/loom.h"
#include "support/support.h"

using namespace cognitum;
using test::catalog;
using test::small_bench;

namespace {

bool has(const Bench& bench, const char* id) {
    for (const Finding& f : check_bench(bench, catalog()))
        if (f.id == id) return true;
    return false;
}

const Finding find(const Bench& bench, const char* id) {
    for (const Finding& f : check_bench(bench, catalog()))
        if (f.id == id) return f;
    return {};
}

void rebuild(Bench& bench) {
    Reading& r = bench.readings[0];
    r.path = build_path(*catalog().part(r.sensor.part), *catalog().board(bench.boards[0].card), r.wiring);
}

} // namespace

class TestPlan : public QObject {
    Q_OBJECT

  private slots:
    void allShippedCardsLoad() {
        const LoadedCatalog loaded = load_catalog();
        for (const Error& e : loaded.problems)
            qWarning("%s", e.text().c_str());
        QVERIFY(loaded.problems.empty());
        QVERIFY(loaded.catalog.parts.size() >= 3);
        QVERIFY(loaded.catalog.boards.size() >= 2);
        for (const PartCard& part : loaded.catalog.parts) {
            // The transfer must be able to reach both ends of the stated range, backwards.
            const Chain transfer{"", "", part.transfer};
            QVERIFY2(inverse(transfer, part.low).ok() && inverse(transfer, part.high).ok(), part.id.c_str());
            QVERIFY2(!part.fails.empty() && !part.needs.empty() && !part.seen_from.empty(), part.id.c_str());
        }
    }
    void aBadCardNamesItsPlace() {
        VALUE_OF(text,
                 JsonText::parse("mine.json", "{\"id\": \"x\", \"name\": \"X\",\n\"quantity\": \"tempratur\"}"));
        const auto card = read_part_card(JsonReader(text));
        QVERIFY(!card);
        QCOMPARE(card.error().where, std::string("mine.json:2: /quantity"));
    }

    void supply() {
        Bench bench = small_bench();
        QVERIFY(!has(bench, "supply-out-of-range"));
        bench = small_bench("analog-thermometer-without-offset"); // needs 4 V
        bench.readings[0].wiring.rail = "3V3";
        const Finding f = find(bench, "supply-out-of-range");
        QCOMPARE(f.severity, Severity::error);
        QVERIFY2(test::plain(f.message).find("3.2 V to 3.4 V") != std::string::npos, f.message.c_str());
        QCOMPARE(f.action->value, std::string("5V"));
    }
    void aboveFullScale() {
        Bench bench = small_bench();
        QVERIFY(!has(bench, "output-above-full-scale"));
        bench.readings[0].wiring.reference = "internal";
        bench.readings[0].quantity.high = 100; // 1.5 V
        rebuild(bench);
        const Finding f = find(bench, "output-above-full-scale");
        QVERIFY2(test::plain(f.message).find("1.5 V") != std::string::npos, f.message.c_str());
        QCOMPARE(f.action->value, std::string("supply"));
    }
    void littleOfFullScale() {
        Bench bench = small_bench();
        const Finding f = find(bench, "output-uses-little-of-full-scale");
        QVERIFY2(test::plain(f.message).find("9 %") != std::string::npos &&
                     test::plain(f.message).find("0.49") != std::string::npos,
                 f.message.c_str());
        QCOMPARE(f.action->value, std::string("internal"));
        bench.readings[0].wiring.reference = f.action->value; // its own way out mends it
        rebuild(bench);
        QVERIFY(!has(bench, "output-uses-little-of-full-scale"));
    }
    void rangeOutsidePart() {
        Bench bench = small_bench("analog-thermometer-without-offset");
        QVERIFY(has(bench, "range-outside-part")); // −10 °C wanted, 2 °C is its floor
        bench.readings[0].quantity.low = 5;
        QVERIFY(!has(bench, "range-outside-part"));
    }
    void pins() {
        Bench bench = small_bench();
        QVERIFY(!has(bench, "pin-cannot") && !has(bench, "pin-used-twice"));
        bench.readings[0].wiring.pin = "7";
        QVERIFY(has(bench, "pin-cannot"));
        bench.readings[0].wiring.pin = "Z9";
        QVERIFY(has(bench, "pin-cannot"));
        bench.readings[0].wiring.pin = "A0";
        bench.readings.push_back(bench.readings[0]);
        bench.readings[1].id = "other";
        QVERIFY(has(bench, "pin-used-twice"));
    }
    void constantOfAnotherBoard() {
        Bench bench = small_bench();
        QVERIFY(!has(bench, "reference-constant-differs"));
        std::get<Adc>(bench.readings[0].path.stages[0]).reference_V.value = 3.3;
        QVERIFY(has(bench, "reference-constant-differs"));
        std::get<Adc>(bench.readings[0].path.stages[0]).reference_V.value =
            4.97; // measured, within the rail's tolerance
        QVERIFY(!has(bench, "reference-constant-differs"));
    }
    void accuracy() {
        Bench bench = small_bench();
        QVERIFY(has(bench, "accuracy-not-reached")); // ± 2.3 °C as bought, ± 0.8 wanted
        bench.readings[0].quantity.accuracy = 5;
        QVERIFY(!has(bench, "accuracy-not-reached"));
    }
    void outdatedCalibration() {
        Bench bench = small_bench();
        Reading& r = bench.readings[0];
        r.correction = AppliedCorrection{};
        r.correction->path_key = path_key(r);
        QVERIFY(!has(bench, "calibration-outdated"));
        std::get<Adc>(r.path.stages[0]).reference_V.origin = "measured today"; // a note changes nothing
        QVERIFY(!has(bench, "calibration-outdated"));
        r.wiring.reference = "internal";
        rebuild(bench);
        QVERIFY(has(bench, "calibration-outdated"));
    }
    void anEmptyPlanHasNoFindings() {
        Bench bench;
        bench.readings.push_back({});
        bench.readings[0].id = "new";
        QVERIFY(check_bench(bench, catalog()).empty());
    }

    void candidatesSayWhatSpeaksAgainst() {
        const Bench bench = small_bench();
        const auto list = candidates(bench.readings[0], bench.boards[0], *catalog().board("board-5v-8bit-6-analog"),
                                     bench, catalog());
        QCOMPARE(list.size(), catalog().parts.size());
        for (const Candidate& c : list) {
            QVERIFY(!c.because.empty());
            if (c.part == "analog-thermometer-without-offset") {
                QCOMPARE(c.fitness, Fitness::does_not);
                QVERIFY2(test::plain(c.because).find("12 °C of what you want is outside") != std::string::npos,
                         c.because.c_str());
            }
            if (c.part == "analog-thermometer-with-offset") QCOMPARE(c.fitness, Fitness::fits_with_change);
        }
        QVERIFY(std::is_sorted(list.begin(), list.end(),
                               [](const Candidate& a, const Candidate& b) { return a.fitness < b.fitness; }));
    }
    void partsAreFoundByFacts() {
        const auto count = [](const char* query) {
            return std::count_if(catalog().parts.begin(), catalog().parts.end(),
                                 [&](const PartCard& p) { return matches_facts(p, query); });
        };
        QCOMPARE(count("10 mV"), 2);
        QCOMPARE(count("10mV 500"), 1);
        QCOMPARE(count("NTC"), 1);
        QCOMPARE(count("3 legs"), 2);
        QCOMPARE(count("unobtainium"), 0);
    }

    void loomHasEveryLegOnceAndPowerLast_data() {
        QTest::addColumn<QByteArray>("part");
        for (const PartCard& part : catalog().parts)
            QTest::addRow("%s", part.id.c_str()) << QByteArray::fromStdString(part.id);
    }
    void loomHasEveryLegOnceAndPowerLast() {
        QFETCH(QByteArray, part);
        const Bench bench = small_bench(part.constData());
        const auto loom = make_loom(bench.readings[0], *catalog().part(part.toStdString()), bench.boards[0],
                                    *catalog().board("board-5v-8bit-6-analog"));
        QVERIFY(loom.has_value());
        std::vector<int> legs;
        for (const Wire& w : loom->wires)
            if (w.leg >= 0) legs.push_back(w.leg);
        std::sort(legs.begin(), legs.end());
        QCOMPARE(legs.size(), loom->legs.size());
        for (std::size_t i = 0; i < legs.size(); ++i)
            QCOMPARE(legs[i], int(i));
        QCOMPARE(loom->wires.back().colour, WireColour::red);
        QCOMPARE(loom->resistor.has_value(), catalog().part(part.toStdString())->divider.has_value());
        int red_step = 0;
        int plug_step = 0;
        for (const WiringStep& s : loom->steps) {
            QVERIFY(!s.meter.empty());
            if (s.wire == 3) red_step = s.number;
            if (s.text.find("Plug in") != std::string::npos)
                plug_step = s.number;
            else if (s.wire == 1 || s.wire == 2)
                QVERIFY(red_step == 0 || s.number > plug_step);
        }
        QVERIFY(red_step > 0 && plug_step == red_step + 1);
    }
    void theResistorStandsBetweenRailAndPin() {
        const Bench bench = small_bench("ntc-10k-in-divider");
        QVERIFY(std::holds_alternative<RatioDivider>(bench.readings[0].path.stages[0]));
        // 10 kΩ under 10 kΩ: the middle of the converter at 25 °C.
        CLOSE(forward(bench.readings[0].path, 511.5).number, 25, 0.01);
    }
    void noFreePinIsSaidInWords() {
        Bench bench = small_bench();
        const BoardCard& board = *catalog().board("board-5v-8bit-6-analog");
        for (int i = 1; i < 6; ++i) {
            Reading r = bench.readings[0];
            r.id = "r" + std::to_string(i);
            r.wiring.pin = "A" + std::to_string(i);
            bench.readings.push_back(r);
        }
        const auto wiring = first_wiring(*catalog().part("ntc-10k-in-divider"), bench.boards[0], board, bench);
        QVERIFY(!wiring);
        QVERIFY(test::plain(wiring.error().what).find("no analog input left") != std::string::npos);
    }

    void benchJsonComesBack() {
        VALUE_OF(bench, load_bench_json(data_folder() + "/demo/whelk-point.json"));
        QCOMPARE(bench.readings.size(), std::size_t(3));
        bench.readings[0].correction = AppliedCorrection{
            1.01, -0.5, 0.01, 0.001, -0.002, 0.05, 2, 0, 30, 7, from_seconds(1.7e9), "pass", "key"};
        VALUE_OF(text, JsonText::parse("again", bench_json(bench).dump()));
        VALUE_OF(again, read_bench(JsonReader(text)));
        QVERIFY(again == bench);
    }
};

QTEST_APPLESS_MAIN(TestPlan)
#include "tst_plan.moc"
