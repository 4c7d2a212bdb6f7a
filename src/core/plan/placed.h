// A reading with everything that its plan names, looked up once: part, board, rail, reference, module in between.
// Pointers are null where the plan is not that far yet, or where a card is gone.
#pragma once

#include "core/bench/bench.h"
#include "core/catalog/cards.h"

#include <string>
#include <vector>

namespace cognitum {

struct Placed {
    const Bench* bench = nullptr;
    const Catalog* catalog = nullptr;
    const Reading* reading = nullptr;
    const PartCard* part = nullptr;
    const Measurand* measurand =
        nullptr; ///< what the part measures for this reading's kind: a volume comes from a level
    const BoardUse* use = nullptr;
    const BoardCard* board = nullptr;
    const Rail* rail = nullptr;
    const VoltageReference* reference = nullptr;
    const Module* module = nullptr;
    const PartCard* module_part = nullptr;
    const Rail* module_rail = nullptr;

    /// True when the part speaks with a voltage that some converter reads.
    [[nodiscard]] bool is_voltage() const {
        return part && (part->interface.speech == Speech::analog || part->interface.speech == Speech::resistive);
    }
    /// What feeds the part, V; 0 when it is not known or not fed.
    [[nodiscard]] double supply_V() const;
    /// Half width of that; of a supply of its own it is not known and taken as 5 %.
    [[nodiscard]] double supply_tolerance_V() const;
    /// True when an external converter reads the part, not the board's.
    [[nodiscard]] bool by_converter() const { return module_part && module_part->kind == PartKind::converter; }
    /// True when the converter measures against the very voltage that feeds the part, so that it cancels.
    [[nodiscard]] bool supply_cancels() const;
    /// The converter's full scale and its half-width tolerance, V.
    [[nodiscard]] double full_scale_V() const;
    [[nodiscard]] double full_scale_tolerance_V() const;
    /// Half width by which that moves from day to day; 0: not stated.
    [[nodiscard]] double full_scale_stability_V() const;
    [[nodiscard]] int bits() const;
    /// What the card promises, ± in the reading's unit; for a volume through the vessel's widest section. NaN:
    /// unknown.
    [[nodiscard]] double card_doubt() const;
    /// The expected range in the unit of the part's card; false when the units do not convert.
    [[nodiscard]] bool expected(double& low, double& high) const;
};

Placed place(const Bench& bench, const Catalog& catalog, const Reading& reading);

/// One pin that a part asks for.
struct PinNeed {
    std::string leg;      ///< of the part
    std::string function; ///< of the board's pin, as in pin_functions()
    bool drives = false;  ///< the board drives this leg
    bool shared = false;  ///< a bus wire that others use too
};
/// What a part asks of the board's pins, the leg that carries the reading first.
std::vector<PinNeed> pin_needs(const PartCard& part);

/// A part on an I²C bus: of a reading or of a module.
struct BusDevice {
    std::string owner, name; ///< id and name of the reading or module
    const PartCard* part = nullptr;
    int address = 0;
    std::string branch; ///< "" on the board's own bus, else bus switch and its channel
    double cable_m = 0;
    double pull_up_ohm = 0; ///< what it puts on the bus; 0: nothing
    bool is_module = false;
};
std::vector<BusDevice> bus_devices(const Bench& bench, const Catalog& catalog, const BoardUse& use);

/// Address in force: the chosen one or the one that the part comes with.
int bus_address(int chosen, const PartCard& part);

/// True when the board's radio is on: as planned, or because its lines come by radio.
bool radio_is_on(const BoardUse& use, const BoardCard* card);

/// True when this reading's part is another reading's, too, and is wired there.
bool is_shared(const Bench& bench, const Reading& reading);

/// First rail of the board that suits the part, one equal to its first reference before others; null: none does.
const Rail* suitable_rail(const PartCard& part, const BoardCard& board);
/// The rail's nominal voltage is in the part's range, and its tolerance leaves it by no more than a twentieth: a
/// data sheet that says 3.3 V means the usual supply of that name.
bool rail_suits(const PartCard& part, const Rail& rail);
bool supply_suits(const PartCard& part, double nominal_V, double tolerance_V);

} // namespace cognitum
