// The steps of a path joined by the live line: a number, its doubt, the arithmetic and the constants' origin at
// each.
#pragma once

#include "ui/context.h"

#include <QWidget>
#include <optional>

namespace cognitum {

class NumberField;
class TextLabel;

class StepLadder : public QWidget {
    Q_OBJECT

  public:
    explicit StepLadder(Context& context, QWidget* parent = nullptr);
    /// Shows a walk through the path; `typed` is the step that the person typed into, or none.
    void show(const Chain& chain, const Walk& walk, const std::vector<double>& doubts,
              std::optional<std::size_t> typed);

  signals:
    void typed(std::size_t step, double value);

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    void build(std::size_t steps);
    struct Step {
        TextLabel* title;
        TextLabel* doubt;
        NumberField* field;
        TextLabel* arithmetic;
        TextLabel* origin;
    };
    Context& m_context;
    std::vector<Step> m_steps;
    std::size_t m_failed_from = 0;
};

} // namespace cognitum
