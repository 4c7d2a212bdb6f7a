// Cards on disk: the shipped ones, the user's own beside them, broken ones named; and summaries joined for a chart.
#include "store/file/data_files.h"
#include "store/samples/block_codec.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <QDir>
#include <QFile>
#include <random>

using namespace cognitum;

namespace {

void write_deep(const QString& path, const QByteArray& text) {
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

namespace {

/// The first key of a card that the schema does not list; empty: it knows them all.
std::string unknown_key(const Json& value, const Json& schema) {
    if (value.is_object() && schema.contains("properties")) {
        for (const auto& [key, inner] : value.items()) {
            if (!schema["properties"].contains(key)) return key;
            if (std::string deeper = unknown_key(inner, schema["properties"][key]); !deeper.empty()) return deeper;
        }
    }
    if (value.is_array() && schema.contains("items"))
        for (const Json& item : value)
            if (std::string deeper = unknown_key(item, schema["items"]); !deeper.empty()) return deeper;
    return {};
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
        write_deep(home.filePath("cognitum/parts/mine.json"), mine);
        const LoadedCatalog loaded = load_catalog();
        QVERIFY(loaded.problems.empty());
        QCOMPARE(loaded.catalog.parts.size(), shipped + 1);
        QVERIFY(loaded.catalog.part("my-own"));
    }
    /// Whoever edits a card that was saved here goes on with it; of any other a copy is made.
    void aSavedCardIsOnesOwn() {
        const QTemporaryDir home;
        qputenv("XDG_DATA_HOME", home.path().toUtf8());
        QVERIFY(!is_own_part("ntc-10k-in-divider"));
        QVERIFY(!is_own_part("shed-thermometer"));
        QByteArray mine = shipped_part();
        mine.replace("\"id\": \"ntc-10k-in-divider\"", "\"id\": \"shed-thermometer\"");
        QVERIFY(save_own_card(mine.toStdString(), Existing::keep));
        QVERIFY(is_own_part("shed-thermometer"));
        QVERIFY(!is_own_part("ntc-10k-in-divider"));
    }
    void anOwnCardStandsForTheShippedOne() {
        const QTemporaryDir home;
        qputenv("XDG_DATA_HOME", home.path().toUtf8());
        QByteArray mine = shipped_part();
        mine.replace("\"response_s\": 12", "\"response_s\": 99");
        write_deep(home.filePath("cognitum/parts/better.json"), mine);
        const LoadedCatalog loaded = load_catalog();
        CLOSE(loaded.catalog.part("ntc-10k-in-divider")->response_s, 99, 1e-12);
        QCOMPARE(loaded.catalog.parts.size(), load_catalog().catalog.parts.size());
    }
    /// Of a plan only its cards are read, which are the same as among all; a card that lies elsewhere is found as
    /// well.
    void theCardsOfAPlan() {
        const QTemporaryDir home;
        qputenv("XDG_DATA_HOME", home.path().toUtf8());
        VALUE_OF(demo, load_bench_json(COGNITUM_SOURCE_DIR "/data/demo/whelk-point.json"));
        const Catalog all = load_catalog().catalog, few = load_cards_of(demo);
        QVERIFY(few.parts.size() <= demo.readings.size() + demo.modules.size());
        QVERIFY(few.boards.size() <= demo.boards.size());
        for (const Reading& reading : demo.readings)
            for (const PartCard* part = all.part(reading.sensor.part); part; part = nullptr)
                QCOMPARE(few.part(part->id)->name.english(), part->name.english());
        for (const BoardUse& use : demo.boards)
            if (!use.card.empty()) QCOMPARE(few.board(use.card)->pins.size(), all.board(use.card)->pins.size());
        QByteArray mine = shipped_part();
        mine.replace("\"id\": \"ntc-10k-in-divider\"", "\"id\": \"my-own\"");
        write_deep(home.filePath("cognitum/parts/mine.json"), mine);
        demo.readings[0].sensor.part = "my-own";
        QVERIFY(load_cards_of(demo).part("my-own"));
        demo.readings[0].sensor.part = "nowhere";
        QCOMPARE(load_cards_of(demo).parts.size(), all.parts.size() + 1);
        QVERIFY(load_cards_of(Bench()).parts.size() == 1); // the person's own
    }
    void aBrokenCardIsNamedAndTheRestIsThere() {
        const QTemporaryDir home;
        qputenv("XDG_DATA_HOME", home.path().toUtf8());
        write_deep(home.filePath("cognitum/parts/half.json"), "{\n\"id\": \"half\",\n");
        write_deep(home.filePath("cognitum/boards/odd.json"), "[1, 2]");
        const LoadedCatalog loaded = load_catalog();
        QCOMPARE(loaded.problems.size(), std::size_t(2));
        QVERIFY2(loaded.problems[0].where.find("half.json:") != std::string::npos,
                 loaded.problems[0].where.c_str());
        QVERIFY(loaded.catalog.parts.size() >= 3 && loaded.catalog.boards.size() >= 2);
    }
    void textFilesAreBounded() {
        const QTemporaryDir folder;
        write_deep(folder.filePath("big.txt"), QByteArray(5000, 'x'));
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

    /// The schema for people's editors and the loader know the same keys: every shipped card fits both.
    void theSchemasKnowEveryKey() {
        for (const auto& [kind, folder] : {std::pair{"part", "parts"}, std::pair{"board", "boards"}}) {
            VALUE_OF(schema_text, read_text_file(data_folder() + "/schema/" + kind + ".schema.json"));
            const Json schema = Json::parse(schema_text);
            QDir cards(QString::fromStdString(data_folder() + "/" + folder));
            for (const QString& name : cards.entryList({QStringLiteral("*.json")})) {
                VALUE_OF(text, read_text_file(cards.filePath(name).toStdString()));
                const std::string unknown = unknown_key(Json::parse(text), schema);
                QVERIFY2(unknown.empty(), (name.toStdString() + ": " + unknown).c_str());
            }
        }
    }

    void anOwnCardIsWrittenWholeOrNotAtAll() {
        QTemporaryDir home;
        qputenv("XDG_DATA_HOME", home.path().toUtf8());
        VALUE_OF(text, part_card_text("ntc-10k-in-divider"));
        std::string mine = text;
        mine.replace(mine.find("ntc-10k-in-divider"), 18, "my-thermistor");
        const auto bad = save_own_card(mine + "}");
        QVERIFY(!bad && !QDir(home.path()).exists(QStringLiteral("cognitum/parts/my-thermistor.json")));
        VALUE_OF(path, save_own_card(mine));
        QVERIFY(QFile::exists(QString::fromStdString(path)));
        QVERIFY(load_catalog().catalog.part("my-thermistor"));
        VALUE_OF(again, part_card_text("my-thermistor"));
        QCOMPARE(again, mine);
        QVERIFY(!part_card_text("unobtainium"));
        // A folder where the file should go: said, and nothing left behind.
        QVERIFY(QDir(home.path()).mkpath(QStringLiteral("cognitum/parts/blocked.json")));
        mine.replace(mine.find("my-thermistor"), 13, "blocked");
        QVERIFY(!save_own_card(mine));
        QVERIFY(!QFile::exists(home.filePath(QStringLiteral("cognitum/parts/blocked.json.new"))));
    }
};

RUN_TESTS_OF(TestDataFiles)
#include "tst_data_files.moc"
