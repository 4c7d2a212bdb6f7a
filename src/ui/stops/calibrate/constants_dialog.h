// The correction as a maker needs it on the board: lines to copy.
#pragma once

#include "ui/context.h"

#include <QDialog>

namespace cognitum {

class ConstantsDialog : public QDialog {
    Q_OBJECT

  public:
    ConstantsDialog(Context& context, const Reading& reading, QWidget* parent = nullptr);
};

} // namespace cognitum
