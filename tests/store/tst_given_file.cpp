// What a file is that somebody drops: by what is in it first, then by its ending.
#include "store/file/bench_file.h"
#include "store/file/data_files.h"
#include "store/file/given_file.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <QFile>
#include <QTemporaryDir>

using namespace cognitum;

class TestGivenFile : public QObject {
    Q_OBJECT

    std::string written(const char* name, const QByteArray& text) {
        QFile file(m_folder.filePath(QLatin1String(name)));
        if (!file.open(QIODevice::WriteOnly)) qFatal("%s", name);
        file.write(text);
        return file.fileName().toStdString();
    }

  private slots:
    void everythingIsWhatItIs() {
        const std::string bench = m_folder.filePath("Point.cognitum").toStdString();
        QVERIFY(BenchFile::create(bench));
        QVERIFY(QFile::copy(QString::fromStdString(bench), m_folder.filePath("renamed.db")));
        const QByteArray part = QByteArray::fromStdString(part_card_text("ntc-10k-in-divider").value_or(""));
        QVERIFY(!part.isEmpty());
        const std::tuple<std::string, GivenFile> cases[] = {
            {bench, GivenFile::bench},
            {m_folder.filePath("renamed.db").toStdString(), GivenFile::bench},
            {written("cut.cognitum", "SQLite form"), GivenFile::bench}, // opening it says what is wrong
            {written("empty.cognitum", ""), GivenFile::bench},
            {written("a.csv", "time,air\n"), GivenFile::table},
            {written("B.CSV", "time;air\n"), GivenFile::table},
            {written("empty.csv", ""), GivenFile::table},
            {written("serial.log", "1,2,3\n"), GivenFile::table},
            {written("pack.json", R"([{"bn":"hut","n":"t","v":1}])"), GivenFile::table},
            {written("broken.json", "{"), GivenFile::table},
            {written("card.json", part), GivenFile::card},
            {written("board.json", R"({"card":"board","id":"x"})"), GivenFile::card},
            {written("recipe.json", R"({"id":"x","kinds":["level"],"steps":[]})"), GivenFile::card},
            {written("gauge.ino", "void setup() {}"), GivenFile::program},
            {written("wire.HPP", ""), GivenFile::program},
        };
        for (const auto& [path, wanted] : cases) {
            const auto is = what_is(path);
            QVERIFY2(is.has_value(), path.c_str());
            QVERIFY2(*is == wanted, path.c_str());
        }
    }
    void whatIsNothingIsSaid() {
        for (const std::string& path :
             {written("photo.png", "\x89PNG"), m_folder.path().toStdString(), std::string("/no/such/file.csv")}) {
            const auto is = what_is(path);
            QVERIFY2(!is, path.c_str());
            QVERIFY(!is.error().what.empty());
        }
    }
    void cardsOfAllKindsAreKept() {
        qputenv("XDG_DATA_HOME", m_folder.filePath("home").toUtf8());
        const auto shipped = [](const char* file) {
            return read_text_file(data_folder() + "/" + file).value_or("");
        };
        const auto with_id = [](std::string text, const std::string& from, const std::string& to) {
            return text.replace(text.find("\"" + from + "\""), from.size() + 2, "\"" + to + "\"");
        };
        const std::string board =
            with_id(shipped("boards/board-mains-relay.json"), "board-mains-relay", "my-board");
        const std::string recipe = with_id(shipped("recipes/level-1-tape.json"), "tape-distances", "my-tape");
        VALUE_OF(board_path, save_own_card(board));
        VALUE_OF(recipe_path, save_own_card(recipe));
        QVERIFY(board_path.ends_with("/boards/my-board.json") && recipe_path.ends_with("/recipes/my-tape.json"));
        const LoadedCatalog all = load_catalog();
        QVERIFY2(all.problems.empty(), all.problems.empty() ? "" : all.problems.front().text().c_str());
        QVERIFY(all.catalog.board("my-board"));
        QVERIFY(
            std::any_of(all.recipes.begin(), all.recipes.end(), [](const Recipe& r) { return r.id == "my-tape"; }));
        // What a person made is not written over; the same again is no harm.
        QVERIFY(save_own_card(board, Existing::keep));
        const auto refused = save_own_card(board + "\n", Existing::keep);
        QVERIFY(!refused && refused.error().text().find("another id") != std::string::npos);
        QCOMPARE(read_text_file(board_path).value_or(""), board);
        // A stranger's card cannot choose where it goes.
        for (const char* id : {"../../outside", "/etc/x", ".hidden", ""}) {
            QVERIFY2(!save_own_card(with_id(recipe, "my-tape", id)), id);
            QVERIFY2(!save_own_card(with_id(board, "my-board", id)), id);
        }
        QVERIFY(!QFile::exists(m_folder.filePath("outside.json")));
        QVERIFY(!save_own_card(R"({"card":"board","id":"bare"})"));
        QVERIFY(!save_own_card("[]"));
    }

  private:
    QTemporaryDir m_folder;
};

RUN_TESTS_OF(TestGivenFile)
#include "tst_given_file.moc"
