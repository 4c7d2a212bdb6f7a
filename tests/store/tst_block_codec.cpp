// Blocks come back bit for bit; damaged ones are refused, never read wrong, and never crash.
#include "store/samples/block_codec.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <bit>
#include <random>

using namespace cognitum;

namespace {

bool same(const Sample& a, const Sample& b) {
    return a.time == b.time && std::bit_cast<std::uint64_t>(a.raw) == std::bit_cast<std::uint64_t>(b.raw) &&
           std::bit_cast<std::uint64_t>(a.value) == std::bit_cast<std::uint64_t>(b.value) && a.cause == b.cause;
}

std::vector<Sample> slow_signal(std::size_t n) {
    std::vector<Sample> out;
    std::mt19937_64 random(4);
    for (std::size_t i = 0; i < n; ++i) {
        const double code =
            140 + std::floor(10 * std::sin(static_cast<double>(i) / 700) + static_cast<double>(random() % 2));
        out.push_back({1795617060000000 + static_cast<TimeUs>(i) * second_us + static_cast<TimeUs>(random() % 300),
                       code, (code + 0.5) * 4.998 / 1024 / 0.01 - 50.62, Cause::none});
    }
    return out;
}

std::vector<Sample> wild(std::size_t n, std::uint64_t seed) {
    std::mt19937_64 random(seed);
    std::vector<Sample> out;
    TimeUs t = static_cast<TimeUs>(random() % 1000000000);
    for (std::size_t i = 0; i < n; ++i) {
        t += 1 + static_cast<TimeUs>(random() % 100000000);
        const bool failed = random() % 7 == 0;
        out.push_back(
            {t, std::bit_cast<double>(random()),
             failed ? std::numeric_limits<double>::quiet_NaN() : std::bit_cast<double>(random()),
             failed ? static_cast<Cause>(1 + random() % static_cast<unsigned>(last_cause)) : Cause::none});
    }
    return out;
}

} // namespace

class TestBlockCodec : public QObject {
    Q_OBJECT

  private slots:
    void comesBackBitForBit() {
        for (const std::size_t n : {std::size_t(1), std::size_t(2), std::size_t(63), std::size_t(64),
                                    std::size_t(65), samples_per_block}) {
            for (const auto& samples : {slow_signal(n), wild(n, n)}) {
                VALUE_OF(again, decode_block(encode_block(samples)));
                QCOMPARE(again.size(), n);
                for (std::size_t i = 0; i < n; ++i)
                    QVERIFY(same(samples[i], again[i]));
            }
        }
    }
    void aSlowSignalIsSmall() {
        const auto samples = slow_signal(samples_per_block);
        const auto bytes = encode_block(samples).size();
        // Arrival times with a jitter of 0.3 ms are most of it; 24 bytes a sample would be plain.
        QVERIFY2(bytes < 4 * samples.size(),
                 qPrintable(QString::number(static_cast<double>(bytes) / static_cast<double>(samples.size()))));
    }
    void damageIsSeen() {
        const auto samples = slow_signal(500);
        const std::string good = encode_block(samples);
        std::mt19937_64 random(8);
        int refused = 0;
        for (std::size_t at = 0; at < good.size(); ++at) {
            std::string bad = good;
            bad[at] = static_cast<char>(bad[at] ^ static_cast<char>(1 + random() % 255));
            const auto decoded = decode_block(bad);
            if (!decoded)
                ++refused;
            else
                QVERIFY(std::equal(decoded->begin(), decoded->end(), samples.begin(), samples.end(), same));
        }
        QVERIFY(refused > static_cast<int>(good.size()) * 9 / 10);
        for (std::size_t n = 0; n < good.size(); ++n)
            QVERIFY(!decode_block(std::string_view(good).substr(0, n)));
        for (int i = 0; i < 2000; ++i) {
            std::string noise(random() % 200, '\0');
            for (char& c : noise)
                c = static_cast<char>(random());
            QVERIFY(!decode_block(noise));
            QVERIFY(!decode_digest(noise));
        }
    }
    void digestsAddUpToTheSamples() {
        const auto samples = wild(1000, 3);
        const auto digest = digest_of(samples);
        QCOMPARE(digest.size(), runs_per_block);
        std::uint64_t n = 0;
        std::uint64_t valued = 0;
        for (const Summary& s : digest) {
            n += s.n;
            valued += s.valued;
        }
        QCOMPARE(n, std::uint64_t(1000));
        const Summary whole = summarise(samples);
        QCOMPARE(valued, whole.valued);
        const Summary joined = summarise(digest);
        QCOMPARE(joined.low, whole.low);
        QCOMPARE(joined.high, whole.high);
        QCOMPARE(joined.from, whole.from);
        QCOMPARE(joined.to, whole.to);
        VALUE_OF(again, decode_digest(encode_digest(digest)));
        QCOMPARE(again.size(), digest.size());
        QCOMPARE(again[5].sum, digest[5].sum);
    }
};

RUN_TESTS_OF(TestBlockCodec)
#include "tst_block_codec.moc"
