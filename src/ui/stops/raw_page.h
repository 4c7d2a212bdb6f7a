// Stop 4: what does the board really send, and is it healthy?
#pragma once

#include "ui/page.h"

namespace cognitum {

class LinkBox;
class RawLines;
class RawPlots;
class RawSide;
class TextLabel;

class RawPage : public Page {
    Q_OBJECT

  public:
    explicit RawPage(Context& context);
    [[nodiscard]] QWidget* side() override;

  protected:
    void refresh() override;
    void readingChanged() override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void refreshHealth(const std::vector<HealthVerdict>& verdicts, bool samples);
    [[nodiscard]] QString emptyText(const Reading& reading, const BoardUse* use, const LiveBoard* board) const;

    LinkBox* m_link;
    QWidget* m_content;
    TextLabel *m_empty, *m_health;
    RawPlots* m_plots;
    RawLines* m_lines;
    RawSide* m_side;
};

} // namespace cognitum
