// Statements of boards' programs, for the test that has them compiled and evaluated: at the ends of each kind of
// number, through pointers, fields and tables, and with pieces of texts.
#pragma once

#include <QByteArray>
#include <QStringList>
#include <QTest>

namespace cognitum::test {

/// Rows of `globals` and `statements`; `known_late`: functions whose results no compiler knows beforehand.
inline void add_statements(const QByteArray& known_late) {
    QTest::newRow("limits of each kind of number")
        << known_late
        << QStringList{
               "int x = i(32767); x++; Serial.print(x);",
               "int x = i(-32768); x--; Serial.print(x);",
               "unsigned x = u(0); x--; Serial.print(x);",
               "long x = l(2147483647L); x += i(1); Serial.print(x);",
               "unsigned long x = ul(4294967295UL); x += 2; Serial.print(x);",
               "byte x = i(0); x--; Serial.print(x);",
               "int8_t x = i(-128); x--; Serial.print(x);",
               "Serial.print(l(-7) / 2); Serial.print(l(-7) % 4);",
               "Serial.print(ul(7) / 2); Serial.print(ul(7) % 4);",
               "Serial.print(i(200) * i(200));",
               "Serial.print((long)i(200) * i(200));",
               "Serial.print((long)(i(200) * i(200)));",
               "Serial.print(l(70000) * 1000);",
               "Serial.print(i(5) - 7L); Serial.print(u(5) - 7);",
               "Serial.print(ul(2) - ul(5));",
               "Serial.print((unsigned long)(ul(2) - ul(5)) > 1000UL);",
               "Serial.print(i(-1) >> 1); Serial.print(u(65535) >> 15);",
               "Serial.print(i(1) << 14); Serial.print(u(1) << 15);",
               "Serial.print(i(-5) / -2); Serial.print(i(5) / -2); Serial.print(i(5) % -3);",
               "Serial.print((byte)f(255.9)); Serial.print((int)f(-0.9)); Serial.print((long)f(1e6));",
               "Serial.print(i(3) == 3.0); Serial.print(i(3) < 3.5); Serial.print(f(2.5) >= 2.5);",
               "Serial.print(i(7) & 3 | 8); Serial.print(i(6) ^ 3 & 1); Serial.print(1 + 2 << 3);",
               "Serial.print(i(0) ? 1 : i(0) ? 2 : 3);",
               "Serial.print(i(2) > 1 && i(3) > 4 || i(5) > 4);",
               "Serial.print(!i(0) && !i(0)); Serial.print(!(i(1) || i(0)));",
               "int x = i(10); x -= 3; x *= 2; x %= 5; x <<= 3; x |= 1; x &= 0x1F; x ^= 2; x >>= 1; "
               "Serial.print(x);",
               "float x = f(10); x -= 2.5; x *= 2; x /= 4; x += 1; Serial.print(x, 3);",
               "Serial.print(max(i(3), 5)); Serial.print(min(i(3), 5)); Serial.print(abs(i(-4)));",
               "Serial.print(constrain(i(-5), -3, 9)); Serial.print(constrain(i(50), -3, 9));",
               "Serial.print(map(i(-20), -40, 40, 0, 1023)); Serial.print(map(i(1), 0, 3, 0, 10));",
               "Serial.print(i(-255), HEX); Serial.print(u(255), OCT); Serial.print(l(-1), BIN);",
               "Serial.print((char)i(65)); Serial.print(char(i(66))); Serial.print('C' + i(1));",
               "Serial.print(f(-1.005), 3); Serial.print(f(9.995), 2); Serial.print(f(0.5), 0);",
               "Serial.print(f(-0.0), 1); Serial.print(-f(1) / f(0)); Serial.print(f(123456.789), 3);",
               "Serial.print(floor(f(2.7)), 0); Serial.print(ceil(f(-2.7)), 0); Serial.print(lround(f(-2.5)));",
               "Serial.print(sqrt(f(-1))); Serial.print(isinf(f(1) / f(0))); Serial.print(isnan(f(1)));",
               "Serial.print(pow(f(2), -1), 4); Serial.print(pow(f(10), f(0.5)), 4); "
               "Serial.print(fabs(f(-3.5)));",
               "Serial.print(tan(f(1)), 4); Serial.print(acos(f(0.5)), 4); Serial.print(atan(f(2)), 4);",
           };
    QTest::newRow("pointers, fields and tables")
        << known_late + R"(
    struct Point { int x; long y; byte name[3]; };
    Point points[3] = {{1, 2, {3, 4, 5}}, {6, 7, {8, 9, 10}}, {11, 12, {13, 14, 15}}};
    int numbers[] = {10, 20, 30, 40, 50};
    const float factors[2][2] = {{0.5, 1.5}, {2.5, 3.5}};
    long all(const Point* from, int n) { long out = 0; for (int k = 0; k < n; ++k, ++from) out += from->x + from->y; return out; }
    void put(Point& to, int x) { to.x = x; to.y = to.x * 2L; }
    int* find(int* from, int n, int what) { for (int* p = from; p < from + n; ++p) if (*p == what) return p; return nullptr; }
    enum class State : byte { idle, wet = 5, dry };
    union Bytes { unsigned long all; byte parts[4]; };
    )"
        << QStringList{
               "int* p = numbers; p += i(2); Serial.print(*p); p -= 1; Serial.print(*p); Serial.print(p - "
               "numbers);",
               "int* p = numbers + 4; Serial.print(*p--); Serial.print(*p); Serial.print(p[-1]); "
               "Serial.print(*(p - 2));",
               "int* p = find(numbers, 5, i(30)); Serial.print(p != nullptr); Serial.print(p - numbers);",
               "Serial.print(find(numbers, 5, i(31)) == nullptr);",
               "Point* p = points; ++p; Serial.print(p->x); p += 1; Serial.print(p->name[2]); Serial.print((p "
               "- 2)->y);",
               "Serial.print(all(points, 3)); Serial.print(all(points + 1, i(2)));",
               "Point p = points[i(1)]; p.x = 99; Serial.print(points[1].x); Serial.print(p.name[0]);",
               "Point p; put(p, i(21)); Serial.print(p.y);",
               "Serial.print(factors[i(1)][0] + factors[0][i(1)], 2);",
               "numbers[i(0)] += 5; numbers[0]++; Serial.print(numbers[0]); numbers[0] = 10;",
               "int copy[5]; memcpy(copy, numbers, sizeof(numbers)); Serial.print(copy[4]); "
               "Serial.print(copy[i(3)]);",
               "byte b[4]; memset(b, i(7), 4); Serial.print(b[0] + b[3]);",
               "State s = State::wet; Serial.print(s == State::wet); Serial.print((int)State::dry);",
               "for (int n : numbers) Serial.print(n);",
               "int sum = 0; for (const Point& p : points) sum += p.x; Serial.print(sum);",
               "int& first = numbers[1]; first = 21; Serial.print(numbers[1]); numbers[1] = 20;",
               "int n = 0; while (true) { if (++n > i(4)) break; if (n % 2) continue; Serial.print(n); }",
               "int n = 0; for (;;) { n += 3; if (n >= i(10)) break; } Serial.print(n);",
               "for (int a = 0, b = 10; a < b; a += 2, b--) Serial.print(b - a);",
               "static int kept = 3; kept += i(1); Serial.print(kept);",
               "switch (State(i(5))) { case State::idle: Serial.print(0); break; case State::wet: "
               "Serial.print(5); }",
               "const int last = sizeof(numbers) / sizeof(numbers[0]) - 1; Serial.print(numbers[last]);",
           };
    QTest::newRow("pieces of texts")
        << known_late
        << QStringList{
               "String s = \"level=812\"; Serial.print(s.substring(0, 5)); Serial.print(s.substring(6, 99));",
               "String s = \"level=812\"; Serial.print(s.substring(i(8), i(6))); "
               "Serial.print(s.substring(20).length());",
               "String s = String(i(81)) + \" mm, \" + String(f(2.5), 1); Serial.print(s.substring(2)); "
               "Serial.print(s.length());",
               "String s = \"a,b,c\"; Serial.print(s.indexOf(',', 2)); Serial.print(s.indexOf(\"x\")); "
               "Serial.print(s.indexOf(\"b,c\"));",
               "String s = \"abc\"; Serial.print(s.endsWith(\"bc\")); Serial.print(s.endsWith(\"abcd\")); "
               "Serial.print(s.startsWith(\"b\"));",
               "String s = \"abc\"; Serial.print(s.charAt(i(1))); Serial.print(s[2]); Serial.print(s.length() "
               "== 0);",
               "String s; Serial.print(s.length() == 0); s.concat(\"x\"); Serial.print(s.equals(\"x\")); "
               "Serial.print(s != \"y\");",
               "String s = \"-12.75e1\"; Serial.print(s.toFloat(), 2); Serial.print(s.toInt());",
               "String s = \"\\t 5 \\n\"; s.trim(); Serial.print(s.length()); Serial.print(s);",
               "char b[10]; String(\"humidity\").toCharArray(b, i(5)); Serial.print(b);",
               "Serial.print(isDigit('7')); Serial.print(isDigit('a')); Serial.print(isDigit('/')); "
               "Serial.print(isDigit(':'));",
               "Serial.print(isdigit('0') != 0); Serial.print(isdigit('9') != 0); Serial.print(isspace(' ') != "
               "0);",
               "Serial.print(isSpace('\\t')); Serial.print(isSpace('x')); Serial.print(isSpace('\\r'));",
               "Serial.print(atoi(\" -42 mm\")); Serial.print(atol(\"70000\")); Serial.print(atof(\"2.5e-1\"), "
               "3);",
               "char* end; Serial.print(strtol(\"0x1F;\", &end, 16)); Serial.print(*end);",
               "char b[40]; sprintf(b, \"%05d|%+05d|%-5d|%05u\", i(-7), i(7), i(-7), u(7)); Serial.print(b);",
               "Serial.print(strtol(\"7fa\", nullptr, 16)); Serial.print(strtol(\"zZ9\", nullptr, 36)); "
               "Serial.print(strtol(\"129\", nullptr, 8)); Serial.print(strtol(\"-0b\", nullptr, 16));",
               "char* end; Serial.print(strtod(\"1.25 V\", &end), 2); Serial.print(end);",
               "Serial.print(strstr(\"temp=21\", \"=\") + 1); Serial.print(strstr(\"temp\", \"x\") == "
               "nullptr);",
               "char b[8]; strncpy(b, \"abcdef\", 3); b[3] = 0; Serial.print(b); Serial.print(strlen(b));",
               "char b[8] = \"ab\"; strcat(b, \"cd\"); Serial.print(strcmp(b, \"abcd\")); "
               "Serial.print(strcmp(b, \"abce\") < 0);",
               "char b[30]; snprintf(b, 6, \"%d\", i(12345)); Serial.print(b); snprintf(b, 4, \"%d\", "
               "i(12345)); Serial.print(b);",
               "char b[40]; Serial.print(sprintf(b, \"%ld/%-4d|%+d|%c|%%\", l(-70000), i(7), i(7), 'q')); "
               "Serial.print(b);",
               "char b[40]; sprintf(b, \"%03d %x %X %6s|%-6s|\", i(7), u(255), u(171), \"ab\", \"cd\"); "
               "Serial.print(b);",
               "char b[40]; sprintf(b, \"%s=%d.%02d\", \"t\", i(2150) / 100, i(2150) % 100); Serial.print(b);",
               "char b[12]; dtostrf(f(-2.5), 6, 1, b); Serial.print(b); dtostrf(f(2.5), -6, 2, b); "
               "Serial.print(b); Serial.print('|');",
               "char b[12]; ltoa(l(-70000), b, 10); Serial.print(b); utoa(u(255), b, 16); Serial.print(b);",
               "char b[12]; itoa(i(5), b, 2); Serial.print(b); ultoa(ul(4000000000UL), b, 10); "
               "Serial.print(b);",
               "const char* t = \"abc\"; const char* e = t + strlen(t); Serial.print(e - t);",
               "char b[] = \"x1y2\"; for (char* p = b; *p; p++) if (*p >= '0' && *p <= '9') Serial.print(*p - "
               "'0');",
               "char b[4]; b[0] = 'a' + i(2); b[1] = b[0] - 1; b[2] = '\\0'; Serial.print(b);",
               "Serial.print(F(\"kept in flash\")); Serial.print(String(i(5)) == \"5\");",
               "Serial.print(\"a\" + String('b') + i(3) + l(4) + f(1.5)); Serial.print(String(u(255), BIN));",
           };
    QTest::newRow("ports to which nobody writes, and places in memory")
        << known_late + "struct Kept { int gain; float offset; byte tag[2]; };\nchar text[12];\n"
        << QStringList{
               "Serial.print(Serial.available()); Serial.print(Serial.read()); Serial.print(Serial.peek());",
               "if (Serial.read() == -1) Serial.print(\"none\"); int c = Serial.read(); Serial.print(c < 0);",
               "char c = Serial.read(); Serial.print((int)c); while (Serial.available() > i(0)) Serial.print('x');",
               "strcpy(text, \"humidity\"); text[i(0)] = 'H'; text[8] = '!'; text[9] = 0; Serial.print(text);",
               "strcpy(text, \"level\"); text[i(2)] = 0; Serial.print(text); Serial.print(strlen(text + 3));",
               "strcpy(text + i(2), \"cd\"); text[0] = 'a'; text[1] = 'b'; Serial.print(text); "
               "Serial.print(text[3]);",
               "sprintf(text, \"%d\", i(123)); text[i(1)]++; Serial.print(text); Serial.print(text[2] - '0');",
               "char b[6] = \"abc\"; b[3] = 'd'; b[4] = 0; Serial.print(b); b[1] = 0; Serial.print(b); "
               "Serial.print(b + 2);",
               "char a[6] = \"one\", b[6]; memcpy(b, a, i(4)); a[0] = 'O'; Serial.print(b); Serial.print(a);",
               "char b[4][6] = {\"one\", \"two\"}; b[i(1)][0] = 'T'; Serial.print(b[0]); Serial.print(b[1]); "
               "Serial.print(b[2][0] == 0);",
               "Kept a = {i(1), f(2), {3, 4}}, b = a; b.tag[i(0)] = 9; Serial.print(a.tag[0]); "
               "Serial.print(b.tag[0]); a = b; Serial.print(a.tag[0]);",
               "Kept many[2] = {{1, 2, {3, 4}}, {5, 6, {7, 8}}}; many[i(0)] = many[1]; many[1].gain = 0; "
               "Serial.print(many[0].gain); Serial.print(many[0].tag[1]);",
               "byte b[3] = {1, 2, 3}; byte* p = b + i(1); *p = 20; p[1] = 30; p[-1] = 10; Serial.print(b[0] + "
               "b[1] + b[2]);",
               "int x = i(5); int* p = &x; int** q = &p; **q = 7; Serial.print(x); int& r = **q; r++; "
               "Serial.print(*p);",
               "Serial.print(highByte(i(0x1234))); Serial.print(lowByte(u(0xABCD))); Serial.print(word(i(1), 2)); "
               "Serial.print(makeWord(2, i(3)));",
               "Serial.print(bitRead(i(6), 1)); Serial.print(bitRead(6, i(3))); byte b = 0; bitSet(b, i(3)); "
               "bitClear(b, 3); bitWrite(b, 2, i(1)); Serial.print(b); Serial.print(bit(i(5)));",
               "Serial.print(sq(i(12))); Serial.print(radians(f(180)), 4); Serial.print(degrees(f(1)), 3); "
               "Serial.print(round(f(2.5)));",
               "Serial.print(fmod(f(7.5), 2), 2); Serial.print(fmin(f(1), 2)); Serial.print(fmax(f(1), f(-2))); "
               "Serial.print(hypot(f(3), 4)); Serial.print(trunc(f(-2.7)));",
               "Serial.print(log(f(2)), 4); Serial.print(log10(f(50)), 4); Serial.print(exp(f(-1)), 4); "
               "Serial.print(atan2(f(1), -1), 4); Serial.print(asin(f(0.5)), 4);",
               "Serial.print(sinh(f(1)), 3); Serial.print(cosh(f(1)), 3); Serial.print(tanh(f(1)), 4); "
               "Serial.print(cbrt(f(27)), 3); Serial.print(sin(f(-1)), 4); Serial.print(cos(f(2)), 4);",
           };
}

} // namespace cognitum::test
