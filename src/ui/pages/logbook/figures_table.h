// The figures of a stretch as a table: a row for each reading, least, mean and most with their doubt, time in the
// bands, how much of it was measured, and what it says.
#pragma once

#include "session/archive/lanes.h"
#include "ui/context.h"

#include <QTableWidget>

namespace cognitum {

class FiguresTable : public QTableWidget {
    Q_OBJECT

  public:
    FiguresTable(Context& context, QWidget* parent);
    void show(const std::vector<std::string>& readings, const std::vector<ReadingFigures>& figures);
    /// A cell for each column, also for paper.
    static QStringList columns();
    static QStringList row(const Reading& reading, const ReadingFigures& figures);

  protected:
    void resizeEvent(QResizeEvent* event) override;

  private:
    void fitHeight();
    Context& m_context;
};

/// A table for reading: no grid, no numbers at the rows, cells that cannot be typed into.
void make_plain(QTableWidget* table, const QStringList& columns);

} // namespace cognitum
