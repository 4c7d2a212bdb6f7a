// The recorder is killed at random moments, many times: each time the file opens, is sound, and holds every sample
// that was reported as saved, in order and without a hole.
#include "store/upkeep/verify.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <QProcess>
#include <random>

using namespace cognitum;

class TestKilled : public QObject {
    Q_OBJECT

  private slots:
    void everySavedSampleIsThere() {
        std::mt19937_64 random(20261);
        std::uint64_t total = 0;
        for (int round = 0; round < 12; ++round) {
            const QTemporaryDir folder;
            const std::string path = test::file_in(folder, "k.cognitum");
            QProcess recorder;
            recorder.start(QStringLiteral(COGNITUM_BIN_DIR "/recorder"), {QString::fromStdString(path)});
            QVERIFY(recorder.waitForStarted());
            // Some commits, then the kill wherever it happens to be.
            const std::uint64_t wait_for = 1500 + random() % 12000;
            std::uint64_t reported = 0;
            const auto read = [&] {
                while (recorder.canReadLine())
                    reported = recorder.readLine().trimmed().toULongLong();
            };
            while (reported < wait_for) {
                QVERIFY2(recorder.waitForReadyRead(20000), qPrintable(recorder.errorString()));
                read();
            }
            recorder.kill();
            QVERIFY(recorder.waitForFinished());
            read();
            VALUE_OF(file, BenchFile::open(path, Access::write));
            VALUE_OF(report, verify(file));
            for (const Problem& p : report.problems)
                qWarning("%s: %s", p.where.c_str(), p.what.c_str());
            QVERIFY(report.problems.empty());
            QVERIFY2(report.samples >= reported,
                     qPrintable(QStringLiteral("%1 of %2").arg(report.samples).arg(reported)));
            TimeUs expected = 1;
            QVERIFY(for_each_sample(file, "r", 0, std::numeric_limits<TimeUs>::max(),
                                    [&](std::span<const Sample> samples) {
                                        for (const Sample& s : samples)
                                            if (s.time != expected++ || s.value != static_cast<double>(s.time))
                                                return false;
                                        return true;
                                    }));
            QCOMPARE(static_cast<std::uint64_t>(expected - 1), report.samples);
            // And recording goes on in the same file.
            const SeriesBatch more{"r", {{expected, 1, static_cast<double>(expected), Cause::none}}};
            QVERIFY(add_samples(file, std::span(&more, 1)));
            total += report.samples;
        }
        QVERIFY(total > 20000);
    }
};

RUN_TESTS_OF(TestKilled)
#include "tst_killed.moc"
