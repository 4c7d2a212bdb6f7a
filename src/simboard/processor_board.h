// A simulated board that runs the program written from its plan, as machine code in an instruction-level simulator.
// Its parts are those of the plan, and measure the invented world of Whelk Point; a reading that the world does not
// have swings slowly through the range that is expected of it.
#pragma once

#include "core/base/error.h"
#include "core/bench/bench.h"
#include "core/catalog/cards.h"
#include "core/program/parts_at_pins.h"
#include "demo/gauge_board.h"
#include "machine/simulated_avr.h"

namespace cognitum::demo {

class ProcessorBoard : public Board {
  public:
    /// Compiles the program. Error: it cannot be written, compiled, or nothing of it simulated.
    static Result<std::unique_ptr<Board>> make(const Bench& bench, const Catalog& catalog, const std::string& board,
                                               const BoardSettings& settings, TimeUs now);
    ProcessorBoard(const Bench& bench, const Catalog& catalog, ProofPlan plan, const std::string& elf,
                   double supply_V, const BoardSettings& settings, TimeUs now);

    std::vector<Sent> start(TimeUs now) override;
    std::vector<Sent> step(TimeUs now) override;
    [[nodiscard]] TimeUs next() const override;
    /// What is done to the bench around the board is done; all else is typed into its serial port.
    std::string command(std::string_view line, TimeUs now) override;

  private:
    void measure(TimeUs now);
    void tip(TimeUs now);
    [[nodiscard]] double input_of(const ProofReading& asked, TimeUs now);
    void say(const ProofLine& line, TimeUs now, std::vector<Sent>& out);

    Bench m_bench;
    Catalog m_catalog;
    ProofPlan m_plan;
    GaugeBoard m_world;
    GaugeNumbers m_numbers;
    machine::SimulatedAvr m_avr;
    program::PartsAtPins m_parts;
    double m_supply_V;
    TimeUs m_began, m_now, m_measured = 0;
    std::int64_t m_tips = 0;
    std::int64_t m_sent = 0; ///< lines
    std::uint64_t m_seed;
};

} // namespace cognitum::demo
