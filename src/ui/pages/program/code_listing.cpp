#include "ui/pages/program/code_listing.h"

#include <QPainter>
#include <QTextBlock>

namespace cognitum {

/// The strip beside the text.
class CodeListing::Numbers : public QWidget {
  public:
    explicit Numbers(CodeListing* listing) : QWidget(listing), m_listing(listing) {}

  protected:
    void paintEvent(QPaintEvent* event) override { m_listing->paintNumbers(event); }

  private:
    CodeListing* m_listing;
};

CodeListing::CodeListing(Theme& theme, QWidget* parent)
    : QPlainTextEdit(parent), m_theme(theme), m_numbers(new Numbers(this)) {
    setReadOnly(true);
    setLineWrapMode(QPlainTextEdit::NoWrap);
    setUndoRedoEnabled(false);
    // With a caret, so that it is read and copied by keys.
    setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
    connect(this, &QPlainTextEdit::blockCountChanged, this, &CodeListing::placeNumbers);
    connect(this, &QPlainTextEdit::updateRequest, this, [this](const QRect& part, int scrolled) {
        if (scrolled != 0)
            m_numbers->scroll(0, scrolled);
        else
            m_numbers->update(0, part.y(), m_numbers->width(), part.height());
    });
    restyle();
}

void CodeListing::restyle() {
    setFont(m_theme.mono(11));
    setTabStopDistance(4 * fontMetrics().horizontalAdvance(QLatin1Char(' ')));
    placeNumbers();
}

void CodeListing::changeEvent(QEvent* event) {
    QPlainTextEdit::changeEvent(event);
    if (event->type() == QEvent::PaletteChange || event->type() == QEvent::StyleChange) {
        placeNumbers();
        tintLines();
    }
}

void CodeListing::setMarks(const std::map<int, Mark>& marks) {
    m_marks = marks;
    tintLines();
    placeNumbers();
}

void CodeListing::tintLines() {
    QList<QTextEdit::ExtraSelection> tints;
    for (const auto& [line, mark] : m_marks) {
        QTextEdit::ExtraSelection tint;
        tint.cursor = QTextCursor(document()->findBlockByNumber(line - 1));
        QColor colour = mark_colour(m_theme, mark);
        colour.setAlphaF(0.14F);
        tint.format.setBackground(colour);
        tint.format.setProperty(QTextFormat::FullWidthSelection, true);
        tints << tint;
    }
    setExtraSelections(tints);
}

void CodeListing::goTo(int line) {
    QTextCursor cursor(document()->findBlockByNumber(line - 1));
    setTextCursor(cursor);
    centerCursor();
}

void CodeListing::placeNumbers() {
    const int digits = static_cast<int>(QString::number(std::max(1, blockCount())).size());
    const int width =
        fontMetrics().horizontalAdvance(QLatin1Char('9')) * digits + m_theme.px(m_marks.empty() ? 18 : 34);
    setViewportMargins(width, 0, 0, 0);
    const QRect all = contentsRect();
    m_numbers->setGeometry(all.left(), all.top(), width, all.height());
    m_numbers->update();
}

void CodeListing::resizeEvent(QResizeEvent* event) {
    QPlainTextEdit::resizeEvent(event);
    placeNumbers();
}

void CodeListing::paintNumbers(QPaintEvent* event) {
    QPainter painter(m_numbers);
    painter.setFont(font());
    painter.setPen(m_theme.colours().soft);
    for (QTextBlock block = firstVisibleBlock(); block.isValid(); block = block.next()) {
        const QRectF place = blockBoundingGeometry(block).translated(contentOffset());
        if (place.top() > event->rect().bottom()) break;
        painter.setPen(m_theme.colours().soft);
        painter.drawText(QRectF(0, place.top(), m_numbers->width() - m_theme.px(10), place.height()),
                         Qt::AlignRight | Qt::AlignTop, QString::number(block.blockNumber() + 1));
        if (const auto mark = m_marks.find(block.blockNumber() + 1); mark != m_marks.end())
            paint_mark(painter, m_theme, QPointF(m_theme.px(10), place.center().y()), m_theme.px(9), mark->second);
    }
}

} // namespace cognitum
