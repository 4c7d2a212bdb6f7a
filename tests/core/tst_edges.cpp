// What lies at the edge: zero, the limit itself, the sign, and what is refused there.
#include "core/base/json_reader.h"
#include "core/calibrate/gate.h"
#include "core/decode/decoder.h"
#include "core/decode/detect.h"
#include "core/decode/sender.h"
#include "core/plan/findings.h"
#include "core/plan/levels.h"
#include "core/plan/loom/loom.h"
#include "core/pulses/beats.h"
#include "core/signal_path/chain.h"
#include "store/file/data_files.h"
#include "support/defects.h"
#include "support/run_tests.h"

#include <algorithm>
#include <cmath>
#include <numbers>

using namespace cognitum;
using test::catalog;

namespace {

Result<Stage> stage(const char* json) {
    const auto text = JsonText::parse("stage", json);
    return read_stage(JsonReader(*text));
}

std::vector<double> a_wave(double rate, double seconds_long) {
    std::vector<double> out;
    for (int i = 0; i < static_cast<int>(std::lround(rate * seconds_long)); ++i)
        out.push_back(500 + 100 * std::pow(std::sin(std::numbers::pi * 1.2 * i / rate), 8));
    return out;
}

} // namespace

class TestEdges : public QObject {
    Q_OBJECT

  private slots:
    /// Brackets between quotes are text, also behind a quote that belongs to it.
    void howDeepBracketsStand() {
        const auto deep = [](int n) { return std::string(static_cast<std::size_t>(n), '['); };
        const auto closed = [](int n) { return std::string(static_cast<std::size_t>(n), ']'); };
        QVERIFY(json_is_shallow(deep(deepest_json) + closed(deepest_json)));
        QVERIFY(!json_is_shallow(deep(deepest_json + 1) + closed(deepest_json + 1)));
        QVERIFY(json_is_shallow("{\"a\":\"" + deep(deepest_json + 9) + "\"}"));
        QVERIFY(json_is_shallow("{\"a\":\"\\\"" + deep(deepest_json + 9) + "\"}"));
        QVERIFY(!json_is_shallow("{\"a\":\"\\\\\"," + deep(deepest_json + 9)));
        std::string beside = "[";
        for (int i = 0; i < 3 * deepest_json; ++i)
            beside += "{},[],";
        QVERIFY(json_is_shallow(beside + "1]"));
    }
    void aLoadIsAboveZero() {
        const char* divider = R"({"stage":"divider","supply_V":3.3,"fixed_ohm":10000,"unknown":"bottom"%1})";
        const auto with = [&](const char* more) {
            return stage(QString::fromLatin1(divider).arg(QLatin1String(more)).toUtf8().constData());
        };
        const auto plain = with("");
        QVERIFY2(plain, plain ? "" : plain.error().text().c_str());
        QVERIFY(with(R"(,"load_ohm":1e-3)"));
        for (const char* none : {R"(,"load_ohm":0)", R"(,"load_ohm":-0.0)", R"(,"load_ohm":-47000)"}) {
            const auto refused = with(none);
            QVERIFY2(!refused, none);
            QVERIFY(refused.error().text().find("load_ohm") != std::string::npos);
        }
    }

    /// The converter's own supply at its lower end, 5 %, and a diode's 0.3 V; without one the rail's lower end.
    void aModuleWithstandsItsOwnSupply() {
        Placed p;
        Module module;
        Rail rail;
        QCOMPARE(module_input_limit_V(p), 0.0);
        p.module = &module;
        QCOMPARE(module_input_limit_V(p), 0.0);
        rail.voltage_V = 3.3;
        rail.tolerance_V = 0.1;
        p.module_rail = &rail;
        CLOSE(module_input_limit_V(p), 3.5, 1e-9);
        module.own_supply_V = 12;
        CLOSE(module_input_limit_V(p), 11.7, 1e-9);
    }

    void aPulseNeedsThreeSecondsAtARateThatItKnows() {
        const auto told = [](double rate, double seconds_long) {
            const auto wave = a_wave(rate, seconds_long);
            return find_beats(wave, rate).why.find("three seconds") == std::string::npos;
        };
        QVERIFY(told(100, 10));
        QVERIFY(told(20, 3));
        QVERIFY(told(2000, 3));
        QVERIFY(!told(19.9, 10));
        QVERIFY(!told(2001, 10));
        QVERIFY(!told(100, 2.9));
        const auto wave = a_wave(100, 10);
        QVERIFY(std::isnan(find_beats(wave, no_number).bpm) && std::isnan(find_beats({}, 100).bpm));
    }

    /// Beats that come early now and then are set aside and lower the quality; the rate stays.
    void unevenBeatsLowerTheQuality() {
        const auto wave_of = [](int early_every) {
            std::vector<double> out(6000, 500.0);
            double at = 50;
            for (int beat = 1; at < 5950; ++beat) {
                for (int k = -30; k <= 30; ++k)
                    out[static_cast<std::size_t>(at) + static_cast<std::size_t>(k + 30)] +=
                        100 * std::exp(-k * k / 100.0);
                at += early_every > 0 && beat % early_every == 0 ? 62 : 100;
            }
            return out;
        };
        const Beats even = find_beats(wave_of(0), 100);
        QCOMPARE(even.quality, PulseQuality::good);
        CLOSE(even.bpm, 60, 0.5);
        const Beats uneven = find_beats(wave_of(5), 100);
        QVERIFY2(uneven.rejected >= 8, std::to_string(uneven.rejected).c_str());
        QVERIFY(uneven.quality != PulseQuality::good);
    }

    /// Two parts of one address: the one that moves is told an address that no third part has.
    void theNewAddressIsFree() {
        Bench bench = test::bench_with("temperature", "i2c-thermometer-fine", "board-3v3-12bit-wifi");
        const int first = catalog().part("i2c-thermometer-fine")->interface.addresses[0];
        bench.readings[0].wiring.address = first;
        for (int i = 0; i < 3; ++i) {
            Reading more = bench.readings[0];
            more.id = more.name = "more" + std::to_string(i);
            more.wiring.address = first + i; // the first again, and the two that come next
            bench.readings.push_back(more);
        }
        const auto findings = check_reading(bench, catalog(), bench.readings[0]);
        const auto clash = std::find_if(findings.begin(), findings.end(), [](const Finding& f) {
            return f.severity == Severity::error && f.message.find("both answer") != std::string::npos;
        });
        QVERIFY(clash != findings.end() && clash->action && clash->action->change);
        clash->action->change(bench);
        QCOMPARE(bench.readings[0].wiring.address, first + 3);
    }

    /// How long a person still waits: what is missing of the window, or of the values.
    void theGateSaysHowLong() {
        GateSettings settings;
        settings.window_s = 60;
        settings.min_samples = 8;
        const auto waiting = [&](int n, double interval_s) {
            std::vector<TimedValue> samples;
            for (int i = 0; i < n; ++i)
                samples.push_back({from_seconds(i * interval_s), 20});
            return assess_steadiness(samples, settings, samples.empty() ? 0 : samples.back().time).waiting_for;
        };
        QCOMPARE(waiting(0, 1), std::string("the first value"));
        QCOMPARE(waiting(31, 1), std::string("29 s more"));     // 30 s and a step and a half are there
        QCOMPARE(waiting(3, 25), std::string("5 more values")); // the window is full
        QCOMPARE(waiting(59, 1), std::string("1 s more"));
        QVERIFY(waiting(61, 1).empty());
    }

    void aSignedWordTurnsAtItsHalf() {
        const auto word = stage(R"({"stage":"signed_word","bits":16})");
        QVERIFY2(word, word ? "" : word.error().text().c_str());
        CLOSE(forward(*word, 32767).number, 32767, 0);
        CLOSE(forward(*word, 32768).number, -32768, 0);
        CLOSE(forward(*word, 65535).number, -1, 0);
        QVERIFY(arithmetic_text(*word, 32767).find("as it is") != std::string::npos);
        QVERIFY(arithmetic_text(*word, 32768).find("as it is") == std::string::npos);
        QVERIFY(arithmetic_text(*word, 32768).find("65") != std::string::npos);
    }

    /// A board that never ends a line: the format is found in the bytes alone.
    void bytesWithoutALineEndFindTheirFormat() {
        Decoder decoder;
        Records out;
        for (int i = 0; i < 200; ++i)
            decoder.feed("<" + std::to_string(500 + i % 7) + ">", out);
        QCOMPARE(decoder.format().kind, FormatKind::frames);
        QVERIFY2(out.rows.size() > 100, std::to_string(out.rows.size()).c_str());
    }

    /// Eight of ten numbers between the same marks are enough, seven are not.
    void marksAreJudgedByTheirShare() {
        const auto frames = [](int same, int other) {
            std::string bytes = ";";
            for (int i = 0; i < 20; ++i) {
                for (int k = 0; k < same; ++k)
                    bytes += std::to_string(400 + k) + ";";
                for (int k = 0; k < other; ++k)
                    bytes += "x" + std::to_string(10 + k) + "y;";
            }
            for (const FormatGuess& g : guess_formats(bytes))
                if (g.format.kind == FormatKind::frames) return true;
            return false;
        };
        QVERIFY(frames(10, 0));
        QVERIFY(frames(9, 1));
        QVERIFY(!frames(3, 7));
    }

    /// Messages in braces with a few lines of numbers among them are no table; the other way round they are.
    void bracesAmongNumbers() {
        const auto first = [](int braces, int rows) {
            std::string bytes;
            for (int i = 0; i < 10; ++i) {
                for (int k = 0; k < braces; ++k)
                    bytes += "{\"t\":" + std::to_string(20 + k) + "}\n";
                for (int k = 0; k < rows; ++k)
                    bytes += std::to_string(100 + k) + "," + std::to_string(200 + i) + "\n";
            }
            const auto guesses = guess_formats(bytes);
            return guesses.empty() ? FormatKind::automatic : guesses.front().format.kind;
        };
        QCOMPARE(first(0, 3), FormatKind::table);
        QCOMPARE(first(1, 9), FormatKind::table);
        QVERIFY(first(9, 1) != FormatKind::table);
    }

    /// The board's block ends at the last row, whatever stands beside it; with nothing beside it, at its first.
    void theBoardIsAsLongAsTheDrawing() {
        VALUE_OF(demo, load_bench_json(data_folder() + "/demo/whelk-point.json"));
        for (const BoardUse& use : demo.boards) {
            const Loom loom = board_loom(demo, catalog(), use);
            if (loom.blocks.empty()) continue;
            QCOMPARE(loom.blocks[0].first_row, 0);
            QCOMPARE(loom.blocks[0].last_row, std::max(0, loom.rows - 1));
        }
        for (const Reading& r : demo.readings) {
            const Loom loom = reading_loom(demo, catalog(), r);
            if (!loom.blocks.empty()) QCOMPARE(loom.blocks[0].last_row, std::max(0, loom.rows - 1));
        }
    }
    /// A board's clock that is a second behind itself was only written in another order; more than that, it went
    /// back.
    void aSendersClock() {
        constexpr TimeUs t = 1'795'617'060 * second_us;
        const auto step = [](TimeUs by) {
            SenderClock clock;
            clock.take(t, t);
            return clock.take(t + by, t);
        };
        for (const TimeUs by : {TimeUs{0}, second_us / 10, second_us / 2, second_us, hour_us, -second_us})
            QCOMPARE(step(by), SenderClock::Step::good);
        QCOMPARE(step(-second_us - 1), SenderClock::Step::back);
        QCOMPARE(step(day_us), SenderClock::Step::good);
        QCOMPARE(step(day_us + 1), SenderClock::Step::far);
        QCOMPARE(SenderClock().take(t - day_us - 1, t), SenderClock::Step::far);
        // Lines of one message, by the milliseconds that stand in them.
        QCOMPARE(SenderClock::spread(t, 400, 1000), t - 600'000);
        QCOMPARE(SenderClock::spread(t, 1000, 1000), t);
        QCOMPARE(SenderClock::spread(t, 1200, 1000), t);
        QCOMPARE(SenderClock::spread(t, 0, 59'999), t - 59'999'000);
        QCOMPARE(SenderClock::spread(t, 0, 60'000), t);
    }
    /// A counter goes round at the end of its 8, 16 or 32 bits; elsewhere it has begun anew.
    void aCountersTotal() {
        const auto total = [](std::initializer_list<double> counts) {
            CounterTotal counter;
            double out = 0;
            for (const double count : counts)
                out = counter.take(count);
            return std::pair(out, counter.restarts());
        };
        QCOMPARE(total({10, 15, 15}), std::pair(5.0, std::uint64_t{0}));
        QCOMPARE(total({250, 3}), std::pair(9.0, std::uint64_t{0}));
        QCOMPARE(total({65530, 4}), std::pair(10.0, std::uint64_t{0}));
        QCOMPARE(total({4294967290.0, 4}), std::pair(10.0, std::uint64_t{0}));
        QCOMPARE(total({192, 63}), std::pair(127.0, std::uint64_t{0})); // three quarters, and a quarter
        QCOMPARE(total({191, 63}), std::pair(63.0, std::uint64_t{1}));
        QCOMPARE(total({192, 64}), std::pair(64.0, std::uint64_t{1}));
        QCOMPARE(total({300, 7}), std::pair(7.0, std::uint64_t{1}));
    }
};

RUN_TESTS_OF(TestEdges)
#include "tst_edges.moc"
