// Colours, fonts and sizes of the interface: one light and one dark set of tokens, named as in the design.
// Everything that paints asks a Theme; nothing names a colour of its own.
#pragma once

#include <QColor>
#include <QFont>
#include <QObject>
#include <QPen>
#include <cmath>

namespace cognitum {

struct Settings;

struct Tokens {
    QColor paper, sheet, selected, tint, rule, ink, soft, accent, good, look, bad, note;
};

class Theme : public QObject {
    Q_OBJECT

  public:
    explicit Theme(QObject* parent = nullptr);

    [[nodiscard]] bool isDark() const { return m_dark; }
    void setDark(bool dark);
    /// 1 is the design's size at a desktop font of 10 points; 0.8…2.
    [[nodiscard]] double scale() const { return m_scale; }
    void setScale(double scale);

    /// Appearance and text size as somebody chose them.
    void follow(const Settings& settings, bool desktop_is_dark);

    [[nodiscard]] const Tokens& colours() const { return m_tokens; }
    [[nodiscard]] int px(double design_px) const { return static_cast<int>(std::lround(design_px * m_scale)); }
    [[nodiscard]] QFont text(double design_px = 13, bool semibold = false) const;
    /// For every number: figures of one width.
    [[nodiscard]] QFont mono(double design_px = 13, bool semibold = false) const;
    [[nodiscard]] QPen pen(const QColor& colour, double width = 1) const;

    /// Loads the shipped fonts and sets style, palette and style sheet of the application.
    void apply();

  signals:
    void changed();

  private:
    [[nodiscard]] QString styleSheet() const;

    bool m_dark = false;
    double m_scale = 1, m_desktop_scale = 1;
    bool m_fonts_loaded = false;
    Tokens m_tokens;
};

} // namespace cognitum
