// What every part of the interface shares: the session, the theme, which reading is chosen, and the newest live
// values. It pulls from the session at most 20 times a second and tells the visible parts to draw: at once what the
// chosen reading says, once a second the others. A window that nobody sees costs nothing.
#pragma once

#include "session/path_state.h"
#include "session/session.h"
#include "ui/settings.h"
#include "ui/theme.h"

#include <QObject>
#include <QPageLayout>
#include <QTimer>
#include <functional>
#include <map>

class QPrinter;

namespace cognitum {

/// Draws all pages onto a printer.
using DrawPages = std::function<void(QPrinter& printer)>;

class Context : public QObject {
    Q_OBJECT

  public:
    Context(Session& session, Theme& theme, QObject* parent = nullptr);

    [[nodiscard]] Session& session() const { return m_session; }
    [[nodiscard]] Theme& theme() const { return m_theme; }

    /// The chosen reading; null when the bench has none.
    [[nodiscard]] const Reading* reading() const;
    [[nodiscard]] const std::string& readingId() const { return m_reading; }
    void selectReading(const std::string& id);

    [[nodiscard]] const Live& live() const { return m_live; }
    [[nodiscard]] const LiveReading* liveReading() const; ///< of the chosen reading; null: nothing came yet
    [[nodiscard]] const LiveBoard* liveBoard() const;     ///< of the chosen reading's board
    [[nodiscard]] const PathState& state(const std::string& reading) const;
    [[nodiscard]] const std::vector<Finding>& findings() const { return m_findings; } ///< of the chosen reading
    /// Budget at the last raw value; without a value, in the middle of the expected range.
    [[nodiscard]] const Budget& budget() const { return m_budget; }

    [[nodiscard]] const Settings& settings() const { return m_settings; }
    /// Keeps them at once and tells everybody; the theme follows.
    void change(const std::function<void(Settings&)>& by);
    /// "62.6 °F" beside a value of that reading, when such a unit was asked for; else empty.
    [[nodiscard]] QString beside(const Reading& reading, double value, double doubt) const;
    /// How the desktop wants its programs to look; followed where the settings say so.
    void desktopIsDark(bool dark);

    /// Asks where to save; tests give their own answer. Empty: cancelled.
    std::function<QString(QWidget* parent, const QString& title, const QString& name, const QString& filter)>
        askSavePath;
    /// Shows pages as they come onto paper, and prints them from there: the window sets preview(), tests their own.
    std::function<void(QWidget* parent, QPageLayout::Orientation orientation, const DrawPages& draw)> showOnPaper;
    /// Asks which file to read; the same way.
    std::function<QString(QWidget* parent, const QString& title, const QString& filter)> askOpenPath;

    /// A program that was put onto a board: its first line is waited for.
    struct AwaitedProgram {
        std::string board;
        QString plan; ///< fingerprint
    };
    std::optional<AwaitedProgram> awaited_program;

    /// Pulls now and works out everything; called by edits and by tests.
    void refresh();
    /// False: nobody sees the window, and nothing is pulled, worked out or drawn.
    void setSeen(bool seen);

  signals:
    void settingsChanged();
    void refreshed();        ///< something that is shown may have changed
    void selectionChanged(); ///< another reading, or another bench
    void stopRequested(int stop);
    void pageRequested(const QString& page);
    void said(const QString& sentence); ///< for the status line
    /// Somebody wants these readings (by name: also one about somebody's health) over [from, to) as a file.
    void exportRequested(TimeUs from, TimeUs to, const std::vector<std::string>& readings);
    /// Somebody wants to see a stretch of these readings in the logbook.
    void stretchRequested(const Interval& stretch, const std::vector<std::string>& readings);
    /// Somebody wants a report of these readings over a stretch; `title` names it.
    void sessionRequested(const QString& id);

  private:
    void tick();
    void workOut(const Reading& reading);
    [[nodiscard]] std::uint64_t chosenRevision() const;
    Session& m_session;
    Theme& m_theme;
    Settings m_settings = Settings::load();
    bool m_desktop_dark = false;
    QTimer m_timer;
    std::string m_reading;
    Live m_live;
    std::map<std::string, PathState> m_states;
    std::vector<Finding> m_findings;
    Budget m_budget;
    bool m_seen = true;
    TimeUs m_last_second = 0;
    std::uint64_t m_chosen_revision = 0;
    std::uint64_t m_log_revision = 0;
};

} // namespace cognitum
