// A part card of one's own: the facts as a form, the whole card as text beside it, checked while it is typed.
#pragma once

#include "core/catalog/part_card.h"
#include "ui/context.h"

#include <QComboBox>
#include <QDialog>
#include <QFormLayout>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>

namespace cognitum {

class TextLabel;

class CardEditor : public QDialog {
    Q_OBJECT

  public:
    /// Starts from a card; a shipped one is copied under an id of its own.
    CardEditor(Context& context, const PartCard& from, QWidget* parent = nullptr);
    /// The file that was written, after it was accepted.
    [[nodiscard]] QString savedAs() const { return m_saved_as; }

  private:
    using Pointer = Json::json_pointer;
    QLineEdit* addText(const QString& label, const QString& name, const std::string& pointer);
    QLineEdit* addNumber(const QString& label, const QString& name, const std::string& pointer);
    void textEdited(); ///< the text was changed by hand: the form follows
    void formEdited(const std::string& pointer, const Json& value);
    void fillForm();
    void check();
    void save();

    Context& m_context;
    Json m_card;
    QFormLayout* m_form;
    QPlainTextEdit* m_text;
    TextLabel* m_state;
    QPushButton* m_save;
    std::vector<std::pair<QLineEdit*, std::string>> m_texts, m_numbers;
    QLineEdit *m_addresses, *m_legs;
    QComboBox* m_price;
    QString m_saved_as;
};

} // namespace cognitum
