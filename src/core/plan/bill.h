// Everything that the plan needs, with what it costs: parts, boards, resistors, wires.
#pragma once

#include "core/bench/bench.h"
#include "core/catalog/cards.h"

#include <string>
#include <vector>

namespace cognitum {

struct BillRow {
    std::string item; ///< id for prices: a card's id, "resistor", "wire-m", …
    std::string what; ///< for a person
    double count = 0;
    double each = 0;
    bool guessed = true;      ///< by the price class; false: typed
    std::string used_for;     ///< readings and boards
    std::string alternatives; ///< cards that would do, cheaper first
    [[nodiscard]] double total() const { return count * each; }
};

std::vector<BillRow> bill_of_materials(const Bench& bench, const Catalog& catalog);
double bill_total(const std::vector<BillRow>& rows);
/// Price that was typed for an item, else the given guess.
double price_of(const Bench& bench, const std::string& item, double guess);
/// item,what,count,each,total,currency,guessed,used for,alternatives
std::string bill_csv(const std::vector<BillRow>& rows, const std::string& currency);

/// A copy of a board with its readings and modules for a second place: the plan, without links, calibrations and
/// ticks, because those belong to one build.
Bench copy_build(const Bench& bench, const std::string& board, const std::string& place);

} // namespace cognitum
