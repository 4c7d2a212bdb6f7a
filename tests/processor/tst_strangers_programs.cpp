// Programs as a stranger would bring them, several statements on a line and in many styles: what is found was
// looked through by eye, one by one.
#include "support/cli.h"
#include "support/run_tests.h"
#include "support/said.h"
#include "support/support.h"

using namespace cognitum;

class TestStrangersPrograms : public QObject {
    Q_OBJECT

    std::string m_said; ///< of all programs, as a person reads it

    static test::Run run_on(const QString& board, const QByteArray& text, const QStringList& more) {
        test::Scratch scratch;
        return test::cli(QStringList{"read-program", "--bench",
                                     QString::fromStdString(data_folder()) + "/demo/whelk-point.json", "--board",
                                     board, scratch.write("program.ino", text)} +
                         more);
    }
    static Json read_by(const QString& board, const QByteArray& text) {
        const test::Run run = run_on(board, text, {"--json"});
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
        m_said += std::string(QTest::currentDataTag()) + "\n" + run_on(board, text, {}).out.toStdString();
        QCOMPARE(found.isEmpty() ? QString("nothing") : found.join("; "), wanted);
    }
    /// What a person is told of all of them, beside what was looked through.
    void whatWasSaid() {
        if (!m_said.empty()) test::compare_said("strangers_programs", m_said);
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
    QTest::newRow("a slope upside down") << "gauge" << QByteArray(R"(void setup(){ Serial.begin(115200); }
void loop(){ float t = ((analogRead(A2) + 0.5) * 5.0 / 1024 - 0.5) * 0.01; Serial.print("air="); Serial.println(t, 4); delay(1000); }
)") << "constant-differs on line 2";
    QTest::newRow("another slope") << "gauge" << QByteArray(R"(void setup(){ Serial.begin(115200); }
void loop(){ float t = ((analogRead(A2) + 0.5) * 5.0 / 1024 - 0.5) / 0.0195; Serial.print("air="); Serial.println(t); delay(1000); }
)") << "constant-differs on line 2";
    QTest::newRow("a password in the call") << "shed" << QByteArray(R"(#include <WiFi.h>
#include "watchdog.h"
void setup(){ WiFi.begin("gullnet", "made-up"); watchdog(); Serial.begin(115200); }
void loop(){ Serial.print("ec="); Serial.println(analogRead(36)); delay(6000); }
)") << "secret-in-text on line 3";
    QTest::newRow("an open network") << "shed" << QByteArray(R"(#include <WiFi.h>
#include "watchdog.h"
void setup(){ WiFi.begin("gullnet", ""); watchdog(); Serial.begin(115200); }
void loop(){ Serial.print("ec="); Serial.println(analogRead(36)); delay(6000); }
)") << "nothing";
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
    QTest::newRow("a pin that the board has not")
        << "gauge" << QByteArray(R"(void setup(){ Serial.begin(115200); pinMode(40, OUTPUT); }
void loop(){ digitalWrite(40, HIGH); Serial.print("air="); Serial.println(analogRead(A2)); delay(1000); }
)") << "no-such-pin on line 1";
    QTest::newRow("rain on another pin") << "gauge" << QByteArray(R"(const int RAIN_PIN = 3;
volatile unsigned long n = 0;
void tip() { n++; }
void setup(){ Serial.begin(115200); pinMode(RAIN_PIN, INPUT_PULLUP); attachInterrupt(digitalPinToInterrupt(RAIN_PIN), tip, FALLING); }
void loop(){ noInterrupts(); unsigned long copy = n; interrupts(); Serial.print("tips="); Serial.println(copy); delay(1000); }
)") << "pin-differs on line 1";
    QTest::newRow("the pin of the port")
        << "gauge" << QByteArray(R"(void setup(){ Serial.begin(115200); pinMode(1, OUTPUT); }
void loop(){ digitalWrite(1, HIGH); Serial.print("air="); Serial.println(analogRead(A2)); delay(1000); }
)") << "pin-taken on line 2";
    QTest::newRow("two pins that changed places") << "gauge" << QByteArray(R"(const int air = A1;
const int rock = A2;
void setup(){ Serial.begin(115200); }
void loop(){ Serial.print("hut-air="); Serial.print(analogRead(air)); Serial.print(" rock="); Serial.println(analogRead(rock)); delay(1000); }
)") << "pin-differs on line 1; pin-differs on line 2";
    QTest::newRow("a pin with nothing on it") << "gauge" << QByteArray(R"(void setup(){ Serial.begin(115200); }
void loop(){ Serial.print("air="); Serial.print(analogRead(A2)); Serial.print(" soil="); Serial.println(analogRead(A4)); delay(1000); }
)") << "pin-not-in-plan on line 2";
    QTest::newRow("the thermometer on another pin") << "gauge" << QByteArray(R"(const byte SENSOR = A5;
void setup(){ Serial.begin(115200); }
void loop(){ float v = (analogRead(SENSOR) + 0.5) * 5.0 / 1024; Serial.print("hut-air="); Serial.println((v - 0.5) * 100); delay(1000); }
)") << "pin-differs on line 1";
    QTest::newRow("an interrupt without a mode") << "gauge" << QByteArray(R"(volatile unsigned long n = 0;
void tip() { static unsigned long last; if (millis() - last > 100) { n++; last = millis(); } }
void setup(){ Serial.begin(115200); attachInterrupt(digitalPinToInterrupt(2), tip, FALLING); }
void loop(){ noInterrupts(); unsigned long copy = n; interrupts(); Serial.print("tips="); Serial.println(copy); delay(1000); }
)") << "no-pull-up on line 3";
    QTest::newRow("a port that was not begun") << "gauge" << QByteArray(R"(void setup(){ }
void loop(){ Serial.print("air="); Serial.println(analogRead(A2)); delay(1000); }
)") << "port-not-begun on line 1";
    QTest::newRow("another speed") << "gauge" << QByteArray(R"(#define SPEED 9600
void setup(){ Serial.begin(SPEED); }
void loop(){ Serial.print("air="); Serial.println(analogRead(A2)); delay(1000); }
)") << "speed-differs on line 2";
    QTest::newRow("a square") << "gauge" << QByteArray(R"(void setup(){ Serial.begin(115200); }
void loop(){ float x = analogRead(A2); float t = x * x / 5000.0 + 3; Serial.print("hut-air="); Serial.println(t); delay(1000); }
)") << "prints-another-value on line 2";
    QTest::newRow("the mean of two parts") << "gauge" << QByteArray(R"(void setup(){ Serial.begin(115200); }
void loop(){ float t = (analogRead(A2) + analogRead(A1)) / 2.0; Serial.print("hut-air="); Serial.println(t); delay(1000); }
)") << "prints-another-value on line 2";
    QTest::newRow("the median of five") << "gauge" << QByteArray(R"(int values[5];
int order(const void* a, const void* b) { return *(const int*)a - *(const int*)b; }
void setup(){ Serial.begin(115200); randomSeed(7); }
void loop(){ for (int i = 0; i < 5; i++) { values[i] = analogRead(A2); delay(2); } qsort(values, 5, sizeof(int), order); Serial.print("air="); Serial.println((values[2] + 0.5) * 5.0 / 1024 * 100 - 50 + random(2) * 0); delay(1000); }
)") << "nothing";
    QTest::newRow("map() of one point") << "gauge" << QByteArray(R"(void setup(){ Serial.begin(115200); }
void loop(){ Serial.print("air="); Serial.println(map(analogRead(A2), 5, 5, 0, 100)); delay(1000); }
)") << "stops on line 2";
    QTest::newRow("an interrupt that is taken off") << "gauge" << QByteArray(R"(volatile unsigned long n = 0;
void tip() { n++; }
void setup(){ Serial.begin(115200); pinMode(2, INPUT_PULLUP); attachInterrupt(0, tip, FALLING); }
void loop(){ detachInterrupt(0); unsigned long copy = n; attachInterrupt(0, tip, FALLING); Serial.print("tips="); Serial.println(copy); delay(1000); }
)") << "debounce-missing on line 2";
    QTest::newRow("a clock that rests low")
        << "gauge"
        << QByteArray(
               R"(void setup(){ Serial.begin(115200); pinMode(13, OUTPUT); pinMode(12, INPUT); pinMode(4, OUTPUT); }
void loop(){ digitalWrite(4, LOW); byte high = shiftIn(12, 13, MSBFIRST); byte low = shiftIn(12, 13, MSBFIRST); digitalWrite(4, HIGH); int v = high << 8 | low; Serial.print("flue="); Serial.println((v >> 3) * 0.25); delay(1000); }
)") << "failure-as-number on line 2";
    QTest::newRow("a zero in a struct")
        << "gauge"
        << QByteArray(
               R"(struct Sensor { int pin; float zero, slope; float read() { return (analogRead(pin) * 5.0 / 1024 - zero) / slope; } };
Sensor air = {A2, 0.4, 0.01};
void setup(){ Serial.begin(115200); }
void loop(){ Serial.print("air="); Serial.println(air.read()); delay(1000); }
)") << "offset-differs on line 2";
    QTest::newRow("a threshold for the pulse") << "gauge" << QByteArray(R"(int previous = 0; unsigned long at = 0;
void setup(){ Serial.begin(115200); }
void loop(){ int v = analogRead(A0); if (v > 550 && previous <= 550) { Serial.print("bpm="); Serial.println(60000UL / (millis() - at)); at = millis(); } previous = v; delay(5); }
)") << "nothing";
    QTest::newRow("an input only") << "shed" << QByteArray(R"(#include "watchdog.h"
void setup(){ Serial.begin(115200); pinMode(35, OUTPUT); watchdog(); }
void loop(){ digitalWrite(35, HIGH); Serial.print("ec="); Serial.println(analogRead(36)); delay(6000); }
)") << "input-only-pin on line 2";
    QTest::newRow("pins that choose how the board starts") << "shed" << QByteArray(R"(#include "watchdog.h"
void setup(){ Serial.begin(115200); pinMode(0, OUTPUT); pinMode(12, OUTPUT); watchdog(); }
void loop(){ digitalWrite(0, HIGH); digitalWrite(12, HIGH); Serial.print("ec="); Serial.println(analogRead(36)); delay(6000); }
)") << "boot-pin on line 2; boot-pin on line 2";
    QTest::newRow("millivolts of the core") << "shed" << QByteArray(R"(#include "watchdog.h"
void setup(){ Serial.begin(115200); watchdog(); }
void loop(){ float ec = analogReadMilliVolts(36) / 1000.0 / 0.032; Serial.print("ec="); Serial.println(ec); delay(6000); }
)") << "nothing";
    QTest::newRow("a correction that is kept") << "gauge" << QByteArray(R"(#include <EEPROM.h>
float offset = 0;
void setup(){ Serial.begin(115200); byte stored = EEPROM.read(0); if (stored != 255) offset = stored / 10.0; else EEPROM.update(0, 5); }
void loop(){ float t = (analogRead(A2) + 0.5) * 5.0 / 1024 * 100 - 50 + offset; Serial.print("hut-air="); Serial.println(t); delay(1000); }
)") << "nothing";
    QTest::newRow("a ring of eight") << "gauge"
                                     << QByteArray(R"(const int N = 8; int readings[N]; int at = 0; long total = 0;
void setup(){ Serial.begin(115200); for (int i = 0; i < N; i++) readings[i] = 0; }
void loop(){ total -= readings[at]; readings[at] = analogRead(A2); total += readings[at]; at = (at + 1) % N; float mean = total / (float)N; Serial.print("hut-air="); Serial.println(mean * 5.0 / 1024 * 100 - 50); delay(1000); }
)") << "nothing";
    QTest::newRow("a filter that starts") << "gauge" << QByteArray(R"(float smooth = -1;
void setup(){ Serial.begin(115200); }
void loop(){ int raw = analogRead(A2); if (smooth < 0) smooth = raw; smooth = 0.9 * smooth + 0.1 * raw; Serial.print("hut-air="); Serial.println(smooth * 0.48828 - 50); delay(1000); }
)") << "nothing";
    QTest::newRow("a coarse table") << "gauge"
                                    << QByteArray(R"(const int codes[] = {900, 800, 700, 600, 500, 400, 300, 200};
const float degrees[] = {-9.6, 3.6, 11.6, 18.1, 24.2, 30.6, 38.0, 47.8};
float interpolate(int c) { for (int i = 1; i < 8; i++) if (c >= codes[i]) return degrees[i] + (degrees[i - 1] - degrees[i]) * (c - codes[i]) / (codes[i - 1] - codes[i]); return degrees[7]; }
void setup(){ Serial.begin(115200); }
void loop(){ Serial.print("rock="); Serial.println(interpolate(analogRead(A1))); delay(1000); }
)") << "prints-another-value on line 5";
    QTest::newRow("a line of JSON") << "gauge" << QByteArray(R"(void setup(){ Serial.begin(115200); }
void loop(){ char line[64]; char t[10]; dtostrf((analogRead(A2) + 0.5) * 4.998 / 1024 * 100 - 50, 4, 1, t); sprintf(line, "{\"air\":%s,\"rock\":%d}", t, analogRead(A1)); Serial.println(line); delay(1000); }
)") << "nothing";
    QTest::newRow("a String") << "gauge" << QByteArray(R"(void setup(){ Serial.begin(115200); }
void loop(){ String s = "air="; s += String((analogRead(A2) * 5.0 / 1024 - 0.5) * 100, 1); s += " rock="; s += analogRead(A1); Serial.println(s); delay(1000); }
)") << "nothing";
    QTest::newRow("states")
        << "gauge"
        << QByteArray(R"(enum State { ASK, WAIT, SAY }; State state = ASK; unsigned long since = 0; int raw = 0;
void setup(){ Serial.begin(115200); }
void loop(){ switch (state) { case ASK: raw = analogRead(A2); since = millis(); state = WAIT; break; case WAIT: if (millis() - since >= 1000) state = SAY; break; case SAY: Serial.print("hut-air="); Serial.println((raw + 0.5) * 5 / 1024.0 * 100 - 50); state = ASK; break; } }
)") << "nothing";
    QTest::newRow("map() with a point")
        << "gauge"
        << QByteArray(
               R"(float mapFloat(float x, float a, float b, float c, float d) { return (x - a) * (d - c) / (b - a) + c; }
void setup(){ Serial.begin(115200); }
void loop(){ float t = mapFloat(analogRead(A2), 0, 1023, -50, 450); Serial.print("hut-air="); Serial.println(t); delay(1000); }
)") << "divisor-differs on line 3";
    QTest::newRow("both units") << "gauge" << QByteArray(R"(float toF(float c) { return c * 9 / 5 + 32; }
void setup(){ Serial.begin(115200); }
void loop(){ float c = (analogRead(A2) * 5.0 / 1023 - 0.5) * 100; Serial.print("air F "); Serial.print(toF(c)); Serial.print(" C "); Serial.println(c); delay(1000); }
)") << "divisor-differs on line 3; unit-differs on line 3";
    QTest::newRow("a thermistor, step by step") << "gauge" << QByteArray(R"(#define THERMISTOR A1
float readRock() { float r = 10000.0 / (1023.0 / analogRead(THERMISTOR) - 1); float s = log(r / 10000.0) / 3950; s += 1.0 / (25 + 273.15); return 1.0 / s - 273.15; }
void setup(){ Serial.begin(115200); }
void loop(){ Serial.print("rock="); Serial.println(readRock(), 1); delay(1000); }
)") << "divisor-differs on line 2";
    QTest::newRow("a thermistor on the other side")
        << "gauge"
        << QByteArray(
               R"(float readRock() { int c = analogRead(A1); float r = 10000.0 * (1024.0 / c - 1); float s = log(r / 10000.0) / 3950 + 1.0 / 298.15; return 1.0 / s - 273.15; }
void setup(){ Serial.begin(115200); }
void loop(){ Serial.print("rock="); Serial.println(readRock(), 1); delay(1000); }
)") << "leg-order on line 1";
    QTest::newRow("another bucket") << "gauge" << QByteArray(R"(volatile byte tips = 0;
void tip() { static unsigned long last = 0; if (millis() - last > 100) { tips++; last = millis(); } }
void setup(){ Serial.begin(115200); pinMode(2, INPUT_PULLUP); attachInterrupt(digitalPinToInterrupt(2), tip, FALLING); }
void loop(){ Serial.print("rain="); Serial.println(tips * 0.2794); delay(10000); }
)") << "constant-differs on line 4";
    QTest::newRow("the internal reference")
        << "gauge" << QByteArray(R"(void setup(){ Serial.begin(115200); analogReference(INTERNAL); }
void loop(){ float t = (analogRead(A2) * 1.1 / 1024 - 0.5) * 100; Serial.print("hut-air="); Serial.println(t); delay(1000); }
)") << "reference-differs on line 1";
    QTest::newRow("a list of channels")
        << "gauge" << QByteArray(R"(struct Channel { const char* name; byte pin; float slope; float offset; };
Channel channels[] = {{"hut-air", A2, 0.4881, -49.8}, {"rock", A1, 1, 0}};
void setup(){ Serial.begin(115200); }
void loop(){ for (const Channel& c : channels) { Serial.print(c.name); Serial.print('='); Serial.print(analogRead(c.pin) * c.slope + c.offset); Serial.print(' '); } Serial.println(); delay(1000); }
)") << "nothing";
    QTest::newRow("map() between two counts") << "gauge" << QByteArray(R"(void setup(){ Serial.begin(115200); }
void loop(){ Serial.print("hut-air="); Serial.println(map(analogRead(A2), 102, 307, 0, 100)); delay(1000); }
)") << "map-to-whole on line 2";
    QTest::newRow("two pins in one number") << "gauge" << QByteArray(R"(void setup(){ Serial.begin(115200); }
void loop(){ float air = analogRead(A2) * 0.4881 - 50, rock = analogRead(A1); Serial.print("hut-air="); Serial.println(air + 0.001 * (rock - 512)); delay(1000); }
)") << "nothing";
    QTest::newRow("one constant for another reference")
        << "gauge" << QByteArray(R"(void setup(){ Serial.begin(115200); }
void loop(){ Serial.print("hut-air="); Serial.println(analogRead(A2) * 0.32227 - 50); delay(1000); }
)") << "reference-differs on line 2";
    QTest::newRow("the slope of another part") << "gauge" << QByteArray(R"(void setup(){ Serial.begin(115200); }
void loop(){ Serial.print("hut-air="); Serial.println(analogRead(A2) * 0.2441 - 50); delay(1000); }
)") << "offset-differs on line 2";
    QTest::newRow("woken by the watchdog") << "gauge" << QByteArray(R"(#include <avr/wdt.h>
#include <avr/sleep.h>
volatile int woken = 0;
ISR(WDT_vect) { woken++; }
void setup(){ Serial.begin(115200); WDTCSR |= (1 << WDCE) | (1 << WDE); WDTCSR = (1 << WDIE) | (1 << WDP2) | (1 << WDP1); }
void loop(){ set_sleep_mode(SLEEP_MODE_PWR_DOWN); sleep_mode(); Serial.print("hut-air="); Serial.println(analogRead(A2) * 0.4881 - 50); Serial.flush(); }
)") << "nothing";
    QTest::newRow("ten bits of twelve") << "shed" << QByteArray(R"(#include "watchdog.h"
void setup(){ Serial.begin(115200); analogReadResolution(10); watchdog(); }
void loop(){ Serial.print("ec="); Serial.println(analogRead(36) * 3.3 / 1024 / 0.032); delay(6000); }
)") << "constant-differs on line 3";
    QTest::newRow("an echo as a number with a point") << "shed" << QByteArray(R"(#include "watchdog.h"
float distanceMm() { digitalWrite(19, LOW); delayMicroseconds(2); digitalWrite(19, HIGH); delayMicroseconds(10); digitalWrite(19, LOW); unsigned long us = pulseIn(18, HIGH, 38000UL); if (us == 0) return NAN; return us * 0.343 / 2; }
void setup(){ Serial.begin(115200); pinMode(19, OUTPUT); pinMode(18, INPUT); watchdog(); }
void loop(){ float d = distanceMm(); Serial.print("tide-pool="); if (isnan(d)) Serial.println("ERR"); else Serial.println(2100 - d); delay(6000); }
)") << "nothing";
    QTest::newRow("the mean of five echoes") << "shed" << QByteArray(R"(#include "watchdog.h"
unsigned long echoUs() { digitalWrite(19, HIGH); delayMicroseconds(10); digitalWrite(19, LOW); return pulseIn(18, HIGH, 38000UL); }
void setup(){ Serial.begin(115200); pinMode(19, OUTPUT); pinMode(18, INPUT); watchdog(); }
void loop(){ unsigned long sum = 0; for (int i = 0; i < 5; i++) { sum += echoUs(); delay(100); } Serial.print("echo_us="); Serial.println(sum / 5); delay(6000); }
)") << "mean-of-failures on line 2; failure-as-number on line 4";
}

RUN_TESTS_OF(TestStrangersPrograms)
#include "tst_strangers_programs.moc"
