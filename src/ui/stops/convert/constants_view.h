// Stop 5, constants: each number that the path rests on, where it comes from, how sure, and whom it follows; a
// copied factor taken apart; a step of one's own.
#pragma once

#include "ui/context.h"

#include <QWidget>

class QComboBox;
class QGridLayout;
class QLineEdit;
class QPushButton;

namespace cognitum {

class NumberField;
class TextLabel;

/// "Mounting height" for mount_height_mm.
QString plain_name(const std::string& key);

class ConstantsView : public QWidget {
    Q_OBJECT

  public:
    explicit ConstantsView(Context& context, QWidget* parent = nullptr);
    void show(const Reading& reading, const Chain& live);
    void forget() { m_key.clear(); }

  private:
    void build(const Reading& reading, const Chain& effective);
    void addRow(const Reading& reading, std::size_t stage, const NamedConstant& named, int row, bool own);
    /// Changes one constant under the same rules as for a file; what breaks them is said and not taken.
    void editConstant(std::size_t stage, const std::string& key, const QString& what,
                      const std::function<void(Constant&, bool volts)>& change);
    void buildFactor(QLayout* box);
    void showFactor(const Chain& live);

    Context& m_context;
    QString m_key;
    QGridLayout* m_grid;
    NumberField* m_factor;
    TextLabel* m_factor_says;
    QWidget* m_factor_box;
    std::vector<std::pair<TextLabel*, std::pair<std::size_t, std::string>>> m_now; ///< of constants that follow
};

/// A step of one's own behind the path: a formula, its constants and its unit, checked while it is typed.
class FormulaEditor : public QWidget {
    Q_OBJECT

  public:
    explicit FormulaEditor(Context& context, QWidget* parent = nullptr);
    void show(const Reading& reading);

  private:
    void check();
    void take();
    void removeStep();
    /// The stage as typed; an error says what is wrong.
    [[nodiscard]] Result<Stage> typed() const;

    Context& m_context;
    QLineEdit *m_expression, *m_names, *m_low, *m_high;
    QComboBox* m_unit;
    TextLabel *m_from, *m_says;
    QPushButton *m_take, *m_remove;
    std::string m_shown; ///< reading and expression that the fields hold
};

} // namespace cognitum
