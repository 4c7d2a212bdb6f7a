// A field for one number with its unit at the right end. Takes a decimal point or comma and a true minus; what is
// no number is marked and not taken. Escape goes back to the last good one.
#pragma once

#include "ui/theme.h"

#include <QLineEdit>

namespace cognitum {

class NumberField : public QLineEdit {
    Q_OBJECT

  public:
    NumberField(Theme& theme, const QString& name, const QString& spoken, double design_px = 13,
                QWidget* parent = nullptr);

    /// Shows a value (already formatted) unless the person is typing here.
    void show(const QString& text);
    void setUnit(const QString& unit);
    [[nodiscard]] std::optional<double> number() const;

  signals:
    void numberEdited(double value); ///< on Return or when the field is left, only for another, good number

  protected:
    void paintEvent(QPaintEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

  private:
    void commit();
    void restyle();
    void setInvalid(bool invalid);

    Theme& m_theme;
    double m_size;
    QString m_unit;
    QString m_good;
    bool m_touched = false;
};

/// A number as a person types it, see core/units/typed_number.h.
std::optional<double> typed_number(const QString& text);

} // namespace cognitum
