// Stop 5: what is that in units? The chain as steps that can be typed into, both ways; behind it the constants, the
// table for a meter, the board's own arithmetic, and what pulses add up to.
#pragma once

#include "core/uncertainty/monte_carlo.h"
#include "ui/widgets/page.h"

#include <array>
#include <memory>
#include <optional>

namespace cognitum {

class ConstantsView;
class FormulaEditor;
class MeterView;
class NumberField;
class PulseView;
class SenderView;
class StepLadder;
class TextLabel;
class TransferCurve;

class ConvertPage : public Page {
    Q_OBJECT

  public:
    ConvertPage(Context& context, QWidget* parent);
    ~ConvertPage() override;
    enum Tab { steps_tab, constants_tab, table_tab, sender_tab, pulses_tab };
    void showTab(Tab tab);

  protected:
    void refresh() override;
    void readingChanged() override;

  private:
    void buildTabs();
    QWidget* buildSteps();
    QWidget* buildConstants();
    void showSteps(const Reading& reading, const Chain& chain, const Walk& steps);
    void showShortTable(const Reading& reading, const Chain& chain);
    [[nodiscard]] Walk currentWalk(const Reading& reading, const Chain& chain);
    void explain();
    void checkByDraws();

    std::array<QPushButton*, 5> m_tabs{};
    std::array<QWidget*, 5> m_views{};
    Tab m_tab = steps_tab;
    StepLadder* m_ladder;
    TextLabel *m_cause, *m_follows, *m_check, *m_empty, *m_table_title;
    QPushButton *m_live, *m_draws;
    TransferCurve* m_curve;
    QGridLayout* m_table;
    ConstantsView* m_constants;
    FormulaEditor* m_formula;
    MeterView* m_meter;
    SenderView* m_sender;
    PulseView* m_pulses;
    QString m_table_key;
    std::optional<std::pair<std::size_t, double>> m_typed; ///< step and value that the person follows
    bool m_fresh = false;
    /// A check by draws runs on a thread of its own; what it was asked for, so that a late answer to another is
    /// dropped.
    struct Asked;
    std::shared_ptr<Asked> m_asked;
};

} // namespace cognitum
