// Stop 6: how far is it from the truth, and what correction mends it? A recipe leads, points wait for steadiness,
// one key takes them, and nothing that was recorded is ever changed. The left column is built in
// calibrate_capture.cpp, the plots in calibrate_plots.cpp, the right side in calibrate_proof.cpp.
#pragma once

#include "core/calibrate/run.h"
#include "ui/widgets/page.h"

#include <QComboBox>
#include <QTimer>
#include <memory>

class QCheckBox;
class QCPErrorBars;
class QCPGraph;
class QCPItemRect;
class QGridLayout;
class QLineEdit;
class QPushButton;

namespace cognitum {

class CalibrationHistory;
class NumberField;
class PathOffersView;
class Plot;
class PointTable;
class RecipeStrip;
class ReferenceBox;
class PhoneButton;
class TextLabel;

struct PathOffer;

class CalibratePage : public Page {
    Q_OBJECT

  public:
    CalibratePage(Context& context, QWidget* parent);
    ~CalibratePage() override;
    [[nodiscard]] QWidget* side() override { return m_side; }
    [[nodiscard]] bool sideAlone() const override { return true; }

    /// Takes the point now, if the gate is open or the person insists. For the button, for Space and for the phone.
    void takePoint();
    [[nodiscard]] const std::vector<CalibrationPoint>& points() const { return m_run.points(); }
    /// Draws points, fit and verdict anew; for the timing of it.
    void refreshFit();

  protected:
    void refresh() override;
    void readingChanged() override;
    bool eventFilter(QObject* watched, QEvent* event) override;
    void hideEvent(QHideEvent* event) override;

  private:
    void buildCapture(QVBoxLayout* layout);
    void buildBench(QVBoxLayout* layout);
    void buildPlots(QVBoxLayout* layout);
    void buildSide();
    void begin(CalibrationDraft draft);
    void stepChosen();
    void watchFields();
    void feedRun();
    void refreshGate();
    void refreshTrend();
    void refreshPlots();
    void plotStates();
    void refreshSide();
    void refreshModels();
    void refreshVerdict();
    void refreshOffers(const AppliedCorrection* correction);
    [[nodiscard]] QString steadyText() const;
    void refreshBucket();
    void setAside(int row, const QString& reason);
    void keepDraft();
    void finish(bool change);
    void finishIntoPath(const PathOffer& offer);
    void ended(const QString& words, bool kept);
    void setPhoneButton(bool on);

    std::string m_reading;
    CalibrationRun m_run;
    Indication m_shown; ///< what stands above the key
    std::uint64_t m_answers = 0;
    std::uint64_t m_plan_seen = 0;
    QTimer m_keep_soon; ///< after a point was set aside: the picture first, then the file

    TextLabel *m_empty, *m_number, *m_number_unit, *m_steady, *m_steady_figures, *m_take_hint;
    QWidget* m_content;
    RecipeStrip* m_strip;
    Plot* m_trend;
    QCPGraph* m_trend_line;
    QCPItemRect* m_window;
    ReferenceBox* m_reference;
    QPushButton *m_take, *m_begin;
    QCheckBox *m_as_left, *m_remote;
    QComboBox* m_remote_address;
    TextLabel* m_remote_where;
    std::unique_ptr<PhoneButton> m_phone_button;
    QWidget* m_simulated;
    QComboBox* m_probe;
    Plot *m_fit_plot, *m_residual_plot;
    QCPGraph *m_fit_line, *m_fit_points, *m_fit_now, *m_residuals, *m_aside_points, *m_band_low, *m_band_high,
        *m_checks, *m_check_residuals;
    QCPErrorBars* m_residual_bars;
    QCPItemRect* m_limit;
    PointTable* m_table;
    TextLabel* m_no_points;
    QWidget* m_side;
    TextLabel *m_so_far, *m_verdict_found, *m_verdict_left, *m_verdict_check, *m_next;
    QGridLayout* m_models;
    QString m_models_key;
    QLineEdit *m_by, *m_conditions, *m_adjusted;
    QWidget* m_turns; ///< of a bucket's two stops
    NumberField *m_left_turns, *m_right_turns;
    QPushButton *m_finish, *m_compare_only;
    PathOffersView* m_offers;
    CalibrationHistory* m_history;
};

} // namespace cognitum
