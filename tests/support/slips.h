// Slips of the pen in a program: one word, one number or one line is another.
#pragma once

#include <QRegularExpression>
#include <QString>
#include <QStringList>
#include <algorithm>
#include <map>
#include <random>
#include <vector>

namespace cognitum::test {

struct Slip {
    int line = 0;
    QString was, is; ///< empty `is`: the line is left out
    QByteArray text; ///< of the whole program
};

/// What a hand makes of a number: two digits change places, the point is lost, a digit comes twice or is another.
inline QString slipped_number(const QString& number, unsigned way) {
    QString out = number;
    const int at = static_cast<int>(out.indexOf(QRegularExpression("[0-9]"), out.startsWith("0x") ? 2 : 0));
    if (at < 0) return out;
    if (way == 0 && at + 1 < out.size() && out[at + 1].isDigit())
        std::swap(out[at], out[at + 1]);
    else if (way <= 1 && out.contains('.'))
        out.remove('.');
    else if (way <= 2)
        out.insert(at, out[at]);
    else
        out[at] = out[at] == '9' ? QChar('4') : QChar(out[at].unicode() + 1);
    return out;
}

inline const std::map<QString, QString> other_word = {
    {"HIGH", "LOW"},      {"LOW", "HIGH"},       {"INPUT_PULLUP", "INPUT"},
    {"INPUT", "OUTPUT"},  {"OUTPUT", "INPUT"},   {"long", "int"},
    {"float", "int"},     {"double", "long"},    {"volatile", ""},
    {"unsigned", ""},     {"A1", "A2"},          {"A2", "A1"},
    {"A0", "A1"},         {"millis", "micros"},  {"micros", "millis"},
    {"const", ""},        {"FALLING", "RISING"}, {"RISING", "FALLING"},
    {"if", "while"},      {"log", "log10"},      {"delay", "delayMicroseconds"},
    {"println", "print"}, {"print", "println"},  {"break", ""},
};
inline const std::map<QString, QString> other_sign = {
    {"+", "-"},   {"-", "+"},  {"*", "/"},   {"/", "*"},  {"<", ">"}, {">", "<"}, {"==", "="},
    {"++", "--"}, {"&", "&&"}, {"&&", "||"}, {"+=", "="}, {"%", "/"}, {"!", ""}};

/// Every slip that this knows, in the order of the text, lines that are left out last.
inline std::vector<Slip> slips_of(const QByteArray& program) {
    static const QRegularExpression token(R"(//[^\n]*|#include[^\n]*|"(?:[^"\\\n]|\\.)*"|'(?:[^'\\]|\\.)'|)"
                                          R"(0x[0-9A-Fa-f]+|\d+\.?\d*|\w+|<<|>>|[-+*/<>=!&|]=|\+\+|--|&&|\|\||\S)");
    const QString text = QString::fromUtf8(program);
    std::vector<Slip> out;
    auto matches = token.globalMatch(text);
    for (unsigned way = 0; matches.hasNext(); way = (way + 1) % 4) {
        const auto match = matches.next();
        const QString was = match.captured();
        QString is = was;
        if (was[0].isDigit())
            is = slipped_number(was, way);
        else if (const auto word = other_word.find(was); word != other_word.end())
            is = word->second;
        else if (const auto sign = other_sign.find(was); sign != other_sign.end())
            is = sign->second;
        if (is == was) continue;
        const int line = static_cast<int>(text.left(match.capturedStart()).count('\n')) + 1;
        QString changed = text;
        out.push_back({line, was, is, changed.replace(match.capturedStart(), was.size(), is).toUtf8()});
    }
    const QStringList lines = text.split('\n');
    for (int i = 1; i < lines.size(); ++i)
        if (lines[i].startsWith("    ") && lines[i].endsWith(';') && lines[i].contains('(')) {
            QStringList left = lines;
            left[i].clear();
            out.push_back({i + 1, lines[i].trimmed(), "", left.join('\n').toUtf8()});
        }
    return out;
}

/// `count` of them, drawn; the same each time.
inline std::vector<Slip> drawn_slips(const QByteArray& program, std::size_t count, std::mt19937& drawn) {
    std::vector<Slip> all = slips_of(program);
    std::vector<Slip> out;
    std::sample(all.begin(), all.end(), std::back_inserter(out), count, drawn);
    return out;
}

} // namespace cognitum::test
