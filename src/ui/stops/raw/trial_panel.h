// One stimulus test under way: what to do, the raw signal against its pass mark, the time that is left, and what
// came of it.
#pragma once

#include "core/bringup/trial.h"
#include "ui/context.h"

#include <QComboBox>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <QWidget>

class QCPGraph;
class QCPItemStraightLine;

namespace cognitum {

class LiveLabel;
class MarkLabel;
class Plot;
class TextLabel;

class TrialPanel : public QWidget {
    Q_OBJECT

  public:
    explicit TrialPanel(Context& context, QWidget* parent = nullptr);
    /// Titles of the tests to choose from; chosen() says which.
    void setChoices(const QStringList& titles, int chosen);
    /// Null: nothing chosen. Ends what runs.
    void setStimulus(const Stimulus* stimulus);
    [[nodiscard]] const Stimulus* stimulus() const { return m_stimulus; }
    void start();
    void stop();
    void refresh();
    [[nodiscard]] bool isRunning() const { return m_trial.started != 0 && !m_view.over(); }
    /// Of the last trial; its phase says whether it is over.
    [[nodiscard]] const TrialView& view() const { return m_view; }
    /// "Warm it with two fingers: from 138 to 151 counts (+13 counts)"; empty until a trial is over.
    [[nodiscard]] QString evidence() const;

  signals:
    void over(bool passed);
    void chosen(int index);

  private:
    void buildAct(QVBoxLayout* box);
    void draw(const std::vector<RawSample>& samples);
    void showTexts();
    void restyle();
    void tellBoard(const QString& hand);

    Context& m_context;
    const Stimulus* m_stimulus = nullptr;
    Trial m_trial;
    TrialView m_view;
    std::string m_reading;            ///< that the trial is of
    std::vector<RawSample> m_samples; ///< of the trial, and those before it
    TextLabel *m_act, *m_caution, *m_asks, *m_must, *m_seen, *m_unit;
    LiveLabel* m_left;
    MarkLabel *m_mark, *m_caution_mark;
    QWidget *m_asked, *m_caution_row, *m_hand_row;
    QComboBox* m_choice;
    QLineEdit *m_read_off, *m_read_doubt;
    QPushButton* m_start;
    Plot* m_plot;
    QCPGraph *m_graph, *m_level, *m_low, *m_high;
    QCPItemStraightLine* m_begun;
};

} // namespace cognitum
