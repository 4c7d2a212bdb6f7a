// The fields of a kind of link: its place in a row, and what is asked for seldom below it. LinkBox shows those of
// the kind that is chosen.
#pragma once

#include "core/bench/bench.h"
#include "core/catalog/cards.h"
#include "ui/theme.h"

#include <QLineEdit>
#include <QWidget>

namespace cognitum {

/// One kind of link, or several that share their fields. The row itself, to be filled by the kind.
class LinkFields : public QWidget {
  public:
    using QWidget::QWidget;
    /// Names the kind in the list of kinds.
    [[nodiscard]] virtual QString title() const = 0;
    /// Whether these fields show such a plan.
    [[nodiscard]] virtual bool areFor(LinkKind kind) const = 0;
    virtual void showPlan(const LinkPlan& plan) = 0;
    /// Into the kind and what belongs to it. Empty, or what is missing or wrong, as a sentence; then the plan is
    /// spoilt.
    [[nodiscard]] virtual QString readPlan(LinkPlan& plan) const = 0;
    /// What is folded away until it is asked for; null: nothing.
    [[nodiscard]] virtual QWidget* more() const { return nullptr; }
    /// Another board, or other ports: what can be chosen is listed anew, and what was typed stays.
    virtual void listChoices(const BoardUse*, const Catalog&) {}
    /// In which Return connects.
    [[nodiscard]] virtual std::vector<QLineEdit*> places() const = 0;
};

/// All kinds in the order in which they are offered; the first stands for a board without a link. A new kind is a
/// class beside the others and its line there.
std::vector<LinkFields*> make_link_fields(Theme& theme);

} // namespace cognitum
