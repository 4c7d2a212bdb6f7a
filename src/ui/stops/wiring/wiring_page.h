// Stop 3: which pin goes where, and what must I check before power?
#pragma once

#include "ui/stops/wiring/loom_view.h"
#include "ui/stops/wiring/step_list.h"
#include "ui/widgets/page.h"

#include <QCheckBox>
#include <QComboBox>
#include <functional>

namespace cognitum {

class NumberField;
class TextLabel;

class WiringPage : public Page {
    Q_OBJECT

  public:
    WiringPage(Context& context, QWidget* parent);
    [[nodiscard]] QWidget* side() override { return m_side; }

  protected:
    void refresh() override;
    void readingChanged() override { m_choices_key.clear(); }
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void buildChoices(const Placed& placed);
    void buildSupplyChoices(const Placed& placed, class WrapRow& row);
    void buildSide(const Placed& placed);
    void showChoices(const Placed& placed);
    void toggle(int number);
    void stepDone();
    void stepBack();
    void assign();
    void save(const QString& what, const QString& suffix);
    /// An edit of the wiring: the path is built anew where the wiring asks for another one, and ticks are taken
    /// off.
    void rewire(const QString& what, const std::function<void(Reading&)>& change);
    [[nodiscard]] class WrapRow& choiceRow(int row) const;
    QComboBox* makeChoice(const QString& label, const QString& name, std::vector<QWidget*>& parts) const;
    QComboBox* addChoice(const QString& label, const QString& name, int row);

    QWidget *m_choices, *m_work, *m_order, *m_side;
    class QVBoxLayout* m_choice_rows;
    std::vector<std::pair<QComboBox*, std::string>> m_pins; ///< and the leg
    QComboBox *m_rail = nullptr, *m_reference = nullptr, *m_address = nullptr, *m_colour_leg = nullptr,
              *m_colour = nullptr;
    NumberField* m_cable = nullptr;
    NumberField *m_own_supply = nullptr, *m_pull_up = nullptr;
    QCheckBox *m_turned = nullptr, *m_ground = nullptr, *m_parasite = nullptr, *m_protected = nullptr;
    QString m_choices_key;
    QPushButton *m_scope_reading, *m_scope_board, *m_done, *m_assign;
    LoomView* m_loom;
    StepList* m_steps;
    QScrollArea* m_step_scroll;
    QString m_in_sight; ///< reading and step that were scrolled to
    TextLabel *m_mirrored, *m_empty, *m_numbers, *m_caution, *m_programming_title, *m_programming;
};

} // namespace cognitum
