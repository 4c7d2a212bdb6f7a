// What a board's readings make, what its links and sinks carry, and what decimation keeps: on the live values.
#pragma once

#include "ui/context.h"

#include <QComboBox>
#include <QSpinBox>
#include <QVBoxLayout>
#include <QWidget>

class QCPGraph;

namespace cognitum {

class BudgetBars;
class Plot;
class TextLabel;

class RatesView : public QWidget {
    Q_OBJECT

  public:
    explicit RatesView(Context& context, QWidget* parent = nullptr);
    void setBoard(const std::string& board);
    /// The live values below the plan; called while it is seen.
    void refreshLive();

  private:
    QWidget* buildPreview();
    void chooseReading();
    void restyle();

    Context& m_context;
    std::string m_board;
    std::map<std::string, int> m_thinned; ///< so many values of a reading become one update
    TextLabel *m_intro, *m_loss;
    BudgetBars* m_bars;
    QVBoxLayout *m_remedies, *m_table;
    QComboBox* m_reading;
    QSpinBox* m_every;
    Plot* m_plot;
    QCPGraph *m_all, *m_low, *m_high, *m_mean, *m_newest;
};

} // namespace cognitum
