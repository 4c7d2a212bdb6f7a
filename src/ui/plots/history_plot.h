// A reading over time from the bench file, at any zoom: mean as a line, extremes as a band, the reading's band as a
// tint, gaps left as gaps. Wheel zooms, dragging pans; the cursor reads value and time.
#pragma once

#include "session/archive/recorded.h"
#include "ui/context.h"
#include "ui/plots/plot.h"

#include <array>

namespace cognitum {

/// Something that happened, drawn as a shape at the line.
struct HistoryMark {
    TimeUs time = 0;
    Mark mark = Mark::look;
    bool operator==(const HistoryMark&) const = default;
};

class HistoryPlot : public Plot {
    Q_OBJECT

  public:
    explicit HistoryPlot(Context& context, QWidget* parent = nullptr);

    void setReading(const std::string& id);
    /// Shows the last `span_s` seconds up to now, or everything for 0. Follows the present until somebody pans.
    void showLast(double span_s);
    /// Asks for what the visible range needs, and draws it when it comes; cheap when nothing changed.
    void reload(bool force = false);
    void setMarks(const std::vector<HistoryMark>& marks);
    [[nodiscard]] int marksShown() const;
    /// What is in the picture.
    [[nodiscard]] Interval shownStretch() const;
    [[nodiscard]] bool isEmpty() const { return m_empty; }
    [[nodiscard]] int points() const { return m_points; }

  signals:
    void cursorMoved(const QString& text);
    void drawn(); ///< what was asked of the bench file is in the picture

  private:
    /// What the picture was asked for last.
    struct Loaded {
        std::uint64_t saved = 0, plan = 0;
        std::optional<TimeUs> from;
        TimeUs to = 0;
        bool operator==(const Loaded&) const = default;
    };
    void setRange(TimeUs from, TimeUs to);
    void draw(const std::vector<Summary>& parts);
    void drawMarks();
    void drawBands();
    void onMove(QMouseEvent* event);

    Context& m_context;
    std::string m_reading;
    QCPGraph *m_low, *m_high, *m_mean, *m_now;
    std::array<QCPGraph*, 3> m_shapes; ///< triangles, diamonds, rings
    std::vector<HistoryMark> m_marks;
    QCPItemRect* m_band;
    std::vector<QCPAbstractItem*> m_band_names; ///< lines and names of named bands
    QCPItemTracer* m_tracer;
    double m_follow_s = 3600;
    bool m_follow = true, m_empty = true, m_setting = false;
    int m_points = 0;
    Loaded m_loaded;
    ArchiveQuestion<Stretch> m_question;
    std::vector<Summary> m_parts;
};

} // namespace cognitum
