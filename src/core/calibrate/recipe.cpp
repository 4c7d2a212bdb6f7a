#include "core/calibrate/recipe.h"

#include "core/base/json_fields.h"
#include "core/base/phrase.h"
#include "core/calibrate/references.h"
#include "core/units/quantity_kind.h"
#include "core/units/unit.h"

#include <algorithm>
#include <fmt/ranges.h>

namespace cognitum {

namespace {

Result<RecipeStep> read_step(const JsonReader& json) {
    RecipeStep step;
    std::string run;
    COGNITUM_CHECK(JsonFields(json)
                       .need("title", step.title)
                       .need("text", step.text)
                       .may("caution", step.caution)
                       .may("reference", step.reference)
                       .may("share", step.share)
                       .may("points", step.points)
                       .may("run", run)
                       .may("check", step.check)
                       .check(step.share <= 1, "share", phrase("a share of the range lies between 0 and 1."))
                       .check(step.points >= 0 && step.points <= 50, "points", phrase("0 to 50 points."))
                       .done());
    if (!step.reference.empty() && !find_reference_kind(step.reference))
        return json.error(phrase("\"{}\" is no reference.", step.reference), "reference");
    if (!run.empty() && run != "up" && run != "down") return json.error(phrase("a run is up or down."), "run");
    step.run = run == "up" ? 1 : run == "down" ? -1 : 0;
    return step;
}

} // namespace

Result<Recipe> read_recipe(const JsonReader& json) {
    Recipe r;
    std::vector<std::string> models;
    std::string capture = "steady";
    COGNITUM_CHECK(
        JsonFields(json)
            .need("id", r.id)
            .need("title", r.title)
            .need("about", r.about)
            .may("kinds", r.kinds)
            .may("families", r.families)
            .may("low", r.low)
            .may("high", r.high)
            .may("equipment", r.equipment)
            .may("models", models)
            .may("capture", capture)
            .may("settle_responses", r.settle_responses)
            .may("finish", r.finish)
            .may("dose", r.dose)
            .list("steps",
                  [&](const JsonReader& item) -> Result<void> {
                      COGNITUM_TRY(step, read_step(item));
                      r.steps.push_back(step);
                      return {};
                  })
            .check(!r.steps.empty(), "steps", phrase("a recipe has at least one step."))
            .check(!r.kinds.empty(), "kinds", phrase("a recipe says which kinds of quantity it is for."))
            .check(r.settle_responses >= 0, "settle_responses", phrase("a waiting time is not below zero."))
            .done());
    for (const std::string& kind : r.kinds)
        if (!find_quantity_kind(kind)) return json.error(phrase("\"{}\" is no kind of quantity.", kind), "kinds");
    for (const std::string& name : models) {
        const auto model = find_model(name);
        if (!model)
            return json.error(phrase("\"{}\" is no model; known are {}.", name, fmt::join(model_names(), ", ")),
                              "models");
        r.models.push_back(*model);
    }
    if (!json.has("models")) r.models = {Model::offset, Model::line};
    if (capture != "steady" && capture != "change")
        return json.error(phrase("a capture is steady or change."), "capture");
    r.capture = capture == "change" ? Capture::change : Capture::steady;
    return r;
}

std::vector<const Recipe*> recipes_for(const std::vector<Recipe>& all, std::string_view kind) {
    std::vector<const Recipe*> out;
    for (const Recipe& recipe : all)
        if (std::find(recipe.kinds.begin(), recipe.kinds.end(), kind) != recipe.kinds.end()) out.push_back(&recipe);
    return out;
}

namespace {

/// Ice and steam help nobody whose part does not reach or withstand them.
bool withstands(const Recipe& recipe, const Reading& reading, const PartCard& part) {
    const Measurand* m = part.measurand(reading.quantity.kind);
    const auto uses = [&](std::string_view reference) {
        return std::any_of(recipe.steps.begin(), recipe.steps.end(),
                           [&](const RecipeStep& step) { return step.reference == reference; });
    };
    const auto reaches = [&](double celsius) {
        const auto at = m ? convert_unit(celsius, "degC", m->unit) : tl::make_unexpected(Error{});
        return !at || (*at >= m->low && *at <= m->high);
    };
    if (uses("ice-point") && !reaches(0)) return false;
    return !uses("boiling-point") || (reaches(100) && part.environment.hottest_degC >= 100);
}

} // namespace

std::vector<const Recipe*> recipes_for(const std::vector<Recipe>& all, const Reading& reading,
                                       const PartCard* part) {
    const QuantityKind* kind = find_quantity_kind(reading.quantity.kind);
    const auto top = kind ? convert_unit(reading.quantity.high, reading.quantity.unit, kind->units.front())
                          : tl::make_unexpected(Error{});
    std::vector<const Recipe*> out;
    for (const Recipe* recipe : recipes_for(all, reading.quantity.kind)) {
        const auto& families = recipe->families;
        const bool family = families.empty() ||
                            (part && std::find(families.begin(), families.end(), part->family) != families.end());
        const bool range = !top || (*top >= recipe->low && *top <= recipe->high);
        if (family && range && (!part || withstands(*recipe, reading, *part))) out.push_back(recipe);
    }
    return out;
}

double settle_seconds(const Recipe& recipe, double response_s, double interval_s) {
    return std::max(recipe.settle_responses * response_s, 3 * interval_s);
}

} // namespace cognitum
