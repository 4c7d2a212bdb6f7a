// Stop 5: what is that in units? The chain as steps that can be typed into, both ways.
#pragma once

#include "ui/page.h"

#include <optional>

class QCPGraph;
class QCPItemRect;
class QCPItemText;
class QGridLayout;

namespace cognitum {

class NumberField;
class Plot;
class TextLabel;

/// The steps joined by the live line: a number, its doubt, and the arithmetic at each.
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
    };
    Context& m_context;
    std::vector<Step> m_steps;
    std::size_t m_failed_from = 0;
};

class ConvertPage : public Page {
    Q_OBJECT

  public:
    explicit ConvertPage(Context& context);

  protected:
    void refresh() override;
    void readingChanged() override;

  private:
    void refreshCurve(const Chain& chain, const Walk& walk);
    void refreshTable(const Chain& chain);
    void refreshConstants(const Reading& reading);
    void editConstant(std::size_t stage, const std::string& key, double value);
    void explain();

    StepLadder* m_ladder;
    TextLabel* m_cause;
    QPushButton* m_live;
    Plot* m_plot;
    QCPGraph *m_curve, *m_point;
    QCPItemRect* m_expected;
    QCPItemText *m_point_label, *m_expected_label;
    QGridLayout *m_table, *m_constants;
    QWidget* m_content;
    TextLabel* m_empty;
    QString m_table_key, m_constants_key;
    std::optional<std::pair<std::size_t, double>> m_typed; ///< step and value that the person follows
};

} // namespace cognitum
