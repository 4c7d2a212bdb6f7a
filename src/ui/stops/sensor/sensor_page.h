// Stop 2: which kind of part, and is it up to it? Cards compared for this quantity, with what speaks against each.
#pragma once

#include "ui/stops/sensor/candidate_table.h"
#include "ui/widgets/page.h"

#include <QComboBox>
#include <QLineEdit>
#include <QScrollArea>

namespace cognitum {

class TextLabel;

class SensorPage : public Page {
    Q_OBJECT

  public:
    SensorPage(Context& context, QWidget* parent);
    [[nodiscard]] QWidget* side() override { return m_side; }
    /// Only parts whose card holds these words are compared.
    void find(const QString& facts) { m_find->setText(facts); }

  protected:
    void refresh() override;
    void readingChanged() override;

  private:
    void choose();
    void editCard();
    void refreshSide();
    void refreshRecord();
    void buildPlan();
    void planBoard();
    void fillBoards();
    [[nodiscard]] const BoardUse* board() const;
    [[nodiscard]] const Candidate* chosen() const;

    QComboBox* m_board;
    QLineEdit *m_find, *m_marking;
    CandidateTable* m_table;
    QScrollArea* m_scroll;
    QWidget* m_plan; ///< a board to plan with, where the bench has none
    QComboBox* m_plan_card;
    TextLabel *m_empty, *m_record;
    QPushButton *m_choose, *m_edit;
    QWidget* m_side;
    TextLabel *m_asked, *m_schools_title, *m_schools, *m_about_title, *m_about;
    QString m_key;
};

} // namespace cognitum
