// The bottom line: links, lost lines, the last message, recording, and what was saved when.
#pragma once

#include "ui/context.h"

#include <QWidget>

class QPushButton;

namespace cognitum {

class TextLabel;

class StatusLine : public QWidget {
    Q_OBJECT

  public:
    explicit StatusLine(Context& context, QWidget* parent = nullptr);
    /// A sentence that stays until the next one, at most half a minute.
    void say(const QString& sentence);
    /// Buttons for what has no room beside the page.
    void offer(bool rail, bool side);

  signals:
    void railWanted();
    void sideWanted();

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    void refresh();

    Context& m_context;
    QPushButton *m_rail, *m_side;
    TextLabel *m_links, *m_message, *m_recording;
    TimeUs m_said_at = 0;
};

} // namespace cognitum
