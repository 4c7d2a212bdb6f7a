// Every place of the window, for tests that look at all of them, and what has no room there.
#pragma once

#include "support/test_window.h"

#include <QAbstractButton>
#include <QComboBox>
#include <QLineEdit>
#include <QPushButton>
#include <QRegularExpression>
#include <QScrollArea>
#include <QStyleOptionFrame>
#include <QTableWidget>

namespace cognitum::test {

inline QString named(const QWidget* w) {
    return QStringLiteral("%1 \"%2\"").arg(QLatin1String(w->metaObject()->className()), w->objectName());
}

/// Every stop of a reading that has one, and every page.
inline const std::vector<std::pair<QString, std::function<void(TestWindow&)>>>& places() {
    static std::vector<std::pair<QString, std::function<void(TestWindow&)>>> out;
    if (!out.empty()) return out;
    const char* readings[] = {"cistern", "tide-pool", "tide-pool", "hut-air", "hut-air", "hut-air", "cistern"};
    for (int stop = 0; stop < 7; ++stop)
        out.emplace_back(QStringLiteral("stop %1").arg(stop + 1), [stop, id = readings[stop]](TestWindow& w) {
            w.window.context().selectReading(id);
            w.window.showStop(stop);
        });
    const struct {
        const char *reading, *tab;
        int stop;
    } tabs[] = {
        {"rain", "tabPulses", 4},         {"tide-pool", "tabConstants", 4}, {"conductivity", "tabConstants", 4},
        {"rock", "tabConstants", 4},      {"cistern", "tabMeter", 4},       {"hut-air", "tabSender", 4},
        {"tide-pool", "tabSender", 4},    {"hut-air", "tabBringUp", 3},     {"rock", "tabFault", 3},
        {"hut-air", "watchTabBands", 6},  {"bed-4", "watchTabLoads", 6},    {"cistern", "watchTabTold", 6},
        {"cistern", "watchTabTelling", 6}};
    for (const auto& t : tabs)
        out.emplace_back(QStringLiteral("%1 of %2").arg(QLatin1String(t.tab), QLatin1String(t.reading)),
                         [t](TestWindow& w) {
                             w.window.context().selectReading(t.reading);
                             w.window.showStop(t.stop);
                             w.refresh();
                             w.click(t.tab);
                         });
    for (const char* page : {"overview", "boards", "logbook", "sessions", "findings", "settings", "new"})
        out.emplace_back(page, [page](TestWindow& w) { w.window.showPage(page); });
    for (int row = 1; row < 6; ++row) // of several kinds: each is asked for other facts
        out.emplace_back(QStringLiteral("session %1").arg(row + 1), [row](TestWindow& w) {
            w.window.showPage("sessions");
            w.refresh();
            if (auto* list = w.find<QTableWidget>("sessionList"); list && row < list->rowCount())
                list->setCurrentCell(row, 0);
        });
    for (const char* tab : {"tabPins", "tabProgram", "tabModules", "tabMore", "tabRates", "tabBill"})
        out.emplace_back(tab, [tab](TestWindow& w) {
            w.window.showPage("boards");
            w.refresh();
            w.click(tab);
        });
    return out;
}

/// Raw of a board that is cut off, with everything that can be said of each kind of link unfolded.
inline void unfold_link(TestWindow& w, int kind) {
    w.window.context().selectReading("hut-air");
    w.window.showStop(3);
    w.refresh();
    w.click("tabSignal");
    w.refresh();
    if (w.find<QPushButton>("linkClose")->isVisible()) w.click("linkClose");
    w.refresh();
    w.find<QComboBox>("linkKind")->setCurrentIndex(kind);
    if (!w.find<QComboBox>("linkFormat")->isVisible()) w.click("linkMore");
}

/// And the fields of each kind of link: last, because a link is closed for them.
inline std::vector<std::pair<QString, std::function<void(TestWindow&)>>> places_and_links() {
    auto out = places();
    for (int kind = 0; kind < 4; ++kind)
        out.emplace_back(QStringLiteral("link of kind %1").arg(kind),
                         [kind](TestWindow& w) { unfold_link(w, kind); });
    return out;
}

/// The innermost part that needs more than there is.
inline QString widest(const QWidget* content, int there_is) {
    const QWidget* out = content;
    int depth = -1;
    for (const QWidget* w : content->findChildren<QWidget*>()) {
        if (!w->isVisible() || std::max(w->minimumSizeHint().width(), w->minimumWidth()) < there_is) continue;
        int d = 0;
        for (const QWidget* p = w; p && p != content; p = p->parentWidget())
            ++d;
        if (d <= depth) continue;
        depth = d;
        out = w;
    }
    QString parts;
    for (const QObject* child : out->children())
        if (const auto* w = qobject_cast<const QWidget*>(child); w && w->isVisible())
            parts += QStringLiteral(" %1:%2").arg(w->objectName()).arg(w->minimumSizeHint().width());
    return named(out) + parts;
}

/// What scrolls sideways, and words that do not fit where they stand, in a window of that size.
inline QStringList what_is_cut(TestWindow& w, QSize size, const QString& place) {
    QStringList cut;
    if (w.window.width() > size.width()) cut << place + QStringLiteral(": window of %1").arg(w.window.width());
    const auto* recording = w.find<QLabel>("statusRecording");
    if (recording->mapTo(&w.window, QPoint(recording->width(), 0)).x() > size.width())
        cut << place + ": the status line";
    for (QScrollArea* area : w.window.findChildren<QScrollArea*>())
        if (area->isVisible() && area->widget() && area->widget()->width() > area->viewport()->width() + 1)
            cut << place + ": sideways by " + QString::number(area->widget()->width() - area->viewport()->width()) +
                       " " + widest(area->widget(), area->viewport()->width() - 60);
    for (QAbstractButton* button : w.window.findChildren<QAbstractButton*>()) {
        if (!button->isVisible() || button->text().isEmpty()) continue;
        if (button->width() + 1 < button->minimumSizeHint().width() &&
            button->fontMetrics().horizontalAdvance(button->text()) > button->width())
            cut << place + ": button " + button->text();
    }
    for (QLineEdit* edit : w.window.findChildren<QLineEdit*>()) { // what stands in an empty field says what it is
        if (!edit->isVisible() || !edit->text().isEmpty()) continue;
        QStyleOptionFrame option;
        option.initFrom(edit);
        option.lineWidth = edit->style()->pixelMetric(QStyle::PM_DefaultFrameWidth, &option, edit);
        const int there_is = edit->style()->subElementRect(QStyle::SE_LineEditContents, &option, edit).width() - 4;
        const int needed = edit->fontMetrics().horizontalAdvance(edit->placeholderText());
        if (needed > there_is)
            cut << place + ": field " + edit->placeholderText() +
                       QStringLiteral(" (%1 of %2)").arg(there_is).arg(needed);
    }
    for (QLabel* label : w.window.findChildren<QLabel*>()) {
        if (!label->isVisible() || label->text().isEmpty() || label->width() <= 0) continue;
        // The longest word must fit where lines break; the whole line where they do not.
        int widest = 0;
        for (const QString& part :
             label->wordWrap() ? label->text().split(QRegularExpression("[\\s]")) : label->text().split('\n'))
            widest = std::max(widest, label->fontMetrics().horizontalAdvance(part));
        if (widest > label->contentsRect().width() + 2)
            cut << place + ": label " + label->text().left(60) +
                       QStringLiteral(" (%1 of %2)").arg(label->contentsRect().width()).arg(widest);
    }
    return cut;
}

} // namespace cognitum::test
