// The window: rail, path line, page, side panel, status line, and the actions that reach everything by keyboard.
// Object names of widgets are a contract that tests and scripts rely on; docs/architecture.md lists them.
#pragma once

#include "store/exchange/export.h"
#include "ui/context.h"
#include "ui/widgets/page.h"

#include <QMainWindow>
#include <QMenu>
#include <QStackedWidget>
#include <functional>

class QHBoxLayout;

namespace cognitum {

class CalibratePage;
class HelpPanel;
class PathLine;
class NavigationRail;
class SidePanel;
class StartPage;
class StatusLine;

/// Answers to the file dialogs, so that a test can give them. Empty text: cancelled.
struct FileDialogs {
    std::function<QString(QWidget*)> new_bench, open_bench, copy_to, import_from;
    std::function<QString(QWidget*, const QString& suffix)> export_to;
    /// True: readings about somebody's health (their names) are exported as well. Without it they are not.
    std::function<bool(QWidget*, const QStringList& names)> with_private;
    /// True: the recording ends, and the other bench is opened.
    std::function<bool(QWidget*, const QString& recorded, const QString& other)> end_recording;
    static FileDialogs native();
};

class MainWindow : public QMainWindow {
    Q_OBJECT

  public:
    MainWindow(Session& session, Theme& theme, FileDialogs dialogs = FileDialogs::native());

    [[nodiscard]] Context& context() { return m_context; }
    void showStop(int stop);
    /// overview, boards or logbook
    void showPage(const QString& id);
    enum class Making { beside_the_window, before_the_window };
    /// Where the demo bench is kept.
    [[nodiscard]] static QString demoPath();
    /// Opens the demo bench and records; makes it first where there is none, which takes about a second.
    void openDemo(Making making = Making::beside_the_window);
    void openFile(const QString& path);
    /// What somebody gave without saying for what: a bench, a table, a card, programs.
    void take(const QStringList& paths);
    /// Another start of this program asked for it: comes to the front, and takes the files.
    void askedFromElsewhere(const QStringList& paths, const QString& token);
    /// The bench of last time, where the settings say so. False: none.
    bool openLast();
    [[nodiscard]] QString pageNow() const { return m_page; }
    [[nodiscard]] int stopNow() const { return m_stop; }
    void setVisible(bool visible) override;

  protected:
    void closeEvent(QCloseEvent* event) override;
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;
    void changeEvent(QEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

  private:
    QAction* action(const QString& name, const QString& text, const QKeySequence& keys,
                    const std::function<void()>& run);
    void makeActions();
    void makeBenchMenu();
    void connectRequests();
    Page* stopPage(int stop);
    Page* benchPage(const QString& id);
    void put(Page* page);
    void showStart();
    void benchOpened();
    void newBench();
    void newReading();
    void arrange();
    void toggleSide();
    void toggleRail();
    void toggleHelp();
    HelpPanel& help();
    [[nodiscard]] bool isHelped() const;
    void walk();                    ///< through the demo, where it was left
    void showStation(int station);  ///< of the walk
    void plan(const QString& kind); ///< a reading of that kind, before anything is wired
    void saveCopy();
    void importCsv();
    void exportAs(ExportFormat format, const QString& suffix);
    void exportWith(ExportOptions options, const QString& suffix);
    void tellExported(const ExportReport& report, const QString& path, const QStringList& about_health);
    void reportOfBench();
    [[nodiscard]] QStringList privateReadings() const;
    void rememberPlace(); ///< where somebody is in the open bench
    void returnToPlace();
    void fillRecent();
    void showReading(const QString& reading, const QString& token);
    void comeForward(const QString& token);
    void importFrom(const QString& path);
    void takeCard(const QString& path);
    void takePrograms(const QStringList& paths);
    [[nodiscard]] bool mayLeaveRecording(const QString& path);
    void complain(const Error& error);
    void find();
    void toggleRecording();

    Session& m_session;
    Theme& m_theme;
    FileDialogs m_dialogs;
    Context m_context;
    QMenu* m_menu;
    QMenu* m_recent;
    NavigationRail* m_rail;
    PathLine* m_path;
    QStackedWidget* m_stack;
    SidePanel* m_side;
    HelpPanel* m_help = nullptr;
    QHBoxLayout* m_beside; ///< page, side panel, help
    StatusLine* m_status;
    QWidget* m_bench_view;
    StartPage* m_start = nullptr;
    QStackedWidget* m_views;
    std::vector<Page*> m_stops;
    std::map<QString, Page*> m_pages;
    CalibratePage* m_calibrate = nullptr;
    Page* m_shown = nullptr;
    QString m_page;
    int m_stop = 0;
    bool m_side_folded = false, m_walk_wanted = false;
    bool m_side_instead = false, m_rail_wanted = false; ///< see arrange()
};

} // namespace cognitum
