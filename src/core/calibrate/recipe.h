// A recipe: how to calibrate one kind of quantity, step by step. Recipes are data (data/recipes/*.json, and a
// person's own beside their cards); how a reference's value comes about: references.h.
#pragma once

#include "core/base/json_reader.h"
#include "core/base/phrase.h"
#include "core/bench/bench.h"
#include "core/calibrate/fit.h"
#include "core/catalog/part_card.h"

#include <limits>
#include <string>
#include <vector>

namespace cognitum {

struct RecipeStep {
    Phrase title, text;
    Phrase caution;        ///< at this step; empty: that of its reference
    std::string reference; ///< id of a ReferenceKind; empty: nothing is taken here
    double share = -1;     ///< where in the expected range, 0…1; below 0: wherever the reference lies
    int points = 1;
    int run = 0;        ///< 1: rising, −1: falling
    bool check = false; ///< its points are kept out of the fit and judge it
    /// Where it lies in the expected range, unit of the quantity; share ≥ 0.
    [[nodiscard]] double place_in(const Quantity& q) const { return q.low + share * (q.high - q.low); }
};

/// What a point of it is.
enum class Capture {
    steady, ///< the mean of a window that stands still
    change, ///< how far the reading went from a start to an end: a poured amount, a filled volume
};

struct Recipe {
    std::string id;
    Phrase title;
    Phrase about;                                          ///< what it gives and what it takes, one sentence
    std::vector<std::string> kinds;                        ///< ids of QuantityKind
    std::vector<std::string> families;                     ///< of parts that it is for; none: all
    double low = -std::numeric_limits<double>::infinity(); ///< it is for expected ranges whose upper end lies from
    double high = std::numeric_limits<double>::infinity(); ///< low to high, in the kind's first unit
    std::vector<Phrase> equipment;
    std::vector<RecipeStep> steps;
    std::vector<Model> models; ///< that may be recommended, simplest first; none: it compares and corrects nothing
    Capture capture = Capture::steady;
    double settle_responses = 5; ///< waiting time, in time constants of the part
    Phrase finish;               ///< what to do at the end: a total pour, a second look
    bool dose = false;           ///< a bucket's stops are turned: the page counts doses for each side
};

/// Error with file, line and pointer: an unknown reference, kind or model, a step without words.
Result<Recipe> read_recipe(const JsonReader& json);

/// Recipes for a quantity, in their order.
std::vector<const Recipe*> recipes_for(const std::vector<Recipe>& all, std::string_view kind);

/// Those that suit this reading and its part (null: not chosen): its family, its range, and that every fixed point
/// lies in what the part measures and withstands.
std::vector<const Recipe*> recipes_for(const std::vector<Recipe>& all, const Reading& reading,
                                       const PartCard* part);

/// Seconds to wait after the probe was moved: time constants of the part, and never less than three readings.
double settle_seconds(const Recipe& recipe, double response_s, double interval_s);

} // namespace cognitum
