// One line of text that changes with every line of a board: painted, elided where it does not fit, and never a
// reason to lay the page out again.
#pragma once

#include "ui/theme.h"

#include <QWidget>

namespace cognitum {

class LiveLabel : public QWidget {
    Q_OBJECT
    Q_PROPERTY(QString text READ text)

  public:
    enum class Role { soft, mono, mono_soft };
    LiveLabel(Theme& theme, Role role, QWidget* parent = nullptr);
    [[nodiscard]] QString text() const { return m_text; }
    void setText(const QString& text);
    void setAlignment(Qt::Alignment alignment) { m_alignment = alignment; }
    /// Width that its texts take, as a sample of them; without one it takes what it is given.
    void setSample(const QString& sample);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override;

  protected:
    void paintEvent(QPaintEvent* event) override;
    bool event(QEvent* event) override;

  private:
    [[nodiscard]] QFont lineFont() const;

    Theme& m_theme;
    Role m_role;
    QString m_text, m_sample;
    Qt::Alignment m_alignment = Qt::AlignLeft;
};

} // namespace cognitum
