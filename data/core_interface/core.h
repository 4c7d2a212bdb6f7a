// Stand-in of the usual core interface of small boards, for reading programs: what there is, with its types, and
// nothing of how it works. A function without a body is the evaluator's (src/core/program/read).
#pragma once

typedef __INT8_TYPE__ int8_t;
typedef __UINT8_TYPE__ uint8_t;
typedef __INT16_TYPE__ int16_t;
typedef __UINT16_TYPE__ uint16_t;
typedef __INT32_TYPE__ int32_t;
typedef __UINT32_TYPE__ uint32_t;
typedef __INT64_TYPE__ int64_t;
typedef __UINT64_TYPE__ uint64_t;
typedef __INTPTR_TYPE__ intptr_t;
typedef __UINTPTR_TYPE__ uintptr_t;
typedef __SIZE_TYPE__ size_t;
typedef __INT8_TYPE__ int_fast8_t;
typedef __UINT8_TYPE__ uint_fast8_t;
typedef __UINT16_TYPE__ uint_fast16_t;
typedef bool boolean;
typedef uint8_t byte;
typedef unsigned int word;

#define NULL __null
#define INT8_MAX 127
#define UINT8_MAX 255
#define INT16_MAX 32767
#define INT16_MIN (-32767 - 1)
#define UINT16_MAX 65535U
#define INT32_MAX 2147483647L
#define INT32_MIN (-2147483647L - 1L)
#define UINT32_MAX 4294967295UL
#define INT_MAX __INT_MAX__
#define INT_MIN (-__INT_MAX__ - 1)
#define UINT_MAX (__INT_MAX__ * 2U + 1U)
#define LONG_MAX __LONG_MAX__
#define ULONG_MAX (__LONG_MAX__ * 2UL + 1UL)
#define NAN __builtin_nanf("")
#define INFINITY __builtin_inff()
#define HIGH 1
#define LOW 0
#define INPUT 0
#define OUTPUT 1
#define INPUT_PULLUP 2
#define INPUT_PULLDOWN 3
#define CHANGE 4
#define FALLING 2
#define RISING 3
#define LSBFIRST 0
#define MSBFIRST 1
#define PI 3.1415926535897932384626433832795
#define HALF_PI 1.5707963267948966192313216916398
#define TWO_PI 6.283185307179586476925286766559
#define DEG_TO_RAD 0.017453292519943295769236907684886
#define RAD_TO_DEG 57.295779513082320876798154814105
#define EULER 2.718281828459045235360287471352
#define M_PI 3.14159265358979323846
#define M_E 2.71828182845904523536
#define DEC 10
#define HEX 16
#define OCT 8
#define BIN 2
#if defined(__AVR__)
#define DEFAULT 1
#define EXTERNAL 0
#define INTERNAL 3
#define F_CPU 16000000UL
#else
#define AR_DEFAULT 1
#define AR_INTERNAL 3
#define AR_EXTERNAL 0
#define DEFAULT 1
#define INTERNAL 3
#define EXTERNAL 0
#define F_CPU 240000000UL
#define IRAM_ATTR
#define ICACHE_RAM_ATTR
#define RTC_DATA_ATTR
#define ADC_0db 0
#define ADC_2_5db 1
#define ADC_6db 2
#define ADC_11db 3
#endif
#define PROGMEM
#define F(text) (text)
#define PSTR(text) (text)
#define FPSTR(text) (text)
typedef const char __FlashStringHelper;
#define pgm_read_byte(at) (*(const uint8_t*)(at))
#define pgm_read_word(at) (*(const uint16_t*)(at))
#define pgm_read_dword(at) (*(const uint32_t*)(at))
#define pgm_read_float(at) (*(const float*)(at))
#define min(a, b) ((a) < (b) ? (a) : (b))
#define max(a, b) ((a) > (b) ? (a) : (b))
#define abs(x) ((x) > 0 ? (x) : -(x))
#define constrain(x, low, high) ((x) < (low) ? (low) : ((x) > (high) ? (high) : (x)))
#define radians(deg) ((deg)*DEG_TO_RAD)
#define degrees(rad) ((rad)*RAD_TO_DEG)
#define sq(x) ((x) * (x))
#define round(x) ((x) >= 0 ? (long)((x) + 0.5) : (long)((x)-0.5))
#define lowByte(w) ((uint8_t)((w)&0xff))
#define highByte(w) ((uint8_t)((w) >> 8))
#define bitRead(value, bit) (((value) >> (bit)) & 0x01)
#define bitSet(value, bit) ((value) |= (1UL << (bit)))
#define bitClear(value, bit) ((value) &= ~(1UL << (bit)))
#define bitToggle(value, bit) ((value) ^= (1UL << (bit)))
#define bitWrite(value, bit, on) ((on) ? bitSet(value, bit) : bitClear(value, bit))
#define bit(b) (1UL << (b))
#define _BV(b) (1 << (b))
#define noInterrupts() cli()
#define interrupts() sei()
#define clockCyclesPerMicrosecond() (F_CPU / 1000000L)
#define ISR(vector, ...) __attribute__((annotate("interrupt"))) void vector(void)
#define digitalPinToInterrupt(pin) (pin)
#define NOT_AN_INTERRUPT -1
#define assert(x) ((void)0)
#define naked // of a function that begins before memory is set up: its text is read as any other

void cli();
void sei();
void pinMode(uint8_t pin, uint8_t mode);
void digitalWrite(uint8_t pin, uint8_t level);
int digitalRead(uint8_t pin);
int analogRead(uint8_t pin);
uint32_t analogReadMilliVolts(uint8_t pin);
void analogReference(uint8_t which);
void analogReadResolution(int bits);
void analogWriteResolution(int bits);
void analogSetAttenuation(int which);
void analogSetPinAttenuation(uint8_t pin, int which);
void analogWrite(uint8_t pin, int value);
unsigned long millis();
unsigned long micros();
void delay(unsigned long ms);
void delayMicroseconds(unsigned int us);
void yield();
unsigned long pulseIn(uint8_t pin, uint8_t level, unsigned long timeout = 1000000L);
unsigned long pulseInLong(uint8_t pin, uint8_t level, unsigned long timeout = 1000000L);
uint8_t shiftIn(uint8_t data, uint8_t clock, uint8_t order);
void shiftOut(uint8_t data, uint8_t clock, uint8_t order, uint8_t value);
void attachInterrupt(uint8_t interrupt, void (*function)(), int mode);
void detachInterrupt(uint8_t interrupt);
void tone(uint8_t pin, unsigned int frequency, unsigned long duration = 0);
void noTone(uint8_t pin);
long map(long x, long in_low, long in_high, long out_low, long out_high);
long random(long most);
long random(long least, long most);
void randomSeed(unsigned long seed);
uint16_t makeWord(uint8_t high, uint8_t low);
#define word(...) makeWord(__VA_ARGS__)
void setup();
void loop();

double sin(double x);
double cos(double x);
double tan(double x);
double asin(double x);
double acos(double x);
double atan(double x);
double atan2(double y, double x);
double sinh(double x);
double cosh(double x);
double tanh(double x);
double exp(double x);
double log(double x);
double log10(double x);
double log2(double x);
double pow(double x, double y);
double sqrt(double x);
double cbrt(double x);
double fabs(double x);
double floor(double x);
double ceil(double x);
double trunc(double x);
double fmod(double x, double y);
double fmin(double x, double y);
double fmax(double x, double y);
double hypot(double x, double y);
long lround(double x);
long lrint(double x);
#define sinf sin
#define cosf cos
#define tanf tan
#define expf exp
#define logf log
#define log10f log10
#define powf pow
#define sqrtf sqrt
#define fabsf fabs
#define floorf floor
#define ceilf ceil
#define roundf(x) floor((x) + 0.5)
#define fmodf fmod
bool isnan(double x);
bool isinf(double x);
bool isfinite(double x);

void* malloc(size_t n);
void free(void* p);
void* memcpy(void* to, const void* from, size_t n);
void* memmove(void* to, const void* from, size_t n);
void* memset(void* to, int value, size_t n);
int memcmp(const void* a, const void* b, size_t n);
size_t strlen(const char* s);
char* strcpy(char* to, const char* from);
char* strncpy(char* to, const char* from, size_t n);
char* strcat(char* to, const char* from);
int strcmp(const char* a, const char* b);
int strncmp(const char* a, const char* b, size_t n);
char* strchr(const char* s, int c);
char* strstr(const char* s, const char* what);
char* strtok(char* s, const char* between);
int atoi(const char* s);
long atol(const char* s);
double atof(const char* s);
double strtod(const char* s, char** end);
long strtol(const char* s, char** end, int base);
unsigned long strtoul(const char* s, char** end, int base);
char* itoa(int value, char* to, int base);
char* utoa(unsigned value, char* to, int base);
char* ltoa(long value, char* to, int base);
char* ultoa(unsigned long value, char* to, int base);
char* dtostrf(double value, signed char width, unsigned char digits, char* to);
int sprintf(char* to, const char* format, ...);
int snprintf(char* to, size_t n, const char* format, ...);
int printf(const char* format, ...);
bool isdigit(int c);
bool isDigit(int c);
bool isspace(int c);
bool isSpace(int c);
bool isAlpha(int c);
int toupper(int c);
int tolower(int c);
void qsort(void* base, size_t n, size_t size, int (*compare)(const void*, const void*));

#if defined(__AVR__)
#include <avr/io.h>
#endif

class String {
  public:
    String(const char* text = "");
    String(char c);
    String(int value, int base = 10);
    String(unsigned value, int base = 10);
    String(long value, int base = 10);
    String(unsigned long value, int base = 10);
    String(unsigned char value, int base = 10);
    String(double value, int digits = 2);
    String(float value, int digits = 2);
    bool concat(const String& more);
    String& operator+=(const String& more);
    String& operator+=(const char* more);
    String& operator+=(char more);
    String& operator+=(int more);
    String& operator+=(unsigned more);
    String& operator+=(long more);
    String& operator+=(unsigned long more);
    String& operator+=(double more);
    String& operator+=(float more);
    bool operator==(const String& other) const;
    bool operator!=(const String& other) const;
    char operator[](unsigned at) const;
    bool equals(const String& other) const;
    bool equalsIgnoreCase(const String& other) const;
    bool startsWith(const String& other) const;
    bool endsWith(const String& other) const;
    int indexOf(char c, unsigned from = 0) const;
    int indexOf(const String& what, unsigned from = 0) const;
    int lastIndexOf(char c) const;
    String substring(unsigned from) const;
    String substring(unsigned from, unsigned to) const;
    void replace(const String& what, const String& by);
    void trim();
    void toUpperCase();
    void toLowerCase();
    void remove(unsigned at, unsigned n = 65535U);
    bool reserve(unsigned n);
    unsigned length() const;
    bool isEmpty() const;
    char charAt(unsigned at) const;
    void setCharAt(unsigned at, char c);
    const char* c_str() const;
    void toCharArray(char* to, unsigned n) const;
    long toInt() const;
    float toFloat() const;
    double toDouble() const;
};
String operator+(const String& a, const String& b);
String operator+(const String& a, const char* b);
String operator+(const char* a, const String& b);
String operator+(const String& a, char b);
String operator+(const String& a, int b);
String operator+(const String& a, unsigned b);
String operator+(const String& a, long b);
String operator+(const String& a, unsigned long b);
String operator+(const String& a, float b);
String operator+(const String& a, double b);

class Print {
  public:
    size_t print(const char* text);
    size_t print(const String& text);
    size_t print(char c);
    size_t print(unsigned char value, int base = 10);
    size_t print(int value, int base = 10);
    size_t print(unsigned value, int base = 10);
    size_t print(long value, int base = 10);
    size_t print(unsigned long value, int base = 10);
    size_t print(double value, int digits = 2);
    size_t println(const char* text);
    size_t println(const String& text);
    size_t println(char c);
    size_t println(unsigned char value, int base = 10);
    size_t println(int value, int base = 10);
    size_t println(unsigned value, int base = 10);
    size_t println(long value, int base = 10);
    size_t println(unsigned long value, int base = 10);
    size_t println(double value, int digits = 2);
    size_t println();
    size_t printf(const char* format, ...);
    virtual size_t write(uint8_t byte);
    template <class T>
    size_t write(T value);
    size_t write(const char* text);
    size_t write(const uint8_t* bytes, size_t n);
    size_t write(const char* bytes, size_t n);
    void flush();
    int availableForWrite();
};
class Stream : public Print {
  public:
    int available();
    int read();
    int peek();
    void setTimeout(unsigned long ms);
    long parseInt();
    float parseFloat();
    size_t readBytes(char* to, size_t n);
    size_t readBytes(uint8_t* to, size_t n);
    size_t readBytesUntil(char end, char* to, size_t n);
    String readString();
    String readStringUntil(char end);
    bool find(const char* what);
};
#define SERIAL_8N1 0x06
#define SERIAL_8N2 0x0e
#define SERIAL_8E1 0x26
#define SERIAL_7E1 0x24
class HardwareSerial : public Stream {
  public:
    HardwareSerial(int number = 0);
    void begin(unsigned long baud);
    void begin(unsigned long baud, unsigned long frame, int rx = -1, int tx = -1);
    void end();
    operator bool() const;
};
extern HardwareSerial Serial, Serial1, Serial2, Serial3;
#include "pins.h"

#include "network.h"
