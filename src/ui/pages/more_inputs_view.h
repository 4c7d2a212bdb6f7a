// The ways to more analog inputs side by side, computed for this bench, each with a button that takes it.
#pragma once

#include "core/plan/more_inputs.h"
#include "ui/context.h"

#include <QGridLayout>
#include <QWidget>

namespace cognitum {

class TextLabel;

class MoreInputsView : public QWidget {
    Q_OBJECT

  public:
    explicit MoreInputsView(Context& context, QWidget* parent = nullptr);
    void setBoard(const std::string& board);

  private:
    void take(const std::string& way);

    Context& m_context;
    std::string m_board;
    TextLabel* m_intro;
    QGridLayout* m_grid;
    QWidget* m_table = nullptr;
};

} // namespace cognitum
