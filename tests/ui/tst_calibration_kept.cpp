// What becomes of a calibration in the real window: records and verdicts, constants of the path, certificates,
// constants for the board, the register, old readings seen anew, two readings side by side.
#include "store/samples/samples.h"
#include "support/run_tests.h"
#include "support/station.h"

#include <QPlainTextEdit>
#include <QTableView>

using namespace cognitum;
using test::Station;

class TestCalibrationKept : public QObject {
    Q_OBJECT

  private slots:
    void goodAsFoundChangesNothing() {
        Station s;
        s.open("hut-air");
        s.tell("probe ice");
        s.run(90);
        s.click("takePoint");
        QVERIFY2(s.text("whatNext").contains("better choice"), qPrintable(s.text("whatNext")));
        const AppliedCorrection before = *s.reading().correction;
        s.click("compareOnly");
        const AppliedCorrection& after = *s.reading().correction;
        QVERIFY(after.offset == before.offset && after.gain == before.gain && after.time > before.time);
        QCOMPARE(s.clocked.session.proof().calibrations("hut-air").back().model, std::string("none"));
        QVERIFY(s.page().points().empty());
    }
    void whatTheHistorySays() {
        Station s;
        s.open("hut-air");
        QVERIFY2(s.text("driftText").contains("drifts"), qPrintable(s.text("driftText")));
        QVERIFY2(s.text("dueText").contains("next due"), qPrintable(s.text("dueText")));
        QCOMPARE(s.stop(6).mark, Mark::done);
        s.open("humidity");
        QCOMPARE(s.stop(6).mark, Mark::bad); // failed
        s.open("air-pressure");
        QCOMPARE(s.stop(6).mark, Mark::look); // overdue
        QVERIFY2(s.text("dueText").contains("due since"), qPrintable(s.text("dueText")));
        s.open("pool-water"); // compared twice, and good
        QCOMPARE(s.stop(6).mark, Mark::done);
        int histories = 0;
        for (const Reading& r : s.clocked.session.bench().readings)
            histories += !s.clocked.session.proof().calibrations(r.id).empty();
        QVERIFY(histories >= 5);
    }
    void certificatesAreWritten() {
        Station s;
        s.open("hut-air");
        s.window.context().askSavePath = [&](QWidget*, const QString&, const QString&, const QString&) {
            return s.next_path;
        };
        const std::string link = "certificate" + std::to_string(s.reading().correction->record);
        for (const char* ending : {"pdf", "json", "csv"}) {
            s.next_path = s.clocked.folder.filePath(QStringLiteral("paper.") + QLatin1String(ending));
            s.click(link.c_str());
            QFile file(s.next_path);
            QVERIFY2(file.open(QIODevice::ReadOnly), ending);
            const QByteArray bytes = file.readAll();
            QVERIFY(bytes.size() > 300);
            if (*ending == 'p') QVERIFY(bytes.startsWith("%PDF"));
            if (*ending == 'j')
                QCOMPARE(Json::parse(bytes.toStdString())["about"]["reading"].get<std::string>(),
                         std::string("Hut air"));
        }
        s.next_path = s.clocked.folder.filePath(QStringLiteral("paper.txt"));
        s.click(link.c_str());
        QVERIFY2(s.text("statusMessage").contains(".pdf"), qPrintable(s.text("statusMessage")));
        QVERIFY(!QFile::exists(s.next_path));
    }
    void constantsForTheBoardAreThePath() {
        Station s;
        s.open("hut-air");
        s.click("boardConstants");
        const QString text = s.find<QPlainTextEdit>("constantsText")->toPlainText();
        const auto number = [&](const char* name) {
            const QRegularExpression form(QStringLiteral("%1 = (-?[0-9.]+);").arg(QLatin1String(name)));
            return form.match(text).captured(1).toDouble();
        };
        const Chain path = effective_path(s.reading());
        for (const double raw : {100.0, 150.0, 180.0})
            CLOSE(number("slope") * raw + number("offset"), forward(path, raw).number, 0.05);
    }
    void theRegisterIsKept() {
        Station s;
        s.open("hut-air");
        s.click("openRegister");
        s.find<QComboBox>("registerWhich")->setCurrentIndex(s.find<QComboBox>("registerWhich")->count() - 1);
        emit s.find<QComboBox>("registerWhich")->activated(0);
        s.type("registerName", "Kitchen thermometer");
        s.type("registerDoubt", "0");
        s.click("registerKeep");
        QVERIFY2(s.text("registerSays").contains("above zero"), qPrintable(s.text("registerSays")));
        s.type("registerDoubt", "0.5");
        s.type("registerDue", "2025-01-01");
        s.click("registerKeep");
        const auto& all = s.clocked.session.bench().references;
        QVERIFY2(all.back().name == "Kitchen thermometer",
                 (all.back().name + " " + s.text("registerSays").toStdString()).c_str());
        const std::string id = all.back().id;
        s.click("registerClose");
        s.choose("referenceKind", "reference-instrument");
        s.choose("referenceInstrument", id.c_str());
        QVERIFY2(s.text("referenceRemarks").contains("was due") && s.text("referenceRemarks").contains("a third"),
                 qPrintable(s.text("referenceRemarks")));
        while (s.clocked.session.undoStack()->canUndo())
            s.clocked.session.undoStack()->undo();
        QVERIFY(!s.clocked.session.bench().reference(id));
        QVERIFY(s.clocked.session.bench().reference("thermometer-3"));
    }
    void oldReadingsAreSeenAnew() {
        Station s;
        s.open("hut-air");
        const auto before = extent(*test::bench_file(s.clocked.session), "hut-air")->n;
        s.click("reevaluate");
        const Reading& made = s.clocked.session.bench().readings.back();
        QVERIFY2(made.name.find("as calibrated on") != std::string::npos, made.name.c_str());
        QCOMPARE(extent(*test::bench_file(s.clocked.session), made.id)->n, before);
        QCOMPARE(extent(*test::bench_file(s.clocked.session), "hut-air")->n, before);
        const Chain path = effective_path(s.reading());
        std::vector<Sample> samples;
        QVERIFY(for_each_sample(*test::bench_file(s.clocked.session), made.id, 0, s.clocked.now,
                                [&](std::span<const Sample> some) {
                                    samples.insert(samples.end(), some.begin(), some.end());
                                    return true;
                                }));
        for (const Sample& sample : samples)
            if (std::isfinite(sample.raw)) CLOSE(sample.value, forward(path, sample.raw).number, 1e-9);
    }
    /// What was seen anew is the old one, moved by its correction: the comparison says so.
    void twoReadingsStandSideBySide() {
        Station s;
        s.open("hut-air");
        s.click("openSideBySide");
        QVERIFY(s.find<QComboBox>("otherReading")->count() >= 3); // temperatures alone
        s.choose("otherReading", "rock");
        QVERIFY2(!s.text("sideBySideVerdict").isEmpty(), "verdict");
        s.click("sideBySideClose");
        const double offset = s.reading().correction->offset;
        s.clocked.session.editReading("hut-air", "off", [](Reading& r) { r.correction.reset(); });
        s.click("reevaluate");
        const std::string made = s.clocked.session.bench().readings.back().id;
        s.click("openSideBySide");
        s.choose("otherReading", made.c_str());
        const QString figures = QString::fromStdString(test::plain(s.text("sideBySideFigures").toStdString()));
        const double bias =
            typed_number(QRegularExpression(QStringLiteral("bias ([−0-9.]+)")).match(figures).captured(1))
                .value_or(99);
        QVERIFY2(std::abs(std::abs(bias) - std::abs(offset)) < 0.02, qPrintable(figures));
        QVERIFY2(figures.contains("Slope 1"), qPrintable(figures));
        QVERIFY(s.text("sideBySideCannot").contains("one design"));
    }
    /// A lid with an analog probe: from counts that were seen open and closed to a state that is live.
    void aThresholdMakesAStateOfANumber() {
        Station s;
        s.clocked.session.edit(QStringLiteral("Lid"), [](Bench& bench) {
            Reading lid;
            lid.id = "lid";
            lid.name = "Lid";
            lid.quantity.kind = "contact";
            lid.quantity.unit = "1";
            lid.quantity.low = 0;
            lid.quantity.high = 1;
            lid.quantity.accuracy = 0.5;
            lid.source.field = "A1"; // what the rock’s divider says stands in for the probe
            lid.source.feed = "gauge";
            bench.readings.push_back(lid);
        });
        s.open("lid");
        s.run(5);
        const double raw = s.clocked.session.worker().live().readings.at("lid").raw;
        QVERIFY(raw > 300 && raw < 900);
        CalibrationDraft draft;
        draft.recipe = "open-and-closed";
        for (int i = 0; i < 5; ++i)
            for (const double state : {0.0, 1.0}) {
                CalibrationPoint p;
                p.time = s.clocked.now;
                p.reference_kind = state > 0 ? "state-on" : "state-off";
                p.reference = state;
                p.u_reference = 1e-3;
                p.u_indication = 1e-3;
                p.raw = p.indication = (state > 0 ? raw : raw - 200) + 2 * i; // near the one that is on
                draft.points.push_back(p);
            }
        s.clocked.session.proof().saveDraft("lid", draft);
        s.open("hut-air");
        s.open("lid");
        QVERIFY2(s.text("offerWords_threshold").contains("on above"), qPrintable(s.text("offerWords_threshold")));
        QVERIFY2(s.text("verdictFound").contains("no state yet"), qPrintable(s.text("verdictFound")));
        s.click("offer_threshold");
        s.run(5);
        QCOMPARE(s.shown("lid"), 1.0);
        QCOMPARE(s.text("indication"), QStringLiteral("1"));
        const CalibrationRecord kept = s.clocked.session.proof().calibrations("lid").back();
        QCOMPARE(kept.verdict_left, std::string("pass"));
        // What lies between the states is neither, and says why.
        s.clocked.session.editReading("lid", "near", [&](Reading& lid) {
            std::get<Threshold>(lid.path.stages.back()).level.value = raw;
            std::get<Threshold>(lid.path.stages.back()).hysteresis.value = 60;
        });
        s.run(5);
        QCOMPARE(s.clocked.session.worker().live().readings.at("lid").value.cause, Cause::undecided);
        QVERIFY2(s.text("steadyText").contains("no value"), qPrintable(s.text("steadyText")));
    }
    /// A file of what another instrument recorded stands beside a reading; a broken one says what and where.
    void aFileStandsBesideAReading() {
        Station s;
        s.open("hut-air");
        QString csv = QStringLiteral("time,value\n"), broken = csv + QStringLiteral("yesterday,12\n");
        QVERIFY(for_each_sample(*test::bench_file(s.clocked.session), "hut-air", 0, s.clocked.now,
                                [&](std::span<const Sample> some) {
                                    for (const Sample& sample : some)
                                        if (std::isfinite(sample.value))
                                            csv += QStringLiteral("%1,%2\n")
                                                       .arg(QString::fromStdString(iso_time(sample.time)))
                                                       .arg(sample.value + 0.25, 0, 'f', 6);
                                    return true;
                                }));
        const auto choose_file = [&](const QString& name, const QString& text) {
            QFile file(s.clocked.folder.filePath(name));
            QVERIFY(text.isEmpty() || (file.open(QIODevice::WriteOnly) && file.write(text.toUtf8()) > 0));
            file.close();
            s.window.context().askOpenPath = [&](QWidget*, const QString&, const QString&) {
                return file.fileName();
            };
            s.choose("otherReading", "");
        };
        s.click("openSideBySide");
        choose_file(QStringLiteral("broken.csv"), broken);
        QVERIFY2(s.text("sideBySideVerdict").contains("broken.csv:2"), qPrintable(s.text("sideBySideVerdict")));
        QVERIFY2(s.text("sideBySideFigures").contains(QStringLiteral("°C")),
                 qPrintable(s.text("sideBySideFigures")));
        choose_file(QStringLiteral("gone.csv"), {});
        QVERIFY2(s.text("sideBySideVerdict").contains("gone.csv"), qPrintable(s.text("sideBySideVerdict")));
        choose_file(QStringLiteral("hand held.csv"), csv);
        QVERIFY2(s.text("sideBySideVerdict").contains("Hand held is 0.25"),
                 qPrintable(s.text("sideBySideVerdict")));
        QVERIFY2(s.text("sideBySideVerdict").contains("higher"), qPrintable(s.text("sideBySideVerdict")));
    }
    /// Four stand in the list; all of them when somebody asks, for this reading alone.
    void olderCalibrationsAreThere() {
        Station s;
        s.open("hut-air");
        const auto papers = [&] {
            int n = 0;
            for (const QPushButton* button : s.window.findChildren<QPushButton*>())
                n += button->isVisible() && button->objectName().startsWith(QStringLiteral("certificate"));
            return n;
        };
        const auto all = static_cast<int>(s.clocked.session.proof().calibrations("hut-air").size());
        for (int n = all; n < 6; ++n) {
            s.run(40);
            s.choose("referenceKind", "other");
            s.take(18, 0.2);
            s.click("compareOnly");
        }
        QCOMPARE(papers(), 4);
        s.click("olderCalibrations");
        QCOMPARE(papers(), static_cast<int>(s.clocked.session.proof().calibrations("hut-air").size()));
        s.click("olderCalibrations");
        QCOMPARE(papers(), 4);
    }
    /// The rock's thermistor is 0.4 % low: three baths' worth of points put that into its own constants.
    void pointsBecomeTheThermistorsConstants() {
        Station s;
        s.open("rock");
        QVERIFY(!s.find<QPushButton>("offer_thermistor-beta")->isEnabled());
        CalibrationDraft draft;
        for (const double t : {2.0, 18.0, 36.0}) {
            CalibrationPoint p;
            p.time = s.clocked.now;
            p.reference_kind = "other";
            p.reference = t;
            p.u_reference = 0.05;
            p.u_indication = 0.02;
            const double ohm = 9960 * std::exp(3950 * (1 / (t + 273.15) - 1 / 298.15));
            const Chain& path = s.reading("rock").path;
            const auto& divider = std::get<RatioDivider>(path.stages[0]);
            p.raw = inverse(Stage(divider), ohm).number;
            p.indication = forward(path, p.raw).number;
            draft.points.push_back(p);
        }
        s.clocked.session.proof().saveDraft("rock", draft);
        s.open("hut-air");
        s.open("rock");
        QVERIFY2(s.text("offerWords_thermistor-beta").contains("leaves up to"),
                 qPrintable(s.text("offerWords_thermistor-beta")));
        const std::optional<AppliedCorrection> before = s.reading("rock").correction;
        s.click("offer_thermistor-beta");
        const auto& beta = std::get<ThermistorBeta>(s.reading("rock").path.stages.back());
        CLOSE(beta.r0_ohm.value, 9960, 0.5);
        CLOSE(beta.beta_K.value, 3950, 0.5);
        QVERIFY(beta.beta_K.origin.find("3 points") != std::string::npos);
        // The record keeps what was found with the old constants, and what the new ones make of it.
        const CalibrationRecord kept = s.clocked.session.proof().calibrations("rock").back();
        QCOMPARE(kept.model, std::string("path"));
        bool listed = false; // three were taken; what the new path made of them are no others
        for (const QLabel* label : s.window.findChildren<QLabel*>())
            listed |= label->isVisible() && label->text().contains(QStringLiteral("3 points, found off by"));
        QVERIFY(listed);
        for (std::size_t i = 0; i < 3; ++i) {
            QVERIFY(kept.points[i] == draft.points[i]);
            CLOSE(kept.points[i + 3].indication, kept.points[i].reference, 0.01);
        }
        QVERIFY(s.page().points().empty() && s.reading("rock").correction->record == kept.id);
        QCOMPARE(s.stop(6).mark, Mark::done);
        s.clocked.session.undoStack()->undo();
        CLOSE(std::get<ThermistorBeta>(s.reading("rock").path.stages.back()).r0_ohm.value, 10000, 1e-9);
        QVERIFY(s.reading("rock").correction == before);
    }
};

RUN_TESTS_OF(TestCalibrationKept)
#include "tst_calibration_kept.moc"
