#include "ui/widgets/parts.h"

#include <QStyle>
#include <QStyleOption>
#include <algorithm>

namespace cognitum {

QString from_std(const std::string& text) {
    QString out = QString::fromStdString(text);
    return out.replace(QStringLiteral("± "), QStringLiteral("±\u00a0")); // never a line break inside a doubt
}

QColor mark_colour(const Theme& theme, Mark mark) {
    const Tokens& t = theme.colours();
    switch (mark) {
    case Mark::done: return t.good;
    case Mark::look: return t.look;
    case Mark::bad: return t.bad;
    case Mark::not_begun: return t.soft;
    }
    return t.soft;
}

Mark mark_of(Severity severity) {
    switch (severity) {
    case Severity::error: return Mark::bad;
    case Severity::look: return Mark::look;
    case Severity::note: return Mark::done;
    }
    return Mark::done;
}

void paint_mark(QPainter& painter, const Theme& theme, const QPointF& c, double size, Mark mark) {
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    const QColor colour = mark_colour(theme, mark);
    const double r = size / 2;
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour);
    switch (mark) {
    case Mark::done: painter.drawEllipse(c, r, r); break;
    case Mark::look:
        painter.drawPolygon(QPolygonF(
            {{c.x(), c.y() - r * 1.1}, {c.x() + r * 1.15, c.y() + r * 0.9}, {c.x() - r * 1.15, c.y() + r * 0.9}}));
        break;
    case Mark::bad:
        painter.drawPolygon(QPolygonF({{c.x(), c.y() - r * 1.2},
                                       {c.x() + r * 1.2, c.y()},
                                       {c.x(), c.y() + r * 1.2},
                                       {c.x() - r * 1.2, c.y()}}));
        break;
    case Mark::not_begun:
        painter.setBrush(Qt::NoBrush);
        painter.setPen(theme.pen(colour, 1.6));
        painter.drawEllipse(c, r * 0.85, r * 0.85);
        break;
    }
    painter.restore();
}

MarkLabel::MarkLabel(Theme& theme, Mark mark, QWidget* parent) : QWidget(parent), m_theme(theme), m_mark(mark) {
    connect(&theme, &Theme::changed, this, [this] {
        updateGeometry();
        update();
    });
    setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
}

void MarkLabel::setMark(Mark mark) {
    if (mark == m_mark) return;
    m_mark = mark;
    update();
}

QSize MarkLabel::sizeHint() const {
    return {m_theme.px(14), m_theme.px(16)};
}

void MarkLabel::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    paint_mark(painter, m_theme, QPointF(width() / 2.0, height() / 2.0), m_theme.px(10), m_mark);
}

RuleLine::RuleLine(Theme& theme, bool ink, QWidget* parent) : QWidget(parent), m_theme(theme), m_ink(ink) {
    setFixedHeight(1);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    connect(&theme, &Theme::changed, this, qOverload<>(&QWidget::update));
}

void RuleLine::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), m_ink ? m_theme.colours().ink : m_theme.colours().rule);
}

QPushButton* make_button(const QString& text, const QString& name, bool main) {
    auto* button = new QPushButton(text);
    button->setAutoDefault(false); // Return in a field of a dialog takes the number, and presses nothing
    button->setObjectName(name);
    button->setProperty("main", main);
    button->setAccessibleName(text);
    button->setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
    return button;
}

namespace {

/// A link whose words go on in a second line where there is no room for them in one.
class WrappingLink : public QPushButton {
  public:
    WrappingLink(const QString& text, QWidget* parent) : QPushButton(text, parent) {
        setSizePolicy(QSizePolicy::Maximum, QSizePolicy::Fixed);
    }
    /// As wide as the words in one line, as high as they are in the width that it got.
    [[nodiscard]] QSize sizeHint() const override {
        const QSize one_line = QPushButton::sizeHint();
        const auto breaks = m_width > 0 ? wrapped(m_width).count(QLatin1Char('\n')) : 0;
        return {one_line.width(), one_line.height() + static_cast<int>(breaks) * fontMetrics().lineSpacing()};
    }
    [[nodiscard]] QSize minimumSizeHint() const override {
        int longest = 0;
        for (const QString& word : text().split(QLatin1Char(' ')))
            longest = std::max(longest, fontMetrics().horizontalAdvance(word));
        const QSize whole = sizeHint();
        return {std::min(whole.width(), longest + 4), whole.height()};
    }

  protected:
    void resizeEvent(QResizeEvent* event) override {
        QPushButton::resizeEvent(event);
        if (width() == m_width) return;
        const int before = sizeHint().height();
        m_width = width();
        if (sizeHint().height() != before) updateGeometry();
    }
    void initStyleOption(QStyleOptionButton* option) const override {
        QPushButton::initStyleOption(option);
        option->text = wrapped(width());
    }

  private:
    [[nodiscard]] QString wrapped(int width) const {
        if (fontMetrics().horizontalAdvance(text()) <= width) return text();
        QString out, line;
        for (const QString& word : text().split(QLatin1Char(' '))) {
            const QString longer = line.isEmpty() ? word : line + QLatin1Char(' ') + word;
            if (!line.isEmpty() && fontMetrics().horizontalAdvance(longer) > width) {
                out += line + QLatin1Char('\n');
                line = word;
            } else {
                line = longer;
            }
        }
        return out + line;
    }
    int m_width = 0; ///< pixels that the layout gave
};

} // namespace

QPushButton* make_link(const QString& text, const QString& name, QWidget* parent) {
    auto* button = new WrappingLink(text, parent);
    button->setAutoDefault(false);
    button->setObjectName(name);
    button->setProperty("link", true);
    button->setAccessibleName(text);
    button->setCursor(Qt::PointingHandCursor);
    return button;
}

QLineEdit* make_field(const char* name, const QString& about, const QString& hint, QWidget* parent) {
    auto* field = new QLineEdit(parent);
    field->setObjectName(QLatin1String(name));
    field->setAccessibleName(about);
    field->setToolTip(about);
    field->setPlaceholderText(hint);
    return field;
}

QCheckBox* make_check(const char* name, const QString& text) {
    auto* box = new QCheckBox(text);
    box->setObjectName(QLatin1String(name));
    return box;
}

QHBoxLayout* make_row(QWidget* widget, int spacing) {
    auto* row = new QHBoxLayout(widget);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(spacing);
    return row;
}

void see_through(QScrollArea* area) {
    area->viewport()->setAutoFillBackground(false);
    area->widget()->setAutoFillBackground(false);
}

QScrollArea* make_scroll(QWidget* content) {
    auto* area = new QScrollArea;
    area->setWidget(content);
    area->setWidgetResizable(true);
    area->setFrameShape(QFrame::NoFrame);
    area->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    area->setFocusPolicy(Qt::NoFocus);
    see_through(area);
    return area;
}

QString on_button(QString words) {
    return words.replace(QLatin1Char('&'), QStringLiteral("&&"));
}

void show_part(QWidget* part, bool visible) {
    if (!visible || part->isHidden()) part->setVisible(visible);
}

void clear_layout(QLayout* layout) {
    while (QLayoutItem* item = layout->takeAt(0)) {
        if (QWidget* widget = item->widget()) {
            widget->hide();
            widget->deleteLater();
        } else if (QLayout* inner = item->layout()) {
            clear_layout(inner);
        }
        delete item;
    }
}

void set_text(QLabel* label, const QString& text) {
    if (label->text() != text) label->setText(text);
}

} // namespace cognitum
