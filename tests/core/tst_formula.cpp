// Formulas that people type: what they give, what they refuse, their way back, and that they can do no harm.
#include "core/signal_path/chain.h"
#include "core/signal_path/numeric_inverse.h"
#include "core/uncertainty/budget.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <numbers>
#include <random>
#include <thread>

using namespace cognitum;

namespace {

Result<Stage> read(const std::string& expression, const std::string& more = {}) {
    const auto text =
        JsonText::parse("f.json", R"({"stage":"formula","input_unit":"V","unit":"mm","expression":)" +
                                      Json(expression).dump() + (more.empty() ? "" : ",") + more + "}");
    if (!text) return tl::make_unexpected(text.error());
    return read_stage(JsonReader(*text));
}
Stage formula(const std::string& expression, const std::string& more = {}) {
    const auto stage = read(expression, more);
    if (!stage) qFatal("%s", stage.error().text().c_str());
    return *stage;
}
std::string refusal(const std::string& expression, const std::string& more = {}) {
    const auto stage = read(expression, more);
    return stage ? std::string("taken") : stage.error().text();
}

} // namespace

class TestFormula : public QObject {
    Q_OBJECT

  private slots:
    void whatItGives() {
        CLOSE(forward(formula("1.8*x+32"), 100).number, 212, 1e-12);
        CLOSE(forward(formula("sqrt(x) + abs(-2) * 3^2"), 16).number, 22, 1e-12);
        CLOSE(forward(formula("x < 1 ? 5 : 2*x"), 3).number, 6, 1e-12);
        const std::tuple<const char*, double, double, double> compared[] = {
            {"x < 1 ? 5 : 7", 7, 7, 5},  {"x <= 1 ? 5 : 7", 7, 5, 5}, {"x > 1 ? 5 : 7", 5, 7, 7},
            {"x >= 1 ? 5 : 7", 5, 5, 7}, {"x == 1 ? 5 : 7", 7, 5, 7}, {"x != 1 ? 5 : 7", 5, 7, 5},
            {"x==1 ? 5 : 7", 7, 5, 7}};
        for (const auto& [expression, above, at, below] : compared) {
            CLOSE(forward(formula(expression), 2).number, above, 0);
            CLOSE(forward(formula(expression), 1).number, at, 0);
            CLOSE(forward(formula(expression), 0).number, below, 0);
        }
        CLOSE(forward(formula("ln(x) + log10(x)"), 100).number, std::log(100) + 2, 1e-12);
        CLOSE(forward(formula("a*x^b", R"("names":["a","b"],"a":2,"b":3)"), 2).number, 16, 1e-12);
    }

    void namesOfConstants() {
        CLOSE(forward(formula("_a*x", R"("names":["_a"],"_a":2)"), 3).number, 6, 1e-12);
        CLOSE(forward(formula("Z9_z*x", R"("names":["Z9_z"],"Z9_z":2)"), 3).number, 6, 1e-12);
        CLOSE(forward(formula("A0+x", R"("names":["A0"],"A0":2)"), 3).number, 5, 1e-12);
    }
    void whereThereIsNoNumberThereIsACause() {
        for (const char* expression : {"1/x", "ln(x)", "sqrt(x-1)", "x/(x*0)"}) {
            const Stage stage = formula(expression);
            const Value none = forward(stage, expression == std::string("sqrt(x-1)") ? 0.5 : 0);
            QCOMPARE(none.cause, Cause::out_of_range);
            QVERIFY(std::isnan(none.number));
            QVERIFY(cause_text(stage, none.cause, 0).find("divides by zero") != std::string::npos);
        }
        QCOMPARE(forward(formula("exp(x)"), 1e9).cause, Cause::out_of_range);
        QCOMPARE(forward(formula("x", R"("low":0,"high":5)"), 6).cause, Cause::out_of_range);
        QCOMPARE(forward(formula("x"), std::nan("")).cause, Cause::not_a_number);
    }

    /// Nothing but a formula: no text, no assignment, no names that it was not given, no end without one.
    void whatItRefuses_data() {
        QTest::addColumn<QByteArray>("expression");
        QTest::addColumn<QByteArray>("more");
        QTest::addColumn<QByteArray>("says");
        const auto row = [](const char* name, const char* expression, const char* more, const char* says) {
            QTest::addRow("%s", name) << QByteArray(expression) << QByteArray(more) << QByteArray(says);
        };
        row("empty", "  ", "", "empty");
        row("half", "2*x+", "", "character");
        row("unknown name", "2*y", "", "not known");
        row("unknown function", "system(1)", "", "not known");
        row("sets a constant", "a=3", R"("names":["a"],"a":1)", "single =");
        row("two numbers", "1,5*x", "", "one number");
        row("text", "\"x\"", "", "no text");
        row("brackets", "((x)", "", "character");
        row("x as a name", "x", R"("names":["x"],"x":1)", "cannot be a constant's name");
        row("a name with a meaning", "low*x", R"("names":["low"],"low":1)", "something else");
        row("a prefix", "u_a*x", R"("names":["u_a"],"u_a":1)", "something else");
        row("a digit first", "x*x", R"("names":["2a"],"2a":1)", "cannot be a constant's name");
        row("a name with a point", "x", R"("names":["a.b"],"a.b":1)", "cannot be a constant's name");
        row("a name in letters of another country", "x", R"("names":["\u00e4"],"\u00e4":1)",
            "cannot be a constant's name");
        row("no name", "x", R"("names":[""],"":1)", "cannot be a constant's name");
        row("missing value", "a*x", R"("names":["a"])", "a");
        row("low over high", "x", R"("low":3,"high":1)", "low");
        row("unknown unit", "x", R"("low":1,"high":3,"colour":1)", "colour");
    }
    void whatItRefuses() {
        QFETCH(QByteArray, expression);
        QFETCH(QByteArray, more);
        QFETCH(QByteArray, says);
        const std::string told = refusal(expression.toStdString(), more.toStdString());
        QVERIFY2(told.find(says.toStdString()) != std::string::npos, told.c_str());
    }
    void aLongOneIsRefusedAndADeepOneEnds() {
        QVERIFY(refusal(std::string(500, '1')).find("longer than") != std::string::npos);
        const std::string deep = std::string(190, '(') + "x" + std::string(190, ')');
        CLOSE(forward(formula(deep), 3).number, 3, 1e-12);
    }

    void theWayBack() {
        const Stage square = formula("x^2");
        QCOMPARE(inverse(square, 9).cause, Cause::ambiguous); // 3 and −3
        QCOMPARE(inverse(square, -1).cause, Cause::out_of_range);
        const Stage half = formula("x^2", R"("low":0,"high":100)");
        CLOSE(inverse(half, 9).number, 3, 1e-9);
        QVERIFY(walk_back({"", "", {square}}, 9).cause.find("between which two") != std::string::npos);
        const auto why = [](const Stage& stage, double x) { return test::plain(walk({"", "", {stage}}, x).cause); };
        QVERIFY2(why(half, 101).find("range of this formula: 0") != std::string::npos, why(half, 101).c_str());
        QVERIFY2(why(formula("ln(x)"), -1).find("gives no number at") != std::string::npos, why(square, 1).c_str());
        // At a pole the sign changes and nothing is there.
        QCOMPARE(inverse(formula("1/x"), 0).cause, Cause::out_of_range);
        CLOSE(inverse(formula("1/x"), 4).number, 0.25, 1e-9);
        QCOMPARE(inverse(formula("sin(x)", R"("low":0,"high":50)"), 0.5).cause, Cause::ambiguous);
        CLOSE(inverse(formula("exp(x/10)"), 1e6).number, 10 * std::log(1e6), 1e-6);
        // A curve that stands still is no answer either.
        QCOMPARE(inverse(formula("5", R"("low":0,"high":1)"), 5).cause, Cause::ambiguous);
    }
    void theWayBackOfRandomLines() {
        std::mt19937_64 random(11);
        std::uniform_real_distribution<double> number(-50, 50);
        for (int i = 0; i < 200; ++i) {
            const double a = number(random), b = number(random), x = 100 * number(random);
            if (std::abs(a) < 0.1) continue;
            const Value back = numeric_inverse([&](double v) { return a * v + b; }, a * x + b, 0, 0);
            QVERIFY2(back.ok(), cause_text(back.cause).c_str());
            CLOSE(back.number, x, 1e-9 * (1 + std::abs(x)));
        }
    }

    /// Doubt of a constant goes through as its partial derivative.
    void doubtOfItsConstants() {
        Chain chain;
        chain.stages.push_back(formula("a*x^b", R"("names":["a","b"],"a":2,"u_a":0.1,"b":1.5,"u_b":0.02)"));
        const Budget b = budget(chain, 4);
        CLOSE(b.find("a")->u, 0.1 * 8, 1e-6);
        CLOSE(b.find("b")->u, 0.02 * 2 * 8 * std::log(4.0), 1e-4);
        Chain again = chain;
        QVERIFY(again == chain);
        std::get<Formula>(again.stages[0]).names[0].second.value = 3;
        QVERIFY(!(again == chain));
        CLOSE(forward(again, 4).number, 24, 1e-9);
        CLOSE(forward(chain, 4).number, 16, 1e-9); // a copy shares the program, not its numbers
    }

    void severalThreads() {
        const Stage stage = formula("x*x+a", R"("names":["a"],"a":1)");
        std::vector<std::thread> threads;
        std::atomic<int> wrong = 0;
        for (int t = 0; t < 4; ++t)
            threads.emplace_back([&, t] {
                for (int i = 0; i < 20000; ++i) {
                    const double x = t + i * 1e-3;
                    if (forward(stage, x).number != x * x + 1) ++wrong;
                }
            });
        for (std::thread& thread : threads)
            thread.join();
        QCOMPARE(wrong.load(), 0);
    }
};

RUN_TESTS_OF(TestFormula)
#include "tst_formula.moc"
