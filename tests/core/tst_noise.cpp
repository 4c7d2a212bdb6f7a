// Everything that reads text is given noise: it answers or refuses, and never crashes, hangs, or returns a broken
// value.
#include "core/base/time.h"
#include "core/decode/number.h"
#include "core/decode/table_decoder.h"
#include "core/plan/candidates.h"
#include "core/signal_path/chain.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "demo/gauge_board.h"
#include "support/noise.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <random>

using namespace cognitum;

using test::noise;

class TestNoise : public QObject {
    Q_OBJECT

  private slots:
    void times() {
        std::mt19937_64 random(1);
        int read = 0;
        for (int i = 0; i < 100000; ++i) {
            const auto t = parse_time(noise(random, 26, "0123456789-:T.Z+ "));
            if (!t) continue;
            ++read;
            QCOMPARE(parse_time(iso_time(*t)).value_or(*t + 1), *t); // what was read can be written and read again
        }
        QVERIFY(read > 100);
    }
    void measures() {
        std::mt19937_64 random(2);
        for (int i = 0; i < 50000; ++i) {
            const auto m = parse_measure(noise(random, 10, "0123456789.-+eVmkK°%/ degC"));
            if (m) QVERIFY(std::isfinite(m->value) && find_unit(m->unit));
        }
    }
    void numbers() {
        std::mt19937_64 random(3);
        for (int i = 0; i < 100000; ++i) {
            const std::string text = noise(random, 40, "0123456789.-+eE");
            const char* p = text.data();
            double value = 0;
            if (!read_number(p, text.data() + text.size(), value)) continue;
            QVERIFY(std::isfinite(value) && p > text.data() && p <= text.data() + text.size());
            CLOSE(value, std::strtod(std::string(text.data(), p).c_str(), nullptr), 0);
        }
    }
    void formatsNeverGiveHyphensOrNonsense() {
        std::mt19937_64 random(4);
        for (int i = 0; i < 50000; ++i) {
            const double value = std::bit_cast<double>(random());
            const double doubt = std::bit_cast<double>(random());
            for (const std::string& text : {format_fixed(value, static_cast<int>(random() % 10)),
                                            format_constant(value), format_value(value, doubt, "degC")}) {
                QVERIFY(!text.empty());
                QVERIFY2(text[0] != '-' && text.find("nan") == std::string::npos &&
                             text.find("inf") == std::string::npos,
                         text.c_str());
            }
        }
    }
    void chains() {
        std::mt19937_64 random(5);
        const std::string good =
            R"({"stages": [{"stage": "adc", "bits": 10, "reference_V": 5, "tol_reference_V": 0.1},
            {"stage": "linear", "zero": 0.5, "slope": 0.01, "input_unit": "V", "unit": "degC"}]})";
        int read = 0;
        for (int i = 0; i < 20000; ++i) {
            const std::string json = test::mutated(random, good);
            const auto text = JsonText::parse("x", json);
            if (!text) continue;
            const auto chain = read_chain(JsonReader(*text));
            if (!chain) continue;
            ++read;
            for (const double x : {0.0, 1.0, 500.0, 1e300, -5.0}) {
                const Walk w = walk(*chain, x);
                QCOMPARE(w.result().ok(), std::isfinite(w.result().number));
            }
        }
        QVERIFY(read > 100);
    }
    void decoderKeepsItsPromisesOnBytes() {
        std::mt19937_64 random(6);
        for (int round = 0; round < 300; ++round) {
            TableDecoder decoder;
            RecordBatch batch;
            for (int i = 0; i < 30; ++i) {
                batch.clear();
                decoder.feed(round % 2 ? noise(random, 400) : noise(random, 400, "0123456789,;.\n\r\t #aA2x"),
                             batch);
                QCOMPARE(batch.values.size(), batch.rows() * batch.columns);
                for (const std::uint32_t line : batch.lines)
                    QVERIFY(line >= 1 && line <= decoder.lines());
            }
            decoder.finish(round % 3 == 0, batch);
            QVERIFY(decoder.rejections().total() <= decoder.lines());
            QVERIFY(!decoder.format_text().empty());
        }
    }
    void boardAnswersEveryLine() {
        std::mt19937_64 random(7);
        demo::GaugeBoard board({1, 1000, {}}, 0);
        for (int i = 0; i < 5000; ++i) {
            const std::string answer =
                board.command(noise(random, 30, "interval resetbathprobe fault0123456789.- "), i * second_us);
            QVERIFY(!answer.empty() && answer.back() == '\n' && (answer[0] == '#'));
            QVERIFY(board.interval_ms() >= 5);
        }
    }
    void searchesFindOrDoNot() {
        std::mt19937_64 random(8);
        for (int i = 0; i < 5000; ++i) {
            const std::string query = noise(random, 20, "0123456789 mvVC°legs.");
            for (const PartCard& part : test::catalog().parts) {
                const bool found = matches_facts(part, query);
                if (query.find_first_not_of(' ') == std::string::npos) QVERIFY(found); // nothing asked, all fit
            }
        }
    }
};

RUN_TESTS_OF(TestNoise)
#include "tst_noise.moc"
