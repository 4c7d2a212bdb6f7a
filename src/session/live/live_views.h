// What follows from the plan and from what arrives: findings, verdicts on signals, budgets, histories. Nothing here
// changes anything; what is costly is worked out once for each plan or second. In the interface's thread.
#pragma once

#include "core/analyse/health.h"
#include "core/plan/findings.h"
#include "core/uncertainty/budget.h"
#include "session/live/live.h"

#include <map>
#include <string>
#include <vector>

namespace cognitum {

class Session;

class LiveViews {
  public:
    explicit LiveViews(Session& session) : m_session(session) {}

    /// Steps of a reading's wiring, all told.
    [[nodiscard]] std::size_t wiringSteps(const std::string& reading) const;
    /// From the plan and from what arrives.
    [[nodiscard]] std::vector<Finding> findings(const Reading& reading, const Live& live) const;
    /// Verdicts on a reading's raw signal, at most one second old.
    [[nodiscard]] const std::vector<HealthVerdict>& health(const Reading& reading, const Live& live) const;
    /// What the Raw stop looks at: the reading's own numbers, or the signal behind them.
    [[nodiscard]] std::vector<RawSample> rawSamples(const Reading& reading, const Live& live) const;
    [[nodiscard]] SignalAbout rawAbout(const Reading& reading) const;
    /// Raw numbers that were recorded, and what came live behind them, from `since` on.
    [[nodiscard]] std::vector<RawSample> withLive(std::vector<RawSample> recorded, const Reading& reading,
                                                  TimeUs since, const Live& live) const;
    [[nodiscard]] Budget budget(const Reading& reading, double raw, const Live& live) const;
    /// The same question to a Monte Carlo run: what it needs beside the path.
    [[nodiscard]] DoubtInputs doubts(const Reading& reading, double raw, const Live& live) const;
    /// What the readings that a reading's path follows say now, with their doubt; those that are silent are
    /// missing.
    [[nodiscard]] Partners partners(const Reading& reading, const Live& live) const;
    /// The path as it converts now.
    [[nodiscard]] Chain path(const Reading& reading, const Live& live) const {
        return effective_path(reading, partners(reading, live));
    }

  private:
    /// What follows from the plan alone, computed once for each revision of it.
    struct OfPlan {
        std::uint64_t revision = 0;
        std::map<std::string, std::vector<Finding>> of_reading, of_board;
        struct Fingerprints {
            std::string plan, constants;
        };
        std::map<std::string, Fingerprints> programs; ///< of each board's, by its id
        std::map<std::string, std::size_t> steps;
    };
    struct Health {
        std::int64_t second = 0;
        std::uint64_t revision = 0;
        std::vector<HealthVerdict> verdicts;
    };
    [[nodiscard]] const OfPlan& ofPlan() const;
    [[nodiscard]] Partners partnersAt(const Reading& reading, const Live& live, int depth) const;
    [[nodiscard]] Budget budgetAt(const Reading& reading, double raw, const Live& live, int depth) const;
    [[nodiscard]] double noise(const Reading& reading, const Live& live) const;

    Session& m_session;
    mutable OfPlan m_of_plan;
    mutable std::map<std::string, Health> m_health;
};

} // namespace cognitum
