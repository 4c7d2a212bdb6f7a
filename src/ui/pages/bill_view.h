// What the whole bench needs and costs: prices can be typed, the currency too; exported as CSV.
#pragma once

#include "core/plan/bill.h"
#include "ui/context.h"

#include <QLineEdit>
#include <QTableWidget>

namespace cognitum {

class TextLabel;

class BillView : public QWidget {
    Q_OBJECT

  public:
    explicit BillView(Context& context, QWidget* parent = nullptr);
    void refresh();

  private:
    void priceEdited(QTableWidgetItem* item);
    void exportCsv();

    Context& m_context;
    QTableWidget* m_table;
    QLineEdit* m_currency;
    TextLabel* m_total;
    std::vector<BillRow> m_rows;
    bool m_filling = false;
};

} // namespace cognitum
