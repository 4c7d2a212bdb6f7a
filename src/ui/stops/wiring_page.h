// Stop 3: which pin goes where, and what must I check before power?
#pragma once

#include "core/plan/loom.h"
#include "ui/page.h"

#include <QComboBox>

namespace cognitum {

class TextLabel;

/// Board edge at the left, part at the right with its legs as they are seen, wires in the order of work.
class LoomView : public QWidget {
    Q_OBJECT

  public:
    explicit LoomView(Theme& theme, QWidget* parent = nullptr);
    void setLoom(std::optional<Loom> loom, int current_wire);
    [[nodiscard]] QSize sizeHint() const override;

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    void paintWire(QPainter& painter, const Wire& wire);
    [[nodiscard]] QRectF boardBox() const;
    [[nodiscard]] QRectF partBox() const;
    [[nodiscard]] double rowY(int row) const;

    Theme& m_theme;
    std::optional<Loom> m_loom;
    int m_current = 0; ///< wire that the current step is about
};

/// The steps as rows to tick.
class StepList : public QWidget {
    Q_OBJECT

  public:
    explicit StepList(Theme& theme, QWidget* parent = nullptr);
    void setSteps(std::vector<WiringStep> steps, std::vector<int> ticked);
    /// First step that is not ticked, from 0; the size when all are.
    [[nodiscard]] int current() const;
    [[nodiscard]] QSize sizeHint() const override;

  signals:
    void toggled(int number);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

  private:
    [[nodiscard]] bool isTicked(int number) const;
    [[nodiscard]] int rowHeight() const { return m_theme.px(46); }

    Theme& m_theme;
    std::vector<WiringStep> m_steps;
    std::vector<int> m_ticked;
};

class WiringPage : public Page {
    Q_OBJECT

  public:
    explicit WiringPage(Context& context);
    [[nodiscard]] QWidget* side() override { return m_side; }

  protected:
    void refresh() override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void toggle(int number);
    void stepDone();
    void stepBack();
    void rewire(const QString& what, const std::function<void(Wiring&)>& change);

    LoomView* m_loom;
    StepList* m_steps;
    QPushButton* m_done;
    TextLabel *m_mirrored, *m_empty;
    QComboBox *m_pin, *m_rail, *m_reference;
    QWidget *m_choices, *m_work;
    QWidget* m_side;
    TextLabel* m_caution;
    TextLabel* m_numbers;
};

} // namespace cognitum
