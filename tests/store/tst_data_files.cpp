// Cards on disk: the shipped ones, the user's own beside them, broken ones named; and summaries joined for a chart.
#include "store/block_codec.h"
#include "store/data_files.h"
#include "support/support.h"

#include <QDir>
#include <QFile>
#include <random>

using namespace cognitum;

namespace {

void write(const QString& path, const QByteArray& text) {
    QVERIFY(QDir().mkpath(path.section('/', 0, -2)));
    QFile file(path);
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write(text);
}

QByteArray shipped_part() {
    QFile file(QStringLiteral(COGNITUM_SOURCE_DIR "/data/parts/ntc-10k-in-divider.json"));
    return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
}

} // namespace

class TestDataFiles : public QObject {
    Q_OBJECT

    QByteArray m_home_before = qgetenv("XDG_DATA_HOME");

  private slots:
    void cleanup() { qputenv("XDG_DATA_HOME", m_home_before); }

    void ownCardsJoinTheShippedOnes() {
        const QTemporaryDir home;
        qputenv("XDG_DATA_HOME", home.path().toUtf8());
        const auto shipped = load_catalog().catalog.parts.size();
        QByteArray mine = shipped_part();
        QVERIFY(mine.contains("\"id\": \"ntc-10k-in-divider\""));
        mine.replace("\"id\": \"ntc-10k-in-divider\"", "\"id\": \"my-own\"");
        write(home.filePath("cognitum/parts/mine.json"), mine);
        const LoadedCatalog loaded = load_catalog();
        QVERIFY(loaded.problems.empty());
        QCOMPARE(loaded.catalog.parts.size(), shipped + 1);
        QVERIFY(loaded.catalog.part("my-own"));
    }
    void anOwnCardStandsForTheShippedOne() {
        const QTemporaryDir home;
        qputenv("XDG_DATA_HOME", home.path().toUtf8());
        QByteArray mine = shipped_part();
        mine.replace("\"response_s\": 12", "\"response_s\": 99");
        write(home.filePath("cognitum/parts/better.json"), mine);
        const LoadedCatalog loaded = load_catalog();
        CLOSE(loaded.catalog.part("ntc-10k-in-divider")->response_s, 99, 1e-12);
        QCOMPARE(loaded.catalog.parts.size(), load_catalog().catalog.parts.size());
    }
    void aBrokenCardIsNamedAndTheRestIsThere() {
        const QTemporaryDir home;
        qputenv("XDG_DATA_HOME", home.path().toUtf8());
        write(home.filePath("cognitum/parts/half.json"), "{\n\"id\": \"half\",\n");
        write(home.filePath("cognitum/boards/odd.json"), "[1, 2]");
        const LoadedCatalog loaded = load_catalog();
        QCOMPARE(loaded.problems.size(), std::size_t(2));
        QVERIFY2(loaded.problems[0].where.find("half.json:") != std::string::npos,
                 loaded.problems[0].where.c_str());
        QVERIFY(loaded.catalog.parts.size() >= 3 && loaded.catalog.boards.size() >= 2);
    }
    void textFilesAreBounded() {
        const QTemporaryDir folder;
        write(folder.filePath("big.txt"), QByteArray(5000, 'x'));
        QVERIFY(!read_text_file(folder.filePath("big.txt").toStdString(), 4999));
        QCOMPARE(read_text_file(folder.filePath("big.txt").toStdString(), 5000)->size(), std::size_t(5000));
        QVERIFY(!read_text_file(folder.filePath("none.txt").toStdString()));
        QVERIFY(!read_text_file(folder.path().toStdString()));
    }

    void joiningKeepsEverySampleAndEveryGap() {
        std::mt19937_64 random(6);
        std::vector<Summary> parts;
        TimeUs t = 0;
        for (int i = 0; i < 5000; ++i) {
            t += second_us;
            if (i == 2500) t += 4000 * second_us; // a gap
            const double v = static_cast<double>(random() % 1000);
            const Sample s{t, v, i % 11 == 0 ? std::numeric_limits<double>::quiet_NaN() : v, Cause::none};
            parts.push_back(summarise(std::span(&s, 1)));
        }
        const auto few = thinned(parts, 300);
        QVERIFY(few.size() <= 300);
        std::uint64_t n = 0;
        double sum = 0;
        double widest = 0;
        for (std::size_t i = 0; i < few.size(); ++i) {
            n += few[i].n;
            sum += few[i].sum;
            if (i > 0) {
                QVERIFY(few[i].from > few[i - 1].to);
                widest = std::max(widest, seconds(few[i].from - few[i - 1].to));
            }
        }
        QCOMPARE(n, std::uint64_t(5000));
        CLOSE(sum, summarise(parts).sum, 1e-6);
        QVERIFY2(widest >= 3900, qPrintable(QString::number(widest)));
        QCOMPARE(thinned(parts, 9999).size(), parts.size());
        QVERIFY(thinned(std::span<const Summary>(), 10).empty());
    }
};

QTEST_GUILESS_MAIN(TestDataFiles)
#include "tst_data_files.moc"
