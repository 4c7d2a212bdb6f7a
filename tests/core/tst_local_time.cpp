// Times as loggers and spreadsheets write them: orders of dates, local clocks, and the hours that summer time skips
// and repeats.
#include "core/base/calendar.h"
#include "core/base/local_time.h"
#include "support/run_tests.h"
#include "support/support.h"

using namespace cognitum;

namespace {

/// Clocks an hour ahead from 29 March 2026 01:00 UTC to 25 October 2026 01:00 UTC.
TimeUs summer(TimeUs utc) {
    const TimeUs from = *parse_time("2026-03-29T01:00:00Z"), to = *parse_time("2026-10-25T01:00:00Z");
    return utc >= from && utc < to ? hour_us : 0;
}

} // namespace

class TestLocalTime : public QObject {
    Q_OBJECT

  private slots:
    void formsOfATime_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<int>("order");
        QTest::addColumn<QString>("means"); // empty: no time
        const int ymd = int(DateOrder::year_first), dmy = int(DateOrder::day_first),
                  mdy = int(DateOrder::month_first);
        const auto row = [](const char* text, int order, const char* means) {
            QTest::addRow("%s, %d", text, order) << QString::fromUtf8(text) << order << QString::fromUtf8(means);
        };
        row("2026-06-01T09:00:00Z", ymd, "2026-06-01T09:00:00.000Z");
        row("2026/6/1 9:05", ymd, "2026-06-01T09:05:00.000Z");
        row("2026.06.01 09:05:07.250", ymd, "2026-06-01T09:05:07.250Z");
        row("1.6.2026 9:05", dmy, "2026-06-01T09:05:00.000Z");
        row("01/06/2026 09:05:07,5", dmy, "2026-06-01T09:05:07.500Z");
        row("01/06/2026", mdy, "2026-01-06T00:00:00.000Z");
        row("12/31/2026 11:59 pm", mdy, "2026-12-31T23:59:00.000Z");
        row("12/31/2026 12:00 AM", mdy, "2026-12-31T00:00:00.000Z");
        row("31-12-2026, 12:30 PM", dmy, "2026-12-31T12:30:00.000Z");
        row("2026-06-01T09:00:00+02:00", dmy, "2026-06-01T07:00:00.000Z"); // whatever the order
        row("1780304400.25", dmy, "2026-06-01T09:00:00.250Z");
        row("1780304400250", ymd, "2026-06-01T09:00:00.250Z"); // milliseconds
        row("1780304400250007", dmy, "2026-06-01T09:00:00.250007Z");
        row("1780304400", mdy, "2026-06-01T09:00:00.000Z");
        row("31/12/2026", mdy, "");
        row("30.2.2026", dmy, "");
        row("1.6.26 9:05", dmy, ""); // which century?
        row("1.6.2026 9:05", ymd, "");
        row("1.6/2026 9:05", dmy, "");
        row("12/31/2026 13:00 pm", mdy, "");
        row("12/31/2026 0:30 am", mdy, "");
        row("2026-06-01T25:00:00", ymd, "");
        row("yesterday", dmy, "");
        row("", dmy, "");
        row("9999999999999", ymd, "");
    }
    void formsOfATime() {
        QFETCH(QString, text);
        QFETCH(int, order);
        QFETCH(QString, means);
        TimeReader reader(static_cast<DateOrder>(order));
        const auto t = reader.read(text.toStdString());
        QCOMPARE(t ? QString::fromStdString(iso_time(*t)) : QString(), means);
        QVERIFY(t || std::string(reader.reason()).size() > 3);
    }
    void theOrderIsFoundOrLeftOpen() {
        const auto order = [](std::initializer_list<const char*> times) {
            DateOrderJudge judge;
            for (const char* t : times)
                judge.take(t);
            return judge.order();
        };
        QCOMPARE(order({"1780304400"}), std::optional(DateOrder::year_first));
        QCOMPARE(order({"2026-06-01"}), std::optional(DateOrder::year_first));
        QCOMPARE(order({"1.6.2026", "2.6.2026"}), std::optional<DateOrder>());
        QCOMPARE(order({"1.6.2026", "13.6.2026"}), std::optional(DateOrder::day_first));
        QCOMPARE(order({"06/01/2026", "06/30/2026"}), std::optional(DateOrder::month_first));
        QCOMPARE(order({"13/01/2026", "01/13/2026"}), std::optional<DateOrder>()); // both cannot be
        DateOrderJudge judge;
        judge.take("no time");
        QVERIFY(!judge.seen());
        judge.take("2026-06-01T09:00:00Z");
        QVERIFY(judge.seen() && !judge.local());
        judge.take("2026-06-01T09:00:00");
        QVERIFY(judge.local());
        DateOrderJudge seconds;
        seconds.take("1780304400");
        QVERIFY(seconds.seen() && !seconds.local());
        seconds.take("no time");
        QVERIFY(seconds.seen());
    }
    void aSummerMorningIsAnHourEarlierInUtc() {
        TimeReader reader(DateOrder::year_first, summer);
        QCOMPARE(reader.read("2026-06-01T09:00:00"), parse_time("2026-06-01T08:00:00Z"));
        QCOMPARE(reader.read("2026-01-01 09:00:00"), parse_time("2026-01-01T09:00:00Z"));
        QCOMPARE(reader.read("2026-06-01T09:00:00Z"), parse_time("2026-06-01T09:00:00Z")); // it says its zone
    }
    void theSkippedHourIsNoTime() {
        TimeReader reader(DateOrder::day_first, summer);
        QVERIFY(!reader.read("29.03.2026 01:30"));
        QVERIFY(std::string(reader.reason()).find("summer time") != std::string::npos);
        QCOMPARE(reader.read("29.03.2026 00:59"), parse_time("2026-03-29T00:59:00Z"));
        QCOMPARE(reader.read("29.03.2026 02:00"), parse_time("2026-03-29T01:00:00Z"));
    }
    /// A logger on the local clock writes 01:00 to 01:59 twice: the second time is an hour later, not a repetition.
    void theHourThatOccursTwiceGoesOn() {
        TimeReader reader(DateOrder::year_first, summer);
        const TimeUs start = *parse_time("2026-10-24T22:00:00Z");
        for (TimeUs utc = start; utc < start + 6 * hour_us; utc += 10 * minute_us) {
            const std::string shown = iso_time(utc + summer(utc)).substr(0, 19);
            QCOMPARE(reader.read(shown), std::optional(utc));
        }
    }
    /// The first moment at which the clocks on the wall show a time; of one that they skip, the moment of the skip.
    void momentsOfLocalTimesAgainstAScan() {
        for (const char* change : {"2026-03-29T01:00:00Z", "2026-10-25T01:00:00Z"}) {
            const TimeUs at = *parse_time(change), step = 15 * minute_us;
            for (TimeUs local = at - 26 * hour_us; local < at + 26 * hour_us; local += step) {
                TimeUs first = at - 30 * hour_us;
                while (to_local(first, summer) < local)
                    first += step;
                QCOMPARE(from_local(local, summer), first);
            }
        }
        const TimeUs plain = *parse_time("2026-03-29T01:30:00Z");
        QCOMPARE(from_local(plain, {}), plain);
        QCOMPARE(to_local(plain, {}), plain);
    }
};

RUN_TESTS_OF(TestLocalTime)
#include "tst_local_time.moc"
