// One edit of the plan as an undoable command: it keeps what changed, before and after, not the whole bench.
#pragma once

#include "core/bench/bench.h"

#include <QUndoCommand>
#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace cognitum {

/// The parts of two benches that differ.
struct PlanDifference {
    struct Head {
        std::string name, place, currency;
        std::vector<Price> prices;
    };
    template <typename T>
    struct Item {
        std::optional<T> before, after; ///< one of them may be missing: added or removed
        std::size_t position = 0;       ///< in the list that has it
    };
    std::optional<std::pair<Head, Head>> head;
    std::vector<Item<BoardUse>> boards;
    std::vector<Item<Reading>> readings;
    std::vector<Item<Module>> modules;
    std::vector<Item<ReferenceInstrument>> references;
    [[nodiscard]] bool empty() const {
        return !head && boards.empty() && readings.empty() && modules.empty() && references.empty();
    }
};

PlanDifference difference(const Bench& before, const Bench& after);
/// Applies the difference forwards (before → after) or backwards.
void apply(const PlanDifference& change, bool forwards, Bench& bench);

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
