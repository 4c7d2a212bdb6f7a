// The bring-up of a reading: its stages, the checks and tests of the chosen one, and the signature.
#pragma once

#include "core/bringup/stages.h"
#include "ui/context.h"

#include <QComboBox>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <QWidget>

namespace cognitum {

class AdjusterPanel;
class StageLadder;
class TextLabel;
class TrialPanel;

class BringUpView : public QWidget {
    Q_OBJECT

  public:
    explicit BringUpView(Context& context, QWidget* parent = nullptr);
    void refresh();
    void forget();
    /// Stand above each other where the page is narrow.
    [[nodiscard]] QBoxLayout* columns() const { return m_columns; }
    /// Goes to a stage; its first test is offered.
    void showStage(std::size_t stage);
    /// A test outside of the stages: the one that tells a verdict's causes apart. It starts at once.
    void runTest(const Stimulus* stimulus);
    [[nodiscard]] TrialPanel* trial() const { return m_trial; }

  private:
    QWidget* buildLadder();
    QWidget* buildStage();
    void chooseStage();
    /// Offers these and shows the first.
    void offer(std::vector<const Stimulus*> tests);
    void chooseTest(int index);
    void sign(bool passed);
    void refreshSign();
    [[nodiscard]] const BringUpStage* stage() const;

    Context& m_context;
    QBoxLayout* m_columns;
    StageLadder* m_ladder;
    TextLabel *m_title, *m_about, *m_checks, *m_signed;
    QComboBox* m_how;
    TrialPanel* m_trial;
    AdjusterPanel* m_adjusters;
    QLineEdit *m_by, *m_note;
    QPushButton *m_pass, *m_fail;
    std::string m_reading;
    std::vector<const Stimulus*> m_tests; ///< to choose from; the last, null: the adjuster finder
    bool m_apart = false;                 ///< a test outside of the stages is shown
};

} // namespace cognitum
