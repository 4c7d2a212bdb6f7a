// A symptom's whole tree at a glance: questions as rings, causes by name at the right; the way taken is drawn in
// full, what is ruled out fades.
#pragma once

#include "core/bringup/symptoms.h"
#include "ui/theme.h"

#include <QWidget>

namespace cognitum {

class CauseMap : public QWidget {
    Q_OBJECT

  public:
    explicit CauseMap(Theme& theme, QWidget* parent = nullptr);
    void setWalk(const SymptomTree* tree, const std::string& start, const SymptomWalk& walk);
    [[nodiscard]] QSize sizeHint() const override;
    /// Causes that are not ruled out, as drawn.
    [[nodiscard]] int open() const;

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    struct Node {
        QString text; ///< of a cause
        int parent = -1, depth = 0;
        double row = 0;
        bool cause = false, taken = false, here = false, out = false;
    };
    int add(const std::string& id, int parent, int depth, std::vector<std::string> above, bool on_way);
    [[nodiscard]] int rowHeight() const { return m_theme.px(17); }

    Theme& m_theme;
    const SymptomTree* m_tree = nullptr;
    std::vector<Node> m_nodes;
    std::vector<std::string> m_way; ///< ids from the start to where the walk stands
    int m_rows = 0, m_depth = 0;
};

} // namespace cognitum
