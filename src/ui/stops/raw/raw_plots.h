// The raw signal drawn three ways: over time, how often each value, and how fast it moves; and its figures in a
// row.
#pragma once

#include "core/analyse/signal.h"
#include "ui/context.h"

#include <QWidget>

class QCPBars;
class QCPGraph;
class QCPItemStraightLine;
class QCPItemText;

namespace cognitum {

class LiveLabel;
class Plot;
class TextLabel;

class RawPlots : public QWidget {
    Q_OBJECT

  public:
    explicit RawPlots(Context& context, QWidget* parent = nullptr);
    void show(const std::vector<RawSample>& samples, const SignalAbout& about);

  private:
    void restyle();
    void showTrace(const std::vector<RawSample>& samples, const SignalAbout& about, const SignalFigures& f);
    void showCodes(const std::vector<RawSample>& samples, const SignalAbout& about, const SignalFigures& f);
    void showSpectrum(const std::vector<RawSample>& samples, const SignalFigures& f);
    void showFigures(const SignalAbout& about, const SignalFigures& f);
    Plot* addPlot(const char* name, const QString& about, int height);

    Context& m_context;
    TextLabel *m_trace_head, *m_trace_note, *m_codes_head, *m_spectrum_note;
    Plot *m_trace, *m_codes, *m_spectrum;
    QCPGraph *m_graph, *m_now, *m_lines;
    QCPGraph *m_low, *m_high; ///< where the plan expects it
    QCPBars* m_bars;
    QList<QCPItemStraightLine*> m_mains; ///< 50 and 60 Hz, or where they show
    QList<QCPItemText*> m_mains_text;
    QList<LiveLabel*> m_figures;
    TimeUs m_spectrum_second = 0;
    std::string m_spectrum_reading;
};

} // namespace cognitum
