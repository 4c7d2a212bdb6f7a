// Hut station at Whelk Point, for practice: it has mistakes.
const int hut = A2;
const int rock = A1;

void setup() {
    Serial.begin(9600);
}

void loop() {
    int c = analogRead(hut);
    float t = c * 3.3 / 1023.0 * 100;
    int r = analogRead(rock);
    int share = r / 1023 * 100;
    Serial.print("air ");
    Serial.print(t);
    Serial.print(" rock ");
    Serial.println(share);
    delay(60000);
}
