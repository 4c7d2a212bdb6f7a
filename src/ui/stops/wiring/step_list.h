// The wiring steps as rows to tick; the one in hand says what to measure and what it means if not.
#pragma once

#include "core/plan/loom/wiring_steps.h"
#include "ui/theme.h"

#include <QWidget>

namespace cognitum {

class StepList : public QWidget {
    Q_OBJECT

  public:
    explicit StepList(Theme& theme, QWidget* parent = nullptr);
    void setSteps(std::vector<WiringStep> steps, std::vector<int> ticked);
    /// First step that is not ticked, from 0; the size when all are.
    [[nodiscard]] int current() const;
    /// Where the step in hand stands; empty when all are done.
    [[nodiscard]] QRect currentRect() const;
    [[nodiscard]] QSize sizeHint() const override;

  signals:
    void toggled(int number);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

  private:
    struct Line {
        QString text;
        QFont font;
        bool warns = false;
        int height = 0;
    };
    [[nodiscard]] bool isTicked(int number) const;
    [[nodiscard]] std::vector<Line> linesOf(std::size_t step) const;
    void layRows();

    Theme& m_theme;
    std::vector<WiringStep> m_steps;
    std::vector<int> m_ticked;
    std::vector<int> m_tops;
};

} // namespace cognitum
