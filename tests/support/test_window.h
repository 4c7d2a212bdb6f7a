// The real main window on a clocked session, driven as a person would: keys, clicks, typing.
#pragma once

#include "support/clocked_session.h"
#include "ui/shell/main_window.h"
#include "ui/shell/path_line.h"
#include "ui/widgets/number_field.h"

#include <QAction>
#include <QApplication>
#include <QComboBox>
#include <QInputMethodEvent>
#include <QLabel>
#include <QPushButton>
#include <QTimer>

namespace cognitum::test {

class TestWindow {
  public:
    TestWindow() : window(clocked.session, theme, dialogs()) {
        theme.apply();
        window.show();
    }

    ClockedSession clocked;
    Theme theme;
    bool with_private = false;   ///< answer to "export health readings as well?"
    bool ends_recording = false; ///< answer to "end the recording and open the other?"
    QString asked_to_end;        ///< the other, when that was asked
    QString next_path;           ///< answer to the next file dialog
    MainWindow window;

    template <typename T>
    T* find(const char* name) {
        // Two pages may have a part of one name, and a rebuilt one may wait for its end: the one that is seen
        // counts.
        for (T* w : window.findChildren<T*>(QLatin1String(name)))
            if constexpr (std::is_base_of_v<QWidget, T>)
                if (w->isVisible()) return w;
        return window.findChild<T*>(QLatin1String(name));
    }
    QString text(const char* name) {
        const auto* label = find<QWidget>(name);
        return label ? label->property("text").toString() : QStringLiteral("no label ") + QLatin1String(name);
    }
    void click(const char* name) {
        auto* button = find<QPushButton>(name);
        QVERIFY2(button && button->isVisible() && button->isEnabled(), name);
        QTest::mouseClick(button, Qt::LeftButton);
        refresh();
    }
    void type(const char* name, const char* text) {
        auto* field = find<QLineEdit>(name);
        QVERIFY2(field && field->isVisible(), name);
        field->setFocus();
        field->selectAll();
        if (!*text) QTest::keyClick(field, Qt::Key_Delete);
        QInputMethodEvent typed; // as any keyboard would give it, also a true minus
        typed.setCommitString(QString::fromUtf8(text));
        QApplication::sendEvent(field, &typed);
        QTest::keyClick(field, Qt::Key_Return);
        refresh();
    }
    void choose(const char* name, const char* data) {
        auto* box = find<QComboBox>(name);
        QVERIFY2(box, name);
        const int index = box->findData(QLatin1String(data));
        QVERIFY2(index >= 0, data);
        box->setCurrentIndex(index);
        emit box->activated(index);
        refresh();
    }
    void key(Qt::Key key, Qt::KeyboardModifiers modifiers = {}) {
        QTest::keyClick(&window, key, modifiers);
        refresh();
    }
    void trigger(const char* action) {
        auto* a = find<QAction>(action);
        QVERIFY2(a && a->isEnabled(), action);
        a->trigger();
        refresh();
    }
    void refresh() {
        clocked.settle();
        window.context().refresh();
        answers();
    }
    /// What pages asked of the bench file has been answered, and what they asked then.
    void answers() {
        Archive &archive = clocked.session.archive(), &exports = clocked.session.exports();
        std::uint64_t asked = 0;
        do {
            asked = archive.asked() + exports.asked();
            archive.finishNow();
            exports.finishNow();
            clocked.session.finishWritingNow();
            QApplication::processEvents();
            QApplication::processEvents(); // an answer that is made of another comes one turn later
        } while (archive.asked() + exports.asked() != asked);
    }
    void lines(int n, int code) {
        clocked.lines(n, code, "A2");
        refresh();
    }
    /// Whichever page is seen now.
    bool sees(const char* name) {
        auto* w = find<QWidget>(name);
        return w && w->isVisible();
    }
    const Reading& reading(const char* id = "hut-air") { return *clocked.session.bench().reading(id); }
    const StopState& stop(int n) {
        return window.context().state(window.context().readingId()).stops[static_cast<std::size_t>(n - 1)];
    }

    void openDemo(DemoHistory history = DemoHistory::two_days) {
        QVERIFY(open_demo(clocked.session, clocked.folder.filePath("demo.cognitum"), history));
        refresh();
    }

  private:
    FileDialogs dialogs() {
        const auto answer = [this](QWidget*) { return next_path; };
        return {answer,
                answer,
                answer,
                answer,
                [this](QWidget*, const QString&) { return next_path; },
                [this](QWidget*, const QStringList&) { return with_private; },
                [this](QWidget*, const QString&, const QString& other) {
                    asked_to_end = other;
                    return ends_recording;
                }};
    }
};

/// Closes the next message box and keeps what it said.
inline void answer_box(QString* said) {
    QTimer::singleShot(0, [said] {
        QWidget* box = QApplication::activeModalWidget();
        if (!box) return answer_box(said);
        for (QLabel* label : box->findChildren<QLabel*>())
            *said += label->text();
        box->close();
    });
}

} // namespace cognitum::test
