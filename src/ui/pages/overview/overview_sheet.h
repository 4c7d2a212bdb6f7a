// The painted log sheet: what needs a look first, then group by group; each reading as what it is, its last day,
// what follows from it and how it is proven. Can be walked through by keys, and printed on one page.
#pragma once

#include "session/overview.h"
#include "ui/context.h"

#include <QWidget>

namespace cognitum {

class OverviewSheet : public QWidget {
    Q_OBJECT

  public:
    explicit OverviewSheet(Context& context, QWidget* parent = nullptr);
    void refresh();
    void forget(); ///< another bench
    /// Large enough to be read across the room.
    void setLarge(bool large);
    [[nodiscard]] bool isLarge() const { return m_large; }
    [[nodiscard]] const std::vector<OverviewRow>& rows() const { return m_rows; }
    [[nodiscard]] int chosen() const { return m_chosen; }
    [[nodiscard]] std::string readingAt(const QPointF& at) const; ///< id; empty: none is there
    /// All rows into a rectangle, as large as they fit.
    void print(QPainter& painter, const QRectF& page);
    [[nodiscard]] QSize sizeHint() const override;

  signals:
    void opened(const QString& reading);
    void menuWanted(const QString& reading, const QPoint& at);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void contextMenuEvent(QContextMenuEvent* event) override;

  private:
    /// Where a row or a heading lies.
    struct Place {
        double top = 0, height = 0;
        int row = -1; ///< −1: a heading
        QString heading;
    };
    [[nodiscard]] std::vector<Place> places() const;
    [[nodiscard]] double zoom() const { return m_large ? 1.45 : 1; }
    void paintSheet(QPainter& painter, double width);
    void paintRow(QPainter& painter, const OverviewRow& row, const QRectF& box);
    void paintDay(QPainter& painter, const QRectF& box, const Reading& reading);
    void askRecord();
    void choose(int row);
    [[nodiscard]] const DayFigures* day(const std::string& reading) const;
    [[nodiscard]] std::vector<double> wave(const Reading& reading) const;

    Context& m_context;
    std::vector<OverviewRow> m_rows;
    OverviewRecord m_record;
    ArchiveQuestion<OverviewRecord> m_question;
    std::int64_t m_asked_minute = -1;
    std::vector<std::string> m_asked; ///< readings that were asked for
    int m_chosen = -1;
    bool m_large = false;
};

} // namespace cognitum
