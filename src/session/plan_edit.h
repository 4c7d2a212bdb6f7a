// One edit of the plan as an undoable command: it keeps what changed, before and after, not the whole bench.
#pragma once

#include "core/bench/plan_difference.h"

#include <QUndoCommand>
#include <functional>

namespace cognitum {

class PlanEdit : public QUndoCommand {
  public:
    using Apply = std::function<void(const PlanDifference&, bool forwards)>;
    PlanEdit(const QString& text, PlanDifference change, Apply apply)
        : QUndoCommand(text), m_change(std::move(change)), m_apply(std::move(apply)) {}
    void redo() override { m_apply(m_change, true); }
    void undo() override { m_apply(m_change, false); }

  private:
    PlanDifference m_change;
    Apply m_apply;
};

} // namespace cognitum
