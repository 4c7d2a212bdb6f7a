// The right side: what the page adds, the findings with their way out, and the doubt with what would help most.
#pragma once

#include "ui/context.h"

#include <QScrollArea>
#include <QVBoxLayout>

namespace cognitum {

class TextLabel;

/// Sorted bars in the reading's unit.
class DoubtBars : public QWidget {
    Q_OBJECT

  public:
    explicit DoubtBars(Theme& theme, QWidget* parent = nullptr);
    void setBudget(const Budget& budget);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] const Budget& budget() const { return m_budget; }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    Theme& m_theme;
    Budget m_budget;
};

class SidePanel : public QScrollArea {
    Q_OBJECT

  public:
    explicit SidePanel(Context& context, QWidget* parent = nullptr);
    /// Sections of the page; the panel does not own them. With `alone`, findings and doubt are left out.
    /// In the page's place, and as wide.
    void setWide(bool wide);
    void setPageSection(QWidget* section, bool alone);

  private:
    void refresh();
    void rebuildFindings(const std::vector<Finding>& findings, const std::vector<std::string>& mended);

    Context& m_context;
    QWidget* m_body;
    QVBoxLayout* m_layout;
    QWidget* m_page_section = nullptr;
    QWidget* m_findings_box;
    QVBoxLayout* m_findings;
    TextLabel* m_findings_title;
    TextLabel* m_findings_count;
    QWidget* m_doubt_box;
    TextLabel* m_doubt_value;
    TextLabel* m_doubt_about;
    DoubtBars* m_bars;
    TextLabel* m_help_title;
    TextLabel* m_help;
    TextLabel* m_help_then;
    QString m_shown; ///< what the findings box shows, so that it is rebuilt only when it changes
    bool m_alone = false;
    bool m_wide = false;
};

} // namespace cognitum
