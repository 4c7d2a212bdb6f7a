// Whelk Point's world holds together, and its boards say the same for the same seed.
#include "core/decode/decoder.h"
#include "demo/gauge_board.h"
#include "demo/world.h"
#include "support/run_tests.h"
#include "support/support.h"
#include "support/times.h"

#include <functional>
#include <set>

using namespace cognitum;
using test::november;
using namespace cognitum::demo;

namespace {

struct Range {
    double low = 1e300, high = -1e300, jump = 0;
};
/// Over two days in steps of a minute, with the greatest step between two of them.
Range range_of(const std::function<double(TimeUs)>& f, TimeUs length = 2 * day_us, TimeUs step = minute_us) {
    Range out;
    double before = f(november);
    for (TimeUs t = november; t < november + length; t += step) {
        const double x = f(t);
        out.low = std::min(out.low, x);
        out.high = std::max(out.high, x);
        out.jump = std::max(out.jump, std::abs(x - before));
        before = x;
    }
    return out;
}

std::string sent_by(Board& board, double s) {
    std::string out;
    for (const Sent& sent : board.start(november))
        out += sent.channel + "|" + sent.bytes + "\n";
    for (const Sent& sent : board.step(november + from_seconds(s)))
        out += sent.channel + "|" + sent.bytes + "\n";
    return out;
}

} // namespace

class TestWorld : public QObject {
    Q_OBJECT

  private slots:
    void valuesStayWhereTheyBelong() {
        const std::uint64_t seed = 20261;
        const auto check = [](const char* what, const Range& r, double low, double high, double jump) {
            QVERIFY2(r.low >= low && r.high <= high,
                     qPrintable(QStringLiteral("%1: %2…%3").arg(what).arg(r.low).arg(r.high)));
            QVERIFY2(r.jump <= jump, qPrintable(QStringLiteral("%1 jumps by %2").arg(what).arg(r.jump)));
            QVERIFY2(r.high > r.low, what);
        };
        check("rock", range_of([&](TimeUs t) { return rock_temperature(seed, t); }), 0, 35, 0.2);
        check("pool", range_of([&](TimeUs t) { return pool_temperature(seed, t); }), 10, 20, 0.2);
        check("flue", range_of([&](TimeUs t) { return flue_temperature(seed, t); }), 5, 600, 60);
        check("pressure", range_of([&](TimeUs t) { return air_pressure(seed, t); }), 990, 1035, 0.3);
        check("humidity", range_of([&](TimeUs t) { return relative_humidity(seed, t); }), 25, 98.5, 1);
        check("tide", range_of([&](TimeUs t) { return tide_level(seed, t); }), 250, 1750, 20);
        check("salt", range_of([&](TimeUs t) { return pool_conductivity(seed, t); }), 35, 50, 0.3);
        check("cistern", range_of([&](TimeUs t) { return cistern_litres(seed, t); }), 100, 1500, 65);
        check("light", range_of([&](TimeUs t) { return daylight_lux(seed, t); }), 0, 2000, 500);
        for (int bed = 1; bed <= 4; ++bed)
            check("soil", range_of([&](TimeUs t) { return soil_moisture(seed, t, bed); }), 20, 75, 3);
        check("tyre", range_of([&](TimeUs t) { return tyre_pressure(seed, t); }), 220, 300, 12);
        check("pulse", range_of([&](TimeUs t) { return pulse_wave(seed, t); }, 100 * second_us, 5000), -0.6, 1.2,
              0.1);
    }
    void rainFallsAndAddsUp() {
        const std::uint64_t seed = 7;
        double parts = 0;
        for (TimeUs t = november; t < november + 3 * day_us; t += hour_us) {
            const double mm = rain_between(seed, t, t + hour_us);
            QVERIFY(mm >= -1e-9 && mm < 30);
            parts += mm;
        }
        CLOSE(rain_between(seed, november, november + 3 * day_us), parts,
              0.05); // cells far from a slot are left out
        QVERIFY(parts > 0.5);
        CLOSE(rain_between(seed, november, november), 0, 1e-12);
    }
    void beatsComeAtTheHeartsRate() {
        int beats = 0;
        bool above = false;
        double rate = 0;
        int n = 0;
        for (TimeUs t = november; t < november + 60 * second_us; t += 4000) {
            const bool now = pulse_wave(20261, t) > 0.4;
            beats += now && !above;
            above = now;
            rate += heart_rate(20261, t);
            ++n;
        }
        CLOSE(beats, rate / n, 1.5);
    }
    void theTyreKeepsItsGas() {
        // p/T is constant for the absolute pressure, warm or cold.
        for (TimeUs t = november; t < november + 6 * hour_us; t += 10 * minute_us) {
            const double ratio = (tyre_pressure(3, t) + 101.3) / (tyre_temperature(3, t) + 273.15);
            CLOSE(ratio, (255 + 101.3) / 288.15, 1e-9);
        }
    }
    void peopleComeAndGo() {
        int walks = 0;
        bool before = false;
        for (TimeUs t = november; t < november + 4 * hour_us; t += second_us) {
            const bool now = somebody_walks(20261, t);
            walks += now && !before;
            before = now;
        }
        QVERIFY2(walks > 5 && walks < 70, qPrintable(QString::number(walks)));
    }

    void theSameSeedSaysTheSame() {
        for (const std::string& name : board_names()) {
            const auto a = make_board(name, {7, 0, 0}, november);
            const auto b = make_board(name, {7, 0, 0}, november);
            const auto c = make_board(name, {8, 0, 0}, november);
            const std::string text = sent_by(*a, 50);
            QCOMPARE(text, sent_by(*b, 50));
            QVERIFY2(text.size() > 100, name.c_str());
            if (name != "beacon-log") QVERIFY2(text != sent_by(*c, 50), name.c_str());
        }
        QVERIFY(!make_board("lighthouse", {}, november));
    }
    void whatBoardsSayIsDecodedWithoutALoss() {
        for (const std::string& name : board_names()) {
            const auto board = make_board(name, {7, 0, 0}, november);
            Decoder decoder;
            Records records;
            std::size_t sent = 0;
            for (const Sent& s : board->start(november))
                if (!s.retained && !s.channel.empty() && name != "beacon-log")
                    decoder.feed_message(s.bytes, s.channel, records);
                else if (!s.retained)
                    decoder.feed(s.bytes, records);
            records.clear();
            for (TimeUs t = november; t < november + 10 * minute_us; t += second_us)
                for (const Sent& s : board->step(t)) {
                    ++sent;
                    if (s.channel.empty() || name == "beacon-log")
                        decoder.feed(s.bytes, records);
                    else
                        decoder.feed_message(s.bytes, s.channel, records);
                }
            QCOMPARE(records.rows.size(), sent);
            QCOMPARE(decoder.rejections().total(), std::uint64_t(0));
        }
    }
    void stepsAreBounded() {
        for (const std::string& name : board_names()) {
            const auto board = make_board(name, {7, 0, 0}, november);
            board->start(november);
            QVERIFY(board->step(november + 30 * day_us).size() < 5000); // a sleep of a month is not made up for
            QVERIFY(board->next() > november + 30 * day_us - minute_us);
        }
    }
    void commandsAreAnsweredByEveryBoard() {
        for (const std::string& name : board_names()) {
            const auto board = make_board(name, {7, 0, 0}, november);
            QVERIFY(board->command("help", november).find("# ok") == 0);
            QVERIFY(board->command("dance", november).find("# error") == 0);
            QVERIFY(board->command("fault none\r", november).find("# ok fault=none") == 0);
            QVERIFY(board->command("fault gremlins", november).find("# error") == 0);
        }
        const auto shed = make_board("shed", {7, 0, 0}, november);
        shed->start(november);
        shed->step(november + minute_us);
        QVERIFY(shed->next() > november + minute_us);
        shed->command("report", november + minute_us);
        QCOMPARE(shed->next(), november + minute_us);
    }
    void theGaugeCountsTipsAndGoesOn() {
        GaugeBoard board({7, 0, 0}, november);
        const auto tips = [&](TimeUs t) {
            Decoder decoder;
            Records records;
            const std::string header = board.reset(t);
            decoder.feed(header + board.measure(t), records);
            return *records.value(0, decoder.field("tips"));
        };
        CLOSE(tips(november), 0, 0);
        board.command("tip", november);
        Decoder decoder;
        Records records;
        decoder.feed("seq,ms,A1,A2,flue,tips,bpm\n" + board.measure(november + second_us), records);
        CLOSE(*records.value(0, decoder.field("tips")), 1, 0);
        CLOSE(tips(november + 2 * second_us), 0, 0); // a reset forgets, as boards do
    }
    void converterCodesStopAtTheRails() {
        QCOMPARE(converter_code(-1, 5, 10), 0);
        QCOMPARE(converter_code(0, 5, 10), 0);
        QCOMPARE(converter_code(2.5, 5, 10), 512);
        QCOMPARE(converter_code(4.999, 5, 10), 1023);
        QCOMPARE(converter_code(9, 5, 10), 1023);
        QCOMPARE(converter_code(4.096, 4.096, 15), 32767);
    }
};

RUN_TESTS_OF(TestWorld)
#include "tst_world.moc"
