// The door for sentences: English without a language, gaps, plurals, what stays English, and what is said again.
#include "core/base/phrase.h"
#include "core/base/phrase_book.h"
#include "core/units/format.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <map>

using namespace cognitum;

namespace {

const std::map<std::string, std::string>& words() {
    static const std::map<std::string, std::string> all = {
        {"{} sits on pin {}.", "An Pin {1} sitzt {0}."},
        {"{} wires", "{} Adern"},
        {"on", "ein"},
        {"broken: {}", "kaputt: {} {}"},
        {"It is {}, and {} with {:.1f} V.", "Es ist {}, und {} mit {:.1f} V."},
        {"{}: {} at {}.", "{}: {} bei {}."},
        {"in range", "im Bereich"},
        {"Recording stopped after {} samples.{}", "Aufzeichnung nach {} Werten beendet.{}"},
        {" {} more could not be kept.", " {} weitere fehlen."},
        {"Recording started.", "Aufzeichnung begonnen."},
        {"{} boards here", "{} Boards hier"},
        {"Analog thermometer", "Analoges Thermometer"},
    };
    return all;
}

const char* german(const char* english, long n) {
    if (n == 1 && std::string_view(english) == "{} wires") return "{} Ader";
    const auto found = words().find(english);
    return found == words().end() ? english : found->second.c_str();
}

const char* const book_lines = "{} sits on pin {}.\n{} wire\t{} wires\n{}: {} at {}.\n"
                               "Recording stopped after {} samples.{}\n {} more could not be kept.\n"
                               "It is {}, and {} with {:.1f} V.\n{} board here\t{} boards here";

std::string again(const std::string& english) {
    static const PhraseBook book(book_lines);
    return book.say(english);
}

class Spoken {
  public:
    Spoken() { set_language({german, again, ",", true}); }
    ~Spoken() { set_language({}); }
};

} // namespace

class TestPhrase : public QObject {
    Q_OBJECT

  private slots:
    void englishWithoutALanguage() {
        QCOMPARE(phrase("{} sits on pin {}.", "Rain", 3), std::string("Rain sits on pin 3."));
        QCOMPARE(counted(1, "{} wire", "{} wires"), std::string("1 wire"));
        QCOMPARE(counted(0, "{} wire", "{} wires"), std::string("0 wires"));
        const char* literal = "as it is";
        QCOMPARE(phrase(literal), literal);
        QCOMPARE(read_back("Recording started."), std::string("Recording started."));
        QCOMPARE(inside_sentence("The gain"), std::string("the gain"));
        QCOMPARE(inside_sentence("SPI bus"), std::string("SPI bus"));
    }

    void gapsAndPlurals() {
        const Spoken language;
        QCOMPARE(phrase("{} sits on pin {}.", "Rain", 3), std::string("An Pin 3 sitzt Rain."));
        QCOMPARE(counted(1, "{} wire", "{} wires"), std::string("1 Ader"));
        QCOMPARE(counted(5, "{} wire", "{} wires"), std::string("5 Adern"));
        QCOMPARE(phrase("nobody translated this"), "nobody translated this");
        QCOMPARE(inside_sentence("Die Referenz"), std::string("Die Referenz"));
        // A translation with one gap too many: the sentence is English, and nobody's program ends.
        QCOMPARE(phrase("broken: {}", 7), std::string("broken: 7"));
    }

    void filesStayEnglish() {
        const Spoken language;
        {
            const InEnglish in_a_file;
            QCOMPARE(phrase("on"), "on");
            QCOMPARE(format_fixed(1234.5, 1), std::string("1\u202f234.5"));
            { const InEnglish inside; }
            QCOMPARE(phrase("on"), "on");
        }
        QCOMPARE(phrase("on"), "ein");
    }

    void decimalSign() {
        const Spoken language;
        QCOMPARE(format_fixed(-1234.5, 1), std::string("−1\u202f234,5"));
        QCOMPARE(format_fixed(12, 0), std::string("12"));
        QCOMPARE(format_constant(0.0625), std::string("0,0625"));
        QCOMPARE(format_constant(1234567.25, 9), std::string("1\u202f234\u202f567,25"));
        QCOMPARE(format_constant(10000), std::string("10\u202f000"));
        QCOMPARE(format_constant(0), std::string("0"));
        QCOMPARE(format_constant(1.5e-7), std::string("1,5e-07"));
        QCOMPARE(format_with_doubt(17.04, 0.5, "degC"), std::string("17,0 ±\u00a00,5\u202f°C"));
        QCOMPARE(format_ohm(1800), std::string("1,8\u202fkΩ"));
        QCOMPARE(duration_text(from_seconds(2.5 * 86400)), std::string("2,5\u202fd"));
    }

    /// A card's sentence is English in its file and the language's on the screen.
    void cards() {
        const Phrase name("Analog thermometer");
        QCOMPARE(std::string(name), std::string("Analog thermometer"));
        const Spoken language;
        QCOMPARE(std::string(name), std::string("Analoges Thermometer"));
        QCOMPARE(name + ", 5 V", std::string("Analoges Thermometer, 5 V"));
        QCOMPARE(fmt::format("{}!", name), std::string("Analoges Thermometer!"));
        QCOMPARE(name.english(), std::string("Analog thermometer"));
        QVERIFY(name == Phrase("Analog thermometer"));
        QVERIFY(Phrase().empty() && Phrase().text().empty());
    }

    void saidAgain_data() {
        QTest::addColumn<QString>("english");
        QTest::addColumn<QString>("said");
        QTest::newRow("whole") << "Recording started."
                               << "Aufzeichnung begonnen.";
        QTest::newRow("order of gaps") << "Hut air sits on pin A2."
                                       << "An Pin A2 sitzt Hut air.";
        QTest::newRow("a word and a number in it") << "Hut air: in range at 17.3\u202f°C."
                                                   << "Hut air: im Bereich bei 17,3\u202f°C.";
        QTest::newRow("a name that is a word") << "Analog thermometer: in range at 17.3\u202f°C."
                                               << "Analog thermometer: im Bereich bei 17,3\u202f°C.";
        QTest::newRow("a sentence in it") << "Recording stopped after 12 samples. 3 more could not be kept."
                                          << "Aufzeichnung nach 12 Werten beendet. 3 weitere fehlen.";
        QTest::newRow("nothing in the last gap") << "Recording stopped after 12 samples."
                                                 << "Aufzeichnung nach 12 Werten beendet.";
        QTest::newRow("a gap with a form") << "It is on, and on with 3.3 V."
                                           << "Es ist ein, und ein mit 3,3 V.";
        QTest::newRow("a name with a number") << "Hut 2.5: at the shed at 3."
                                              << "Hut 2.5: at the shed at 3.";
        QTest::newRow("the last line of the book") << "3 boards here"
                                                   << "3 Boards hier";
        QTest::newRow("an address stays") << "Asked 192.168.1.5 for 2.5 s"
                                          << "Asked 192.168.1.5 for 2,5 s";
        QTest::newRow("a sentence that ends in a number") << "It took 2.5. Then 3."
                                                          << "It took 2,5. Then 3.";
        QTest::newRow("somebody's words") << "Cleaned the funnel at 9."
                                          << "Cleaned the funnel at 9.";
        QTest::newRow("a time of day stays") << "Seen at 09:30 and 1.5 m"
                                             << "Seen at 09:30 and 1.5 m";
        QTest::newRow("empty") << ""
                               << "";
        QTest::newRow("braces of a person") << "a { b } c"
                                            << "a { b } c";
    }
    void saidAgain() {
        QFETCH(QString, english);
        QFETCH(QString, said);
        const Spoken language;
        QCOMPARE(QString::fromStdString(read_back(english.toStdString())), said);
    }

    /// A file may hold any text: the search for what it was made from ends, and loses nothing.
    void longTextsEnd() {
        const Spoken language;
        for (const std::string part : {"a. ", "x: y at z. ", ". . ", "on sits on pin on. "}) {
            std::string text;
            while (text.size() < 1990)
                text += part;
            QVERIFY(!again(text).empty());
            while (text.size() < 100000)
                text += part;
            QCOMPARE(again(text), text);
        }
    }

    /// Whatever is written in a bench: a name with gaps in it is no sentence with gaps.
    void namesThatLookLikeGaps() {
        const Spoken language;
        for (const char* name : {"{}", "{0}", "{:d}", "}{", "{{", "{:{}}", "sits on pin"}) {
            const std::string written = fmt::format("{} sits on pin {}.", name, name);
            const std::string said = read_back(written);
            QVERIFY2(said == fmt::format("An Pin {} sitzt {}.", name, name) ||
                         said.find("pin") != std::string::npos,
                     said.c_str());
        }
    }

    void shippedCardsKeepTheirEnglish() {
        const Spoken language;
        const Catalog& catalog = test::catalog();
        QVERIFY(!catalog.parts.empty());
        for (const PartCard& part : catalog.parts)
            QVERIFY(!part.name.english().empty());
    }
};

RUN_TESTS_OF(TestPhrase)
#include "tst_phrase.moc"
