// The loads that follow this reading's rules: what each does now and why, what holds for it, by hand, and what it
// would have done on the record.
#pragma once

#include "session/archive/load_record.h"
#include "ui/context.h"

#include <QPushButton>
#include <QVBoxLayout>
#include <map>

namespace cognitum {

class MarkLabel;
class TextLabel;

class LoadView : public QWidget {
    Q_OBJECT

  public:
    explicit LoadView(Context& context, QWidget* parent = nullptr);
    void refresh();
    /// When a load would have gone on, over the record.
    [[nodiscard]] const std::vector<TimeUs>& runs() const { return m_runs; }

  signals:
    void tried(); ///< runs() changed

  private:
    /// What of one control changes while it is shown.
    struct Shown {
        MarkLabel* mark = nullptr;
        TextLabel *state = nullptr, *trial = nullptr, *warns = nullptr;
        QPushButton *on = nullptr, *off = nullptr, *by_rule = nullptr, *allow = nullptr;
    };
    void rebuild();
    void add(const LoadControl& control);
    void showState(const LoadControl& control, const Shown& shown);
    void askTrials();
    void open(const LoadControl& control);
    void hand(const std::string& control, std::optional<bool> on);
    [[nodiscard]] std::vector<const LoadControl*> mine() const;

    Context& m_context;
    QVBoxLayout* m_list;
    TextLabel* m_none;
    QPushButton* m_new;
    std::map<std::string, Shown> m_shown; ///< by id of the control
    QString m_key, m_trial_key;
    std::vector<TimeUs> m_runs;
    ArchiveQuestion<std::vector<TriedLoad>> m_question;
};

} // namespace cognitum
