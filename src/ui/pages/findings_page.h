// Everything that the bench should be looked at for, as a list of work: what happens now, what to mend first, what
// then, and what is worth knowing. Each leads to its place.
#pragma once

#include "ui/widgets/page.h"

#include <set>

namespace cognitum {

struct FindingGroup;
class TextLabel;

class FindingsPage : public Page {
    Q_OBJECT

  public:
    FindingsPage(Context& context, QWidget* parent);
    [[nodiscard]] bool wantsSide() const override { return false; }

  protected:
    void refresh() override;
    void readingChanged() override {}

  private:
    void refreshNow();
    void refreshPlan();
    void fill(const FindingGroup& group, QVBoxLayout* list);

    TextLabel* m_nothing;
    QWidget* m_now;
    QVBoxLayout *m_now_rows, *m_groups, *m_beware;
    std::set<QString> m_in_plan; ///< what the plan is told already
    QString m_now_key;
    std::uint64_t m_plan = 0;
};

} // namespace cognitum
