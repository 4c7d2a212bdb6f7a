// The plan of a bench as plain values: boards, readings, links, bands. What was measured stands in the bench file's
// series, what was proven in its calibration records; this is what a person decides and can undo.
#pragma once

#include "core/base/json_reader.h"
#include "core/base/time.h"
#include "core/bench/correction.h"
#include "core/bench/geo_place.h"
#include "core/bench/link_plan.h"
#include "core/bench/load_control.h"
#include "core/bench/quantity.h"
#include "core/bench/reference.h"
#include "core/bench/timed_session.h"
#include "core/bench/watch_rule.h"
#include "core/bench/wiring.h"
#include "core/signal_path/chain.h"
#include "core/signal_path/feeds.h"

#include <optional>
#include <string>
#include <vector>

namespace cognitum {

struct Rejected {
    std::string part; ///< id of a PartCard
    std::string because;
    bool operator==(const Rejected&) const = default;
};

struct SensorChoice {
    std::string part;                    ///< id of a PartCard; empty: not chosen
    std::string reason;                  ///< why this one
    std::vector<Rejected> rejected = {}; ///< what was compared and why it was left
    std::string marking = {};            ///< what the person's own part says on it
    std::string shared_with = {};        ///< id of the reading whose part serves this one too
    bool operator==(const SensorChoice&) const = default;
};

struct Bands {
    double low = 0, high = 0, hysteresis = 0; ///< unit of the quantity
    bool operator==(const Bands&) const = default;
};

/// One of a reading's bands, as a person names them: from the one below it up to its end.
struct NamedBand {
    std::string name;                 ///< "frost", "safe for the plants"
    double to = 0;                    ///< unit of the quantity; of the highest without meaning
    WatchRank rank = WatchRank::note; ///< its shape: a disc, a triangle, a diamond
    bool operator==(const NamedBand&) const = default;
};
inline constexpr std::size_t most_bands = 12;
/// First defect of a list of bands, from the lowest, in a sentence; empty: there is none.
std::string defect_of(const std::vector<NamedBand>& bands);

/// Where a reading's number stands in what arrives.
struct Source {
    std::string field = {};   ///< name in the lines; empty: the label of its pin
    std::string signal = {};  ///< another field that the Raw stop looks at: the wave behind a rate; empty: the same
    std::string feed = {};    ///< id of the BoardUse whose link brings it; empty: the board it is wired to
    std::string unit = {};    ///< that the number comes in, when it has no path; empty: the reading's own
    std::string collect = {}; ///< what many numbers become first: "beats" of a wave, "rate" of a count; empty: each
    bool operator==(const Source&) const = default;
};

/// One stage of the bring-up, signed.
struct SignOff {
    std::string stage; ///< id of a bring-up stage
    TimeUs time = 0;
    std::string by;
    bool passed = false;
    std::string note = {}; ///< evidence in words
    bool operator==(const SignOff&) const = default;
};

struct BringUp {
    std::vector<SignOff> signs;     ///< oldest first; the last one of a stage counts
    TimeUs disturbed = 0;           ///< when it was last moved, opened, sealed or glued; 0: never
    std::string disturbed_how = {}; ///< "sealed"
    bool operator==(const BringUp&) const = default;
};

struct Reading {
    std::string id, name;
    Quantity quantity;
    SensorChoice sensor;
    Wiring wiring;
    Chain path; ///< without the correction; see effective_path()
    std::optional<AppliedCorrection> correction;
    std::optional<Bands> bands;
    std::vector<NamedBand> named_bands = {}; ///< from the lowest; empty: low, in range and high, by `bands`
    Source source = {};
    BringUp bring_up = {};
    double calibrate_months = 0; ///< interval between calibrations; 0: twelve
    std::string group = {};      ///< under which it stands on the overview; empty: none
    bool hidden = false;         ///< not on the overview

    // What makes, copies and compares it stands in bench.cpp: hundreds of files hold readings.
    Reading();
    Reading(const Reading& other);
    Reading(Reading&& other) noexcept;
    Reading& operator=(const Reading& other);
    Reading& operator=(Reading&& other) noexcept;
    ~Reading();
    bool operator==(const Reading& other) const;

    /// Id of the BoardUse that its numbers come from.
    [[nodiscard]] const std::string& feed() const { return source.feed.empty() ? wiring.board : source.feed; }
    /// Name under which its number stands in the lines.
    [[nodiscard]] std::string field() const { return source.field.empty() ? wiring.pin() : source.field; }
};

/// Serial wires from one board to another that reads what it sends.
struct Uplink {
    std::string to;           ///< id of a BoardUse; empty: none
    std::string transmit_pin; ///< on this board
    std::string receive_pin;  ///< on the other
    int baud = 9600, far_baud = 9600;
    LevelDivider divider = {}; ///< on the wire, when this board's level is too high for the other
    bool operator==(const Uplink&) const = default;
};

struct BoardUse {
    std::string id, name, card; ///< card: id of a BoardCard; empty: a source that is no board, such as a file
    LinkPlan link;
    bool radio_on = false;
    double supply_V = 0;              ///< what feeds it; 0: its USB port
    double adapter_V = 0;             ///< level of the programming adapter; 0: none or USB
    int code_baud = 0;                ///< speed in the program; 0: as the link
    double bytes_per_line = 0;        ///< 0: eight for each reading
    double sleep_s = 0, wake_s = 0;   ///< it sleeps and wakes in turn; 0: always on
    double upload_s = 0, quota_s = 0; ///< it sends to a service that takes one update each quota_s; 0: none
    double i2c_kHz = 100, i2c_pull_up_ohm = 0; ///< of its bus; the pull-up is one that was added
    double ambient_degC = 25;
    Uplink uplink = {};
    std::vector<CommandButton> buttons = {};

    BoardUse();
    BoardUse(const BoardUse& other);
    BoardUse(BoardUse&& other) noexcept;
    BoardUse& operator=(const BoardUse& other);
    BoardUse& operator=(BoardUse&& other) noexcept;
    ~BoardUse();
    bool operator==(const BoardUse& other) const;
};

/// Anything that is wired to a board and is no reading: converter, multiplexer, bus switch, level shifter, load.
struct Module {
    std::string id, name, part, board;
    std::string rail;
    std::vector<Connection> pins; ///< its signal legs
    int address = 0;
    std::string module;      ///< bus switch that it sits behind
    std::string switched_by; ///< reading that switches a load
    bool screened = false;   ///< a lamp that its own sensor cannot see, as somebody said
    double own_supply_V = 0;
    bool ground_joined = true;
    bool operator==(const Module&) const = default;
};

struct Price {
    std::string item; ///< id of a card, or of a small part: "resistor", "wire-m"
    double each = 0;
    bool operator==(const Price&) const = default;
};

struct Bench {
    std::string name, place;
    std::optional<GeoPlace> where; ///< for the sun; empty: not said
    std::vector<BoardUse> boards;
    std::vector<Reading> readings;
    std::vector<Module> modules;
    std::vector<Price> prices; ///< what was paid or is expected, where it is not the class's guess
    std::string currency = "€";
    std::vector<ReferenceInstrument> references; ///< the register of what readings are compared with
    std::vector<TimedSession> sessions;          ///< in any order
    std::vector<SessionRule> session_rules;
    std::vector<WatchRule> watch_rules; ///< in the order in which they are shown
    std::vector<LoadControl> controls;  ///< of loads that follow them
    Telling telling = {};
    Publishing publishing = {};
    PagePlan page = {};

    Bench();
    Bench(const Bench& other);
    Bench(Bench&& other) noexcept;
    Bench& operator=(const Bench& other);
    Bench& operator=(Bench&& other) noexcept;
    ~Bench();
    bool operator==(const Bench& other) const;

    [[nodiscard]] const Reading* reading(std::string_view id) const;
    [[nodiscard]] const BoardUse* board(std::string_view id) const;
    [[nodiscard]] const Module* module(std::string_view id) const;
    [[nodiscard]] const ReferenceInstrument* reference(std::string_view id) const;
    [[nodiscard]] const TimedSession* session(std::string_view id) const;
    [[nodiscard]] const SessionRule* session_rule(std::string_view id) const;
    [[nodiscard]] const WatchRule* watch_rule(std::string_view id) const;
    [[nodiscard]] WatchRule* watch_rule(std::string_view id);
    [[nodiscard]] const LoadControl* control(std::string_view id) const;
    [[nodiscard]] LoadControl* control(std::string_view id);
    /// One of its readings is about somebody's health.
    [[nodiscard]] bool is_private(const TimedSession& session) const;
    /// Ids of the readings that a session of this kind is about, as far as the bench has them; at most four.
    [[nodiscard]] std::vector<std::string> readings_for(SessionKind kind) const;
    [[nodiscard]] Reading* reading(std::string_view id);
    [[nodiscard]] BoardUse* board(std::string_view id);
    [[nodiscard]] Module* module(std::string_view id);
    /// "hut-air" from "Hut air", made unique among readings, boards, modules, sessions and rules.
    [[nodiscard]] std::string free_id(std::string_view name) const;
};

/// The path from what arrives to the quantity's unit; where a board sends finished numbers, their unit's
/// conversion.
Chain uncorrected_path(const Reading& reading, const Partners& partners = {});

/// The path with the correction that is in force as its last stage (without the correction's doubt, which depends
/// on where on the line the value lies: see uncertainty of a reading). Constants that the calibration went through
/// no longer carry their data-sheet doubt; a reference or a supply keeps its stability. Constants that follow
/// another reading take what it says, see feeds.h.
Chain effective_path(const Reading& reading, const Partners& partners = {});

/// Identifies the path and how it is wired: changes when a calibration would no longer hold.
std::string path_key(const Reading& reading);

/// Ids of readings that feed each other in a circle, beginning with `id`; empty: none does.
std::vector<std::string> feed_loop(const Bench& bench, const std::string& id);

/// True when the correction in force was found with another path or wiring.
bool correction_is_stale(const Reading& reading);

Json reference_json(const ReferenceInstrument& reference);
Result<ReferenceInstrument> read_reference(const JsonReader& json);
Json session_json(const TimedSession& session);
Result<TimedSession> read_session(const JsonReader& json);
Json session_rule_json(const SessionRule& rule);
Result<SessionRule> read_session_rule(const JsonReader& json);
Json watch_rule_json(const WatchRule& rule);
Result<WatchRule> read_watch_rule(const JsonReader& json);
Json control_json(const LoadControl& control);
Result<LoadControl> read_control(const JsonReader& json);
Json where_json(const GeoPlace& where);
Result<GeoPlace> read_where(const JsonReader& json);
Json telling_json(const Telling& telling);
Result<Telling> read_telling(const JsonReader& json);
Json publishing_json(const Publishing& publishing);
Result<Publishing> read_publishing(const JsonReader& json);
Json page_json(const PagePlan& page);
Result<PagePlan> read_page(const JsonReader& json);
Json prices_json(const Bench& bench);
Result<void> read_prices(const JsonReader& json, Bench& bench);
Json bench_json(const Bench& bench);
/// Error when the plan has more of anything than a person makes (limits.h): every rule looks at every pair.
Result<void> plan_within_limits(const Bench& bench);
Result<Bench> read_bench(const JsonReader& json);
Json reading_json(const Reading& reading);
Result<Reading> read_reading(const JsonReader& json);
Json board_use_json(const BoardUse& board);
Result<BoardUse> read_board_use(const JsonReader& json);
Json module_json(const Module& module);
Result<Module> read_module(const JsonReader& json);

} // namespace cognitum
