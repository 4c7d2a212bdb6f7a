// The demo's window on a stage: a clock that stands still until told, the simulated boards inside this program, and
// a camera.
#pragma once

#include "demo/board.h"
#include "demo/demo_bench.h"
#include "ui/shell/main_window.h"

#include <QApplication>
#include <QComboBox>
#include <QDialog>
#include <QDir>
#include <QElapsedTimer>
#include <QLineEdit>
#include <QPushButton>
#include <QTemporaryDir>
#include <atomic>
#include <cstdio>
#include <map>

namespace cognitum {

class Theatre {
  public:
    Theatre(Theme& theme, const QString& folder, QSize size)
        : m_now(*parse_time("2026-11-25T14:11:00Z")),
          m_theme(theme),
          m_session(options()),
          m_window(m_session, theme),
          m_out(folder) {
        m_window.resize(size);
        m_window.show();
    }

    void shoot(const QString& name) {
        settle();
        const QString path = m_out.filePath(name + QStringLiteral(".png"));
        m_window.grab().toImage().convertToFormat(QImage::Format_RGB888).save(path);
        std::printf("%s\n", qPrintable(path));
    }

    void openDemo() {
        const QString path = m_home.filePath(QStringLiteral("whelk-point.cognitum"));
        if (const auto made = create_demo_bench(path.toStdString(), m_now); !made)
            qFatal("%s", made.error().text().c_str());
        if (const auto opened = m_session.openBench(path); !opened) qFatal("%s", opened.error().text().c_str());
        m_session.worker().startRecording();
        for (const std::string& name : demo::board_names()) {
            m_boards[name] = demo::make_board(name, {20261, 0, 0}, m_now);
            for (const demo::Sent& sent : m_boards[name]->start(m_now))
                hear(name, sent);
        }
        m_boards["gauge"]->command("wave off", m_now); // the wave is wanted for the last half minute alone
        run(20 * 60 - 30);
        m_boards["gauge"]->command("wave on", m_now);
        run(30);
        while (m_session.worker().live().recording.saved == 0) // what came is in the file
            QApplication::processEvents(QEventLoop::WaitForMoreEvents, 50);
        m_window.context().refresh();
        settle();
    }

    /// Lets the boards send for so many seconds.
    void run(int seconds_long) {
        for (int i = 0; i < seconds_long; ++i) {
            const TimeUs second = m_now + second_us;
            for (auto& [name, board] : m_boards)
                while (board->next() <= second) {
                    m_now = std::max(m_now.load(), board->next());
                    for (const demo::Sent& sent : board->step(m_now))
                        hear(name, sent);
                }
            m_now = second;
        }
        settle();
    }
    void tell(const std::string& command, const std::string& board = "gauge") {
        hear(board, {m_now, {}, m_boards[board]->command(command, m_now), false});
    }

    void takePoint(const std::string& probe, int reference, const QString& value) {
        tell(probe);
        auto* where = m_window.findChild<QComboBox*>(QStringLiteral("simulatedProbe"));
        where->setCurrentIndex(where->findData(QString::fromStdString(probe)));
        for (int i = 0; i < 90; ++i) {
            run(1); // the gate looks at every value, as it does live
        }
        auto* kind = m_window.findChild<QComboBox*>(QStringLiteral("referenceKind"));
        kind->setCurrentIndex(reference);
        emit kind->activated(reference);
        if (!value.isEmpty()) m_window.findChild<QLineEdit*>(QStringLiteral("referenceValue"))->setText(value);
        settle();
        m_window.findChild<QPushButton*>(QStringLiteral("takePoint"))->click();
    }

    /// The dialog that is open, alone, as large as the window.
    void shootDialog(const QString& name) {
        for (QWidget* top : QApplication::topLevelWidgets())
            if (qobject_cast<QDialog*>(top) && top->isVisible()) top->resize(m_window.size());
        settle();
        for (QWidget* top : QApplication::topLevelWidgets())
            if (auto* dialog = qobject_cast<QDialog*>(top); dialog && dialog->isVisible()) {
                const QString path = m_out.filePath(name + QStringLiteral(".png"));
                dialog->grab().toImage().convertToFormat(QImage::Format_RGB888).save(path);
                std::printf("%s\n", qPrintable(path));
                dialog->close();
            }
    }
    void press(const char* name) {
        for (QPushButton* button : m_window.findChildren<QPushButton*>(QLatin1String(name)))
            if (button->isVisible()) button->click();
    }
    void choose(const char* box, const char* data) {
        for (QComboBox* choice : m_window.findChildren<QComboBox*>(QLatin1String(box)))
            if (const int index = choice->findData(QLatin1String(data)); choice->isVisible() && index >= 0) {
                choice->setCurrentIndex(index);
                emit choice->activated(index);
            }
    }
    void type(const char* field, const QString& text) {
        for (QLineEdit* edit : m_window.findChildren<QLineEdit*>(QLatin1String(field)))
            if (edit->isVisible()) {
                edit->setText(text);
                emit edit->textEdited(text);
                emit edit->editingFinished();
            }
    }

    /// A new bench with nothing in it, and the gauge board sending to whoever takes it.
    void newBench(std::function<void(const QByteArray&)> gauge_to) {
        if (const auto made =
                m_session.createBench(m_home.filePath(QStringLiteral("hut.cognitum")), QStringLiteral("Hut"));
            !made)
            qFatal("%s", made.error().text().c_str());
        m_gauge_to = std::move(gauge_to);
        settle();
    }
    void startGauge() {
        m_boards["gauge"] = demo::make_board("gauge", {20261, 0, 0}, m_now);
        for (const demo::Sent& sent : m_boards["gauge"]->start(m_now))
            hear("gauge", sent);
        settle();
    }
    QImage grab() {
        settle();
        return m_window.grab().toImage().convertToFormat(QImage::Format_RGB888);
    }
    [[nodiscard]] QString path(const QString& name) const { return m_out.filePath(name + QStringLiteral(".png")); }
    MainWindow& window() { return m_window; }
    Session& session() { return m_session; }
    Theme& theme() { return m_theme; }
    [[nodiscard]] QString out() const { return m_out.path(); }
    /// A reading at one of the seven stops, from 0.
    void show(const char* reading, int stop) {
        m_window.context().selectReading(reading);
        m_window.showStop(stop);
    }
    void showBoard(const char* board) {
        m_window.showPage(QStringLiteral("boards"));
        choose("boardChoice", board);
    }
    /// Waits until the worker has taken everything and the window has drawn it.
    void settle() {
        std::uint64_t seen = ~0ULL;
        QElapsedTimer limit;
        limit.start();
        while (limit.elapsed() < 3000) {
            std::atomic<bool> passed = false;
            QMetaObject::invokeMethod(
                &m_session, [&] { passed = true; }, Qt::QueuedConnection);
            QApplication::processEvents(QEventLoop::AllEvents, 20);
            const std::uint64_t now = m_session.worker().liveRevision();
            if (passed && now == seen) break;
            seen = now;
        }
        m_window.context().refresh();
        m_session.archive().finishNow();
        m_session.exports().finishNow();
        for (limit.start(); limit.elapsed() < 150;) // what is drawn a moment later
            QApplication::processEvents(QEventLoop::AllEvents, 20);
    }

  private:
    SessionOptions options() {
        SessionOptions o;
        o.clock = [this] { return m_now.load(); };
        o.open_links = false;
        return o;
    }
    void hear(const std::string& board, const demo::Sent& sent) {
        const QByteArray bytes = QByteArray::fromStdString(sent.bytes);
        if (sent.retained || (sent.channel.empty() && board != "gauge")) return;
        if (board == "gauge" && m_gauge_to)
            m_gauge_to(bytes);
        else if (board == "gauge" || board == "beacon-log")
            m_session.worker().injectBytesNow(board, bytes);
        else
            m_session.worker().injectMessageNow(board, {QString::fromStdString(sent.channel), bytes, false});
    }

    std::atomic<TimeUs> m_now;
    QTemporaryDir m_home;
    Theme& m_theme;
    Session m_session;
    MainWindow m_window;
    QDir m_out;
    std::function<void(const QByteArray&)> m_gauge_to;
    std::map<std::string, std::unique_ptr<demo::Board>> m_boards;
};

/// From an empty bench to a calibrated reading: six pictures on one sheet, and the first page alone.
void shoot_first_minutes(Theatre& stage, bool sheet);

/// One picture, or some that belong together. What is not kept in docs/screenshots is made when it is asked for.
struct Scene {
    QString name;
    bool kept;
    std::function<void(Theatre&)> play;
};
using Scenes = std::vector<Scene>;

// In the order in which they are played: what one changes for good, those behind it show.
Scenes stop_scenes();
Scenes board_scenes();
/// `all`: for docs, where one of the pages is dark.
Scenes page_scenes(bool all);
Scenes convert_scenes();
Scenes raw_scenes();
Scenes calibrate_scenes();
Scenes last_scenes();

} // namespace cognitum
