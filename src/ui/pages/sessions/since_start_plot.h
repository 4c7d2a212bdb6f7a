// Two sessions laid over each other from their starts: one reading of each, over the time since.
#pragma once

#include "core/bench/bench.h"
#include "store/figures/session_figures.h"
#include "ui/plots/plot.h"

#include <vector>

namespace cognitum {

class SinceStartPlot : public Plot {
    Q_OBJECT

  public:
    explicit SinceStartPlot(Theme& theme, QWidget* parent = nullptr);
    /// `second` may be empty. The values are in the reading's unit; its bands are tinted.
    void show(const Reading& reading, const std::vector<SinceStart>& first, const QString& first_name,
              const std::vector<SinceStart>& second, const QString& second_name);
    [[nodiscard]] int points() const { return m_points; } ///< of both

  private:
    void restyleCurves();
    void fill(QCPGraph* curve, QCPGraph* low, QCPGraph* high, const std::vector<SinceStart>& parts, double unit_s);
    QCPGraph *m_low, *m_high, *m_first, *m_second_low, *m_second_high, *m_second;
    QCPItemRect* m_band;
    QCPItemText *m_first_name, *m_second_name;
    int m_points = 0;
};

} // namespace cognitum
