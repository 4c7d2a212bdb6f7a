// The seven stages of a bring-up below each other, joined by the line that they complete; one is chosen.
#pragma once

#include "core/bringup/stages.h"
#include "session/path_state.h"
#include "ui/theme.h"

#include <QWidget>

namespace cognitum {

Mark mark_of(StageState state);

class StageLadder : public QWidget {
    Q_OBJECT

  public:
    explicit StageLadder(Theme& theme, QWidget* parent = nullptr);
    struct Row {
        QString title, about; ///< about: who signed it and when, or what is to be done
        StageState state = StageState::open;
    };
    void setRows(std::vector<Row> rows);
    [[nodiscard]] int chosen() const { return m_chosen; }
    void choose(int row);
    [[nodiscard]] QSize sizeHint() const override;

  signals:
    void chosenChanged(int row);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    [[nodiscard]] int rowHeight() const;
    Theme& m_theme;
    std::vector<Row> m_rows;
    int m_chosen = 0;
};

} // namespace cognitum
