// Text from strangers is plain text: a label, a message box or a tool tip that finds markup in a reading's name
// must not read it as a document, which may load files and fill the memory.
#pragma once

#include <QObject>

namespace cognitum {

/// Makes every label of the program, those of message boxes and tool tips included, show its text as it stands.
/// What is meant as a document says so with Qt::RichText itself, and escapes what it did not write.
class PlainTexts : public QObject {
  public:
    /// For the whole application; once is enough, more does no harm.
    static void install();

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    using QObject::QObject;
};

} // namespace cognitum
