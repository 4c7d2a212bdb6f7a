// Text in the theme's sizes and colours.
#pragma once

#include "ui/theme.h"

#include <QLabel>
#include <QTextLayout>
#include <memory>
#include <optional>
#include <utility>
#include <vector>

namespace cognitum {

/// A label whose colour and size follow the theme.
class TextLabel : public QLabel {
    Q_OBJECT

  public:
    enum class Role { title, name, body, soft, small, mono, mono_soft, mono_small };
    TextLabel(Theme& theme, Role role, const QString& text = {}, QWidget* parent = nullptr);
    /// Overrides the role's colour; invalid: the role's own.
    void setColour(const QColor& colour);
    // QLabel sets its text anew for each width that a layout asks for, three to five times for its hints. These
    // give the same sizes; what is known already is not set again.
    [[nodiscard]] int heightForWidth(int width) const override;
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override;

  protected:
    void changeEvent(QEvent* event) override;

  private:
    void restyle();
    Theme& m_theme;
    Role m_role;
    QColor m_colour;

    /// What is known of one text; pixels, without margins.
    struct Measured {
        QString text;
        std::unique_ptr<QTextLayout> layout; ///< shaped, for any width
        QSize unbroken;                      ///< of the text with no more lines than it brings itself
        double unbroken_width;               ///< the same width before it is rounded up
        int widest_word;
        QSize hint, minimum_hint;
        std::vector<std::pair<int, int>> heights; ///< of widths that were asked for
    };
    [[nodiscard]] bool isPlainParagraph() const;
    [[nodiscard]] Measured& measured() const;
    [[nodiscard]] QSize sizeWithin(int width) const;
    mutable std::optional<Measured> m_measured;
};

} // namespace cognitum
