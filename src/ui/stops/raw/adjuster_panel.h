// Two trimmers without a label: record the same stimulus before and after turning one, and read what it sets.
#pragma once

#include "core/bringup/adjuster.h"
#include "ui/context.h"

#include <QComboBox>
#include <QLineEdit>
#include <QPushButton>
#include <QWidget>

namespace cognitum {

class TextLabel;

class AdjusterPanel : public QWidget {
    Q_OBJECT

  public:
    explicit AdjusterPanel(Context& context, QWidget* parent = nullptr);
    void refresh();
    void forget();
    /// Titles of the tests beside it; it is the last of them.
    void setChoices(const QStringList& titles);
    [[nodiscard]] QStringList choices() const;

  signals:
    void chosen(int index);

  private:
    struct Recording {
        std::vector<RawSample> samples;
        TimeUs from = 0, to = 0; ///< to: 0 while it runs
        [[nodiscard]] bool done() const { return to != 0; }
    };
    void record(Recording& into);
    void finish(Recording& recording);
    [[nodiscard]] QString figures(const Recording& recording) const;
    [[nodiscard]] AdjusterVerdict judged() const;
    void judge();

    Context& m_context;
    TextLabel *m_intro, *m_before_text, *m_after_text, *m_verdict;
    QLineEdit* m_which;
    QComboBox *m_choice, *m_turn;
    QPushButton *m_before_button, *m_after_button, *m_keep;
    Recording m_before, m_after;
    AdjusterVerdict m_found;
};

} // namespace cognitum
