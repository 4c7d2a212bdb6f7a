// CSV into the bench: what the file holds, where each column goes, what would be set aside; then the import.
#pragma once

#include "store/csv_import.h"
#include "ui/context.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QTableWidget>

namespace cognitum {

class TextLabel;

class ImportDialog : public QDialog {
    Q_OBJECT

  public:
    ImportDialog(Context& context, const QString& path, QWidget* parent = nullptr);

  private:
    void preview();
    void importNow();
    [[nodiscard]] std::vector<CsvColumn> columns() const;

    Context& m_context;
    QString m_path;
    TextLabel *m_about, *m_result;
    QCheckBox* m_raw;
    QTableWidget* m_table;
    QPushButton *m_import, *m_close;
    CsvPreview m_preview;
    QList<QComboBox*> m_targets;
};

} // namespace cognitum
