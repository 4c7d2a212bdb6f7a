// A calibration under way as one value: its recipe and step, whether a point may be taken now, the points, the
// model and the verdict. The page paints it and forwards what a person does; a test drives the same thing. It knows
// no file, no clock and no window: times and arrivals are handed in. Not for several threads.
#pragma once

#include "core/base/no_number.h"
#include "core/calibrate/recipe.h"
#include "core/calibrate/record.h"
#include "core/calibrate/special.h"

#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace cognitum {

/// Why a point may be taken now, or may not.
enum class Readiness {
    no_value,    ///< nothing arrives, or it failed
    went_back,   ///< a total that is smaller than at its start: the board began anew
    not_started, ///< of a change: its start is not taken yet
    changing,    ///< of a change: it is under way
    as_it_is,    ///< a state: on or off is what it is now
    steady,
    moving, ///< the gate is not open; a point would be marked as forced
};

/// What stands above the key that takes a point.
struct Indication {
    Value now = Value::none(Cause::missing); ///< of the path without its correction, reading's unit
    double shown = no_number;                ///< what a point would take: mean, or how far it went
    int decimals = 0;                        ///< that `shown` is worth
    Readiness readiness = Readiness::no_value;
    GateState gate;
    double since_start_s = 0; ///< of a change
    [[nodiscard]] bool can_take() const;
};

/// What a person compares with at one point; reading's unit.
struct TakenReference {
    std::string kind;       ///< id of a ReferenceKind
    std::string instrument; ///< id of a ReferenceInstrument; empty: none
    double value = 0, u = 0;
};

/// A row of the list of models.
struct ModelCandidate {
    Model model = Model::line;
    const Fit* fit = nullptr; ///< null: there are too few points
    bool chosen = false;
    int points_needed = 0; ///< for a fit that something checks
};

/// The bucket whose stops are turned: doses of each side, and what is to be done.
struct BucketAdvice {
    bool next_is_left = true;
    Result<BucketFit> fit;
};

class CalibrationRun {
  public:
    CalibrationRun() = default;
    /// `part`: of the reading; null: none is chosen. `recipes`: those that suit it; they are copied, because
    /// the cards may be read again meanwhile.
    CalibrationRun(const Reading& reading, const PartCard* part, const std::vector<const Recipe*>& recipes,
                   CalibrationDraft draft);

    [[nodiscard]] const CalibrationDraft& draft() const { return m_draft; }
    [[nodiscard]] const std::vector<CalibrationPoint>& points() const { return m_draft.points; }
    [[nodiscard]] bool begun() const { return !m_draft.points.empty() || m_draft.started; }
    /// Who, where and what was turned, in a person's words.
    void say(std::string by, std::string conditions, std::string adjusted);
    /// Turns of a bucket's stops between found and left; down is above zero.
    void turned(double left_down, double right_down);

    // The recipe.
    [[nodiscard]] const std::vector<Recipe>& recipes() const { return m_recipes; }
    [[nodiscard]] const Recipe* recipe() const;
    [[nodiscard]] int step() const { return m_draft.step; }
    [[nodiscard]] const RecipeStep* current_step() const; ///< null: all are done, or there is no recipe
    void choose_recipe(const std::string& id);            ///< from its first step on
    void go_to_step(int step);

    // What arrives.
    /// The reading as it is planned now, and its path without correction as its partners feed it.
    void follow(const Reading& reading, Chain path);
    /// One arrival, in order of time; older ones than the last are left out. `raw`: NaN where it brought none.
    void feed(TimeUs time, double raw);
    /// What to show at `now`. `raw`: the last raw value; none: nothing arrives. `why`: the cause then.
    const Indication& look(TimeUs now, std::optional<double> raw, Cause why = Cause::missing);
    [[nodiscard]] std::span<const TimedValue> arrivals() const { return m_gate.samples(); }
    [[nodiscard]] double window_s() const { return m_gate.settings().window_s; }
    [[nodiscard]] bool is_change() const; ///< the recipe takes how far it went, not where it stands
    [[nodiscard]] bool is_state() const { return m_reading.quantity.about().is_state(); }

    // Points.
    void start_change(TimeUs now);
    /// Takes the point that look() showed; null where it may not be taken. Goes on to the next step when this one
    /// has its points.
    const CalibrationPoint* take(TimeUs now, const TakenReference& reference, bool as_left);
    /// A point is never deleted: it is set aside with a reason, or counts again without one.
    void set_aside(std::size_t point, std::string reason);

    // What they say.
    void use_model(std::optional<Model> model); ///< none: the recommended one
    [[nodiscard]] bool model_by_hand() const { return m_model.has_value(); }
    [[nodiscard]] const Fit* fit() const;            ///< null: none is possible, see no_fit()
    [[nodiscard]] const std::string& reason() const; ///< why the recommended model is
    [[nodiscard]] const std::string& no_fit() const { return m_no_fit; }
    [[nodiscard]] bool only_compares() const { return recipe() && recipe()->models.empty(); }
    [[nodiscard]] std::vector<ModelCandidate> models() const;
    /// The record as it would be kept; `change`: with the correction, else compared and nothing changed.
    [[nodiscard]] Result<CalibrationRecord> record(bool change, TimeUs now) const;
    /// Nothing for a recipe that turns no stops. `funnel_cm2`: 0: the plan's.
    [[nodiscard]] std::optional<BucketAdvice> bucket(double funnel_cm2) const;

  private:
    [[nodiscard]] double step_of_raw() const; ///< one step of the raw value, reading's unit; 0: not known
    [[nodiscard]] double mean_raw(TimeUs now) const;
    void fit_again();

    Reading m_reading;
    std::vector<Recipe> m_recipes;
    CalibrationDraft m_draft;
    int m_taken_at_step = 0;
    SteadinessGate m_gate{{}};
    Chain m_path;
    TimeUs m_fed = std::numeric_limits<TimeUs>::min();
    std::vector<TimedValue> m_raw; ///< of the gate's windows
    std::optional<double> m_last_raw;
    Indication m_indication;
    std::optional<Model> m_model; ///< chosen by hand
    std::optional<ModelChoice> m_choice;
    std::string m_no_fit;
};

} // namespace cognitum
