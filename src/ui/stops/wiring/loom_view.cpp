#include "ui/stops/wiring/loom_view.h"

#include "core/base/phrase.h"
#include "ui/stops/wiring/loom_painter.h"
#include "ui/widgets/parts.h"

#include <QScrollBar>
#include <QWheelEvent>
#include <cmath>

namespace cognitum {

LoomView::LoomView(Theme& theme, QWidget* parent) : QScrollArea(parent), m_theme(theme) {
    setObjectName(QStringLiteral("loom"));
    setAccessibleName(tr("Loom drawing: board at the left, part at the right"));
    setFrameShape(QFrame::NoFrame);
    setMinimumSize(theme.px(300), theme.px(300));
    m_sheet = new QWidget;
    m_sheet->installEventFilter(this);
    setWidget(m_sheet);
    see_through(this);
    connect(&theme, &Theme::changed, this, &LoomView::fit);
}

void LoomView::setLoom(Loom loom, int current_wire) {
    m_loom = std::move(loom);
    m_current = current_wire;
    QString spoken;
    for (const LoomWire& w : m_loom.wires)
        spoken += tr("wire %1, %2, at %3; ").arg(w.order).arg(from_std(phrase_of(w.colour)), from_std(w.net));
    setAccessibleDescription(spoken);
    fit();
}

void LoomView::setZoom(double zoom) {
    m_zoom = std::clamp(zoom, 0.5, 4.0);
    fit();
}

void LoomView::fit() {
    const QSizeF size = LoomPainter(m_theme, m_loom).size();
    // A small drawing is not blown up by more than a quarter, a wide one not pressed below legibility.
    const auto scale_for = [&](int wide) { return m_zoom * std::clamp((wide - 4) / size.width(), 0.62, 1.25); };
    m_scale = scale_for(width());
    if (size.height() * m_scale > height()) m_scale = scale_for(width() - verticalScrollBar()->sizeHint().width());
    const bool wider = size.width() * m_scale > width();
    setHorizontalScrollBarPolicy(wider ? Qt::ScrollBarAsNeeded : Qt::ScrollBarAlwaysOff);
    m_sheet->resize(static_cast<int>(std::ceil(size.width() * m_scale)) + 2,
                    static_cast<int>(std::ceil(size.height() * m_scale)) + 2);
    m_sheet->update();
}

void LoomView::wheelEvent(QWheelEvent* event) {
    if (!(event->modifiers() & Qt::ControlModifier)) {
        QScrollArea::wheelEvent(event);
        return;
    }
    setZoom(m_zoom * std::pow(1.25, event->angleDelta().y() / 120.0));
    event->accept();
}

void LoomView::resizeEvent(QResizeEvent* event) {
    QScrollArea::resizeEvent(event);
    fit();
}

bool LoomView::eventFilter(QObject* watched, QEvent* event) {
    if (watched == m_sheet && event->type() == QEvent::Paint) {
        paintSheet();
        return true;
    }
    return QScrollArea::eventFilter(watched, event);
}

void LoomView::paintSheet() {
    QPainter p(m_sheet);
    p.scale(m_scale, m_scale);
    LoomPainter(m_theme, m_loom).paint(p, m_current);
}

} // namespace cognitum
