// The transfer curve of a path: what a meter shows against what it means, with the live point and the expected
// range.
#pragma once

#include "ui/context.h"

class QCPGraph;
class QCPItemRect;
class QCPItemText;

#include <QWidget>

namespace cognitum {

class Plot;
class TextLabel;

class TransferCurve : public QWidget {
    Q_OBJECT

  public:
    explicit TransferCurve(Context& context, QWidget* parent = nullptr);
    /// Draws the curve of the chain and the point of the walk; `doubt` is ± of the result.
    void show(const Chain& chain, const Reading& reading, const Walk& walk, double doubt);

  private:
    void restyle();
    Context& m_context;
    Plot* m_plot;
    QCPGraph *m_curve, *m_point;
    QCPItemRect* m_expected;
    QCPItemText *m_point_label, *m_expected_label;
    TextLabel* m_resolution;
    std::string m_key; ///< of the chain and range that the curve was computed for
    QVector<double> m_x, m_y;
    std::size_t m_meter = 0;   ///< step that a meter would see
    bool m_difference = false; ///< in and out are alike: what is added is drawn
};

/// Raw values over which a path is worth drawing: all codes of a converter, else what the expected range needs and
/// a little more.
std::pair<double, double> raw_span(const Chain& chain, const Quantity& quantity);

/// The step that a meter sees: the first in volts or millivolts, else in ohms, else what the board sends.
std::size_t meter_step(const Chain& chain);

} // namespace cognitum
