// A program's text with line numbers, to be read and copied.
#pragma once

#include "ui/theme.h"

#include <QPlainTextEdit>

namespace cognitum {

class CodeListing : public QPlainTextEdit {
    Q_OBJECT

  public:
    explicit CodeListing(Theme& theme, QWidget* parent = nullptr);

  protected:
    void resizeEvent(QResizeEvent* event) override;
    void changeEvent(QEvent* event) override;

  private:
    void restyle();
    void placeNumbers();
    void paintNumbers(QPaintEvent* event);
    class Numbers;
    Theme& m_theme;
    QWidget* m_numbers;
};

} // namespace cognitum
