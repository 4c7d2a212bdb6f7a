// The language of the program: its sentences, numbers and dates on the screen.
#pragma once

#include <QDateTime>
#include <QString>
#include <vector>

namespace cognitum {

struct LanguageChoice {
    QString code; ///< "de"; stands in the settings
    QString name; ///< in the language itself
};
/// English and those that are translated.
const std::vector<LanguageChoice>& languages();

/// Puts a language on the whole program, once, before anything is said and before other threads begin; empty, or
/// one that is not there: that of the desktop, else English. Numbers follow the desktop's locale, where it is of
/// that language or the language has no other wish; names of months follow the language.
void speak(const QString& code);
/// The two halves of speak(), for a start that reads cards while there is no application yet: sentences of the
/// core, numbers and dates; then, with an application, what Qt's tr() says.
void choose_language(const QString& code);
void install_language();
/// What a person chose for this computer; empty: the desktop's.
QString wished_language();
/// What speak() chose: "en", "de"; empty before.
QString spoken_language();

/// A moment as a person of this language writes it: "3 Nov, 09:30", "3. Nov., 09:30". `form` is one of date_forms
/// in language.cpp.
QString date_said(const QDateTime& time, const char* form);
QString date_said(qint64 time_us, const char* form);

} // namespace cognitum
