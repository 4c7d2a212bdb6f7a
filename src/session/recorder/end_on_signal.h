// A signal that asks a program to end, as log-out and `kill` send it, handed to its event loop.
#pragma once

#include <QObject>
#include <functional>

namespace cognitum {

class EndOnSignal : public QObject {
  public:
    explicit EndOnSignal(std::function<void()> end);

  private:
    std::function<void()> m_end;
};

} // namespace cognitum
