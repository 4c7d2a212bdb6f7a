#include "ui/plain_text.h"

#include <QApplication>
#include <QEvent>
#include <QLabel>
#include <QPointer>

namespace cognitum {

void PlainTexts::install() {
    static QPointer<PlainTexts> installed;
    if (installed) return;
    installed = new PlainTexts(qApp);
    qApp->installEventFilter(installed);
}

/// A label is polished before it is measured or shown, and a tool tip before it gets its text.
bool PlainTexts::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::Polish)
        if (auto* label = qobject_cast<QLabel*>(watched); label && label->textFormat() == Qt::AutoText)
            label->setTextFormat(Qt::PlainText);
    return false;
}

} // namespace cognitum
