// Programs that ask their parts and send lines in ways of their own: by hand, by registers, in the old way, and
// wrong.
#include "support/cli.h"
#include "support/programs.h"
#include "support/run_tests.h"
#include "support/support.h"

using namespace cognitum;

class TestAskedParts : public QObject {
    Q_OBJECT

  private slots:
    void read_data(); // below: its texts would confuse what looks for this class
    void read() {
        QFETCH(QString, board);
        QFETCH(QByteArray, text);
        QFETCH(QString, wanted);
        test::Scratch scratch;
        const test::Run run = test::cli({"read-program", "--json", "--bench", test::demo, "--board", board,
                                         scratch.write("program.ino", text)});
        const Json json = run.json();
        QVERIFY2(json.is_object(), run.err.constData());
        QStringList found;
        for (const Json& f : json["findings"])
            found << QString("%1 on line %2").arg(QString::fromStdString(f["id"])).arg(f["line"].get<int>());
        QCOMPARE(found.isEmpty() ? QString("nothing") : found.join("; "), wanted);
    }
};

void TestAskedParts::read_data() {
    QTest::addColumn<QString>("board");
    QTest::addColumn<QByteArray>("text");
    QTest::addColumn<QString>("wanted");
    QTest::newRow("an echo that is measured by hand") << "shed" << QByteArray(R"(#include "watchdog.h"
const int trigger = 19, echo = 18;
void setup() { Serial.begin(115200); pinMode(trigger, OUTPUT); pinMode(echo, INPUT); watchdog_begin(8000); }
void loop() {
  digitalWrite(trigger, LOW); delayMicroseconds(2);
  digitalWrite(trigger, HIGH); delayMicroseconds(10);
  digitalWrite(trigger, LOW);
  unsigned long from = micros();
  while (digitalRead(echo) == LOW) if (micros() - from > 30000) { Serial.println("echo_us=no-echo"); delay(6000); return; }
  unsigned long began = micros();
  while (digitalRead(echo) == HIGH) if (micros() - began > 30000) break;
  Serial.print("echo_us="); Serial.println(micros() - began);
  delay(6000); }
)") << "nothing";
    QTest::newRow("an echo between two interrupts") << "shed" << QByteArray(R"(#include "watchdog.h"
volatile unsigned long began = 0, us = 0;
void changed() { if (digitalRead(18)) began = micros(); else us = micros() - began; }
void setup() { Serial.begin(115200); pinMode(19, OUTPUT); pinMode(18, INPUT); attachInterrupt(digitalPinToInterrupt(18), changed, CHANGE); watchdog_begin(8000); }
void loop() {
  us = 0;
  digitalWrite(19, HIGH); delayMicroseconds(12); digitalWrite(19, LOW);
  delay(60);
  if (us == 0) Serial.println("echo_us=no-echo"); else { Serial.print("echo_us="); Serial.println(us); }
  delay(6000); }
)") << "nothing";
    QTest::newRow("pins set by their registers") << "gauge" << QByteArray(R"(volatile unsigned long tips = 0;
void tip() { static unsigned long last = 0; if (millis() - last > 20) ++tips; last = millis(); }
void setup() { Serial.begin(115200); DDRB |= 1 << 5; pinMode(2, INPUT_PULLUP); attachInterrupt(0, tip, FALLING); }
void loop() {
  digitalWrite(13, HIGH); delay(5); digitalWrite(13, LOW);
  noInterrupts(); unsigned long n = tips; interrupts();
  Serial.print("tips="); Serial.println(n); delay(4995); }
)") << "nothing";
    QTest::newRow("a lamp that was never made an output")
        << "gauge" << QByteArray(R"(void setup() { Serial.begin(115200); }
void loop() {
  digitalWrite(13, HIGH); delay(5); digitalWrite(13, LOW);
  Serial.print("air="); Serial.println(analogRead(A2)); delay(995); }
)") << "pin-not-output on line 1";
    QTest::newRow("a pull-up in the old way") << "gauge" << QByteArray(R"(volatile unsigned long tips = 0;
void tip() { static unsigned long last = 0; if (millis() - last > 20) ++tips; last = millis(); }
void setup() { Serial.begin(115200); pinMode(2, INPUT); digitalWrite(2, HIGH); attachInterrupt(digitalPinToInterrupt(2), tip, FALLING); }
void loop() { noInterrupts(); unsigned long n = tips; interrupts(); Serial.print("tips="); Serial.println(n); delay(5000); }
)") << "nothing";
    QTest::newRow("dots while it waits") << "gauge" << QByteArray(R"(void setup() { Serial.begin(115200); }
void loop() {
  for (int i = 0; i < 4; i++) { Serial.print('.'); delay(250); }
  Serial.println(); Serial.print("air="); Serial.println(analogRead(A2)); }
)") << "nothing";
    QTest::newRow("headings above numbers") << "gauge" << QByteArray(R"(void setup() { Serial.begin(115200); }
void loop() {
  Serial.println("Hut air:"); Serial.println(analogRead(A2)); Serial.println("Rock:"); Serial.println(analogRead(A1)); delay(1000); }
)") << "name-without-number on line 3";
    QTest::newRow("a heading once")
        << "gauge" << QByteArray(R"(void setup() { Serial.begin(115200); Serial.println("Readings of the hut:"); }
void loop() { Serial.println(analogRead(A2)); delay(1000); }
)") << "nothing";
    QTest::newRow("more bytes than were asked for") << "pump-house" << QByteArray(R"(#include <Wire.h>
void setup() { Serial.begin(115200); Wire.begin(); }
void loop() {
  Wire.beginTransmission(0x23); Wire.write(0x20); Wire.endTransmission(); delay(180);
  Wire.requestFrom(0x23, 1);
  unsigned raw = Wire.read() << 8; raw |= Wire.read();
  Serial.print("lux="); Serial.println(raw / 1.2); delay(9820); }
)") << "no-watchdog on line 2; read-unasked on line 6; prints-another-value on line 7; failure-as-number on line 7";
    QTest::newRow("a trigger of 3 us") << "shed" << QByteArray(R"(#include "watchdog.h"
void setup() { Serial.begin(115200); pinMode(19, OUTPUT); pinMode(18, INPUT); watchdog_begin(8000); }
void loop() {
  digitalWrite(19, HIGH); delayMicroseconds(3); digitalWrite(19, LOW);
  unsigned long us = pulseIn(18, HIGH, 30000);
  if (us) { Serial.print("echo_us="); Serial.println(us); } else Serial.println("echo_us=no-echo");
  delay(6000); }
)") << "trigger-too-short on line 4";
    QTest::newRow("an error of grammar beside a library that is not here")
        << "gauge" << QByteArray(R"(#include <Lamps.h>
Lamps lamps;
void setup() { Serial.begin(115200); lamps.begin(); }
void loop() { lamps.turn();
  float t = analogRead(A2) * 0.4881 - 50
  Serial.print("air="); Serial.println(t); delay(1000); }
)") << "does-not-compile on line 5";
    QTest::newRow("a library that is not here") << "gauge" << QByteArray(R"(#include <Lamps.h>
Lamps lamps(LAMPS_OF_THE_HUT);
void setup() { Serial.begin(115200); lamps.begin(); }
void loop() { lamps.turn();
  float t = analogRead(A2) * 0.4881 - 50;
  Serial.print("air="); Serial.println(t); delay(1000); }
)") << "nothing";
    QTest::newRow("interrupts put back by their register")
        << "gauge" << QByteArray(R"(volatile unsigned long tips = 0;
void tip() { static unsigned long last = 0; if (millis() - last > 20) ++tips; last = millis(); }
void setup() { Serial.begin(115200); pinMode(2, INPUT_PULLUP); attachInterrupt(digitalPinToInterrupt(2), tip, FALLING); }
void loop() { uint8_t kept = SREG; cli(); unsigned long n = tips; SREG = kept; Serial.print("tips="); Serial.println(n); delay(5000); }
)") << "nothing";
    QTest::newRow("another interrupt is taken off again")
        << "gauge" << QByteArray(R"(volatile unsigned long tips = 0, turns = 0;
void tip() { static unsigned long last = 0; if (millis() - last > 20) ++tips; last = millis(); }
void turn() { ++turns; }
void setup() { Serial.begin(115200); pinMode(2, INPUT_PULLUP); attachInterrupt(digitalPinToInterrupt(2), tip, FALLING);
  pinMode(3, INPUT_PULLUP); attachInterrupt(digitalPinToInterrupt(3), turn, RISING); detachInterrupt(digitalPinToInterrupt(3)); }
void loop() { noInterrupts(); unsigned long n = tips; interrupts(); Serial.print("tips="); Serial.println(n); delay(5000); }
)") << "nothing";
    QTest::newRow("places of a memory in brackets") << "gauge" << QByteArray(R"(#include <EEPROM.h>
float offset = 0;
void setup() { Serial.begin(115200); if (EEPROM[6] == 255) EEPROM[6] = 0; offset = EEPROM[6] / 10.0; }
void loop() { Serial.print("air="); Serial.println(analogRead(A2) * 0.4881 - 50 + offset); delay(1000); }
)") << "nothing";
    QTest::newRow("interrupts that stay off") << "gauge" << QByteArray(R"(volatile unsigned long tips = 0;
void tip() { static unsigned long last = 0; if (millis() - last > 20) ++tips; last = millis(); }
void setup() { Serial.begin(115200); pinMode(2, INPUT_PULLUP); attachInterrupt(digitalPinToInterrupt(2), tip, FALLING); }
void loop() { noInterrupts(); unsigned long n = tips; Serial.print("tips="); Serial.println(n); delay(5000); }
)") << "interrupts-stay-off on line 4";
}

RUN_TESTS_OF(TestAskedParts)
#include "tst_asked_parts.moc"
