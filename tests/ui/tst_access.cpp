// For eyes, hands and readers of screens that differ: names of what is painted, focus that is seen, contrast, large
// text.
#include "support/places.h"
#include "support/run_tests.h"
#include "ui/theme.h"

#include <QAbstractButton>
#include <QAccessible>
#include <QAccessibleInterface>
#include <QScrollArea>
#include <QSettings>
#include <cmath>
#include <set>

using namespace cognitum;
using namespace cognitum::test;

namespace {

/// Relative luminance (WCAG 2.1).
double luminance(const QColor& c) {
    const auto linear = [](double v) { return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); };
    return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF());
}

double contrast(const QColor& a, const QColor& b) {
    const double one = luminance(a), two = luminance(b);
    return (std::max(one, two) + 0.05) / (std::min(one, two) + 0.05);
}

/// Where a widget is seen at all: not scrolled out, not covered by nothing.
bool is_seen(const QWidget* w) {
    return w->isVisible() && !w->visibleRegion().isEmpty();
}

} // namespace

class TestAccess : public QObject {
    Q_OBJECT

  private slots:
    void init() { QSettings().clear(); }

    void everythingThatIsReachedHasAName() {
        TestWindow w;
        w.openDemo();
        w.lines(5, 138);
        QStringList nameless;
        for (const auto& [place, go] : places_and_links()) {
            go(w);
            w.refresh();
            for (QWidget* widget : w.window.findChildren<QWidget*>()) {
                if (!widget->isVisible() || !(widget->focusPolicy() & Qt::TabFocus) || !widget->isEnabled())
                    continue;
                if (qobject_cast<QScrollArea*>(widget) || widget->inherits("QScrollBar")) continue;
                if (widget->objectName() == "qt_spinbox_lineedit") continue; // its box has the name
                QAccessibleInterface* access = QAccessible::queryAccessibleInterface(widget);
                if (!access || access->text(QAccessible::Name).isEmpty()) nameless << place + ": " + named(widget);
            }
        }
        QVERIFY2(nameless.isEmpty(), qPrintable(nameless.join('\n')));
    }

    /// What is painted by hand says in words what it shows; marks and lines stand beside words that do.
    void whatIsPaintedIsSaid() {
        TestWindow w;
        w.openDemo();
        w.lines(5, 138);
        const std::set<QByteArray> beside_words = {"cognitum::RuleLine", "cognitum::MarkLabel",
                                                   "cognitum::TextLabel", "cognitum::NumberField",
                                                   "cognitum::LiveLabel"};
        QStringList silent;
        for (const auto& [place, go] : places_and_links()) {
            go(w);
            w.refresh();
            for (QWidget* widget : w.window.findChildren<QWidget*>()) {
                const QByteArray type = widget->metaObject()->className();
                const bool leaf = widget->findChildren<QWidget*>(Qt::FindDirectChildrenOnly).isEmpty();
                if (!widget->isVisible() || !type.startsWith("cognitum::") || !leaf || beside_words.count(type))
                    continue;
                QAccessibleInterface* access = QAccessible::queryAccessibleInterface(widget);
                const bool said = access && !access->text(QAccessible::Name).isEmpty() &&
                                  (!access->text(QAccessible::Description).isEmpty() ||
                                   !access->text(QAccessible::Value).isEmpty() || access->childCount() > 0);
                if (!said) silent << place + ": " + named(widget);
            }
        }
        QVERIFY2(silent.isEmpty(), qPrintable(silent.join('\n')));
    }

    void focusIsSeen() {
        TestWindow w;
        w.openDemo();
        QApplication::setActiveWindow(&w.window);
        QStringList unseen;
        for (const auto& [place, go] : places_and_links()) {
            go(w);
            w.refresh();
            for (QWidget* widget : w.window.findChildren<QWidget*>()) {
                if (!is_seen(widget) || !widget->isEnabled() || !(widget->focusPolicy() & Qt::TabFocus)) continue;
                if (qobject_cast<QScrollArea*>(widget) || widget->inherits("QScrollBar")) continue;
                if (QWidget* before = QApplication::focusWidget()) before->clearFocus();
                const QImage without = widget->grab().toImage();
                widget->setFocus(Qt::TabFocusReason);
                if (!widget->hasFocus()) continue; // a proxy has it
                QImage with = widget->grab().toImage();
                if (with == without) { // a painted list may show it once a line is chosen
                    QTest::keyClick(widget, Qt::Key_Down);
                    with = widget->grab().toImage();
                }
                if (with == without) unseen << place + ": " + named(widget);
            }
        }
        unseen.removeDuplicates();
        QVERIFY2(unseen.isEmpty(), qPrintable(unseen.join('\n')));
    }

    void tabReachesEverything() {
        TestWindow w;
        w.openDemo();
        QApplication::setActiveWindow(&w.window);
        w.window.showPage("settings");
        w.refresh();
        std::set<QWidget*> wanted;
        for (QWidget* widget : w.window.findChildren<QWidget*>())
            if (widget->isVisible() && widget->isEnabled() && (widget->focusPolicy() & Qt::TabFocus) &&
                !qobject_cast<QScrollArea*>(widget))
                wanted.insert(widget);
        std::set<QWidget*> reached;
        w.find<QWidget>("settingColours")->setFocus();
        for (int i = 0; i < 300; ++i) {
            if (QWidget* now = QApplication::focusWidget()) reached.insert(now);
            QTest::keyClick(&w.window, Qt::Key_Tab);
        }
        QStringList missed;
        for (QWidget* widget : wanted)
            if (!reached.count(widget)) missed << named(widget);
        QVERIFY2(missed.isEmpty(), qPrintable(missed.join('\n')));
    }

    /// In a column of a page Tab goes downwards, whenever its parts were made.
    void tabGoesDownThePage() {
        TestWindow w;
        w.openDemo();
        w.lines(5, 138);
        QApplication::setActiveWindow(&w.window);
        QStringList upwards;
        for (const auto& [place, go] : places_and_links()) {
            go(w);
            w.refresh();
            const auto pages = w.window.findChildren<QWidget*>("page");
            const auto seen = std::find_if(pages.begin(), pages.end(), is_seen);
            if (seen == pages.end()) continue;
            QWidget* sheet = *seen;
            const auto on_page = [&](const QWidget* widget) {
                return sheet->isAncestorOf(widget) && widget->isVisible() && widget->isEnabled() &&
                       (widget->focusPolicy() & Qt::TabFocus) && !qobject_cast<const QScrollArea*>(widget) &&
                       !widget->inherits("QScrollBar");
            };
            std::vector<QWidget*> order;
            for (QWidget* at = w.window.nextInFocusChain(); order.empty() && at != &w.window;
                 at = at->nextInFocusChain())
                if (on_page(at)) order.push_back(at);
            if (order.empty()) continue;
            order.front()->setFocus();
            do {
                QTest::keyClick(QApplication::focusWidget(), Qt::Key_Tab);
                order.push_back(QApplication::focusWidget());
            } while (on_page(order.back()) && order.back() != order.front() && order.size() < 300);
            order.pop_back();
            for (std::size_t i = 1; i < order.size(); ++i) {
                const QRect before(order[i - 1]->mapTo(sheet, QPoint()), order[i - 1]->size());
                const QRect now(order[i]->mapTo(sheet, QPoint()), order[i]->size());
                const bool same_column = now.left() < before.right() && before.left() < now.right();
                if (same_column && now.bottom() < before.top())
                    upwards << QStringLiteral("%1: %2 after %3").arg(place, named(order[i]), named(order[i - 1]));
            }
        }
        upwards.removeDuplicates();
        QVERIFY2(upwards.isEmpty(), qPrintable(upwards.join('\n')));
    }

    void coloursStandOut() {
        Theme theme;
        for (const bool dark : {false, true}) {
            theme.setDark(dark);
            theme.apply();
            const Tokens& t = theme.colours();
            const std::pair<const char*, QColor> texts[] = {
                {"ink", t.ink},   {"soft", t.soft}, {"accent", t.accent}, {"good", t.good},
                {"look", t.look}, {"bad", t.bad},   {"note", t.note}};
            const std::pair<const char*, QColor> grounds[] = {
                {"paper", t.paper}, {"sheet", t.sheet}, {"selected", t.selected}, {"tint", t.tint}};
            for (const auto& [text, colour] : texts)
                for (const auto& [ground, behind] : grounds)
                    QVERIFY2(contrast(colour, behind) >= 4.5,
                             qPrintable(QStringLiteral("%1 on %2, %3: %4")
                                            .arg(text, ground, dark ? "dark" : "light")
                                            .arg(contrast(colour, behind), 0, 'f', 2)));
            QVERIFY(contrast(t.sheet, t.accent) >= 4.5); // the main button
            const QPalette palette = QApplication::palette();
            QVERIFY(contrast(palette.color(QPalette::HighlightedText), palette.color(QPalette::Highlight)) >= 4.5);
            QVERIFY(contrast(palette.color(QPalette::ToolTipText), palette.color(QPalette::ToolTipBase)) >= 4.5);
        }
        // The chosen line of a drop-down, as it is painted.
        theme.setDark(false);
        theme.apply();
        QComboBox box;
        box.addItems({"one", "two", "three"});
        box.show();
        box.showPopup();
        box.view()->setCurrentIndex(box.model()->index(1, 0));
        const QImage seen = box.view()->grab(box.view()->visualRect(box.model()->index(1, 0))).toImage();
        QColor darkest = Qt::white, lightest = Qt::black;
        for (int y = 0; y < seen.height(); ++y)
            for (int x = 0; x < seen.width(); ++x) {
                const QColor c = seen.pixelColor(x, y);
                if (luminance(c) < luminance(darkest)) darkest = c;
                if (luminance(c) > luminance(lightest)) lightest = c;
            }
        QVERIFY2(contrast(darkest, lightest) >= 4.5, qPrintable(darkest.name() + " on " + lightest.name()));
    }

    /// 200 % on 1280 × 800, and the smallest usual screen: nothing scrolls sideways, and no word is cut.
    void textFits_data() {
        QTest::addColumn<double>("scale");
        QTest::addColumn<QSize>("size");
        QTest::newRow("large text") << 2.0 << QSize(1280, 800);
        QTest::newRow("small window") << 1.0 << QSize(1024, 700);
        QTest::newRow("as designed") << 1.0 << QSize(1280, 800);
    }
    void textFits() {
        QFETCH(double, scale);
        QFETCH(QSize, size);
        TestWindow w;
        w.openDemo();
        w.clocked.session.worker().startRecording();
        w.lines(5, 138);
        w.theme.setScale(scale);
        w.window.resize(size);
        QStringList cut;
        for (const auto& [place, go] : places()) {
            go(w);
            w.refresh();
            QApplication::processEvents();
            w.refresh();
            cut << what_is_cut(w, size, place);
        }
        // Each reading of the bench at each stop, where other parts bring other words.
        for (const Reading& reading : w.clocked.session.bench().readings)
            for (int stop = 0; stop < 7; ++stop) {
                w.window.context().selectReading(reading.id);
                w.window.showStop(stop);
                w.refresh();
                QApplication::processEvents();
                cut << what_is_cut(
                    w, size, QStringLiteral("%1 of %2").arg(stop + 1).arg(QString::fromStdString(reading.id)));
            }
        cut.removeDuplicates();
        QVERIFY2(cut.isEmpty(), qPrintable(cut.join('\n')));
    }
};

RUN_TESTS_OF(TestAccess)
#include "tst_access.moc"
