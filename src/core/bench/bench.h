// The plan of a bench as plain values: boards, readings, links, bands. What was measured stands in the bench file's
// series, what was proven in its calibration records; this is what a person decides and can undo.
#pragma once

#include "core/base/json_reader.h"
#include "core/base/time.h"
#include "core/signal_path/chain.h"

#include <optional>
#include <string>
#include <vector>

namespace cognitum {

struct Quantity {
    std::string kind = "temperature"; ///< id of a QuantityKind
    std::string unit = "degC";
    double low = -10, high = 40; ///< expected range, unit
    double accuracy = 1;         ///< needed: ± in unit, at 95 %
    double interval_s = 1;       ///< needed: a value every so many seconds
    std::string place;
    bool operator==(const Quantity&) const = default;
};

struct SensorChoice {
    std::string part;   ///< id of a PartCard; empty: not chosen
    std::string reason; ///< why this one, and what spoke against the others
    bool operator==(const SensorChoice&) const = default;
};

struct Wiring {
    std::string board;               ///< id of a BoardUse; empty: not placed
    std::string pin;                 ///< label as printed
    std::string rail;                ///< label of the rail that feeds the part
    std::string reference;           ///< id of the board's reference
    std::vector<int> ticked;         ///< numbers of the steps that are done
    std::vector<std::string> mended; ///< what was mended here, newest last
    bool operator==(const Wiring&) const = default;
};

/// The correction in force, taken from a calibration record.
struct AppliedCorrection {
    double gain = 1, offset = 0;
    double var_offset = 0, var_gain = 0, covariance = 0; ///< of the fit
    double u_reference = 0;  ///< doubt that all references share; does not shrink with the number of points
    double dof = 0;          ///< of the fit; 0: unknown
    double from = 0, to = 0; ///< span of the indications
    std::int64_t record = 0; ///< id of the calibration record
    TimeUs time = 0;
    std::string verdict;  ///< as left
    std::string path_key; ///< of the path that was calibrated; another path needs another calibration
    bool operator==(const AppliedCorrection&) const = default;
};

struct Bands {
    double low = 0, high = 0, hysteresis = 0; ///< unit of the quantity
    bool operator==(const Bands&) const = default;
};

struct Reading {
    std::string id, name;
    Quantity quantity;
    SensorChoice sensor;
    Wiring wiring;
    Chain path; ///< without the correction; see effective_path()
    std::optional<AppliedCorrection> correction;
    std::optional<Bands> bands;
    bool operator==(const Reading&) const = default;
};

enum class LinkKind { none, serial, simulated };

struct LinkPlan {
    LinkKind kind = LinkKind::none;
    std::string port; ///< device path; empty for simulated
    int baud = 115200;
    std::uint64_t seed = 0; ///< of the simulated board
    bool operator==(const LinkPlan&) const = default;
};

struct BoardUse {
    std::string id, name, card; ///< card: id of a BoardCard
    LinkPlan link;
    bool operator==(const BoardUse&) const = default;
};

struct Bench {
    std::string name, place;
    std::vector<BoardUse> boards;
    std::vector<Reading> readings;
    bool operator==(const Bench&) const = default;

    [[nodiscard]] const Reading* reading(std::string_view id) const;
    [[nodiscard]] const BoardUse* board(std::string_view id) const;
    [[nodiscard]] Reading* reading(std::string_view id);
    [[nodiscard]] BoardUse* board(std::string_view id);
    /// "hut-air" from "Hut air", made unique among readings and boards.
    [[nodiscard]] std::string free_id(std::string_view name) const;
};

/// The path with the correction that is in force as its last stage (without the correction's doubt, which depends
/// on where on the line the value lies: see uncertainty of a reading). Constants that the calibration went through
/// no longer carry their data-sheet doubt.
Chain effective_path(const Reading& reading);

/// Identifies the path and how it is wired: changes when a calibration would no longer hold.
std::string path_key(const Reading& reading);

/// True when the correction in force was found with another path or wiring.
bool correction_is_stale(const Reading& reading);

Json bench_json(const Bench& bench);
Result<Bench> read_bench(const JsonReader& json);
Json reading_json(const Reading& reading);
Result<Reading> read_reading(const JsonReader& json);
Json board_use_json(const BoardUse& board);
Result<BoardUse> read_board_use(const JsonReader& json);

} // namespace cognitum
