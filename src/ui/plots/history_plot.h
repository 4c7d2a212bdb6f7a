// A reading over time from the bench file, at any zoom: mean as a line, extremes as a band, the reading's band as a
// tint, gaps left as gaps. Wheel zooms, dragging pans; the cursor reads value and time.
#pragma once

#include "store/sample.h"
#include "ui/context.h"
#include "ui/plots/plot.h"

namespace cognitum {

class HistoryPlot : public Plot {
    Q_OBJECT

  public:
    explicit HistoryPlot(Context& context, QWidget* parent = nullptr);

    void setReading(const std::string& id);
    /// Shows the last `span_s` seconds up to now, or everything for 0. Follows the present until somebody pans.
    void showLast(double span_s);
    /// Loads what the visible range needs; cheap when nothing changed.
    void reload(bool force = false);
    [[nodiscard]] bool isEmpty() const { return m_empty; }
    [[nodiscard]] int points() const { return m_points; }

  signals:
    void cursorMoved(const QString& text);

  private:
    void draw(const std::vector<Summary>& parts);
    void onMove(QMouseEvent* event);

    Context& m_context;
    std::string m_reading;
    QCPGraph *m_low, *m_high, *m_mean, *m_now;
    QCPItemRect* m_band;
    QCPItemTracer* m_tracer;
    double m_follow_s = 3600;
    bool m_follow = true, m_empty = true, m_setting = false;
    int m_points = 0;
    QCPRange m_loaded;
    std::uint64_t m_saved = ~0ULL;
    std::vector<Summary> m_parts;
};

} // namespace cognitum
