// Two readings of the same thing, side by side: how far apart, how much later, and what that does not show.
#pragma once

#include "core/calibrate/compare.h"
#include "session/archive/recorded.h"
#include "ui/context.h"

#include <QDialog>

class QComboBox;
class QCPGraph;

namespace cognitum {

class Plot;
class TextLabel;

class SideBySide : public QDialog {
    Q_OBJECT

  public:
    SideBySide(Context& context, const Reading& reading, QWidget* parent = nullptr);

  private:
    void otherChosen();
    void compare();
    struct Compared {
        std::vector<TimedValue> first, second;
        Comparison comparison;
    };
    void show(const Compared& compared, const QString& other, bool one_design);
    void draw(const std::vector<TimedValue>& a, const std::vector<TimedValue>& b, const QString& other);

    Context& m_context;
    std::string m_reading;
    std::vector<TimedValue> m_from_file; ///< of a file that was chosen instead of a reading
    std::string m_file_name;
    QString m_file_trouble;
    int m_choice = 0; ///< grows with each question
    ArchiveQuestion<std::vector<TimedValue>> m_file_question;
    ArchiveQuestion<Compared> m_question;
    QComboBox *m_other, *m_span;
    Plot* m_plot;
    QCPGraph *m_a, *m_b;
    TextLabel *m_verdict, *m_figures, *m_cannot;
};

} // namespace cognitum
