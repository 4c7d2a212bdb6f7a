// A number of a board's program: its type's arithmetic, and the way that it came.
#include "core/program/read/evaluator.h"
#include "core/program/read/sent_number.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <cmath>

using namespace cognitum;
using namespace cognitum::program;

namespace {

CodeType whole(int bits, bool is_signed = true) {
    CodeType out;
    out.kind = CodeType::Kind::integer;
    out.bits = bits;
    out.is_signed = is_signed;
    return out;
}

CodeType real(int bits) {
    CodeType out;
    out.kind = CodeType::Kind::floating;
    out.bits = bits;
    return out;
}

CodeValue from_pin(double count) {
    CodeValue out = whole_value(static_cast<std::int64_t>(count));
    out.trace = trace_source(SourceKind::analog, "A2", {0, 5, 1, 3});
    return out;
}

CodeValue literal(double v, int line) {
    CodeValue out = real_value(v);
    out.literals = std::make_shared<std::vector<Literal>>(1, Literal{v, {0, line, 1, 3}});
    return out;
}

CodeValue with_trace(TraceRef trace) {
    CodeValue out = real_value(1);
    out.trace = std::move(trace);
    return out;
}

} // namespace

class TestTraces : public QObject {
    Q_OBJECT

  private slots:
    /// A number in the lines of a program that runs, by the words before it or by its place.
    void numbersInLines() {
        ReadPath labelled;
        labelled.label = "T=";
        QCOMPARE(sent_number("seq=1 T=-20.5 H=40", labelled), std::string("-20.5"));
        QCOMPARE(sent_number("seq=1 T= 7", labelled), std::string("7"));
        QCOMPARE(sent_number("seq=1 T=lost", labelled), std::string());
        QCOMPARE(sent_number("seq=1 H=40", labelled), std::string());
        ReadPath third;
        third.label = ",";
        third.column = 2;
        third.columns = 3;
        QCOMPARE(sent_number("1,1000,139", third), std::string("139"));
        QCOMPARE(sent_number("1, 1000,\t139\r", third), std::string("139"));
        QCOMPARE(sent_number("1,1000", third), std::string()); // a line of something else
        QCOMPARE(sent_number("1,1000,open", third), std::string());
        QCOMPARE(sent_number("", third), std::string());
        const std::vector<ProofLine> lines = {{0.1, "T=1"}, {0.7, "T=2"}, {0.9, "T=3"}, {1.0, "T=4"}};
        QCOMPARE(last_sent(lines, labelled, 0, 1), std::string("3"));
        QCOMPARE(last_sent(lines, labelled, 1, 2), std::string()); // what came at its start is of before
    }
    /// Two's complement at every width, against arithmetic modulo 2^bits.
    void wraps() {
        std::uint64_t seed = 7;
        for (int i = 0; i < 20000; ++i) {
            seed = seed * 6364136223846793005ULL + 1442695040888963407ULL;
            const auto v = static_cast<std::int64_t>(seed >> 20) - (std::int64_t{1} << 43);
            for (const int bits : {8, 16, 32})
                for (const bool is_signed : {true, false}) {
                    bool wrapped = false;
                    const CodeValue out = in_type(whole_value(v), whole(bits, is_signed), 0, &wrapped);
                    const auto modulus = std::int64_t{1} << bits;
                    std::int64_t wanted = (v % modulus + modulus) % modulus;
                    if (is_signed && wanted >= modulus / 2) wanted -= modulus;
                    QCOMPARE(out.whole, wanted);
                    QCOMPARE(wrapped, wanted != v);
                }
        }
    }

    void pointsAreCut_data() {
        QTest::addColumn<double>("given");
        QTest::addColumn<int>("becomes");
        QTest::addColumn<bool>("cut");
        QTest::newRow("up") << 3.99 << 3 << true;
        QTest::newRow("down") << -3.99 << -3 << true;
        QTest::newRow("none") << 4.0 << 4 << false;
        QTest::newRow("not a number") << std::nan("") << 0 << false;
        QTest::newRow("without end") << static_cast<double>(INFINITY) << 0 << false;
    }
    void pointsAreCut() {
        QFETCH(double, given);
        QFETCH(int, becomes);
        QFETCH(bool, cut);
        bool was_cut = false;
        const CodeValue out = in_type(real_value(given), whole(32), 0, nullptr, &was_cut);
        QCOMPARE(out.whole, std::int64_t{becomes});
        QCOMPARE(was_cut, cut);
    }

    void floatsOfTheBoard() {
        QCOMPARE(in_type(real_value(0.1), real(32), 0).real, static_cast<double>(0.1F));
        QCOMPARE(in_type(real_value(0.1), real(64), 0).real, 0.1);
        QCOMPARE(in_type(real_value(16777217), real(32), 0).real, 16777216.0);
        QCOMPARE(in_type(real_value(0.1), real(32), 0).ideal, 0.1); // what real arithmetic has stays
        CodeType yes_or_no;
        yes_or_no.kind = CodeType::Kind::boolean;
        QCOMPARE(in_type(whole_value(256), yes_or_no, 0).whole, std::int64_t{1});
        QCOMPARE(in_type(real_value(0.2), yes_or_no, 0).whole, std::int64_t{1});
    }

    /// As the boards' core prints numbers.
    void printed_data() {
        QTest::addColumn<double>("value");
        QTest::addColumn<int>("digits");
        QTest::addColumn<QString>("text");
        QTest::newRow("two digits") << 3.14159 << 2 << "3.14";
        QTest::newRow("none") << 2.7 << 0 << "3";
        QTest::newRow("below zero") << -0.004 << 2 << "-0.00";
        QTest::newRow("too large") << 5e9 << 2 << "ovf";
        QTest::newRow("not a number") << std::nan("") << 2 << "nan";
        QTest::newRow("without end") << static_cast<double>(INFINITY) << 2 << "inf";
        QTest::newRow("more digits than there are") << 0.5 << 99 << "0.500000000000000000000000000000";
    }
    void printed() {
        QFETCH(double, value);
        QFETCH(int, digits);
        QFETCH(QString, text);
        QCOMPARE(QString::fromStdString(printed_real(value, digits)), text);
    }

    void printedInBases() {
        QCOMPARE(printed_whole(255, 16, 16), std::string("FF"));
        QCOMPARE(printed_whole(-1, 16, 16), std::string("FFFFFFFF")); // as a long
        QCOMPARE(printed_whole(10, 2, 8), std::string("1010"));
        QCOMPARE(printed_whole(0, 2, 8), std::string("0"));
        QCOMPARE(printed_whole(-42, 10, 16), std::string("-42"));
        // Bases from 2 to 36; any other prints as the usual one.
        for (const int base : {-16, 0, 1, 37, 100})
            QCOMPARE(printed_whole(35, base, 16), std::string("35"));
        for (int base = 2; base <= 36; ++base)
            for (const std::int64_t value : {0LL, 1LL, 9LL, 35LL, 36LL, 255LL, 65536LL, 4294967295LL})
                QCOMPARE(printed_whole(value, base, 32), QString::number(value, base).toUpper().toStdString());
        QCOMPARE(printed_whole(-2, 36, 64), QString::number(quint64(-2), 36).toUpper().toStdString());
    }

    /// (c · 5 / 1024 − 0.5) · 100 is one line with its four steps.
    void aLineOfSteps() {
        CodeValue v = from_pin(139);
        v.trace = combined('*', v, literal(5, 6), {0, 6, 1, 1});
        v.trace = combined('/', v, literal(1024, 6), {0, 6, 1, 1});
        v.trace = combined('-', v, literal(0.5, 7), {0, 7, 1, 1});
        v.trace = combined('*', v, literal(100, 7), {0, 7, 1, 1});
        QVERIFY(v.trace->origin->is_source);
        QVERIFY(std::abs(v.trace->slope - 500.0 / 1024) < 1e-12);
        QCOMPARE(v.trace->offset, -50.0);
        QCOMPARE(v.trace->steps.size(), std::size_t(4));
        QCOMPARE(source_of(v.trace)->key, std::string("A2"));
        const std::vector<Literal> literals = literals_of(v.trace);
        QCOMPARE(literals.size(), std::size_t(4));
        QCOMPARE(literals[2].value, 0.5);
        QCOMPARE(literals[2].place.line, 7);
    }

    /// 7 − c and 1024 / c: from the other side.
    void fromTheOtherSide() {
        const CodeValue minus = with_trace(combined('-', literal(7, 1), from_pin(3), {}));
        QCOMPARE(minus.trace->slope, -1.0);
        QCOMPARE(minus.trace->offset, 7.0);
        const TraceRef over = combined('/', literal(1024, 1), from_pin(3), {});
        QVERIFY(!over->origin->is_source);
        QCOMPARE(over->origin->function, std::string("/"));
        QCOMPARE(over->origin->beside.front(), 1024.0);
        QCOMPARE(literals_of(over).front().value, 1024.0);
    }

    /// A mean of ten samples is the number itself, ten times and divided by ten; a filter's two parts are it as
    /// well.
    void sumsAndFilters() {
        CodeValue sum = from_pin(100);
        for (int i = 1; i < 10; ++i)
            sum.trace = combined('+', sum, from_pin(100), {});
        QCOMPARE(sum.trace->slope, 10.0);
        sum.trace = combined('/', sum, literal(10, 3), {});
        QCOMPARE(sum.trace->slope, 1.0);
        CodeValue old = from_pin(100), fresh = from_pin(101);
        old.trace = combined('*', old, literal(0.9, 2), {});
        fresh.trace = combined('*', fresh, literal(0.1, 2), {});
        const TraceRef both = combined('+', old, fresh, {});
        QCOMPARE(both->slope, 1.0);
        QVERIFY(both->steps.empty());
    }

    /// Bytes of one address are its number; of two addresses they are not.
    void bytesOfABus() {
        CodeValue high = whole_value(1), low = whole_value(2), other = whole_value(3);
        high.trace = trace_source(SourceKind::i2c, "0x23", {});
        low.trace = trace_source(SourceKind::i2c, "0x23", {});
        other.trace = trace_source(SourceKind::i2c, "0x48", {});
        high.trace = combined('*', high, whole_value(256), {});
        const TraceRef word = combined('|', high, low, {});
        QVERIFY(word->origin->is_source && word->slope == 1 && word->steps.empty());
        QVERIFY(!combined('|', high, other, {})->origin->is_source);
        QCOMPARE(sources_of(combined('+', high, other, {})).size(), std::size_t(2));
    }

    /// What a loop does again is one step; what is made of itself for ever does not grow.
    void nothingGrowsWithoutEnd() {
        CodeValue v = from_pin(5);
        for (int i = 0; i < 1000; ++i)
            v.trace = combined('*', v, literal(1.001, 4), {0, 4, 1, 1});
        QVERIFY(v.trace->steps.size() <= most_steps);
        for (int i = 0; i < 1000; ++i)
            v.trace = applied("sqrt", {v}, {});
        QVERIFY(v.trace->origin->depth <= deepest_origin);
        Literals all;
        for (int i = 0; i < 100; ++i)
            all = joined(all, literal(i, i + 1).literals);
        QVERIFY(all->size() <= 16);
    }

    void slotsOfTypes() {
        SyntaxTree tree;
        tree.types.resize(4);
        tree.types[0] = whole(16);
        tree.types[1].kind = CodeType::Kind::array;
        tree.types[1].count = 5;
        tree.types[1].element = 0;
        tree.records.push_back({"Pair", {"values", "one"}, {1, 0}, {nothing, nothing}, {}});
        tree.types[2].kind = CodeType::Kind::record;
        tree.types[2].record = 0;
        tree.types[3].kind = CodeType::Kind::array;
        tree.types[3].count = 1 << 30;
        tree.types[3].element = 2;
        QCOMPARE(tree.slot_count(0), 1);
        QCOMPARE(tree.slot_count(1), 5);
        QCOMPARE(tree.slot_count(2), 6);
        QCOMPARE(tree.field_slot(0, 1), 5);
        QVERIFY(tree.slot_count(3) <= 1 << 20); // bounded
        QCOMPARE(tree.slot_count(nothing), 1);
        QVERIFY(tree.line({0, 1, 1, 1}).empty()); // no such file
    }
};

RUN_TESTS_OF(TestTraces)
#include "tst_traces.moc"
