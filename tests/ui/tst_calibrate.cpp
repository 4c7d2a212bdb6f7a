// The Calibrate stop in the real window: whole calibrations against the simulated boards, whose true error is
// known; drafts that survive; the register; certificates; the phone's button.
#include "core/simulate/board.h"
#include "core/simulate/gauge_board.h"
#include "core/simulate/world.h"
#include "link/remote_key.h"
#include "store/samples.h"
#include "support/test_window.h"
#include "ui/stops/calibrate_page.h"

#include <QCheckBox>
#include <QNetworkAccessManager>
#include <QNetworkReply>
#include <QPlainTextEdit>
#include <QSignalSpy>
#include <QTableView>
#include <map>

using namespace cognitum;
using cognitum::test::TestWindow;

namespace {

constexpr std::uint64_t seed = 20261;

/// The window with Whelk Point's boards sending into it, on the test's clock.
class Station : public TestWindow {
  public:
    Station() {
        openDemo();
        for (const std::string& name : simulate::board_names()) {
            boards[name] = simulate::make_board(name, {seed, 0, 0}, clocked.now);
            for (const simulate::Sent& sent : boards[name]->start(clocked.now))
                hear(name, sent);
        }
        boards["gauge"]->command("wave off", clocked.now);
    }
    void hear(const std::string& name, const simulate::Sent& sent) {
        const QByteArray bytes = QByteArray::fromStdString(sent.bytes);
        if (name == "gauge" || name == "beacon-log")
            clocked.session.injectBytesNow(name, bytes);
        else
            clocked.session.injectMessageNow(name, {QString::fromStdString(sent.channel), bytes, sent.retained});
    }
    void run(double s) {
        const TimeUs end = clocked.now + from_seconds(s);
        while (clocked.now < end) {
            TimeUs next = end;
            for (const auto& [name, board] : boards)
                next = std::min(next, std::max(clocked.now + 1, board->next()));
            clocked.now = next;
            for (const auto& [name, board] : boards)
                for (const simulate::Sent& sent : board->step(clocked.now))
                    hear(name, sent);
        }
        refresh();
    }
    void tell(const std::string& line) { boards["gauge"]->command(line, clocked.now); }
    CalibratePage& page() { return *window.findChild<CalibratePage*>(); }
    void open(const char* reading) {
        window.context().selectReading(reading);
        window.showStop(5);
        run(1);
    }
    /// Types a reference and takes the point, steady or not.
    void take(double reference, double u) {
        type("referenceValue", qPrintable(QString::number(reference, 'g', 9)));
        type("referenceDoubt", qPrintable(QString::number(u, 'g', 6)));
        const std::size_t before = page().points().size();
        click("takePoint");
        QCOMPARE(page().points().size(), before + 1);
    }
    /// What the reading says now, corrected, and how sure.
    double shown(const char* id) { return clocked.session.live().readings.at(id).value.number; }
    double expanded(const char* id) {
        const Reading& r = reading(id);
        const Live live = clocked.session.live();
        return clocked.session.budget(r, live.readings.at(id).raw, live).expanded();
    }

    std::map<std::string, std::unique_ptr<simulate::Board>> boards;
};

} // namespace

class TestCalibrate : public QObject {
    Q_OBJECT

  private slots:
    void temperatureAgainstTheTrueError() {
        Station s;
        s.open("hut-air");
        for (const double bath : {0.0, 12.0, 21.0, 33.0}) {
            s.tell(bath == 0 ? "probe ice" : qPrintable(QStringLiteral("probe bath %1").arg(bath)));
            s.run(90);
            s.choose("referenceKind", "other");
            s.take(bath, 0.05);
        }
        s.click("finishCalibration");
        const AppliedCorrection& c = *s.reading().correction;
        // What the maker's constants make of the true sensor.
        const simulate::Truth truth;
        for (const double at : {2.0, 15.0, 30.0}) {
            const double volts = truth.zero_V + truth.slope_V * at;
            const Value indication = forward(s.reading().path, volts / truth.supply_V * 1024 - 0.5);
            CLOSE(corrected(c, indication.number), at, 2 * correction_u(c, at) + 0.02);
        }
        QCOMPARE(s.clocked.session.calibrations("hut-air").back().points.size(), std::size_t(4));
    }
    /// Level, conductivity and moisture where they live, against the world as it truly is.
    void inPlaceAgainstTheWorld_data() {
        QTest::addColumn<QString>("id");
        QTest::addColumn<double>("u");
        QTest::addColumn<double>("apart_s");
        QTest::newRow("level") << "tide-pool" << 1.5 << 2400.0;
        QTest::newRow("conductivity") << "conductivity" << 0.25 << 2400.0;
        QTest::newRow("moisture") << "bed-1" << 1.0 << 4000.0;
    }
    void inPlaceAgainstTheWorld() {
        QFETCH(QString, id);
        QFETCH(double, u);
        QFETCH(double, apart_s);
        const QByteArray name = id.toLatin1();
        const auto truth = [&](TimeUs t) {
            if (id == "tide-pool") return simulate::tide_level(seed, t);
            if (id == "bed-1") return simulate::soil_moisture(seed, t, 1);
            // At 25 °C, as the reading states it: by the compensation of its own path.
            return simulate::pool_conductivity(seed, t);
        };
        Station s;
        s.open(name.constData());
        const Chain path = uncorrected_path(s.reading(name.constData()));
        const auto reference = [&](TimeUs t) {
            if (id != "conductivity") return truth(t);
            for (const Stage& stage : path.stages)
                if (const auto* k = std::get_if<Conductivity25>(&stage)) {
                    Conductivity25 at = *k;
                    at.temperature_degC.value = simulate::pool_temperature(seed, t);
                    return forward(Stage(at), truth(t)).number;
                }
            return truth(t);
        };
        for (int i = 0; i < 5; ++i) {
            s.run(apart_s);
            s.choose("referenceKind", "other");
            // The gate's mean lies half a window back: so does the reference.
            s.take(reference(s.clocked.now), u);
        }
        if (s.sees("useModel_offset")) s.click("useModel_offset");
        s.click("finishCalibration");
        QVERIFY(s.reading(name.constData()).correction.has_value());
        s.run(apart_s / 3);
        CLOSE(s.shown(name.constData()), reference(s.clocked.now), s.expanded(name.constData()) + 2 * u);
    }
    /// A bucket whose tips are worth 4 % more than planned: three pours find it.
    void rainByMeasuredPours() {
        Station s;
        s.open("rain");
        QCOMPARE(s.find<QComboBox>("recipe")->currentData().toString(), QStringLiteral("slow-drip"));
        QVERIFY(!s.find<QPushButton>("takePoint")->isEnabled()); // nothing was started yet
        const double true_mm = 0.208, area = 200;
        double water = 0;
        for (int pour = 0; pour < 3; ++pour) {
            s.click("beginChange");
            s.type("input_volume_mL", "500");
            water += 500 * 10 / area;
            while (water >= true_mm) {
                water -= true_mm;
                s.tell("tip");
            }
            s.run(70);
            s.click("takePoint");
        }
        QCOMPARE(s.page().points().size(), std::size_t(3));
        QVERIFY2(s.text("calibrateSoFar").contains("indication"), qPrintable(s.text("calibrateSoFar")));
        s.click("finishCalibration");
        const AppliedCorrection& c = *s.reading("rain").correction;
        CLOSE(c.gain, 1.04, 2 * std::sqrt(c.var_gain) + 0.004);
    }

    void aSessionThatIsClosedGoesOn() {
        const QTemporaryDir folder;
        const QString path = folder.filePath("kept.cognitum");
        TimeUs now = 0;
        {
            Station s;
            QVERIFY(s.clocked.session.file()->save_copy(path.toStdString())); // the demo, before
            s.open("hut-air");
            s.tell("probe ice");
            s.run(90);
            s.click("takePoint");
            s.find<QLineEdit>("signedBy")->setText("the warden");
            emit s.find<QLineEdit>("signedBy")->editingFinished();
            VALUE_OF(kept, s.clocked.session.file()->draft("hut-air"));
            QVERIFY(kept && kept->points.size() == 1 && kept->by == "the warden" && kept->step == 1);
            // Another reading in between, and an edit of the plan: neither loses it.
            s.open("rock");
            s.clocked.session.editReading("rock", "rename", [](Reading& r) { r.name = "Rocks"; });
            s.open("hut-air");
            QCOMPARE(s.page().points().size(), std::size_t(1));
            QVERIFY2(s.text("recipeStep").contains("step 2"), qPrintable(s.text("recipeStep")));
            const QString copy = folder.filePath("later.cognitum");
            QVERIFY(s.clocked.session.file()->save_copy(copy.toStdString()));
            now = s.clocked.now;
        }
        TestWindow again;
        again.clocked.now = now;
        QVERIFY(again.clocked.session.openBench(folder.filePath("later.cognitum")));
        again.refresh();
        again.window.context().selectReading("hut-air");
        again.window.showStop(5);
        again.refresh();
        QCOMPARE(again.window.findChild<CalibratePage*>()->points().size(), std::size_t(1));
        QCOMPARE(again.find<QLineEdit>("signedBy")->text(), QStringLiteral("the warden"));
        QVERIFY(verify(*again.clocked.session.file())->problems.empty());
    }
    void badReferencesAreNotTaken() {
        Station s;
        s.open("hut-air");
        s.run(60);
        s.choose("referenceKind", "other");
        s.type("referenceValue", "-400");
        QVERIFY2(s.text("takeHint").contains("absolute zero"), qPrintable(s.text("takeHint")));
        QVERIFY(!s.find<QPushButton>("takePoint")->isEnabled());
        s.type("referenceValue", "20");
        s.type("referenceDoubt", "0");
        QVERIFY2(s.text("takeHint").contains("above zero"), qPrintable(s.text("takeHint")));
        s.type("referenceDoubt", "0.1");
        const double air = simulate::air_temperature(seed, s.clocked.now);
        s.type("referenceValue", qPrintable(QString::number(air * 1.8 + 32)));
        QVERIFY2(s.text("referenceRemarks").contains(QStringLiteral("°F")), qPrintable(s.text("referenceRemarks")));
        // The link is lost in the middle: no number, nothing to take, and what was taken is still there.
        s.take(air, 0.1);
        s.clocked.pass(300);
        s.refresh();
        QVERIFY2(s.text("steadyText").contains("no value"), qPrintable(s.text("steadyText")));
        QVERIFY(!s.find<QPushButton>("takePoint")->isEnabled());
        QCOMPARE(s.page().points().size(), std::size_t(1));
    }
    /// An echo that never came is no level, at this stop neither.
    void aFailedMeasurementIsNoIndication() {
        Station s;
        s.open("tide-pool");
        s.run(30);
        QVERIFY(s.text("indication") != QStringLiteral("—"));
        s.boards["shed"]->command("fault no-echo", s.clocked.now);
        for (int i = 0; i < 60 && s.clocked.session.live().readings.at("tide-pool").value.cause != Cause::failed;
             ++i)
            s.run(6);
        QCOMPARE(s.clocked.session.live().readings.at("tide-pool").value.cause, Cause::failed);
        QCOMPARE(s.text("indication"), QStringLiteral("—"));
        QVERIFY2(s.text("steadyText").contains("no echo"), qPrintable(s.text("steadyText")));
        QVERIFY(!s.find<QPushButton>("takePoint")->isEnabled());
        // Nor are old values of a path that follows others made anew with what is assumed of them.
        const auto made = s.clocked.session.reevaluate("conductivity");
        QVERIFY(!made && made.error().what.find("follows") != std::string::npos);
    }
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
        QCOMPARE(s.clocked.session.calibrations("hut-air").back().model, std::string("none"));
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
            histories += !s.clocked.session.calibrations(r.id).empty();
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
        const auto before = extent(*s.clocked.session.file(), "hut-air")->n;
        s.click("reevaluate");
        const Reading& made = s.clocked.session.bench().readings.back();
        QVERIFY2(made.name.find("as calibrated on") != std::string::npos, made.name.c_str());
        QCOMPARE(extent(*s.clocked.session.file(), made.id)->n, before);
        QCOMPARE(extent(*s.clocked.session.file(), "hut-air")->n, before);
        const Chain path = effective_path(s.reading());
        std::vector<Sample> samples;
        QVERIFY(for_each_sample(*s.clocked.session.file(), made.id, 0, s.clocked.now,
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
            typed_number(QRegularExpression(QStringLiteral("is ([−0-9.]+)")).match(figures).captured(1))
                .value_or(99);
        QVERIFY2(std::abs(std::abs(bias) - std::abs(offset)) < 0.02, qPrintable(figures));
        QVERIFY2(figures.contains("Slope 1"), qPrintable(figures));
        QVERIFY(s.text("sideBySideCannot").contains("one design"));
    }
    /// The rock's thermistor is 0.4 % low: three baths' worth of points put that into its own constants.
    void pointsBecomeTheThermistorsConstants() {
        Station s;
        s.open("rock");
        QVERIFY(!s.find<QPushButton>("intoThermistor")->isEnabled());
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
        s.clocked.session.saveDraft("rock", draft);
        s.open("hut-air");
        s.open("rock");
        s.click("intoThermistor");
        const auto& beta = std::get<ThermistorBeta>(s.reading("rock").path.stages.back());
        CLOSE(beta.r0_ohm.value, 9960, 0.5);
        CLOSE(beta.beta_K.value, 3950, 0.5);
        QVERIFY(beta.beta_K.doubt > 0 && beta.beta_K.origin.find("3 points") != std::string::npos);
        for (const CalibrationPoint& p : s.page().points())
            CLOSE(p.indication, p.reference, 0.01);
        s.clocked.session.undoStack()->undo();
        CLOSE(std::get<ThermistorBeta>(s.reading("rock").path.stages.back()).r0_ohm.value, 10000, 1e-9);
    }
    void theStopsOfABucketAreToldApart() {
        Station s;
        s.open("rain");
        s.choose("recipe", "turn-the-stops");
        for (const char* dose : {"4.4", "3.8", "4.4", "3.8"}) { // left and right in turn
            s.click("beginChange");
            s.type("input_volume_mL", dose);
            s.tell("tip");
            s.run(3);
            s.click("takePoint");
        }
        const QString says = s.text("calibrateSoFar");
        QVERIFY2(says.contains("left side tips at 4.40") && says.contains("turn its stop down") &&
                     says.contains("stop up"),
                 qPrintable(says));
    }
    void aPhoneTakesThePoint() {
        RemoteKey key;
        QSignalSpy pressed(&key, &RemoteKey::pressed);
        VALUE_OF(where, key.open(true));
        key.say("Hut air: 20.1 °C");
        QNetworkAccessManager net;
        const auto ask = [&](const QString& url, bool press) {
            QNetworkRequest request{QUrl(url)};
            request.setHeader(QNetworkRequest::ContentTypeHeader, "text/plain");
            std::unique_ptr<QNetworkReply> reply(press ? net.post(request, QByteArray()) : net.get(request));
            QSignalSpy done(reply.get(), &QNetworkReply::finished);
            if (!reply->isFinished()) done.wait(5000);
            return std::pair{reply->attribute(QNetworkRequest::HttpStatusCodeAttribute).toInt(), reply->readAll()};
        };
        QVERIFY(ask(where, false).second.contains("Take the point"));
        QCOMPARE(ask(where + "/says", false).second, QByteArray("Hut air: 20.1 °C"));
        QCOMPARE(ask(where, true).first, 200);
        QTRY_COMPARE(pressed.size(), 1);
        QCOMPARE(ask(where.section('/', 0, 2) + "/guess", true).first, 404); // only with its secret
        QCOMPARE(pressed.size(), 1);
        Station s;
        s.open("hut-air");
        QVERIFY(!s.find<QCheckBox>("remoteKey")->isChecked()); // off until somebody wants it
    }
};

QTEST_MAIN(TestCalibrate)
#include "tst_calibrate.moc"
