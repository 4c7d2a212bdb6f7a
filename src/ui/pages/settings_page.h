// What is chosen for this computer, and what the open bench says about itself. Everything is kept at once.
#pragma once

#include "ui/widgets/number_field.h"
#include "ui/widgets/page.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFormLayout>
#include <QLineEdit>

namespace cognitum {

class TextLabel;

class SettingsPage : public Page {
    Q_OBJECT

  public:
    SettingsPage(Context& context, QWidget* parent);
    [[nodiscard]] bool wantsSide() const override { return false; }
    /// Everything that can be set, in words, with the object name of its control: for the command finder.
    static std::vector<std::pair<QString, QString>> entries();
    /// Brings that control into sight, with the focus on it.
    void showEntry(const QString& name);

  protected:
    void refresh() override;

  private:
    QFormLayout* group(QBoxLayout* column, const QString& title);
    void add(QFormLayout* form, const QString& label, QWidget* control);
    void buildLook(QBoxLayout* column);
    void buildPerson(QBoxLayout* column);
    void buildBench(QBoxLayout* column);
    void buildFolders(QBoxLayout* column);
    void buildTrouble(QBoxLayout* column);
    void refreshBench();
    void refreshFolders();
    void placeTyped();

    QComboBox* m_language;
    QComboBox *m_colours, *m_size, *m_closing;
    std::vector<QComboBox*> m_units; ///< in the order of units_offered()
    QLineEdit *m_signer, *m_name, *m_place, *m_currency;
    NumberField *m_latitude, *m_longitude;
    QCheckBox *m_last, *m_private;
    TextLabel *m_private_now, *m_cards, *m_said;
    std::vector<TextLabel*> m_labels;
    std::optional<GeoPlace> m_where_shown;
};

} // namespace cognitum
