// The recipe at the head of the Calibrate stop: which one, which step, what to do there and what to mind.
#pragma once

#include "core/calibrate/recipe.h"
#include "core/calibrate/record.h"
#include "ui/context.h"

#include <QWidget>

class QBoxLayout;
class QComboBox;
class QPushButton;

namespace cognitum {

class TextLabel;

class RecipeStrip : public QWidget {
    Q_OBJECT

  public:
    explicit RecipeStrip(Context& context, QWidget* parent = nullptr);

    void setRecipes(const std::vector<const Recipe*>& recipes, const std::string& chosen, int step);
    [[nodiscard]] const Recipe* recipe() const;
    [[nodiscard]] int step() const { return m_step; }
    [[nodiscard]] const RecipeStep* current() const;
    void goTo(int step);
    /// Points that the step asks for are there: the next one.
    void pointTaken(int taken_at_step);
    void refresh(const Reading& reading);

  signals:
    void chosen(); ///< another recipe, or another step

  protected:
    void resizeEvent(QResizeEvent* event) override;

  private:
    Context& m_context;
    std::vector<const Recipe*> m_recipes;
    int m_step = 0;
    QBoxLayout* m_row; ///< recipe, step, ways on; under each other where it is narrow
    QComboBox* m_recipe;
    TextLabel *m_where, *m_text, *m_caution;
    QPushButton *m_back, *m_next;
};

} // namespace cognitum
