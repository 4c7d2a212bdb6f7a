// Stop 1: what do I want to know, where, how well, how often?
#pragma once

#include "ui/widgets/page.h"

#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <functional>

namespace cognitum {

class NumberField;

class FunnelDrawing;
class RangeScale;
class VesselDrawing;

class QuantityPage : public Page {
    Q_OBJECT

  public:
    QuantityPage(Context& context, QWidget* parent);

  protected:
    void refresh() override;

  private:
    void edit(const QString& what, const std::function<void(Reading&)>& change);
    void editBench(const QString& what, const std::function<void(Bench&, const std::string& reading)>& change);

    void makeFields();
    std::vector<QWidget*> addPair(QGridLayout* form, int& row, const QString& label, QWidget* first,
                                  const QString& between, QWidget* second);
    QLayout* makePictures();
    void followFields();
    void buildSurroundings(QGridLayout* form, int& row);
    void showSurroundings(const Quantity& quantity);

    /// A number that only some quantities have.
    struct More {
        NumberField* field;
        TextLabel* label;
        double* (*get)(Quantity&);
        QString (*label_for)(const Quantity&); ///< empty: this quantity has none
    };
    NumberField* addMore(const char* name, const QString& unit, double* (*get)(Quantity&),
                         QString (*label_for)(const Quantity&));
    void readTable();
    std::vector<std::pair<QCheckBox*, bool Surroundings::*>> m_around;
    std::vector<More> m_more;
    QGridLayout* m_pairs = nullptr;
    QComboBox* m_shape = nullptr;
    TextLabel *m_shape_label = nullptr, *m_table_label = nullptr;
    QLineEdit *m_table = nullptr, *m_expected = nullptr;
    VesselDrawing* m_vessel;
    FunnelDrawing* m_funnel;
    TextLabel* m_vessel_says;
    QLineEdit* m_name;
    QComboBox* m_kind;
    QComboBox* m_unit;
    NumberField *m_low, *m_high, *m_accuracy, *m_interval;
    QLineEdit* m_place;
    QCheckBox* m_private;
    RangeScale* m_scale;
    TextLabel *m_trouble, *m_asks;
    std::vector<QWidget*> m_only_numbers; ///< what a state does not have
    QLabel* m_good_enough = nullptr;
};

} // namespace cognitum
