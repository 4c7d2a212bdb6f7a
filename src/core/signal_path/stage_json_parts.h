// Pieces of a stage's JSON that several kinds share; used by the readers and the writer.
#pragma once

#include "core/base/json_reader.h"
#include "core/signal_path/stage.h"

namespace cognitum {

/// What JSON needs to know of one kind of stage. `keys` are those beside its constants.
struct StageForm {
    std::string name;
    Stage blank;
    std::vector<std::string> keys;
    std::vector<std::string> optional_constants; ///< keep the blank's value when missing
};
/// In the order of the variant.
const std::vector<StageForm>& stage_forms();

// The words of choices, in the order of what they choose.
inline const std::vector<std::string> convention_names = {"2^N", "2^N-1"};
inline const std::vector<std::string> leg_names = {"top", "bottom"};
inline const std::vector<std::string> side_names = {"above", "below"};
inline const std::vector<std::string> compensations = {"linear", "natural-water"};
inline const std::vector<std::string> moist_air_words = {"dew-point", "absolute-humidity",
                                                         "vapour-pressure-deficit"};

/// A whole number of bits, 1 to 32.
Result<int> read_bits(const JsonReader& json);
/// The code of a unit that is known.
Result<std::string> read_unit(const JsonReader& json, std::string_view key);
/// input_unit and unit.
Result<void> read_units(const JsonReader& json, std::string& from, std::string& to);
/// A key that is one of some words: the index of the word. Missing: 0.
Result<std::size_t> read_choice(const JsonReader& json, const std::string& key,
                                const std::vector<std::string>& words);
Result<std::vector<double>> read_numbers(const JsonReader& json, const std::string& key);
Result<std::vector<std::string>> read_words(const JsonReader& json, const std::string& key);
/// By KnownBy.
inline constexpr const char* known_by_words[] = {"statement", "assumption", "hand", "calibration"};
/// Of a file or a card from before there was a key for it: what the words mean that programs wrote as an origin.
KnownBy known_by_origin(std::string_view origin);
/// KEY with u_KEY or tol_KEY, stability_KEY, origin_KEY, known_by_KEY, cause_KEY and from_KEY. Optional and
/// missing: `out` stays.
Result<void> read_constant(const JsonReader& json, const std::string& key, bool optional, Constant& out);
/// A section of a stack of shapes, and back.
Result<physics::VesselShape> read_section(const JsonReader& json);
Json section_json(const physics::VesselShape& section);
/// An error when the constant is not above zero.
Result<void> positive(const JsonReader& json, const Constant& constant, std::string_view key);

} // namespace cognitum
