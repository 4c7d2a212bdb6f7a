// The seven stages of a bring-up in one line under the raw signal; each leads to its stage.
#pragma once

#include "ui/context.h"

#include <QBoxLayout>
#include <QPushButton>
#include <QWidget>

namespace cognitum {

class MarkLabel;

class BringUpRow : public QWidget {
    Q_OBJECT

  public:
    explicit BringUpRow(Context& context, QWidget* parent = nullptr);
    void refresh();
    [[nodiscard]] QBoxLayout* columns() const { return m_columns; }

  signals:
    void stageChosen(int stage);

  private:
    Context& m_context;
    QBoxLayout* m_columns;
    std::vector<MarkLabel*> m_marks;
    std::vector<QPushButton*> m_links;
};

} // namespace cognitum
