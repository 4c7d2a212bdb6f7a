// Every rule fires on a bench with its defect and stays silent on the same bench just inside the limit; what a
// finding offers to do mends it; the fixtures in tests/fixtures/benches say the same.
#include "core/plan/findings.h"
#include "demo/demo_bench.h"
#include "support/defects.h"
#include "support/run_tests.h"

#include <QDir>
#include <algorithm>
#include <set>

using namespace cognitum;
using test::catalog;

namespace {

std::vector<Finding> with_id(const Bench& bench, const std::string& id) {
    std::vector<Finding> found = check_bench(bench, catalog());
    std::erase_if(found, [&](const Finding& f) { return f.id != id; });
    return found;
}

std::string listed(const Bench& bench) {
    std::string out;
    for (const Finding& f : check_bench(bench, catalog()))
        out += f.id + ": " + f.message + "\n";
    return out;
}

const test::Defect& defect(const std::string& id) {
    static const std::vector<test::Defect> all = test::all_defects();
    return *std::find_if(all.begin(), all.end(), [&](const test::Defect& d) { return d.id == id; });
}

} // namespace

class TestFindings : public QObject {
    Q_OBJECT

  private slots:
    void everyRuleHasItsPair() {
        std::set<std::string> rules, pairs;
        for (const std::string& id : rule_ids())
            QVERIFY2(rules.insert(id).second, id.c_str());
        for (const test::Defect& d : test::all_defects())
            pairs.insert(d.id);
        for (const std::string& id : rules)
            QVERIFY2(pairs.count(id), ("no test for " + id).c_str());
        QCOMPARE(pairs.size(), rules.size());
    }

    /// Each board is judged by its own card and with its own modules: boards beside it, which do nothing, change
    /// nothing.
    void boardsBesideChangeNothing() {
        for (const test::Defect& d : test::all_defects())
            for (const char* card :
                 {"board-3v3-12bit-wifi", "board-5v-8bit-6-analog", "board-3v3-low-power-radio"}) {
                Bench beside = d.broken;
                BoardUse idle;
                idle.name = "Idle";
                idle.card = card;
                idle.id = "before";
                beside.boards.insert(beside.boards.begin(), idle);
                idle.id = "behind";
                beside.boards.push_back(idle);
                QCOMPARE(listed(beside), listed(d.broken));
            }
    }

    /// A part and a converter at one address are told once, as a clash of the part.
    void aPartAndAModuleClashOnce() {
        Bench bench = defect("module-address-clash").sound;
        bench = test::with_modules(bench, {bench.modules[0]});
        Bench lit = test::bench_with("light", "light-i2c", "board-3v3-12bit-wifi");
        lit.modules = bench.modules;
        lit.modules[0].address = lit.readings[0].wiring.address = 0x23;
        QCOMPARE(with_id(lit, "module-address-clash").size(), std::size_t(0));
        QVERIFY2(!with_id(lit, "address-clash").empty(), listed(lit).c_str());
    }

    void rule_data() {
        QTest::addColumn<QByteArray>("id");
        for (const test::Defect& d : test::all_defects())
            QTest::addRow("%s", d.id.c_str()) << QByteArray::fromStdString(d.id);
    }
    void rule() {
        QFETCH(QByteArray, id);
        const test::Defect& d = defect(id.toStdString());
        const std::vector<Finding> found = with_id(d.broken, d.id);
        QVERIFY2(!found.empty(), ("silent; found instead:\n" + listed(d.broken)).c_str());
        QVERIFY2(with_id(d.sound, d.id).empty(), ("fires on the sound bench:\n" + listed(d.sound)).c_str());
        for (const Finding& f : found) {
            QVERIFY(!f.message.empty());
            QVERIFY2(f.message.find("{}") == std::string::npos && f.fix.find("nan") == std::string::npos,
                     f.message.c_str());
        }
        // Only this error, so that the finding stands for the defect.
        for (const Finding& f : check_bench(d.broken, catalog()))
            QVERIFY2(f.id == d.id || f.severity != Severity::error, ("also " + f.id + ": " + f.message).c_str());
        for (const Finding& f : check_bench(d.sound, catalog()))
            QVERIFY2(f.severity != Severity::error, ("the sound bench has " + f.id + ": " + f.message).c_str());
    }

    /// What the link does mends the finding, brings no new error, and is written down.
    void everyActionMends_data() { rule_data(); }
    void everyActionMends() {
        QFETCH(QByteArray, id);
        const test::Defect& d = defect(id.toStdString());
        Bench bench = d.broken;
        for (int round = 0; round < 3; ++round) {
            const std::vector<Finding> found = with_id(bench, d.id);
            if (found.empty()) break;
            if (!found[0].action || !found[0].action->change) QSKIP("its way out is for a person");
            QVERIFY(!found[0].action->label.empty());
            QVERIFY(mend(bench, catalog(), found[0]));
            if (!found[0].reading.empty())
                QCOMPARE(bench.reading(found[0].reading)->wiring.mended.back(), found[0].message);
        }
        QVERIFY2(with_id(bench, d.id).empty(), ("still there:\n" + listed(bench)).c_str());
        for (const Finding& f : check_bench(bench, catalog()))
            QVERIFY2(f.severity != Severity::error, ("brought " + f.id + ": " + f.message).c_str());
    }

    /// Writes the first of each pair into the folder that the environment names; silent otherwise.
    void writeTheFixtures() {
        const QString folder = qEnvironmentVariable("COGNITUM_WRITE_FIXTURES");
        if (folder.isEmpty()) QSKIP("COGNITUM_WRITE_FIXTURES names no folder");
        for (const test::Defect& d : test::all_defects()) {
            QFile file(folder + QLatin1Char('/') + QString::fromStdString(d.id) + QStringLiteral(".json"));
            QVERIFY(file.open(QIODevice::WriteOnly));
            file.write(QByteArray::fromStdString(bench_json(d.broken).dump(1) + "\n"));
        }
    }

    void theFixturesSayTheSame_data() {
        QTest::addColumn<QString>("file");
        const QDir folder(QStringLiteral(COGNITUM_SOURCE_DIR "/tests/fixtures/benches"));
        const QStringList files = folder.entryList({QStringLiteral("*.json")});
        QCOMPARE(std::size_t(files.size()), rule_ids().size());
        for (const QString& file : files)
            QTest::addRow("%s", qPrintable(file)) << folder.filePath(file);
    }
    void theFixturesSayTheSame() {
        QFETCH(QString, file);
        VALUE_OF(bench, load_bench_json(file.toStdString()));
        const std::string id = QFileInfo(file).baseName().toStdString();
        QVERIFY2(!with_id(bench, id).empty(), listed(bench).c_str());
    }

    void numbersAreSaid() {
        const auto says = [](const char* id, const char* text) {
            const std::vector<Finding> found = with_id(defect(id).broken, id);
            const std::string all = test::plain(found[0].message + " " + found[0].why + " " + found[0].fix);
            return all.find(text) != std::string::npos ? std::string() : all;
        };
        QCOMPARE(says("level-too-high", "gets 5 V (5.25 V at worst) and withstands 3.6 V"), std::string());
        QCOMPARE(says("level-too-high", "1.8 kΩ and 3.3 kΩ"), std::string());
        QCOMPARE(says("address-eight-bit", "Halve it: 0x23"), std::string());
        QCOMPARE(says("cone-meets-wall", "at 1.9 m the beam is 2 194 mm"), std::string()); // 2·1.9 m·tan 30°
        QCOMPARE(says("pull-up-too-weak", "rises in 593 ns"), std::string()); // 0.8473 · 10 kΩ · 70 pF
        QCOMPARE(says("regulator-too-hot", "1.4 W"), std::string());          // 7 V · 195 mA
        QCOMPARE(says("line-too-full", "1 000 a second"), std::string());
        QCOMPARE(says("supply-out-of-range", "3.2 V to 3.4 V"), std::string());
        Bench shifted = defect("module-address-clash").sound;
        shifted.modules[0].address = 2 * catalog().part(shifted.modules[0].part)->interface.addresses[0];
        const auto eight_bit = with_id(shifted, "module-address-not-its-own");
        QVERIFY2(!eight_bit.empty() && eight_bit[0].why.find("counts seven: 0x48") != std::string::npos,
                 listed(shifted).c_str());
    }

    /// The demo as it is shipped, with its calibration: two things to look at, nothing that is wrong.
    void theDemoHasTwoHonestWarnings() {
        QTemporaryDir folder;
        VALUE_OF(file, create_demo_bench(test::file_in(folder, "demo.cognitum"), from_seconds(1.78e9),
                                         DemoHistory::two_days));
        VALUE_OF(bench, file.load_plan());
        std::vector<std::string> looks;
        for (const Finding& f : check_bench(bench, catalog())) {
            QVERIFY2(f.severity != Severity::error, (f.id + ": " + f.message).c_str());
            if (f.severity == Severity::look) looks.push_back(f.id);
        }
        std::sort(looks.begin(), looks.end());
        QCOMPARE(looks, (std::vector<std::string>{"cone-meets-wall", "output-uses-little-of-full-scale"}));
        for (const Reading& r : bench.readings) {
            const PartCard* part = catalog().part(r.sensor.part);
            QVERIFY2(part && bench.board(r.wiring.board), r.id.c_str());
            QVERIFY2(part->interface.speech == Speech::radio || !r.wiring.pin().empty(), r.id.c_str());
        }
    }

    void anEmptyPlanHasNoFindings() {
        Bench bench;
        bench.readings.push_back({});
        bench.readings[0].id = "new";
        QVERIFY(check_bench(bench, catalog()).empty());
    }
    /// Parts with one address only are kept apart by a bus switch, with its own pins and a branch for each.
    void aBusSwitchParts() {
        Bench bench = test::and_another(test::bench_with("light", "light-i2c-wide", "board-3v3-12bit-wifi"),
                                        "light-i2c-wide");
        for (int round = 0; round < 3; ++round) {
            const std::vector<Finding> found = with_id(bench, "address-clash");
            if (found.empty()) break;
            QVERIFY(mend(bench, catalog(), found[0]));
        }
        QCOMPARE(bench.modules.size(), std::size_t(1));
        QVERIFY(catalog().part(bench.modules[0].part)->kind == PartKind::bus_switch);
        for (const Connection& c : bench.modules[0].pins)
            QVERIFY2(catalog().part(bench.modules[0].part)->leg(c.leg) >= 0, c.leg.c_str());
        for (const Finding& f : check_bench(bench, catalog()))
            QVERIFY2(f.severity != Severity::error, (f.id + ": " + f.message).c_str());
    }
    /// On its data wire alone lives one probe, on a short wire, below 70 °C; each of the three is told at its
    /// limit.
    void whereAProbeNeedsASupplyWire() {
        const auto found = [](std::size_t probes, double high, double cable_m) {
            Bench bench = defect("parasite-power").broken;
            bench.readings.resize(probes);
            for (Reading& r : bench.readings) {
                r.quantity.high = high;
                r.wiring.cable_m = cable_m;
            }
            return with_id(bench, "parasite-power").size();
        };
        QCOMPARE(found(1, 69.9, 4.9), std::size_t(0));
        QCOMPARE(found(1, 70, 4.9), std::size_t(1));
        QCOMPARE(found(1, 69.9, 5), std::size_t(1));
        QCOMPARE(found(2, 69.9, 4.9), std::size_t(2));
    }
    void errorsComeFirst() {
        Bench bench = defect("cone-meets-wall").broken;
        bench.readings.push_back(defect("level-too-high").broken.readings[0]);
        bench.readings[1].id = "r2";
        const std::vector<Finding> found = check_bench(bench, catalog());
        QVERIFY(std::is_sorted(found.begin(), found.end(),
                               [](const Finding& a, const Finding& b) { return a.severity > b.severity; }));
    }
};

RUN_TESTS_OF(TestFindings)
#include "tst_findings.moc"
