// Stop 4: what does the board really send, and is it healthy?
#pragma once

#include "ui/page.h"

#include <QLineEdit>
#include <QListWidget>

class QCPBars;
class QCPGraph;

namespace cognitum {

class LinkBox;
class Plot;
class TextLabel;

class RawPage : public Page {
    Q_OBJECT

  public:
    explicit RawPage(Context& context);
    [[nodiscard]] QWidget* side() override { return m_side; }

  protected:
    void refresh() override;
    void readingChanged() override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void buildSide();
    void refreshPlots(const LiveReading& live, int bits);
    void refreshLines(const LiveBoard& board, const std::string& column);
    void ask();

    LinkBox* m_link;
    QWidget* m_content;
    TextLabel *m_trace_note, *m_empty;
    Plot* m_trace;
    QCPGraph *m_graph, *m_now;
    Plot* m_codes;
    QCPBars* m_bars;
    TextLabel* m_lines_note;
    QListWidget* m_lines;
    QString m_lines_key;
    bool m_paused = false;
    QList<TextLabel*> m_figures;
    TextLabel* m_health;
    QWidget* m_side;
    QLineEdit* m_command;
    TextLabel* m_answer;
    QWidget* m_simulated;
};

} // namespace cognitum
