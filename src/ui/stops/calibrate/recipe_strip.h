// The recipe at the head of the Calibrate stop: which one, which step, what to do there and what to mind.
#pragma once

#include "core/calibrate/run.h"
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

    /// The recipes that suit the run's reading.
    void setRecipes(const CalibrationRun& run);
    void refresh(const CalibrationRun& run, const Quantity& quantity);

  signals:
    void recipeChosen(const std::string& id);
    void stepMoved(int by);

  protected:
    void resizeEvent(QResizeEvent* event) override;

  private:
    Context& m_context;
    QBoxLayout* m_row; ///< recipe, step, ways on; under each other where it is narrow
    QComboBox* m_recipe;
    TextLabel *m_where, *m_text, *m_caution;
    QPushButton *m_back, *m_next;
};

} // namespace cognitum
