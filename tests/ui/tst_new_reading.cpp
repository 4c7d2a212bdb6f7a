// The page where a bench begins, and what leads there and on from there: a board that is played through the page's
// own listening, fields that look like counters, kinds planned twice, the next step on the path line, empty pages.
#include "session/live/arriving.h"
#include "support/run_tests.h"
#include "support/test_window.h"

using namespace cognitum;
using cognitum::test::TestWindow;

namespace {

/// A window with a new bench, at its first page, and a board at a port that nobody described.
struct Beginning : TestWindow {
    Beginning() {
        next_path = clocked.folder.filePath("mine.cognitum");
        click("startNew");
        clocked.session.arrivals().listenTo(LinkPlan::port_of_unknown_speed("/dev/ttyUSB7"), "/dev/ttyUSB7");
        refresh();
    }
    /// So many lines, one a second; the page looks after each.
    void say(const char* line, int times) {
        for (int i = 0; i < times; ++i) {
            clocked.pass(1);
            clocked.session.arrivals().injectNow("arriving-1",
                                                 QByteArray(line).replace("#", QByteArray::number(m_n++)) + '\n');
            refresh();
        }
    }

  private:
    int m_n = 100;
};

} // namespace

class TestNewReading : public QObject {
    Q_OBJECT

  private slots:
    void initTestCase() { QCoreApplication::setApplicationName("cognitum-test"); }

    void fieldsAsTheyCome() {
        Beginning w;
        QVERIFY(!w.sees("nothingArrives")); // it is listened to, and says so
        w.say("n=# soil=512 pump=off", 6);
        QVERIFY(w.sees("take_soil") && w.sees("anyway_n") && !w.sees("take_n"));
        QCOMPARE(w.find<QComboBox>("kindOf_soil")->currentData().toString(), QStringLiteral("soil-moisture"));
        QVERIFY(w.text("arrivingSays").contains("names and values"));
        // Somebody knows better: what counts is water.
        w.click("anyway_n");
        w.choose("kindOf_n", "water-used");
        w.say("n=# soil=513 pump=off", 2);
        QCOMPARE(w.find<QComboBox>("kindOf_n")->currentData().toString(), QStringLiteral("water-used"));
        w.click("take_n");
        const Reading& water = w.clocked.session.bench().readings.back();
        QVERIFY(water.quantity.kind == "water-used" && water.source.unit == "count");
        QCOMPARE(w.window.stopNow(), 1);
        w.trigger("undo");
        QVERIFY(w.clocked.session.bench().readings.empty() && w.clocked.session.bench().boards.empty());
    }
    void withoutAKindItIsAsked() {
        Beginning w;
        w.say("A3=700", 3);
        w.click("take_A3");
        QCOMPARE(w.window.stopNow(), 0); // what is it?
        QCOMPARE(w.window.context().reading()->wiring.pin(), std::string("A3"));
    }
    void plannedTwice() {
        Beginning w;
        w.click("kind_humidity");
        QCOMPARE(w.window.stopNow(), 0);
        w.click("newReading");
        w.click("kind_humidity");
        const auto& readings = w.clocked.session.bench().readings;
        QCOMPARE(readings.size(), std::size_t(2));
        QVERIFY(readings[0].name == "Humidity" && readings[1].name == "Humidity 2" &&
                readings[0].id != readings[1].id);
        QCOMPARE(readings[1].quantity.unit, std::string("%"));
    }
    void theNextStep() {
        TestWindow w;
        w.openDemo();
        w.lines(3, 140);
        const auto next = [&](const char* id) { return w.window.context().state(id).next; };
        QCOMPARE(next("hut-air"), -1); // all is done
        w.trigger("newReading");
        w.click("kind_temperature");
        const std::string id = w.window.context().readingId();
        QCOMPARE(next(id.c_str()), 1);
        QVERIFY(w.window.context().state(id).next_step.contains("part"));
        w.key(Qt::Key_Return, Qt::ControlModifier);
        QCOMPARE(w.window.stopNow(), 1);
        w.window.showStop(4);
        w.refresh();
        auto* line = w.find<PathLine>("pathLine");
        line->grab(); // it is painted, and knows where the words stand
        QTest::mouseClick(line, Qt::LeftButton, {}, QPoint(line->width() - 40, 20));
        QCOMPARE(w.window.stopNow(), 1);
    }
    void emptyPagesLeadOn() {
        Beginning w;
        for (const auto& [page, button] :
             {std::pair{"overview", "overviewFirst"}, std::pair{"boards", "boardsFirst"}}) {
            w.window.showPage(page);
            w.refresh();
            w.click(button);
            QCOMPARE(w.window.pageNow(), QStringLiteral("new"));
        }
        w.window.showPage("sessions");
        QVERIFY(w.sees("sessionsEmpty"));
        QVERIFY(!w.clocked.session.arrivals().isListening()); // the ports are free again
    }
};

RUN_TESTS_OF(TestNewReading)
#include "tst_new_reading.moc"
