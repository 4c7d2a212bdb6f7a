// Warm rock at Whelk Point: made for practice. The thermistor is read well, and understood wrongly.
const float fixed = 10000;
const float nominal = 10000;
const float beta = 3435;

float celsius(float count) {
    float ohm = fixed * (1023 / count - 1);
    float kelvin = 1 / (log(ohm / nominal) / beta + 1 / 298.15);
    return kelvin - 273.15;
}

void setup() {
    Serial.begin(115200);
}

void loop() {
    int sum = 0;
    for (int i = 0; i < 64; i++)
        sum += analogRead(A1);
    Serial.print("rock=");
    Serial.println(celsius(sum / 64.0), 5);
    delay(5000);
}
