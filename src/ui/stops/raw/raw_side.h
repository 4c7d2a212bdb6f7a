// Beside the raw signal: the test that tells causes apart, a word to the board, a value by hand, and what can go
// wrong on a simulated bench.
#pragma once

#include "core/analyse/health.h"
#include "core/analyse/taps.h"
#include "core/bringup/stimulus.h"
#include "ui/context.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <QWidget>

namespace cognitum {

class NumberField;
class TextLabel;

class RawSide : public QWidget {
    Q_OBJECT

  public:
    explicit RawSide(Context& context, QWidget* parent = nullptr);
    void refresh(const std::vector<HealthVerdict>& verdicts);
    /// A finger on the key: an event counted by a person.
    void tap();
    /// Another reading: what was said of the last one is over.
    void forget();

  signals:
    void testRequested(const cognitum::Stimulus* stimulus);
    void finderRequested();

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void buildTest(QVBoxLayout* box);
    void buildCommand(QVBoxLayout* box);
    void buildHand(QVBoxLayout* box);
    void buildSimulated(QVBoxLayout* box);
    void refreshCommand();
    void refreshSimulated();
    void send(const QString& line, double answer_s);
    void enterByHand();

    Context& m_context;
    QWidget *m_test, *m_simulated;
    TextLabel *m_next, *m_then;
    QPushButton* m_start;
    const Stimulus* m_stimulus = nullptr; ///< that tells the first verdict's causes apart
    QLineEdit* m_command;
    QHBoxLayout* m_buttons;
    TextLabel* m_answer;
    QStringList m_history;
    qsizetype m_history_at = 0;
    QString m_button_key;
    std::uint64_t m_answers_before = 0;
    TimeUs m_asked = 0, m_answered = 0;
    double m_promised_s = 2;
    QLineEdit *m_hand_value, *m_hand_doubt;
    TextLabel* m_hand_note;
    TapCounter m_taps;
    QComboBox* m_fault;
    QCheckBox* m_plug;
    QString m_fault_board;
};

} // namespace cognitum
