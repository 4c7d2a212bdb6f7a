// What came of a proof: given, sent and said for each reading, at its worst point, and what else was seen.
#pragma once

#include "session/program/program_proof.h"
#include "ui/context.h"

#include <QWidget>

class QTableWidget;

namespace cognitum {

class TextLabel;

class ProofTable : public QWidget {
    Q_OBJECT

  public:
    explicit ProofTable(Context& context, QWidget* parent = nullptr);
    /// Nothing is proven yet: `text` says what it would do; `trouble`: why it cannot, which may be empty.
    void clear(const QString& text, const QString& trouble = {});
    void show(const ProofReport& report);

  private:
    void fillRow(int place, const ProofReportRow& row);
    [[nodiscard]] QString factsOf(const ProofReport& report) const;

    Context& m_context;
    TextLabel *m_trouble, *m_facts;
    QTableWidget* m_table;
};

} // namespace cognitum
