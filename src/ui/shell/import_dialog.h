// A file from elsewhere into the bench: what it holds, from when on, where each column goes and what becomes of it,
// what would be set aside; then the import, which goes on beside the window and can be stopped.
#pragma once

#include "store/exchange/json_import.h"
#include "ui/context.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QProgressBar>
#include <QTableWidget>
#include <QTimer>

namespace cognitum {

class TextLabel;

class ImportDialog : public QDialog {
    Q_OBJECT

  public:
    ImportDialog(Context& context, const QString& path, QWidget* parent = nullptr);

  private:
    void preview();
    void previewTable(std::string_view head);
    [[nodiscard]] QByteArray endOfFile() const;
    void previewPoints(std::string_view head);
    void showColumns();
    void showSays();
    void importNow();
    void imported(const Result<ImportReport>& report);
    void refuse(const Error& error);
    [[nodiscard]] ImportOptions options() const;
    [[nodiscard]] CsvColumn column(int at) const; ///< with the reading that was chosen for it

    Context& m_context;
    QString m_path;
    TextLabel *m_about, *m_result, *m_times_label;
    QCheckBox* m_raw;
    QComboBox *m_zone, *m_order;
    QTableWidget* m_table;
    QProgressBar* m_progress;
    QPushButton *m_import, *m_close, *m_stop;
    ImportForm m_form = ImportForm::csv;
    CsvPreview m_preview;
    QList<QComboBox*> m_targets;
    std::shared_ptr<Session::ImportWatch> m_watch;
    QTimer m_tick;
};

} // namespace cognitum
