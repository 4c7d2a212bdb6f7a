// A program's text with line numbers, to be read and copied.
#pragma once

#include "ui/widgets/parts.h"

#include <map>

#include <QPlainTextEdit>

namespace cognitum {

class CodeListing : public QPlainTextEdit {
    Q_OBJECT

  public:
    explicit CodeListing(Theme& theme, QWidget* parent = nullptr);
    /// Lines, from 1, that something is said about: tinted, with its shape beside the number.
    void setMarks(const std::map<int, Mark>& marks);
    /// Brings a line into view, with the caret on it.
    void goTo(int line);

  protected:
    void resizeEvent(QResizeEvent* event) override;
    void changeEvent(QEvent* event) override;

  private:
    void restyle();
    void placeNumbers();
    void paintNumbers(QPaintEvent* event);
    class Numbers;
    void tintLines();
    Theme& m_theme;
    QWidget* m_numbers;
    std::map<int, Mark> m_marks;
};

} // namespace cognitum
