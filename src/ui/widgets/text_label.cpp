#include "ui/widgets/text_label.h"

#include <QEvent>
#include <algorithm>
#include <cmath>

namespace cognitum {

namespace {

/// The widest line, and the height of all, as QFontMetrics tells them; the text is shaped the first time only.
QSizeF lines_within(QTextLayout& layout, double width, double leading) {
    QSizeF out(0, -leading);
    layout.beginLayout();
    for (QTextLine line = layout.createLine(); line.isValid(); line = layout.createLine()) {
        line.setLineWidth(width);
        out = {std::max(out.width(), line.naturalTextWidth()), std::ceil(out.height() + leading) + line.height()};
    }
    layout.endLayout();
    return out;
}

QSize whole(const QSizeF& size) {
    return {static_cast<int>(std::ceil(size.width())), static_cast<int>(std::ceil(size.height()))};
}

} // namespace

TextLabel::TextLabel(Theme& theme, Role role, const QString& text, QWidget* parent)
    : QLabel(text, parent), m_theme(theme), m_role(role) {
    setWordWrap(role == Role::body || role == Role::soft || role == Role::small);
    setTextFormat(Qt::PlainText);
    QSizePolicy policy(QSizePolicy::Preferred, wordWrap() ? QSizePolicy::Minimum : QSizePolicy::Fixed);
    policy.setHeightForWidth(wordWrap());
    setSizePolicy(policy);
    const bool is_soft = role == Role::soft || role == Role::small || role == Role::mono_soft;
    setProperty("tone", is_soft ? QStringLiteral("soft") : QStringLiteral("ink"));
    connect(&theme, &Theme::changed, this, &TextLabel::restyle);
    restyle();
}

void TextLabel::setColour(const QColor& colour) {
    if (colour == m_colour) return;
    m_colour = colour;
    restyle();
}

void TextLabel::restyle() {
    QFont font = m_theme.text();
    switch (m_role) {
    case Role::title: font = m_theme.text(17, true); break;
    case Role::name: font = m_theme.text(13, true); break;
    case Role::body: break;
    case Role::soft: font = m_theme.text(12); break;
    case Role::small: font = m_theme.text(11); break;
    case Role::mono: font = m_theme.mono(); break;
    case Role::mono_soft:
    case Role::mono_small: font = m_theme.mono(12); break;
    }
    setFont(font);
    // The application's sheet knows the soft tone; a sheet of its own is only for a colour of its own, which is
    // dear.
    if (m_colour.isValid())
        setStyleSheet(QStringLiteral("color: %1;").arg(m_colour.name()));
    else if (!styleSheet().isEmpty())
        setStyleSheet({});
}

bool TextLabel::isPlainParagraph() const {
    const QString all = text();
    return wordWrap() && textFormat() == Qt::PlainText && textInteractionFlags() == Qt::LinksAccessibleByMouse &&
           !all.isEmpty() && !all.contains(u'&') && !all.contains(u'\t') && margin() == 0 && indent() <= 0 &&
           frameWidth() == 0 && minimumWidth() == 0 && minimumHeight() == 0 &&
           !(alignment() & (Qt::AlignRight | Qt::AlignHCenter | Qt::AlignJustify));
}

TextLabel::Measured& TextLabel::measured() const {
    if (m_measured && m_measured->text == text()) return *m_measured;
    ensurePolished();
    Measured& m = m_measured.emplace();
    m.text = text();
    QString lines = m.text;
    lines.replace(u'\n', QChar::LineSeparator);
    m.layout = std::make_unique<QTextLayout>(lines, font(), this);
    QTextOption option;
    option.setTextDirection(layoutDirection());
    m.layout->setTextOption(option);
    constexpr double no_limit = 1 << 24; // as QFontMetrics has it
    const QSizeF unbroken = lines_within(*m.layout, no_limit, fontMetrics().leading());
    m.unbroken_width = unbroken.width();
    m.unbroken = whole(unbroken);
    constexpr int leaning = 1; // a last letter beyond its place
    m.widest_word = std::min(static_cast<int>(std::ceil(m.layout->minimumWidth())) + leaning, m.unbroken.width());

    // QLabel's rule: not wider than eighty characters, and of a short text a half or a quarter of that.
    const QSize around = QSize(contentsMargins().left() + contentsMargins().right(),
                               contentsMargins().top() + contentsMargins().bottom());
    const QFontMetrics metrics = fontMetrics();
    const int width = std::min(metrics.averageCharWidth() * 80, maximumWidth()) - around.width();
    QSize hint = sizeWithin(width);
    if (hint.height() < 4 * metrics.lineSpacing() && hint.width() > width / 2) hint = sizeWithin(width / 2);
    if (hint.height() < 2 * metrics.lineSpacing() && hint.width() > width / 4) hint = sizeWithin(width / 4);
    m.hint = hint + around;
    m.minimum_hint = QSize(m.widest_word, std::min(m.unbroken.height(), hint.height())) + around;
    return m;
}

/// Of the measured text, broken where `width` pixels ask for it.
QSize TextLabel::sizeWithin(int width) const {
    constexpr double leaning = 4; // a last letter beyond its place, and to spare
    if (m_measured->unbroken_width + leaning <= width) return m_measured->unbroken;
    return whole(lines_within(*m_measured->layout, std::max(0, width), fontMetrics().leading()));
}

QSize TextLabel::sizeHint() const {
    return isPlainParagraph() ? measured().hint : QLabel::sizeHint();
}

QSize TextLabel::minimumSizeHint() const {
    return isPlainParagraph() ? measured().minimum_hint : QLabel::minimumSizeHint();
}

int TextLabel::heightForWidth(int width) const {
    if (!isPlainParagraph()) return QLabel::heightForWidth(width);
    auto& heights = measured().heights;
    for (const auto& [w, height] : heights)
        if (w == width) return height;
    if (heights.size() > 15) heights.clear(); // a window that is being drawn wider
    const QMargins around = contentsMargins();
    const int height = sizeWithin(width - around.left() - around.right()).height() + around.top() + around.bottom();
    heights.emplace_back(width, height);
    return height;
}

void TextLabel::changeEvent(QEvent* event) {
    if (event->type() != QEvent::ActivationChange && event->type() != QEvent::EnabledChange &&
        event->type() != QEvent::PaletteChange)
        m_measured.reset(); // another font or style
    QLabel::changeEvent(event);
}

} // namespace cognitum
