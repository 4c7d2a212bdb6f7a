// Stop 6: how far is it from the truth, and what correction mends it? Points wait for steadiness, one key takes
// them, and nothing that was recorded is ever changed.
#pragma once

#include "core/calibrate/gate.h"
#include "core/calibrate/record.h"
#include "ui/page.h"

#include <QComboBox>
#include <map>
#include <memory>

class QCPErrorBars;
class QCPGraph;
class QCPItemRect;
class QGridLayout;

namespace cognitum {

class NumberField;
class Plot;
class TextLabel;

class CalibratePage : public Page {
    Q_OBJECT

  public:
    explicit CalibratePage(Context& context);
    [[nodiscard]] QWidget* side() override { return m_side; }
    [[nodiscard]] bool sideAlone() const override { return true; }

    /// Takes the point now, if the gate is open or the person insists. For the button and for Space.
    void takePoint();
    [[nodiscard]] const std::vector<CalibrationPoint>& points() const { return m_points; }

  protected:
    void refresh() override;
    void readingChanged() override;
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void buildCapture(QVBoxLayout* layout);
    void buildPlots(QVBoxLayout* layout);
    void buildSide();
    void chooseReference();
    void feedGate();
    void refreshGate();
    void refreshPoints();
    void refreshPlots(const Fit* fit);
    void refreshSide(const std::optional<ModelChoice>& choice);
    void refreshHistory();
    void setAside(std::size_t index);
    void finish();
    [[nodiscard]] std::optional<double> referenceValue() const;
    [[nodiscard]] double meanStep() const; ///< what the mean of a window can tell apart, reading's unit
    [[nodiscard]] Model chosenModel(const ModelChoice& choice) const;

    std::map<std::string, std::vector<CalibrationPoint>> m_drafts; ///< points of readings that are not shown now
    std::string m_reading;
    std::vector<CalibrationPoint> m_points;
    std::unique_ptr<SteadinessGate> m_gate;
    GateState m_state;
    TimeUs m_fed = 0;
    std::vector<ReferenceKind> m_references;
    std::optional<Model> m_model; ///< chosen by hand; none: the recommended one
    QString m_side_key;
    std::uint64_t m_answers = 0;

    TextLabel *m_empty, *m_number, *m_number_unit, *m_steady, *m_steady_figures, *m_how, *m_caution, *m_take_hint;
    QWidget* m_content;
    Plot* m_trend;
    QCPGraph* m_trend_line;
    QCPItemRect* m_window;
    QComboBox* m_reference;
    NumberField *m_value, *m_doubt;
    QPushButton *m_take, *m_finish;
    QWidget* m_simulated;
    QComboBox* m_probe;
    Plot *m_fit_plot, *m_residual_plot;
    QCPGraph *m_fit_line, *m_fit_points, *m_fit_now, *m_residuals, *m_aside_points;
    QCPErrorBars* m_residual_bars;
    QCPItemRect* m_limit;
    QGridLayout* m_table;
    QWidget* m_side;
    TextLabel *m_so_far, *m_verdict_found, *m_verdict_left, *m_next;
    QGridLayout* m_models;
    QVBoxLayout* m_history;
};

} // namespace cognitum
