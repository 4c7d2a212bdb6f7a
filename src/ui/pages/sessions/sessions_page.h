// Bench page: drives, fermentations, swims. A list of them, what each amounts to in its own way, and another laid
// over it from the start. Begun by hand, by a rule, or found in what was recorded.
#pragma once

#include "session/archive/stretch_report.h"
#include "ui/widgets/page.h"

#include <QComboBox>
#include <QLineEdit>
#include <QTableWidget>

namespace cognitum {

class SinceStartPlot;
class TextLabel;

class SessionsPage : public Page {
    Q_OBJECT

  public:
    SessionsPage(Context& context, QWidget* parent);
    [[nodiscard]] bool wantsSide() const override { return false; }
    /// Chooses a session.
    void select(const std::string& id);

  protected:
    void refresh() override;
    void readingChanged() override;

  private:
    struct Shown {
        SessionFigures figures;
        std::vector<SinceStart> first, second;
    };
    QLayout* makeBar();
    QLayout* makeList();
    QLayout* makeSummary();
    void fillList();
    void fillRules();
    void choose();
    void ask();
    void show(const Shown& shown);
    void showFacts(const SessionFigures& figures);
    void begin(SessionKind kind);
    void end();
    void editRule(const std::string& id); ///< empty: a new one
    void edit(const QString& text, const std::function<void(TimedSession&)>& change);
    [[nodiscard]] const TimedSession* chosen() const;
    [[nodiscard]] ReportRequest reportRequest() const; ///< of the one that is chosen

    QTableWidget *m_list, *m_facts, *m_days;
    QVBoxLayout* m_rules;
    QWidget *m_summary, *m_list_part;
    TextLabel *m_empty, *m_when, *m_caution, *m_going;
    QLineEdit* m_name;
    QComboBox *m_reading, *m_other, *m_kind;
    SinceStartPlot* m_plot;
    QPushButton* m_end;
    std::string m_chosen;
    std::vector<std::string> m_ids; ///< row by row
    QString m_list_key, m_asked;
    ArchiveQuestion<Shown> m_question;
};

} // namespace cognitum
