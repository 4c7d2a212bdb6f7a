// Programs as a stranger would bring them, several statements on a line and in many styles: what is found was
// looked through by eye, one by one.
#include "support/cli.h"
#include "support/run_tests.h"
#include "support/support.h"

using namespace cognitum;

class TestStrangersPrograms : public QObject {
    Q_OBJECT

    static Json read_by(const QString& board, const QByteArray& text) {
        test::Scratch scratch;
        const test::Run run = test::cli({"read-program", "--json", "--bench",
                                         QString::fromStdString(data_folder()) + "/demo/whelk-point.json",
                                         "--board", board, scratch.write("program.ino", text)});
        if (const Json json = run.json(); json.is_object()) return json;
        qFatal("%s", run.err.constData());
    }

  private slots:
    void read_data(); // below: its texts would confuse what looks for this class
    void read() {
        QFETCH(QString, board);
        QFETCH(QByteArray, text);
        QFETCH(QString, wanted);
        const Json json = read_by(board, text);
        QStringList found;
        for (const Json& f : json["findings"])
            found << QString("%1 on line %2").arg(QString::fromStdString(f["id"])).arg(f["line"].get<int>());
        QCOMPARE(found.isEmpty() ? QString("nothing") : found.join("; "), wanted);
    }

    /// What an interrupt changes is read at once, everywhere on the line, under a name that the program does not
    /// have. Nothing is offered where statements before the line would belong to an `if` above it.
    void whatAnInterruptChangesIsCopied_data() {
        QTest::addColumn<QByteArray>("lines");
        QTest::addColumn<QString>("mended");
        const QString wait = "noInterrupts(); ", go = " interrupts(); ";
        QTest::newRow("read once") << QByteArray("    seen = tips; // so far")
                                   << wait + "const unsigned long copy_of_tips = tips;" + go +
                                          "seen = copy_of_tips;";
        QTest::newRow("read twice") << QByteArray("    seen = tips + tips / 2;")
                                    << wait + "const unsigned long copy_of_tips = tips;" + go +
                                           "seen = copy_of_tips + copy_of_tips / 2;";
        QTest::newRow("beside a text") << QByteArray("    if (tips > 3) Serial.println(\"tips // many\");")
                                       << wait + "const unsigned long copy_of_tips = tips;" + go +
                                              "if (copy_of_tips > 3) Serial.println(\"tips // many\");";
        QTest::newRow("set") << QByteArray("    tips = 0; // from here on") << wait + "tips = 0; interrupts();";
        QTest::newRow("taken from") << QByteArray("    tips -= seen;") << wait + "tips -= seen; interrupts();";
        QTest::newRow("compared") << QByteArray("    seen = tips == 4;")
                                  << wait + "const unsigned long copy_of_tips = tips;" + go +
                                         "seen = copy_of_tips == 4;";
        QTest::newRow("in an if") << QByteArray("    if (copy > 2) // often\n        seen = tips;") << "";
        QTest::newRow("in a branch") << QByteArray("    if (copy > 2) {\n        seen = tips;\n    }")
                                     << wait + "const unsigned long copy_of_tips = tips;" + go +
                                            "seen = copy_of_tips;";
        QTest::newRow("else") << QByteArray("    if (copy > 2) seen = 0;\n    else seen = tips;") << "";
        QTest::newRow("in a loop") << QByteArray("    while (tips < 3) delay(1);") << "";
    }
    void whatAnInterruptChangesIsCopied() {
        QFETCH(QByteArray, lines);
        QFETCH(QString, mended);
        const QByteArray text = "volatile unsigned long tips = 0;\nunsigned long seen = 0, copy = 0;\n"
                                "void tip() { ++tips; }\nvoid setup() {\n    Serial.begin(115200);\n"
                                "    pinMode(2, INPUT_PULLUP);\n    attachInterrupt(digitalPinToInterrupt(2), tip, "
                                "FALLING);\n}\nvoid loop() {\n" +
                                lines + "\n    delay(1000);\n}\n";
        const Json json = read_by("gauge", text);
        QStringList offered;
        for (const Json& f : json["findings"])
            if (f["id"] == "torn-variable") offered << QString::fromStdString(f["mended"]);
        QCOMPARE(offered, QStringList{mended});
    }
};

void TestStrangersPrograms::read_data() {
    QTest::addColumn<QString>("board");
    QTest::addColumn<QByteArray>("text");
    QTest::addColumn<QString>("wanted");
    QTest::newRow("a voltage in whole numbers") << "gauge" << QByteArray(R"(void setup(){ Serial.begin(115200); }
void loop(){
  int sensorValue = analogRead(A2);
  float voltage = sensorValue / 1024 * 5.0;
  float temperatureC = (voltage - 0.5) * 100;
  Serial.print("air "); Serial.println(temperatureC);
  delay(1000); }
)") << "whole-number-division on line 4";
    QTest::newRow("a hundred samples in an int") << "gauge" << QByteArray(R"(void setup(){ Serial.begin(115200); }
void loop(){
  int sum = 0;
  for (int i = 0; i < 100; i++) { sum += analogRead(A1); }
  Serial.print("rock "); Serial.println(sum / 100);
  delay(1000); }
)") << "integer-overflow on line 3";
    QTest::newRow("another resistor") << "gauge" << QByteArray(R"(#define BETA 3950
#define R_FIXED 4700
float thermistor(int adc) { float r = R_FIXED / (1024.0 / adc - 1.0); float invT = 1.0 / 298.15 + log(r / 10000.0) / BETA; return 1.0 / invT - 273.15; }
void setup(){ Serial.begin(115200); }
void loop(){ Serial.print("rock="); Serial.println(thermistor(analogRead(A1))); delay(5000); }
)") << "constant-differs on line 3";
    QTest::newRow("another temperature of the resistance")
        << "gauge"
        << QByteArray(
               R"(float thermistor(int adc) { float r = 10000 / (1024.0 / adc - 1.0); float invT = 1.0 / 293.15 + log(r / 10000.0) / 3950; return 1.0 / invT - 273.15; }
void setup(){ Serial.begin(115200); }
void loop(){ Serial.print("rock="); Serial.println(thermistor(analogRead(A1))); delay(5000); }
)") << "constant-differs on line 1";
    QTest::newRow("an interrupt that does too much") << "gauge" << QByteArray(R"(volatile int rainTips = 0;
void onTip() { rainTips++; Serial.println("tip"); delay(200); }
void setup(){ Serial.begin(115200); pinMode(2, INPUT_PULLUP); attachInterrupt(digitalPinToInterrupt(2), onTip, CHANGE); }
void loop(){ Serial.print("tips="); Serial.println(rainTips); delay(60000); }
)") << "wait-in-interrupt on line 2; print-in-interrupt on line 2; torn-variable on line 4";
    QTest::newRow("rain looked at in each turn")
        << "gauge" << QByteArray(R"(int count = 0; int lastState = HIGH; unsigned long t0 = 0;
void setup(){ Serial.begin(115200); pinMode(2, INPUT); }
void loop(){
 int s = digitalRead(2);
 if (s != lastState) { if (s == LOW) count++; lastState = s; }
 if (millis() - t0 > 60000) { t0 = millis(); Serial.print("rain mm "); Serial.println(count * 0.2); } }
)") << "no-pull-up on line 2; debounce-missing on line 5";
    QTest::newRow("an input that is driven")
        << "gauge" << QByteArray(R"(void setup(){ Serial.begin(115200); pinMode(4, OUTPUT); pinMode(A2, OUTPUT); }
void loop(){ digitalWrite(A2, HIGH); Serial.println(analogRead(A2)); delay(1000); }
)") << "pin-used-twice on line 1";
    QTest::newRow("another reference") << "gauge" << QByteArray(R"(void setup(){ Serial.begin(115200); }
void loop(){ float t = (analogRead(A2) * 3.3 / 1024 - 0.5) * 100; Serial.print("air="); Serial.println(t); delay(1000); }
)") << "reference-differs on line 2";
    QTest::newRow("ten millivolts a degree, without its zero")
        << "gauge" << QByteArray(R"(void setup(){ Serial.begin(115200); }
void loop(){ float t = analogRead(A2) * 0.48828125; Serial.print("air="); Serial.println(t); delay(1000); }
)") << "offset-differs on line 2";
    QTest::newRow("an interval that overflows")
        << "gauge" << QByteArray(R"(unsigned int minutes = 0; unsigned long last;
void setup(){ Serial.begin(115200); }
void loop(){ const long interval = 1000 * 60; if (millis() - last >= interval) { last = millis(); Serial.println(analogRead(A2)); } }
)") << "integer-overflow on line 3";
    QTest::newRow("a byte for ten bits") << "gauge" << QByteArray(R"(byte value;
void setup(){ Serial.begin(115200); }
void loop(){ value = analogRead(A2); Serial.print("air "); Serial.println(value); delay(1000); }
)") << "type-too-narrow on line 3";
    QTest::newRow("map, and whole numbers") << "gauge" << QByteArray(R"(void setup(){ Serial.begin(115200); }
void loop(){ long mv = map(analogRead(A2), 0, 1023, 0, 5000); float t = (mv - 500) / 10; Serial.print("air "); Serial.println(t); delay(1000); }
)") << "whole-number-division on line 2; divisor-differs on line 2";
    QTest::newRow("another select") << "gauge" << QByteArray(R"(#include <SPI.h>
float flue() { digitalWrite(5, LOW); uint16_t v = SPI.transfer(0) << 8; v |= SPI.transfer(0); digitalWrite(5, HIGH); if (v & 4) return NAN; return (v >> 3) * 0.25; }
void setup(){ Serial.begin(115200); pinMode(5, OUTPUT); digitalWrite(5, HIGH); SPI.begin(); }
void loop(){ Serial.print("flue="); Serial.println(flue()); delay(1000); }
)") << "pin-differs on line 3";
    QTest::newRow("asked four times too often") << "gauge" << QByteArray(R"(#include <SPI.h>
float flue() { digitalWrite(4, LOW); uint16_t v = SPI.transfer(0) << 8; v |= SPI.transfer(0); digitalWrite(4, HIGH); return (v >> 3) * 0.25; }
void setup(){ Serial.begin(115200); pinMode(4, OUTPUT); digitalWrite(4, HIGH); SPI.begin(); }
void loop(){ Serial.print("flue="); Serial.println(flue()); delay(50); }
)") << "asked-too-fast on line 2; failure-as-number on line 4";
    QTest::newRow("a converter of four inputs") << "pump-house" << QByteArray(R"(#include <Wire.h>
void setup(){ Serial.begin(115200); Wire.begin(4, 5); }
int readConverter(uint8_t ch) { Wire.beginTransmission(0x48); Wire.write(1); Wire.write(0xC3 | (ch << 4)); Wire.write(0x83); Wire.endTransmission(); delay(10); Wire.beginTransmission(0x48); Wire.write(0); Wire.endTransmission(); Wire.requestFrom(0x48, 2); if (Wire.available() < 2) return -1; int hi = Wire.read(); int lo = Wire.read(); return (int16_t)(hi << 8 | lo); }
void loop(){ for (int i = 0; i < 4; i++) { int v = readConverter(i); if (v < 0) continue; Serial.print("bed"); Serial.print(i + 1); Serial.print("="); Serial.println(v); } delay(60000); }
)") << "no-watchdog on line 2";
    QTest::newRow("a library’s number") << "shed" << QByteArray(R"(#include <wire_bus.h>
#include <probes.h>
#include "watchdog.h"
ProbeBus wire(16); Probes sensors(&wire);
void setup(){ Serial.begin(115200); sensors.begin(); watchdog(); }
void loop(){ sensors.requestTemperatures(); float t = sensors.getTempCByIndex(0); Serial.print("water="); Serial.println(t); delay(6000); }
)") << "nothing";
    QTest::newRow("an echo by the usual recipe") << "shed" << QByteArray(R"(#include "watchdog.h"
void setup(){ Serial.begin(115200); pinMode(19, OUTPUT); pinMode(18, INPUT); watchdog(); }
void loop(){ digitalWrite(19, LOW); delayMicroseconds(2); digitalWrite(19, HIGH); delayMicroseconds(10); digitalWrite(19, LOW);
 int us = pulseIn(18, HIGH); int cm = us / 58; Serial.print("level="); Serial.println(cm); delay(6000); }
)") << "whole-number-division on line 4; failure-as-number on line 4; no-time-out on line 4";
    QTest::newRow("asleep by the watchdog, as usual") << "gauge" << QByteArray(R"(#include <avr/sleep.h>
#include <avr/wdt.h>
volatile bool awake = false;
ISR(WDT_vect) { awake = true; }
void deepSleep() { awake = false; MCUSR = 0; WDTCSR |= _BV(WDCE) | _BV(WDE); WDTCSR = _BV(WDIE) | _BV(WDP2) | _BV(WDP1);
 set_sleep_mode(SLEEP_MODE_PWR_DOWN); while (!awake) sleep_mode(); wdt_disable(); }
void setup(){ Serial.begin(115200); }
void loop(){ analogRead(A2); Serial.print("air="); Serial.println(analogRead(A2)); Serial.flush(); deepSleep(); }
)") << "nothing";
    QTest::newRow("a post with its password") << "shed" << QByteArray(R"(#include <WiFi.h>
const char* ssid = "gullnet"; const char* password = "made-up";
void setup(){ WiFi.begin(ssid, password); }
void loop(){ int ec = analogRead(36); HTTPClient http; http.begin("http://station/ec"); http.POST(String("ec=") + ec); http.end(); delay(6000); }
)") << "secret-in-text on line 2; no-watchdog on line 3";
}

RUN_TESTS_OF(TestStrangersPrograms)
#include "tst_strangers_programs.moc"
