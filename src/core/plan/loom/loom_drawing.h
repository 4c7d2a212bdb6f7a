// Blocks, wires and resistors of a wiring diagram, put in rows part by part.
#pragma once

#include "core/plan/electrical.h"
#include "core/plan/loom/loom.h"
#include "core/plan/path.h"

#include <map>
#include <string>
#include <vector>

namespace cognitum {

/// What is drawn of one part: a reading's or a module's.
struct LoomItem {
    std::string title;
    const PartCard* part = nullptr;
    const std::vector<Connection>* pins = nullptr;
    std::string rail; ///< label, or "own" text
    bool own_supply = false, parasite = false, input_protected = false;
    double pull_up_ohm = 0, cable_m = 0.3;
    const std::vector<std::pair<std::string, std::string>>* colours = nullptr;
    VoltRange at_pin, at_source;
    double high_V = 0; ///< of its output, where that is no measured voltage
    bool voltage = false;
};

class LoomDrawing {
  public:
    LoomDrawing(const BoardUse& use, const BoardCard& card);
    /// A part that is wired to the board directly.
    void add_direct(const LoomItem& item);
    /// A module with the parts behind it: supply and ground of those are flags, so that nothing crosses the module.
    void add_module(const LoomItem& module, const std::vector<LoomItem>& behind);
    Loom finish();

  private:
    const Connection* wire_of(const LoomItem& item, const std::string& leg) const;
    std::string colour_of(const LoomItem& item, const Leg& leg) const;
    /// The board's terminal for a net: where it was first used.
    LoomEnd terminal(const std::string& net, const std::string& note, int row);
    LoomWire& wire(const LoomItem& item, const std::string& net, const std::string& note, LoomEnd to, int row,
                   const Leg& leg);
    void add_supply(const LoomItem& item, LoomEnd to, int row, const Leg& leg);
    void add_ground(const LoomItem& item, LoomEnd to, int row, const Leg& leg);
    void add_signal(const LoomItem& item, const Connection& c, LoomEnd to, int row, const Leg& leg);
    /// Where the wires of one part lie; −1: there is none yet.
    struct NetworkRows {
        int supply = -1, ground = -1, signal = -1, bias = -1;
        std::string bias_leg;
        std::map<std::string, int> signals;
    };
    /// A rail of the board that feeds a resistor and not the part.
    void add_rail(const LoomItem& item, const std::string& net, int row);
    /// Every resistor that belongs to a part: partner, level dividers, pull-up, shunt, bias. `feed` makes a row for
    /// a rail or for ground that only a resistor needs, and returns it.
    template <typename Feed>
    void add_network(const LoomItem& item, NetworkRows& rows, Feed feed);
    void add_behind(const LoomItem& item, int module, LoomBlock& module_block);
    /// Grounds first, then signals, supplies last.
    void number_wires();
    const BoardCard& m_card;
    Loom m_loom;
    std::vector<std::string> m_notes;
    int m_row = 0;
};

} // namespace cognitum
