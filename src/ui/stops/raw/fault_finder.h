// From a symptom to its cause: questions one at a time, answered by a person or by what the bench sees, and the
// measurement that proves what is left.
#pragma once

#include "core/bringup/symptoms.h"
#include "ui/context.h"

#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <QWidget>

namespace cognitum {

class CauseMap;
class TextLabel;

class FaultFinder : public QWidget {
    Q_OBJECT

  public:
    explicit FaultFinder(Context& context, QWidget* parent = nullptr);
    void refresh();
    void forget();
    /// Stand above each other where the page is narrow.
    [[nodiscard]] QBoxLayout* columns() const { return m_columns; }
    void choose(const std::string& symptom);
    [[nodiscard]] const SymptomWalk& walk() const { return m_walk; }

  private:
    QWidget* buildSymptoms();
    QWidget* buildWalk();
    void show(const SymptomWalk& walk);
    void showSteps();
    void showQuestion();
    void showCause();
    void answer(std::size_t index);
    void answerRatio();
    [[nodiscard]] const Symptom* symptom() const;

    Context& m_context;
    QBoxLayout* m_columns;
    std::map<std::string, QPushButton*> m_links;
    QVBoxLayout *m_symptoms, *m_steps, *m_answers;
    TextLabel *m_seen, *m_question, *m_how, *m_left, *m_proof, *m_mend, *m_caution;
    QWidget *m_question_box, *m_cause_box, *m_ratio, *m_answers_box;
    TextLabel* m_cause;
    QLineEdit *m_shown, *m_true;
    QPushButton *m_keep, *m_back;
    CauseMap* m_map;
    std::string m_symptom;
    std::map<std::string, std::size_t> m_given;
    std::vector<std::string> m_order; ///< questions in the order in which a person answered them
    SymptomWalk m_walk;
    QString m_key; ///< what is shown, so that it is rebuilt only when it changes
};

} // namespace cognitum
