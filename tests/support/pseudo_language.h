// A language that nobody speaks: every sentence stands in ⟦brackets⟧ and is 40 % longer. What has no brackets was
// forgotten, and what has no room is cut.
#pragma once

#include "core/base/phrase.h"

#include <QCoreApplication>
#include <QTranslator>
#include <mutex>
#include <unordered_set>

namespace cognitum::test {

inline QString pseudo(const QString& english) {
    if (english.trimmed().isEmpty()) return english;
    qsizetype first = 0, last = english.size();
    while (first < last && english[first].isSpace())
        ++first;
    while (last > first && english[last - 1].isSpace())
        --last;
    QString grown;
    for (int i = 0; i < (last - first) * 4 / 10; ++i)
        grown += i % 9 == 8 ? QChar(' ') : QChar(u'~'); // words of nine letters
    return english.left(first) + u'⟦' + english.mid(first, last - first) + grown + u'⟧' + english.mid(last);
}

class PseudoTranslator : public QTranslator {
  public:
    using QTranslator::QTranslator;
    [[nodiscard]] QString translate(const char* context, const char* source, const char*, int) const override {
        // The form of a date is no sentence.
        return qstrcmp(context, "Dates") == 0 ? QString() : pseudo(QString::fromUtf8(source));
    }
    [[nodiscard]] bool isEmpty() const override { return false; }
};

/// For the rest of the program. Numbers have a decimal comma.
inline void speak_pseudo() {
    QCoreApplication::installTranslator(new PseudoTranslator(QCoreApplication::instance()));
    set_language({[](const char* english, long) -> const char* {
                      static std::mutex mutex;
                      static std::unordered_set<std::string> kept;
                      const std::scoped_lock lock(mutex);
                      return kept.insert(pseudo(QString::fromUtf8(english)).toStdString()).first->c_str();
                  },
                  [](const std::string& english) {
                      return english.empty() ? english : pseudo(QString::fromStdString(english)).toStdString();
                  },
                  ",", false});
}

} // namespace cognitum::test
