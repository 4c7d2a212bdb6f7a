#include "core/calibrate/run.h"

#include "core/base/phrase.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>

namespace cognitum {

bool Indication::can_take() const {
    switch (readiness) {
    case Readiness::no_value:
    case Readiness::went_back:
    case Readiness::not_started: return false;
    case Readiness::changing:
    case Readiness::as_it_is: return true;
    case Readiness::steady:
    case Readiness::moving: return gate.n > 1;
    }
    return false;
}

CalibrationRun::CalibrationRun(const Reading& reading, const PartCard* part,
                               const std::vector<const Recipe*>& recipes, CalibrationDraft draft)
    : m_reading(reading),
      m_draft(std::move(draft)),
      m_gate(gate_settings(part ? part->response_s : 0, reading.quantity.interval_s, reading.quantity.accuracy)),
      m_path(uncorrected_path(reading)) {
    for (const Recipe* r : recipes)
        m_recipes.push_back(*r);
    if (!recipe()) { // it is not there any more: another one begins at its first step
        m_draft.recipe = m_recipes.empty() ? std::string() : m_recipes.front().id;
        m_draft.step = 0;
    }
    m_draft.step = recipe() ? std::clamp(m_draft.step, 0, static_cast<int>(recipe()->steps.size())) : 0;
    fit_again();
}

void CalibrationRun::say(std::string by, std::string conditions, std::string adjusted) {
    m_draft.by = std::move(by);
    m_draft.conditions = std::move(conditions);
    m_draft.adjusted = std::move(adjusted);
}

void CalibrationRun::turned(double left_down, double right_down) {
    m_draft.left_turns = left_down;
    m_draft.right_turns = right_down;
}

const Recipe* CalibrationRun::recipe() const {
    const auto found =
        std::find_if(m_recipes.begin(), m_recipes.end(), [&](const Recipe& r) { return r.id == m_draft.recipe; });
    return found == m_recipes.end() ? nullptr : &*found;
}

const RecipeStep* CalibrationRun::current_step() const {
    const Recipe* r = recipe();
    const auto at = static_cast<std::size_t>(m_draft.step);
    return r && at < r->steps.size() ? &r->steps[at] : nullptr;
}

void CalibrationRun::choose_recipe(const std::string& id) {
    m_draft.recipe = id;
    go_to_step(0);
    fit_again(); // another recipe offers other models
}

void CalibrationRun::go_to_step(int step) {
    if (!recipe()) return;
    m_draft.step = std::clamp(step, 0, static_cast<int>(recipe()->steps.size()));
    m_draft.started.reset();
    m_taken_at_step = 0;
}

bool CalibrationRun::is_change() const {
    return recipe() && recipe()->capture == Capture::change;
}

void CalibrationRun::follow(const Reading& reading, Chain path) {
    m_path = std::move(path);
    if (m_reading == reading) return;
    m_reading = reading;
    fit_again();
}

void CalibrationRun::feed(TimeUs time, double raw) {
    if (time <= m_fed) return;
    m_fed = time;
    const Value v = forward(m_path, raw);
    if (v.ok()) m_gate.push({time, v.number});
    if (!std::isfinite(raw)) return;
    m_raw.push_back({time, raw});
    const TimeUs keep = time - 3 * from_seconds(window_s());
    m_raw.erase(m_raw.begin(),
                std::find_if(m_raw.begin(), m_raw.end(), [&](const TimedValue& v0) { return v0.time > keep; }));
}

double CalibrationRun::step_of_raw() const {
    if (!m_last_raw || !m_indication.now.ok() || m_reading.path.stages.empty()) return 0;
    return std::abs(slope(m_path, *m_last_raw));
}

double CalibrationRun::mean_raw(TimeUs now) const {
    const TimeUs from = now - from_seconds(window_s());
    double sum = 0, n = 0;
    for (const TimedValue& r : m_raw)
        if (r.time > from) { // the same arrivals as the gate's mean
            sum += r.value;
            ++n;
        }
    return n > 0 ? sum / n : m_last_raw.value_or(no_number);
}

const Indication& CalibrationRun::look(TimeUs now, std::optional<double> raw, Cause why) {
    Indication& out = m_indication;
    out = Indication{};
    m_last_raw = raw;
    out.now = raw ? forward(m_path, *raw) : Value::none(why);
    out.gate = m_gate.state(now);
    const bool there = out.now.ok();
    if (!there) out.gate.steady = false;
    if (is_state() && there) { // it may not have said so again for hours
        out.gate = GateState{};
        out.gate.steady = true;
        out.gate.mean = out.now.number;
        out.gate.n = 2;
    }
    const bool started = is_change() && m_draft.started;
    if (started) out.since_start_s = seconds(now - m_draft.started->time);
    constexpr double rounding = 1e-9; // of a sum of tips
    out.readiness = !there                                                          ? Readiness::no_value
                    : started && out.now.number < m_draft.started->value - rounding ? Readiness::went_back
                    : is_change()     ? (started ? Readiness::changing : Readiness::not_started)
                    : is_state()      ? Readiness::as_it_is
                    : out.gate.steady ? Readiness::steady
                                      : Readiness::moving;
    out.shown = started                           ? out.now.number - m_draft.started->value
                : out.gate.steady && !is_change() ? out.gate.mean
                                                  : out.now.number;
    // Digits that a step of the raw value is worth; where it is not known a twentieth of the limit.
    const double limit = m_reading.quantity.accuracy;
    const double step = step_of_raw();
    const double resolved = step > 0 ? (is_change() ? step : step / 2) : limit / 20;
    out.decimals = decimals_for(std::max(resolved, limit / 200));
    return out;
}

void CalibrationRun::start_change(TimeUs now) {
    m_draft.started = TimedValue{now, m_indication.now.number};
}

const CalibrationPoint* CalibrationRun::take(TimeUs now, const TakenReference& reference, bool as_left) {
    if (!m_indication.can_take()) return nullptr;
    CalibrationPoint p;
    p.time = now;
    p.reference_kind = reference.kind;
    p.instrument = reference.instrument;
    p.reference = reference.value;
    p.u_reference = reference.u;
    p.as_left = as_left;
    if (const RecipeStep* at = current_step()) {
        p.run = at->run;
        p.check = at->check;
    }
    const double step = step_of_raw();
    if (is_change()) {
        p.indication = m_indication.now.number - m_draft.started->value;
        // A step more or less at either end: two rectangles of half a step, √2 · step/√12 (JCGM 100, 4.3.7).
        p.u_indication = std::max(step / std::sqrt(6.0), 1e-9);
        m_draft.started.reset();
        const Value raw = inverse(m_path, p.indication);
        p.raw = raw.ok() ? raw.number : 0;
    } else {
        p.indication = m_indication.gate.mean;
        p.u_indication = indication_u(m_indication.gate, step);
        p.forced = !m_indication.gate.steady;
        p.raw = mean_raw(now);
    }
    m_draft.points.push_back(p);
    ++m_taken_at_step;
    const RecipeStep* at = current_step();
    if (at && !at->reference.empty() && m_taken_at_step >= at->points) go_to_step(m_draft.step + 1);
    fit_again();
    return &m_draft.points.back();
}

void CalibrationRun::set_aside(std::size_t point, std::string reason) {
    m_draft.points.at(point).set_aside = std::move(reason);
    fit_again();
}

void CalibrationRun::use_model(std::optional<Model> model) {
    m_model = model;
}

void CalibrationRun::fit_again() {
    m_choice.reset();
    m_no_fit.clear();
    const std::vector<Model> among = recipe() ? recipe()->models : std::vector{Model::offset, Model::line};
    if (auto chosen = choose_model(fit_points(m_draft.points), among, m_reading.quantity.unit))
        m_choice = std::move(*chosen);
    else
        m_no_fit = chosen.error().text();
}

const Fit* CalibrationRun::fit() const {
    if (!m_choice) return nullptr;
    for (const Fit& f : m_choice->candidates)
        if (m_model && f.model == *m_model) return &f;
    return &m_choice->candidates[m_choice->chosen];
}

const std::string& CalibrationRun::reason() const {
    static const std::string none;
    return m_choice ? m_choice->reason : none;
}

std::vector<ModelCandidate> CalibrationRun::models() const {
    std::vector<ModelCandidate> out;
    if (!m_choice) return out;
    const Fit* chosen = fit();
    for (const Fit& f : m_choice->candidates)
        out.push_back({f.model, &f, &f == chosen, 0});
    const std::size_t taken = fit_points(m_draft.points).size();
    for (const Model m : recipe() ? recipe()->models : std::vector<Model>{})
        if (static_cast<std::size_t>(parameter_count(m)) > taken)
            out.push_back({m, nullptr, false, parameter_count(m) + 2});
    return out;
}

Result<CalibrationRecord> CalibrationRun::record(bool change, TimeUs now) const {
    const Fit* chosen = fit();
    if (change && !chosen) return failure(phrase("nothing fits these points."), {}, m_no_fit);
    return finish_calibration(m_reading, m_draft, change ? std::optional(chosen->model) : std::nullopt, now);
}

std::optional<BucketAdvice> CalibrationRun::bucket(double funnel_cm2) const {
    if (!recipe() || !recipe()->dose) return {};
    const Funnel& funnel = m_reading.quantity.funnel;
    const double area = funnel_cm2 > 0 ? funnel_cm2 : funnel.area_cm2;
    const double mL_per_mm = area / 10; // 1 mm on 10 cm² is 1 mL
    const double wanted = funnel.tip_mL > 0 ? funnel.tip_mL : step_of_raw() * mL_per_mm;
    std::vector<BucketTry> tries(1);
    bool left = true;
    for (const CalibrationPoint& p : m_draft.points) {
        if (!p.counts() || p.check) continue;
        if (p.as_left && tries.size() == 1) {
            tries[0].left_turns = m_draft.left_turns;
            tries[0].right_turns = m_draft.right_turns;
            tries.emplace_back();
            left = true;
        }
        tries.back().doses.push_back({left, p.reference * mL_per_mm});
        left = !left;
    }
    return BucketAdvice{left, fit_bucket(tries, wanted)};
}

} // namespace cognitum
