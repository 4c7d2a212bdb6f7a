// Rain gauge at Whelk Point: made for practice, with mistakes in its interrupt and in its numbers.
unsigned int tips = 0;
unsigned long sent = 0;

void tip() {
    tips++;
}

void setup() {
    Serial.begin(115200);
    pinMode(2, INPUT);
    attachInterrupt(digitalPinToInterrupt(2), tip, FALLING);
}

void loop() {
    if (millis() - sent >= 60 * 1000) {
        sent = millis();
        Serial.print("rain=");
        Serial.println(tips * 0.2794);
    }
}
