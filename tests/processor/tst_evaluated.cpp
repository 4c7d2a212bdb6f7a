// The evaluator beside the slow and certain way: the same statements compiled by the real compiler and run
// instruction by instruction in the simulator. Every line must come out the same, letter by letter.
#include "support/cli.h"
#include "support/programs.h"
#include "support/run_tests.h"
#include "support/statements.h"
#include "support/support.h"

using namespace cognitum;
using test::demo;

namespace {

/// What a run printed behind the mark, line by line; times are left out.
QStringList marked(const QByteArray& said) {
    QStringList out;
    for (const QString& line : QString::fromUtf8(said).split('\n'))
        if (const auto at = line.indexOf("@ "); at >= 0) out << line.mid(at + 2);
    return out;
}

QStringList run(const char* program, const QStringList& arguments) {
    const QByteArray said = test::beside(program, arguments).err;
    const QStringList lines = marked(said);
    return lines.isEmpty() ? QStringList{"nothing: " + QString::fromUtf8(said.left(600))} : lines;
}

/// A program that says each of these statements' numbers once, and then sleeps: a processor that turned in loop()
/// would cost most of the test.
QByteArray program_of(const QByteArray& globals, const QStringList& statements) {
    QByteArray out = "#include <avr/sleep.h>\n" + globals + "\n";
    int n = 0;
    for (const QString& s : statements)
        out += QString("void part%1() {\n    Serial.print(\"@ %1 \");\n    %2\n    Serial.println();\n}\n")
                   .arg(n++)
                   .arg(s)
                   .toUtf8();
    out += "void setup() {\n    Serial.begin(115200);\n";
    for (int i = 0; i < n; ++i)
        out += QString("    part%1();\n").arg(i).toUtf8();
    return out + "    Serial.flush();\n}\nvoid loop() {\n    set_sleep_mode(SLEEP_MODE_PWR_DOWN);\n    "
                 "sleep_mode();\n}\n";
}

/// A number that the compiler does not know beforehand, so that it computes with it on the board.
const QByteArray known_late = R"(
volatile int late_zero = 0;
int i(int x) { return x + late_zero; }
unsigned u(unsigned x) { return x + late_zero; }
long l(long x) { return x + late_zero; }
unsigned long ul(unsigned long x) { return x + late_zero; }
float f(float x) { return x + late_zero; }
)";

} // namespace

class TestEvaluated : public QObject {
    Q_OBJECT

  private slots:
    void alike_data() {
        QTest::addColumn<QByteArray>("globals");
        QTest::addColumn<QStringList>("statements");
        QTest::newRow("whole numbers of 16 bits") << known_late
                                                  << QStringList{
                                                         "Serial.print(i(7) / 2);",
                                                         "Serial.print(i(-7) / 2);",
                                                         "Serial.print(i(-7) % 3);",
                                                         "Serial.print(i(1000) * 32);",
                                                         "Serial.print(i(1000) * 30L);",
                                                         "Serial.print(u(1000) * 64);",
                                                         "Serial.print(u(1000) * 66);",
                                                         "Serial.print(u(3) - 5);",
                                                         "Serial.print(l(3) - 5);",
                                                         "Serial.print(ul(3) - 5);",
                                                         "Serial.print(i(512) * 100L / 1024);",
                                                         "Serial.print(100L * i(777) / 1023);",
                                                         "Serial.print(i(777) / 1023 * 100);",
                                                         "Serial.print((byte)i(300));",
                                                         "Serial.print((int8_t)i(200));",
                                                         "Serial.print((int)l(100000));",
                                                         "Serial.print((unsigned)l(-1));",
                                                         "Serial.print(i(5) > u(3));",
                                                         "Serial.print(i(-1) < (int)u(3));",
                                                         "Serial.print(i(-1) < u(3));",
                                                         "Serial.print(-i(5) + i(2));",
                                                         "Serial.print(i(13) > 12 ? i(1) : i(2));",
                                                         "byte b = i(250); b += 10; Serial.print(b);",
                                                         "int x = i(30000); x /= 7; Serial.print(x);",
                                                         "uint16_t t = u(65535); t++; Serial.print(t);",
                                                         "int8_t s = i(127); s++; Serial.print(s);",
                                                         "int x = i(5); Serial.print(x++); Serial.print(' '); "
                                                         "Serial.print(x--); Serial.print(' '); Serial.print(--x);",
                                                     };
        QTest::newRow("a pointer that walks through a text")
            << known_late +
                   "byte letters(const char* t) { byte n = 0; while (*t) { ++n; t++; } return n; }\nconst char "
                   "KEPT[] = \"kept\";\n"
            << QStringList{
                   "Serial.print(letters(\"MQTT\"));",
                   "Serial.print(letters(\"\"));",
                   "Serial.print(letters(KEPT));",
                   "Serial.print(letters(KEPT + i(2)));",
                   "const char* t = \"abc\"; t += i(1); Serial.print(t); Serial.print(*t); Serial.print(*++t);",
                   "const char* t = \"abc\"; Serial.print(*t++); Serial.print(t[1]); Serial.print(*(t + 1));",
                   "unsigned sum = 0; for (const char* t = \"on\"; *t; ++t) sum += *t; Serial.print(sum);",
               };
        QTest::newRow("bits") << known_late
                              << QStringList{
                                     "Serial.print(i(0x0F) << 4);",
                                     "Serial.print(u(0x8000) >> 3);",
                                     "Serial.print(i(-16) >> 2);",
                                     "Serial.print(l(1) << 20);",
                                     "Serial.print(1UL << i(31));",
                                     "Serial.print(i(0x55) & 0x0F);",
                                     "Serial.print(i(0x50) | 0x0A);",
                                     "Serial.print(i(0xFF) ^ 0x0F);",
                                     "Serial.print(~i(5));",
                                     "Serial.print((byte)~i(5));",
                                     "Serial.print(!i(5));",
                                     "Serial.print(lowByte(i(0x1234)), HEX);",
                                     "Serial.print(highByte(i(0x1234)), HEX);",
                                     "Serial.print(bitRead(i(10), 1));",
                                     "int x = i(0); bitSet(x, 3); bitClear(x, 0); Serial.print(x);",
                                     "Serial.print(word(i(0x12), i(0x34)), HEX);",
                                     "Serial.print(i(255), BIN);",
                                     "Serial.print(ul(3000000000UL), HEX);",
                                     "uint16_t crc = u(0xFFFF); for (byte k = 0; k < 8; ++k) crc = crc & 1 ? crc "
                                     ">> 1 ^ 0xA001 : crc >> 1; Serial.print(crc);",
                                 };
        QTest::newRow("numbers with a point") << known_late
                                              << QStringList{
                                                     "Serial.print(f(1) / 3, 6);",
                                                     "Serial.print(f(7) / 2);",
                                                     "Serial.print(i(7) / 2.0);",
                                                     "Serial.print(i(7) / 2 * 1.0);",
                                                     "Serial.print(f(0.1) + f(0.2), 7);",
                                                     "Serial.print(f(16777216) + 1, 1);",
                                                     "Serial.print((int)f(3.99));",
                                                     "Serial.print((int)f(-3.99));",
                                                     "Serial.print((long)f(123456.7));",
                                                     "Serial.print(f(2.345), 2);",
                                                     "Serial.print(f(-0.004), 2);",
                                                     "Serial.print(f(1e9), 1);",
                                                     "Serial.print(f(5e9), 1);",
                                                     "Serial.print(f(0) / f(0));",
                                                     "Serial.print(f(1) / f(0));",
                                                     "Serial.print(isnan(f(0) / f(0)));",
                                                     "Serial.print(round(f(2.5)));",
                                                     "Serial.print(round(f(-2.5)));",
                                                     "Serial.print(floor(f(-2.5)), 1);",
                                                     "Serial.print(ceil(f(2.1)), 1);",
                                                     "Serial.print(fmod(f(7.5), 2), 3);",
                                                     "Serial.print(f(3) == f(3));",
                                                     "Serial.print(f(0.1) == 0.1);",
                                                     "Serial.print(abs(f(-2.5)), 1);",
                                                     "Serial.print(constrain(f(12), 0, 10), 1);",
                                                     "Serial.print(min(f(2), 3), 1);",
                                                     "Serial.print(sq(f(1.5)), 3);",
                                                 };
        QTest::newRow("functions") << known_late
                                   << QStringList{
                                          "Serial.print(sqrt(f(2)), 4);",
                                          "Serial.print(log(f(10)), 4);",
                                          "Serial.print(log10(f(1000)), 3);",
                                          "Serial.print(exp(f(1)), 4);",
                                          "Serial.print(pow(f(2), 10), 1);",
                                          "Serial.print(sin(f(1)), 4);",
                                          "Serial.print(atan2(f(1), f(1)), 4);",
                                          "Serial.print(map(i(512), 0, 1023, 0, 100));",
                                          "Serial.print(map(i(97), 0, 1024, -50, 450));",
                                          "Serial.print(map(i(5), 10, 0, 0, 100));",
                                          "float r = 10000.0 / (1024.0 / f(600) - 1); Serial.print(1 / (log(r / "
                                          "10000) / 3950 + 1 / 298.15) - 273.15, 2);",
                                          "Serial.print((f(139) + 0.5) * 4.998 / 1024 * 100 - 50, 2);",
                                      };
        QTest::newRow("texts")
            << known_late
            << QStringList{
                   "String s = \"a\"; s += i(5); s += 'b'; s += f(1.5); Serial.print(s);",
                   "Serial.print(String(f(3.14159), 3));",
                   "Serial.print(String(i(255), HEX));",
                   "Serial.print(String(\"12.5 mm\").toFloat(), 2);",
                   "Serial.print(String(\"12x\").toInt());",
                   "String s = \"interval 500\"; Serial.print(s.substring(9).toInt() + s.indexOf('v'));",
                   "String s = \"  word \"; s.trim(); Serial.print(s + \"|\" + s.length());",
                   "Serial.print(String(\"abc\") == \"abc\");",
                   "Serial.print(String(\"abc\").startsWith(\"ab\"));",
                   "char b[24]; sprintf(b, \"%d|%5d|%-5d|%05d\", i(42), i(42), i(42), i(42)); Serial.print(b);",
                   "char b[20]; sprintf(b, \"%u %lu %x\", u(65535), ul(70000), u(255)); Serial.print(b);",
                   "char b[20]; sprintf(b, \"%s-%c\", \"air\", 'x'); Serial.print(b);",
                   "char b[12]; dtostrf(f(3.14159), 8, 2, b); Serial.print(b);",
                   "char b[12]; itoa(i(-77), b, 10); Serial.print(b);",
                   "char b[12]; strcpy(b, \"ab\"); strcat(b, \"cd\"); Serial.print(b); Serial.print(strlen(b));",
                   "Serial.print(strcmp(\"a\", \"b\") < 0);",
                   "Serial.print(strncmp(\"abcd\", \"abxx\", 2));",
                   "char b[] = \"rate 25\"; Serial.print(atoi(strchr(b, ' ') + 1));",
                   "char* end; char b[] = \"300 A2\"; Serial.print(strtoul(b, &end, 10)); Serial.print(end);",
                   "char b[8] = \"hut\"; b[0] = 'c'; Serial.print(b);",
                   "Serial.print('A'); Serial.print((char)(i(65) + 1)); Serial.print((int)'A');",
               };
        QTest::newRow("statements")
            << known_late + R"(
struct Pair { int a; float b; };
Pair twice(Pair p) { p.a *= 2; p.b *= 2; return p; }
void swap(int& a, int& b) { int t = a; a = b; b = t; }
int sum(const int* from, byte n) { int out = 0; while (n--) out += *from++; return out; }
int fact(int n) { return n < 2 ? 1 : n * fact(n - 1); }
class Counter { public: Counter(int from) : n(from) {} int next() { return n++; } private: int n; };
template <typename T> T largest(T a, T b) { return a > b ? a : b; }
int calls() { static int n = 0; return ++n; }
struct Shape { virtual int sides() { return 0; } int twice() { return 2 * sides(); } };
struct Square : Shape { int sides() override { return 4; } };
)"
            << QStringList{
                   "Pair p = {i(3), f(1.5)}; Pair q = twice(p); Serial.print(p.a); Serial.print(q.a); "
                   "Serial.print(q.b);",
                   "int a = i(1), b = i(2); swap(a, b); Serial.print(a); Serial.print(b);",
                   "int v[] = {i(1), 2, 3, 4}; Serial.print(sum(v, 4)); Serial.print(sum(v + 1, 2));",
                   "Serial.print(fact(i(7)));",
                   "Counter c(i(5)); c.next(); c.next(); Serial.print(c.next());",
                   "Serial.print(largest(i(3), 5)); Serial.print(largest(f(2.5), f(1)));",
                   "calls(); calls(); Serial.print(calls());",
                   "Square s; Shape* p = &s; Serial.print(p->sides()); Serial.print(p->twice());",
                   "int n = 0; for (int k = 0; k < 10; ++k) { if (k == 3) continue; if (k == 8) break; n += k; } "
                   "Serial.print(n);",
                   "int n = i(10); do { n -= 3; } while (n > 0); Serial.print(n);",
                   "switch (i(3)) { case 1: Serial.print(1); case 3: Serial.print(3); case 4: Serial.print(4); "
                   "break; default: Serial.print(9); }",
                   "switch (i(8)) { case 1: Serial.print(1); break; default: Serial.print(9); }",
                   "int g[2][3] = {{1, 2, 3}, {4, 5, 6}}; g[1][2] += i(1); Serial.print(g[1][2] + g[0][1]);",
                   "auto add = [](int a, int b) { return a + b; }; Serial.print(add(i(2), 3));",
                   "int (*go)(int) = fact; Serial.print(go(i(5)));",
                   "Serial.print(sizeof(int)); Serial.print(sizeof(double)); Serial.print(sizeof(Pair));",
                   "int a = i(1); int b = a++ + ++a; Serial.print(a); Serial.print(b > 0);",
                   "bool x = i(5) && i(0); bool y = i(5) || i(0); Serial.print(x); Serial.print(y);",
                   "enum Kind { air = 3, rock }; Kind k = rock; Serial.print(k);",
               };
        test::add_statements(known_late);
    }
    void alike() {
        QFETCH(QByteArray, globals);
        QFETCH(QStringList, statements);
        test::Scratch scratch;
        const QString file = scratch.write("same.ino", program_of(globals, statements));
        const QStringList slow =
            run("cognitum-processor", {demo, "--board", "gauge", "--program", file, "--points", "2", "--lines"});
        const QStringList fast = run(
            "cognitum-reader", {file, "--prove", "--bench", demo, "--board", "gauge", "--points", "2", "--lines"});
        QCOMPARE(slow.size(), statements.size());
        QCOMPARE(fast.size(), statements.size());
        for (int k = 0; k < slow.size(); ++k)
            QVERIFY2(
                slow[k] == fast[k],
                qPrintable(QString("%1\n  compiled: %2\n  evaluated: %3").arg(statements[k], slow[k], fast[k])));
    }

    /// The clock, waits and the port's speed: within a hundredth.
    void theClock() {
        test::Scratch scratch;
        const QString file = scratch.write(
            "clock.ino",
            "void setup() {\n    Serial.begin(115200);\n}\nunsigned long before;\nvoid loop() {\n    delay(50);\n"
            "    unsigned long t = millis();\n    if (t - before >= 230) {\n        before = t;\n        "
            "Serial.print(\"@ \");\n        Serial.println(t);\n    }\n}\n");
        const QStringList slow =
            run("cognitum-processor", {demo, "--board", "gauge", "--program", file, "--points", "3", "--lines"});
        const QStringList fast = run(
            "cognitum-reader", {file, "--prove", "--bench", demo, "--board", "gauge", "--points", "3", "--lines"});
        QVERIFY(slow.size() > 5);
        QVERIFY(std::abs(slow.size() - fast.size()) <= 1);
        for (qsizetype k = 0; k < std::min(slow.size(), fast.size()); ++k)
            QVERIFY2(std::abs(slow[k].toDouble() - fast[k].toDouble()) <= 2 + 0.01 * slow[k].toDouble(),
                     qPrintable(slow[k] + " and " + fast[k]));
    }
    /// Data sheet, external interrupts: at a low level they come again and again for as long as it is low, also
    /// when they are asked for while it is low already. An edge comes once.
    void interruptsAtALevel() {
        test::Scratch scratch;
        const QString file = scratch.write("level.ino", R"(
volatile unsigned int n = 0;
void count() { n++; }
unsigned int during(byte level) {
    digitalWrite(3, level);
    noInterrupts();
    n = 0;
    interrupts();
    delay(2);
    return n;
}
void say(const char* what, bool as_it_should) {
    Serial.print("@ ");
    Serial.print(what);
    Serial.println(as_it_should ? " yes" : " no");
}
void setup() {
    Serial.begin(115200);
    pinMode(3, OUTPUT);
    digitalWrite(3, HIGH);
    attachInterrupt(digitalPinToInterrupt(3), count, LOW);
    say("high:none", during(HIGH) == 0);
    say("low:many", during(LOW) > 20);
    say("high again:none", during(HIGH) == 0);
    detachInterrupt(digitalPinToInterrupt(3));
    say("not asked for:none", during(LOW) == 0);
    attachInterrupt(digitalPinToInterrupt(3), count, LOW);
    say("low before:many", during(LOW) > 20);
    during(HIGH);
    attachInterrupt(digitalPinToInterrupt(3), count, FALLING);
    noInterrupts();
    n = 0;
    interrupts();
    digitalWrite(3, LOW);
    delay(2);
    say("edge:once", n == 1);
}
void loop() {}
)");
        const QStringList said =
            run("cognitum-processor", {demo, "--board", "gauge", "--program", file, "--points", "3", "--lines"});
        QCOMPARE(said, (QStringList{"high:none yes", "low:many yes", "high again:none yes",
                                    "not asked for:none yes", "low before:many yes", "edge:once yes"}));
    }
};

RUN_TESTS_OF(TestEvaluated)
#include "tst_evaluated.moc"
