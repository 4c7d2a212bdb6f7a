// The whole window in a language that nobody speaks: what was forgotten, and what has no room when words grow.
#include "core/units/unit.h"
#include "support/places.h"
#include "support/pseudo_language.h"
#include "support/run_tests.h"

#include <QAccessible>
#include <QAccessibleInterface>
#include <QLineEdit>
#include <QSettings>
#include <QTableWidget>
#include <QTreeWidget>
#include <set>

using namespace cognitum;
using namespace cognitum::test;

namespace {

/// Outside of all brackets.
QString unbracketed(const QString& text) {
    QString out;
    int depth = 0;
    for (const QChar c : text) {
        depth += c == u'⟦';
        if (depth == 0) out += c;
        depth -= c == u'⟧' && depth > 0;
    }
    return out;
}

void collect(const Json& json, std::set<QString>& out) {
    static const std::set<std::string> given = {"name", "place", "group", "expected_when", "label", "line"};
    if (!json.is_structured()) return;
    for (const auto& [key, inner] : json.items()) {
        if (json.is_object() && given.count(key) && inner.is_string())
            out.insert(QString::fromStdString(inner.get<std::string>()));
        collect(inner, out);
    }
}

/// What people named in the bench, and what stands on boards and parts: alike in all languages. Longest first.
std::vector<QString> names_in(TestWindow& w) {
    const Session& session = w.clocked.session;
    std::set<QString> all;
    collect(bench_json(session.bench()), all);
    all.insert(QString::fromStdString(session.bench().name));
    for (const BoardCard& card : session.catalog().boards) {
        for (const Rail& rail : card.rails)
            all.insert(QString::fromStdString(rail.label));
        for (const Pin& pin : card.pins)
            all.insert(QString::fromStdString(pin.label));
    }
    for (const PartCard& card : session.catalog().parts)
        for (const Leg& leg : card.legs)
            all.insert(QString::fromStdString(leg.label));
    std::vector<QString> out;
    for (const QString& name : all)
        if (name.size() > 2) out.push_back(name);
    std::sort(out.begin(), out.end(), [](const QString& a, const QString& b) { return a.size() > b.size(); });
    return out;
}

/// Abbreviations, keys, symbols and the names of file types.
bool is_alike_everywhere(const QString& word) {
    static const std::set<QString> known = {
        "Cognitum", "USB",  "MQTT", "TLS",  "CSV",   "PDF",  "JSON", "SVG", "HTTP",    "SDA",     "SCL",
        "SPI",      "GND",  "VIN",  "UTC",  "Ctrl",  "mol",  "hPa",  "kPa", "lux",     "min",     "max",
        "psi",      "bar",  "NTU",  "ppm",  "ohm",   "kohm", "MHz",  "kHz", "Monte",   "bits",    "seq",
        "temp",     "help", "csv",  "html", "pdf",   "png",  "ino",  "cpp", "Deutsch", "English", "gal",
        "imp",      "GUM",  "JCGM", "loop", "setup", "pH",   "dBA",  "DT",  "SCK"};
    // Dates are the locale's; ui.language looks at them.
    const QLocale c = QLocale::c();
    for (int day = 1; day <= 7; ++day)
        if (c.dayName(day, QLocale::ShortFormat) == word || c.dayName(day) == word) return true;
    for (int month = 1; month <= 12; ++month)
        if (c.monthName(month, QLocale::ShortFormat) == word || c.monthName(month) == word) return true;
    return known.count(word) > 0;
}

class Forgotten {
  public:
    explicit Forgotten(TestWindow& w) : m_names(names_in(w)) {}
    void look(const QString& place, const QString& what, const QString& text) {
        QString rest = unbracketed(text);
        for (const QString& name : m_names)
            rest.replace(name, QStringLiteral(" "));
        static const QRegularExpression word(QStringLiteral("[A-Za-zÀ-ž]{3,}"));
        for (auto found = word.globalMatch(rest); found.hasNext();) {
            const QString w = found.next().captured();
            if (is_alike_everywhere(w)) continue;
            lines.insert(what + QStringLiteral(": ") + text.left(110) + QStringLiteral(" [") + w +
                         QStringLiteral("] · ") + place);
            return;
        }
        static const QRegularExpression point(QStringLiteral("(^|[\\s±−(])\\d+\\.\\d+\\s?(\u202f|°|%|V|$)"));
        if (point.match(rest).hasMatch())
            lines.insert(what + ": a decimal point in " + text.left(80) + " · " + place);
    }
    std::set<QString> lines;

  private:
    std::vector<QString> m_names;
};

void look_at(QWidget* widget, const QString& place, Forgotten& found) {
    const QString who = named(widget);
    if (const auto* label = qobject_cast<const QLabel*>(widget)) found.look(place, who, label->text());
    if (const auto* button = qobject_cast<const QAbstractButton*>(widget)) found.look(place, who, button->text());
    if (const auto* field = qobject_cast<const QLineEdit*>(widget)) {
        found.look(place, who + " placeholder", field->placeholderText());
        found.look(place, who, field->text());
    }
    if (const auto* box = qobject_cast<const QComboBox*>(widget))
        for (int i = 0; i < box->count(); ++i)
            found.look(place, who, box->itemText(i));
    if (auto* table = qobject_cast<QTableWidget*>(widget)) {
        for (int c = 0; c < table->columnCount(); ++c)
            if (const auto* head = table->horizontalHeaderItem(c)) found.look(place, who + " head", head->text());
        for (int r = 0; r < table->rowCount(); ++r)
            for (int c = 0; c < table->columnCount(); ++c)
                if (const auto* item = table->item(r, c)) found.look(place, who, item->text());
    }
    found.look(place, who + " tip", widget->toolTip());
    if (const QAccessibleInterface* access = QAccessible::queryAccessibleInterface(widget)) {
        found.look(place, who + " name", access->text(QAccessible::Name));
        if (widget->inherits("cognitum::Spoken") ||
            QByteArray(widget->metaObject()->className()).startsWith("cognitum"))
            found.look(place, who + " spoken", access->text(QAccessible::Description));
    }
}

/// Code, lines of boards, cards as JSON and the help are shown as they are.
bool shows_a_file(const QWidget* w) {
    for (const QWidget* up = w; up; up = up->parentWidget())
        if (up->inherits("cognitum::CodeListing") || up->inherits("cognitum::RawLines") ||
            up->inherits("cognitum::HelpPanel") || up->objectName() == "rawLines" ||
            up->objectName() == "publishTopic" || up->objectName().startsWith("sender_"))
            return true;
    return false;
}

} // namespace

class TestPseudoLanguage : public QObject {
    Q_OBJECT

  private slots:
    void initTestCase() {
        Theme theme; // what it installs comes before
        theme.apply();
        speak_pseudo();
    }
    void init() { QSettings().clear(); }

    void everySentenceGoesThroughTheDoor() {
        TestWindow w;
        w.openDemo();
        w.lines(5, 138);
        Forgotten found(w);
        for (const auto& [place, go] : places()) {
            go(w);
            w.refresh();
            for (QWidget* widget : w.window.findChildren<QWidget*>())
                if (widget->isVisible() && !shows_a_file(widget)) look_at(widget, place, found);
        }
        for (const QAction* action : w.window.findChildren<QAction*>())
            found.look("menu", action->objectName(), action->text());
        for (const QString& line : found.lines) // one by one: the test's own message is cut
            qWarning("%s", qPrintable(line));
        QCOMPARE(found.lines.size(), std::size_t(0));
    }

    void nothingIsCutWhenWordsGrow() {
        const QSize size(1280, 800);
        TestWindow w;
        w.openDemo();
        w.clocked.session.worker().startRecording();
        w.lines(5, 138);
        w.window.resize(size);
        QStringList cut;
        for (const auto& [place, go] : places()) {
            go(w);
            for (int round = 0; round < 3;
                 ++round) { // columns that are stacked take their places one inside the other
                w.refresh();
                QApplication::processEvents();
            }
            cut << what_is_cut(w, size, place);
        }
        cut.removeDuplicates();
        for (const QString& line : cut)
            qWarning("%s", qPrintable(line));
        QCOMPARE(cut.size(), 0);
    }
};

RUN_TESTS_OF(TestPseudoLanguage)
#include "tst_pseudo_language.moc"
