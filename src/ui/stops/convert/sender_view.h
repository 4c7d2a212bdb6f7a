// Stop 5, the board's own arithmetic: what its program makes of this very value with its own kinds of number, the
// two divisors, and the fixed speed of sound beside the real one.
#pragma once

#include "ui/context.h"

#include <QWidget>

class QGridLayout;

namespace cognitum {

class TextLabel;

class SenderView : public QWidget {
    Q_OBJECT

  public:
    explicit SenderView(Context& context, QWidget* parent = nullptr);
    /// For the value that the walk of the chain starts from.
    void show(const Chain& chain, const Walk& walk, double doubt);

  private:
    Context& m_context;
    TextLabel *m_truth, *m_divisors, *m_sound;
    QGridLayout* m_grid;
    std::string m_key;
};

} // namespace cognitum
