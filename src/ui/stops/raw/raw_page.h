// Stop 4: what does the board really send, and is it healthy?
#pragma once

#include "ui/widgets/page.h"

#include <QElapsedTimer>
#include <QTimer>
#include <array>

namespace cognitum {

class BringUpRow;
class BringUpView;
class FaultFinder;
class FieldChoice;
class LinkBox;
class RawLines;
class RawPlots;
class RawSide;
class TextLabel;

class RawPage : public Page {
    Q_OBJECT

  public:
    RawPage(Context& context, QWidget* parent);
    [[nodiscard]] QWidget* side() override;

  protected:
    void refresh() override;
    void readingChanged() override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    enum Tab { signal_tab, bring_up_tab, fault_tab };
    void buildTabs();
    void buildSignal();
    void showTab(Tab tab);
    void refreshSignal(const Reading& reading, const std::vector<HealthVerdict>& verdicts);
    void refreshProgram(const Reading& reading, const LiveBoard* board);
    void refreshHealth(const std::vector<HealthVerdict>& verdicts, bool samples);
    [[nodiscard]] QString emptyText(const Reading& reading, const BoardUse* use, const LiveBoard* board) const;

    QElapsedTimer m_drawn;
    QTimer m_draw_later;
    std::string m_drawn_reading;
    LinkBox* m_link;
    std::array<QPushButton*, 3> m_tabs = {};
    Tab m_tab = signal_tab;
    FieldChoice* m_field;
    QWidget *m_signal, *m_content;
    BringUpRow* m_stages;
    BringUpView* m_bring_up;
    FaultFinder* m_finder;
    TextLabel *m_empty, *m_program, *m_health;
    RawPlots* m_plots;
    RawLines* m_lines;
    RawSide* m_side;
};

} // namespace cognitum
