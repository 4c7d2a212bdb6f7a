// What was proven before: each calibration, its certificate, how the error moves, when the next is due, and what
// else can be made of it.
#pragma once

#include "core/calibrate/drift.h"
#include "ui/context.h"

#include <QWidget>

class QCPGraph;
class QVBoxLayout;

namespace cognitum {

class Plot;
class TextLabel;

/// ● ▲ ◆ and their state, for a verdict.
Mark mark_of_verdict(Verdict verdict);
QString mark_word(Verdict verdict);
QString day_text(TimeUs time);

class CalibrationHistory : public QWidget {
    Q_OBJECT

  public:
    explicit CalibrationHistory(Context& context, QWidget* parent = nullptr);
    void setReading(const std::string& id);
    void refresh();

  private:
    void refreshList(const std::vector<CalibrationRecord>& records);
    void refreshPlot(const Drift& drift, const Reading& reading);
    void saveCertificate(std::int64_t record, TimeUs time);
    void showConstants();

    static constexpr std::size_t few = 4; ///< that are listed until somebody asks for all

    Context& m_context;
    std::string m_reading;
    bool m_all = false;
    Plot* m_plot;
    QCPGraph *m_points, *m_line, *m_low, *m_high, *m_limit_high, *m_limit_low;
    TextLabel *m_drift, *m_due;
    QVBoxLayout* m_list;
};

} // namespace cognitum
