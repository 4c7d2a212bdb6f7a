// The parts of a proof's plan at the pins of a board, and what each gives when.
#pragma once

#include "core/plan/placed.h"
#include "core/program/part_models.h"
#include "core/program/proof_plan.h"

#include <array>
#include <map>
#include <memory>

namespace cognitum::program {

/// Lives as long as the world that it is in is run.
class PartsAtPins {
  public:
    PartsAtPins(PinWorld& world, const ProofPlan& plan, const Bench& bench, const Catalog& catalog);
    /// What a reading's part gives from now on, in the sense of ProofReading::input; of pulses one, whatever it is.
    void give(const std::string& reading, double input);

  private:
    using Numbers = std::array<double, 4>; ///< volts, or what a part on the bus gives
    void add(const ProofReading& r, const ProofPlan& plan, const Placed& p);
    Numbers& converter(const ProofReading& r);
    Numbers& on_bus(const ProofReading& r);

    PinWorld& m_world;
    std::vector<std::unique_ptr<OneWireThermometer>> m_probes;
    std::vector<std::unique_ptr<ThermocoupleConverter>> m_couples;
    std::vector<std::unique_ptr<PlatinumConverter>> m_platinum;
    std::vector<std::unique_ptr<EchoRanger>> m_rangers;
    std::vector<std::unique_ptr<LoadCell>> m_cells;
    std::map<std::string, std::unique_ptr<SingleWireSensor>> m_wires; ///< by pin
    std::map<int, std::unique_ptr<Numbers>> m_numbers;                ///< by address
    std::map<std::string, std::function<void(double)>> m_set;         ///< by reading
};

} // namespace cognitum::program
