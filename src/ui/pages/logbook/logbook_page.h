// Bench page: everything over one time line, the figures of a stretch that was taken from it, and every entry.
#pragma once

#include "session/archive/stretch_report.h"
#include "ui/widgets/page.h"

#include <QComboBox>
#include <QLineEdit>
#include <QMenu>
#include <QTableWidget>

namespace cognitum {

class FiguresTable;
class TextLabel;
class TimeLanes;

class LogbookPage : public Page {
    Q_OBJECT

  public:
    LogbookPage(Context& context, QWidget* parent);
    [[nodiscard]] bool wantsSide() const override { return false; }
    /// The last `span_s` seconds up to now, or everything for 0; follows the present until somebody pans.
    void showLast(double span_s);
    /// Shows and takes a stretch of these readings.
    void showStretch(const Interval& stretch, const std::vector<std::string>& readings);

  protected:
    void refresh() override;
    void readingChanged() override;

  private:
    static constexpr std::size_t most_lanes_shown = 6;
    /// What the answer on the screen was asked for.
    struct Asked {
        Interval range;
        std::vector<std::string> readings;
        std::uint64_t log = 0, plan = 0;
        int width = 0;
        QString path;
        bool operator==(const Asked&) const = default;
    };
    QHBoxLayout* makeBar();
    QHBoxLayout* makeStretchRow();
    QHBoxLayout* makeWriteRow();
    void follow();
    void ask();
    void askFigures();
    void askEntries();
    void chooseReadings();
    void fillAnewMenu();
    void seeAnew(const std::string& id);
    void fillEntries(const std::vector<LogEntry>& entries);
    void showRange();
    void write();
    void correct();
    void setCorrecting(std::int64_t id); ///< 0: what is written next corrects nothing
    void selectEntry(qint64 id);
    [[nodiscard]] ReportRequest reportRequest() const;
    void makeSession(SessionKind kind);
    [[nodiscard]] std::vector<std::string> shownReadings() const;

    TimeLanes* m_lanes;
    FiguresTable* m_figures;
    QWidget* m_stretch_row;
    TextLabel *m_stretch_text, *m_cursor, *m_empty;
    std::vector<std::pair<QPushButton*, double>> m_spans; ///< buttons and the seconds that they show
    QMenu *m_readings_menu, *m_anew_menu;
    QComboBox *m_write_kind, *m_find_kind;
    QLineEdit *m_note, *m_find;
    QPushButton* m_correct;
    QTableWidget* m_entries;
    std::vector<std::string> m_chosen; ///< readings with a lane; empty: the page chooses
    std::optional<Interval> m_span;    ///< of all that is recorded
    double m_follow_s = 30 * 86400;
    bool m_follow = true, m_first = true;
    std::int64_t m_correcting = 0; ///< id of the entry that the note corrects
    std::optional<Asked> m_asked;
    QString m_entries_key, m_path;
    std::vector<LogEntry> m_shown; ///< row by row
    ArchiveQuestion<Lanes> m_lanes_question;
    ArchiveQuestion<std::optional<Interval>> m_span_question;
    ArchiveQuestion<std::vector<ReadingFigures>> m_figures_question;
    ArchiveQuestion<std::vector<LogEntry>> m_entries_question;
};

} // namespace cognitum
