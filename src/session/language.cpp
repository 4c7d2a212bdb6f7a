#include "session/language.h"

#include "core/base/phrase.h"
#include "core/base/phrase_book.h"

#include <QCoreApplication>
#include <QFile>
#include <QLibraryInfo>
#include <QLocale>
#include <QSettings>
#include <QTranslator>
#include <algorithm>
#include <memory>
#include <mutex>
#include <unordered_map>
#include <unordered_set>

// Resources of a static library are only there when they are asked for, from outside any namespace.
static void load_translations() {
    Q_INIT_RESOURCE(translations);
}

namespace cognitum {

namespace {

QTranslator* sentences = nullptr; ///< of the language that is spoken
QString chosen;                   ///< empty: nothing is spoken yet
QLocale names;                    ///< of days and months

/// The forms that date_said() is asked for, as QDateTime::toString() has them.
[[maybe_unused]] constexpr const char* date_forms[] = {
    QT_TRANSLATE_NOOP("Dates", "d MMM"),
    QT_TRANSLATE_NOOP("Dates", "d MMM HH:mm"),
    QT_TRANSLATE_NOOP("Dates", "d MMM HH:mm:ss"),
    QT_TRANSLATE_NOOP("Dates", "d MMM yyyy HH:mm"),
    QT_TRANSLATE_NOOP("Dates", "d MMM yyyy, HH:mm"),
    QT_TRANSLATE_NOOP("Dates", "d MMM yyyy HH:mm:ss"),
    QT_TRANSLATE_NOOP("Dates", "d MMMM HH:mm"),
    QT_TRANSLATE_NOOP("Dates", "d MMMM yyyy"),
    QT_TRANSLATE_NOOP("Dates", "MMM"),
    QT_TRANSLATE_NOOP("Dates", "ddd d MMM, HH:mm"),
    QT_TRANSLATE_NOOP("Dates", "ddd d MMM HH:mm:ss"),
    QT_TRANSLATE_NOOP("Dates", "HH:mm"),
    QT_TRANSLATE_NOOP("Dates", "ddd d MMM, HH:mm:ss"),
    QT_TRANSLATE_NOOP("Dates", "d MMMM"),
    QT_TRANSLATE_NOOP("Dates", "d MMM yyyy"),
    QT_TRANSLATE_NOOP("Dates", "d"),
    QT_TRANSLATE_NOOP("Dates", "MMM yyyy"),
    QT_TRANSLATE_NOOP("Dates", "yyyy"),
    QT_TRANSLATE_NOOP("Dates", "HH:mm:ss"),
};

/// Sentences of the core, kept for as long as the program runs: whoever holds one may hold it for ever. A text that
/// is none is handed back and not kept: texts of a file come by here as well, and there is no end of them.
class CoreSentences {
  public:
    const char* find(const char* english, long n) {
        const std::scoped_lock lock(m_mutex);
        if (n < 0)
            if (const auto known = m_known.find(english); known != m_known.end()) return known->second;
        const QString said = sentences->translate("core", english, nullptr, static_cast<int>(n));
        if (said.isEmpty()) return english;
        const std::string& kept = *m_kept.insert(said.toStdString()).first;
        if (n < 0) m_known.emplace(*m_kept.emplace(english).first, kept.c_str());
        return kept.c_str();
    }

  private:
    std::mutex m_mutex;
    std::unordered_map<std::string_view, const char*> m_known; ///< keys are in m_kept
    std::unordered_set<std::string> m_kept;
};

const char* say_phrase(const char* english, long n) {
    static CoreSentences known;
    return known.find(english, n);
}

std::string say_again(const std::string& english) {
    static const PhraseBook book = [] {
        QFile list(QStringLiteral(":/translations/phrases.txt"));
        return PhraseBook(list.open(QIODevice::ReadOnly) ? list.readAll().toStdString() : std::string());
    }();
    return book.say(english);
}

/// A translator into the chosen language; null: there is no such file.
QTranslator* loaded(const QString& name, const QString& folder) {
    auto translator = std::make_unique<QTranslator>();
    return translator->load(name + chosen, folder) ? translator.release() : nullptr;
}

} // namespace

const std::vector<LanguageChoice>& languages() {
    static const std::vector<LanguageChoice> all = {{QStringLiteral("en"), QStringLiteral("English")},
                                                    {QStringLiteral("de"), QStringLiteral("Deutsch")}};
    return all;
}

void choose_language(const QString& code) {
    load_translations();
    const QLocale desktop = QLocale::system();
    const auto there = [](const QString& wanted) {
        return std::any_of(languages().begin(), languages().end(),
                           [&](const LanguageChoice& choice) { return choice.code == wanted; });
    };
    const QString own = QLocale::languageToCode(desktop.language());
    chosen = there(code) ? code : there(own) ? own : QStringLiteral("en");
    // Of a desktop in another language the numbers stay those that its person reads everywhere else.
    QLocale::setDefault(code.isEmpty() || code == own || !there(code) ? desktop : QLocale(chosen));
    names = QLocale(chosen).language() == desktop.language() ? desktop : QLocale(chosen);
    sentences = loaded(QStringLiteral("cognitum_"), QStringLiteral(":/translations"));
    static const std::string sign = QLocale().decimalPoint().toStdString();
    const bool english = chosen == QStringLiteral("en");
    set_language({english || !sentences ? nullptr : say_phrase, english && sign == "." ? nullptr : say_again, sign,
                  chosen == QStringLiteral("de")});
}

void install_language() {
    for (QTranslator* translator :
         {loaded(QStringLiteral("qtbase_"), QLibraryInfo::path(QLibraryInfo::TranslationsPath)), sentences}) {
        if (!translator) continue;
        translator->setParent(QCoreApplication::instance());
        QCoreApplication::installTranslator(translator);
    }
}

void speak(const QString& code) {
    choose_language(code);
    install_language();
}

QString wished_language() {
    return QSettings().value(QStringLiteral("language")).toString();
}

QString spoken_language() {
    return chosen;
}

QString date_said(const QDateTime& time, const char* form) {
    return names.toString(time, QCoreApplication::translate("Dates", form));
}

QString date_said(qint64 time_us, const char* form) {
    return date_said(QDateTime::fromMSecsSinceEpoch(time_us / 1000), form);
}

} // namespace cognitum
