// The expected range of a reading as a scale, with the band and the value now.
#pragma once

#include "ui/context.h"

#include <QWidget>

namespace cognitum {

class RangeScale : public QWidget {
    Q_OBJECT

  public:
    explicit RangeScale(Context& context, QWidget* parent = nullptr);
    [[nodiscard]] QSize sizeHint() const override;

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    Context& m_context;
};

} // namespace cognitum
