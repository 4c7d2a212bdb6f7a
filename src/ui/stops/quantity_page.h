// Stop 1: what do I want to know, where, how well, how often?
#pragma once

#include "ui/page.h"

#include <QCheckBox>
#include <QComboBox>
#include <QGridLayout>
#include <QLineEdit>
#include <functional>

namespace cognitum {

class NumberField;

/// The expected range as a scale, with the needed accuracy, the band, and the value now.
class RangeScale : public QWidget {
    Q_OBJECT

  public:
    explicit RangeScale(Context& context, QWidget* parent = nullptr);
    [[nodiscard]] QSize sizeHint() const override;

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    Context& m_context;
};

class QuantityPage : public Page {
    Q_OBJECT

  public:
    explicit QuantityPage(Context& context);

  protected:
    void refresh() override;

  private:
    void edit(const QString& what, const std::function<void(Reading&)>& change);

    void buildSurroundings(QGridLayout* form, int& row);
    void showSurroundings(const Quantity& quantity);

    struct More {
        NumberField* field;
        TextLabel* label;
        double* (*get)(Quantity&);
    };
    std::vector<std::pair<QCheckBox*, bool Surroundings::*>> m_around;
    std::vector<More> m_more;
    std::size_t m_vessel_from = 0; ///< in m_more: only for levels and volumes
    QLineEdit* m_name;
    QComboBox* m_kind;
    QComboBox* m_unit;
    NumberField *m_low, *m_high, *m_accuracy, *m_interval;
    QLineEdit* m_place;
    RangeScale* m_scale;
    TextLabel *m_trouble, *m_asks;
};

} // namespace cognitum
