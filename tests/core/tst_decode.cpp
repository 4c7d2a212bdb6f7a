// Decoding against a slow, obvious model; half lines, garbage, headers; memory stays bounded.
#include "core/decode/number.h"
#include "core/decode/table_decoder.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <random>
#include <sstream>

using namespace cognitum;

namespace {

struct Decoded {
    std::vector<double> values;
    std::vector<std::uint32_t> lines;
    std::vector<std::string> names;
    std::uint64_t rejected = 0, headers = 0;
    std::size_t columns = 0;
};

/// Feeds the text in pieces of the given size.
Decoded decode(const std::string& text, std::size_t piece = std::string::npos) {
    TableDecoder decoder;
    RecordBatch batch;
    Decoded out;
    for (std::size_t at = 0; at < text.size(); at += std::min(piece, text.size())) {
        batch.clear();
        decoder.feed(std::string_view(text).substr(at, piece), batch);
        out.values.insert(out.values.end(), batch.values.begin(), batch.values.end());
        out.lines.insert(out.lines.end(), batch.lines.begin(), batch.lines.end());
    }
    out.names = decoder.names();
    out.rejected = decoder.rejections().total();
    out.headers = decoder.headers();
    out.columns = decoder.columns();
    return out;
}

/// std::getline and strtod, as plainly as possible.
std::vector<double> slow_model(const std::string& text) {
    std::vector<double> out;
    std::istringstream lines(text);
    for (std::string line; std::getline(lines, line);) {
        std::istringstream fields(line);
        for (std::string field; std::getline(fields, field, ',');)
            out.push_back(std::strtod(field.c_str(), nullptr));
    }
    return out;
}

} // namespace

class TestDecode : public QObject {
    Q_OBJECT

  private slots:
    void numbersAreExactlyRounded() {
        std::mt19937_64 random(11);
        for (int i = 0; i < 200000; ++i) {
            char text[64];
            const double value = std::bit_cast<double>(random());
            const int form = i % 5;
            if (form == 0)
                std::snprintf(text, sizeof text, "%.17g", std::isfinite(value) ? value : 1.5);
            else
                std::snprintf(text, sizeof text,
                              form == 1   ? "%.0f"
                              : form == 2 ? "%.3f"
                              : form == 3 ? "%+.6f"
                                          : "%.12f",
                              static_cast<double>(static_cast<std::int64_t>(random()) % 100000000) / 977.0);
            const char* p = text;
            double read = 0;
            QVERIFY2(read_number(p, text + std::strlen(text), read), text);
            QCOMPARE(p, text + std::strlen(text));
            QVERIFY2(std::bit_cast<std::uint64_t>(read) == std::bit_cast<std::uint64_t>(std::strtod(text, nullptr)),
                     text);
        }
    }
    void noNumbers_data() {
        QTest::addColumn<QByteArray>("text");
        for (const char* text : {"", "-", "+", ".", "-.", "abc", "nan", "inf", "-inf", "e5", "1e999"})
            QTest::addRow("%s", text) << QByteArray(text);
    }
    void noNumbers() {
        QFETCH(QByteArray, text);
        const char* p = text.constData();
        double value = 7;
        QVERIFY(!read_number(p, text.constData() + text.size(), value));
        QCOMPARE(p, text.constData());
        QCOMPARE(value, 7.0);
    }

    void sameAsTheSlowModelInAnyPieces() {
        std::mt19937_64 random(5);
        std::string text;
        for (int i = 0; i < 3000; ++i)
            text += std::to_string(i) + "," + std::to_string(static_cast<int>(random() % 1024)) + "," +
                    std::to_string(static_cast<double>(random() % 100000) / 997) + "\n";
        const auto expected = slow_model(text);
        for (const std::size_t piece :
             {std::size_t(1), std::size_t(7), std::size_t(64), std::size_t(4096), text.size()}) {
            const Decoded d = decode(text, piece);
            QCOMPARE(d.rejected, std::uint64_t(0));
            QVERIFY(d.values == expected);
            QCOMPARE(d.lines.back(), std::uint32_t(3000));
        }
    }

    void formsOfTables_data() {
        QTest::addColumn<QByteArray>("text");
        QTest::addColumn<int>("columns");
        QTest::addRow("comma") << QByteArray("1,2,3\n4,5,6\n") << 3;
        QTest::addRow("semicolon") << QByteArray("1;2;3\n4;5;6\n") << 3;
        QTest::addRow("tab") << QByteArray("1\t2\t3\n4\t5\t6\n") << 3;
        QTest::addRow("spaces") << QByteArray("1  2 3\n4 5   6\n") << 3;
        QTest::addRow("carriage returns") << QByteArray("1,2,3\r\n4,5,6\r\n") << 3;
        QTest::addRow("blanks around") << QByteArray("1 , 2,3 \n 4,5 ,6\n") << 3;
        QTest::addRow("one a line") << QByteArray("1\n2\n3\n4\n5\n6\n") << 1;
    }
    void formsOfTables() {
        QFETCH(QByteArray, text);
        QFETCH(int, columns);
        const Decoded d = decode(text.toStdString());
        QCOMPARE(d.columns, std::size_t(columns));
        QVERIFY((d.values == std::vector<double>{1, 2, 3, 4, 5, 6}));
        QCOMPARE(d.rejected, std::uint64_t(0));
    }

    void headerNamesTheColumnsAndComesAgainAtReset() {
        const Decoded d = decode(
            "# board=gauge bits=10 reference=supply\nseq,ms,A2\n0,1000,138\n1,2000,139\nseq,ms,A2\n0,1000,140\n");
        QVERIFY((d.names == std::vector<std::string>{"seq", "ms", "A2"}));
        QCOMPARE(d.headers, std::uint64_t(2));
        QCOMPARE(d.rejected, std::uint64_t(0));
        QVERIFY((d.values == std::vector<double>{0, 1000, 138, 1, 2000, 139, 0, 1000, 140}));
    }
    void commentsAreKeptApart() {
        TableDecoder decoder;
        RecordBatch batch;
        decoder.feed("# ok interval_ms=250\n1,2\n", batch);
        const auto comments = decoder.take_comments();
        QCOMPARE(comments.size(), std::size_t(1));
        QCOMPARE(comment_value(comments[0], "interval_ms"), std::string("250"));
        QCOMPARE(comment_value("ok a_ms=1 ms=2", "ms"), std::string("2"));
        QCOMPARE(comment_value("ok", "ms"), std::string());
        QVERIFY(decoder.take_comments().empty());
    }

    void halfLinesAreCountedNotGuessed() {
        // The second line lost its tail with its end: it ran into the third.
        const Decoded d = decode("seq,ms,A2\n0,1000,138\n1,20002,3000,140\n3,4000,141\n");
        QVERIFY((d.values == std::vector<double>{0, 1000, 138, 3, 4000, 141}));
        QCOMPARE(d.rejected, std::uint64_t(1));
    }
    void aHalfFirstLineIsOutvoted() {
        const Decoded d = decode("00,138\n1,2000,139\n2,3000,140\n3,4000,141\n4,5000,142\n");
        QCOMPARE(d.columns, std::size_t(3));
        QVERIFY(d.values.size() >= 3 && d.values.back() == 142);
    }
    void aHoleInALineIsNoNumber() {
        const Decoded d = decode("1,2,3\n4,,6\n7,x,9\n1 2,3,4\n");
        QCOMPARE(d.values.size(), std::size_t(12));
        QVERIFY(std::isnan(d.values[4]) && std::isnan(d.values[7]));
        QVERIFY(std::isnan(d.values[9])); // "1 2" is not the number 1
        QCOMPARE(d.values[8], 9.0);
    }
    void reasonsNameTheFirstLine() {
        TableDecoder decoder;
        RecordBatch batch;
        decoder.feed("a,b\n1,2\n1,2,3\nhello there\n1,2,3\n\x01\x02,5\n", batch);
        const auto& reasons = decoder.rejections().reasons();
        QCOMPARE(decoder.rejections().total(), std::uint64_t(4));
        QCOMPARE(reasons[0].reason, std::string("3 fields where 2 belong"));
        QCOMPARE(reasons[0].count, std::uint64_t(2));
        QCOMPARE(reasons[0].first_line, std::uint64_t(3));
        QCOMPARE(reasons[0].first_text, std::string("1,2,3"));
    }
    /// Ends of lines count; what is longer is no record, however it is read.
    void theLongestLine() {
        for (const std::size_t blanks : {0u, 1u, 2u}) {
            for (const bool at_first : {true, false}) {
                TableDecoder decoder;
                RecordBatch batch;
                if (at_first) decoder.feed("1,2\n3,4\n", batch);
                const std::size_t before = batch.rows();
                decoder.feed("5," + std::string(TableDecoder::longest_line - 4 + blanks, '0') + "6\n7,8\n", batch);
                QCOMPARE(batch.rows() - before, std::size_t(blanks < 2 ? 2 : 1));
                QCOMPARE(decoder.rejections().total(), std::uint64_t(blanks < 2 ? 0 : 1));
            }
        }
    }
    void aLineWithoutAnEnd() {
        TableDecoder decoder;
        RecordBatch batch;
        decoder.feed("1,2\n3,4", batch);
        QCOMPARE(batch.rows(), std::size_t(1));
        TableDecoder link = decoder;
        link.finish(false, batch);
        QCOMPARE(batch.rows(), std::size_t(1));
        QCOMPARE(link.rejections().total(), std::uint64_t(1));
        decoder.finish(true, batch);
        QCOMPARE(batch.rows(), std::size_t(2));
    }

    void aWrongFirstGuessIsGivenUp() {
        std::string text = "hello; world\n"; // looks like a header of two
        for (int i = 0; i < 20; ++i)
            text += std::to_string(i) + "," + std::to_string(i * 2) + ",7\n";
        const Decoded d = decode(text);
        QCOMPARE(d.columns, std::size_t(3));
        QCOMPARE(d.values.back(), 7.0);
        QVERIFY(d.names.empty());
    }
    void garbageIsBoundedAndForgotten() {
        std::mt19937_64 random(9);
        TableDecoder decoder;
        RecordBatch batch;
        std::string noise(1 << 16, '\0');
        for (int i = 0; i < 160; ++i) { // ten megabytes
            for (char& c : noise)
                c = static_cast<char>(random());
            decoder.feed(noise, batch);
            batch.clear();
        }
        decoder.feed(std::string(1 << 20, '7'), batch); // a megabyte without an end
        decoder.feed("\n", batch);
        decoder.feed("seq,ms,A2\n0,1,138\n1,2,139\n2,3,140\n3,4,141\n4,5,142\n", batch); // and then a good board
        QVERIFY((decoder.names() == std::vector<std::string>{"seq", "ms", "A2"}));
        QVERIFY(decoder.rejections().reasons().size() <= Rejections::most_reasons + 1);
        QCOMPARE(batch.rows(), std::size_t(5));
        QCOMPARE(batch.values.back(), 142.0);
    }
};

RUN_TESTS_OF(TestDecode)
#include "tst_decode.moc"
