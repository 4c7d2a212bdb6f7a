// Bench page: a row for each reading, drawn as what it is, now, today within its band, and when it was proven.
#pragma once

#include "session/recorded.h"
#include "ui/page.h"

#include <map>

namespace cognitum {

class OverviewSheet;

class OverviewPage : public Page {
    Q_OBJECT

  public:
    OverviewPage(Context& context, QWidget* parent);
    [[nodiscard]] bool wantsSide() const override { return false; }

  protected:
    void refresh() override;
    void readingChanged() override;

  private:
    OverviewSheet* m_sheet;
};

/// The painted log sheet.
class OverviewSheet : public QWidget {
    Q_OBJECT

  public:
    explicit OverviewSheet(Context& context, QWidget* parent = nullptr);
    void reload(bool force);
    [[nodiscard]] QSize sizeHint() const override;

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

  private:
    void paintRow(QPainter& painter, const Reading& reading, int row);
    void paintThermometer(QPainter& painter, const QRectF& box, const Reading& reading, const PathState& state);
    void paintDay(QPainter& painter, const QRectF& box, const Reading& reading, const DayFigures& day);
    void paintHours(QPainter& painter, const QRectF& box, const DayFigures& day);
    [[nodiscard]] int rowHeight() const;

    Context& m_context;
    std::map<std::string, DayFigures> m_days;
    ArchiveQuestion<std::map<std::string, DayFigures>> m_question;
    TimeUs m_loaded_minute = 0;
    std::vector<std::string> m_loaded; ///< readings that were asked for
};

} // namespace cognitum
