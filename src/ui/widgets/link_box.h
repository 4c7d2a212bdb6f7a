// How a board is reached: a port that the system lists or one that is typed, its speed, and one button.
#pragma once

#include "ui/context.h"

#include <QComboBox>
#include <QPushButton>
#include <QWidget>

namespace cognitum {

class TextLabel;

class LinkBox : public QWidget {
    Q_OBJECT

  public:
    explicit LinkBox(Context& context, QWidget* parent = nullptr);
    void setBoard(const std::string& board);

  private:
    void refresh();
    void listPorts();
    void connectPort();
    void disconnectPort();

    Context& m_context;
    std::string m_board;
    QComboBox* m_port;
    QComboBox* m_speed;
    QPushButton *m_open, *m_close;
    TextLabel* m_state;
};

} // namespace cognitum
