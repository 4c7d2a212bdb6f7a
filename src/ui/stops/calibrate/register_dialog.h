// The register of references: instruments and standards with their doubt, resolution, certificate and due date.
#pragma once

#include "ui/context.h"

#include <QDialog>

class QComboBox;
class QLineEdit;

namespace cognitum {

class NumberField;
class TextLabel;

class RegisterDialog : public QDialog {
    Q_OBJECT

  public:
    explicit RegisterDialog(Context& context, QWidget* parent = nullptr);

  private:
    void fill();
    void show(const ReferenceInstrument& reference);
    void offerUnits(const std::string& wanted);
    void save();
    void remove();
    /// What stands in the fields; an error names the field.
    [[nodiscard]] Result<ReferenceInstrument> typed() const;

    Context& m_context;
    QComboBox *m_which, *m_kind, *m_unit;
    NumberField *m_doubt, *m_resolution;
    QLineEdit *m_name, *m_design, *m_certificate, *m_certified, *m_due;
    TextLabel* m_says;
};

} // namespace cognitum
