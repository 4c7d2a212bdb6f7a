#include "core/uncertainty/monte_carlo.h"

#include <algorithm>
#include <cmath>
#include <gsl/gsl_randist.h>
#include <gsl/gsl_rng.h>
#include <map>
#include <memory>
#include <numbers>

namespace cognitum {

namespace {

/// One doubtful number of the scratch chain.
struct Drawn {
    double* value;
    double centre, u;
    std::size_t source; ///< of its standardised draw
};

struct Source {
    bool rectangular;
    double now = 0; ///< mean 0, variance 1
};

void collect(Chain& scratch, std::vector<Drawn>& drawn, std::vector<Source>& sources) {
    std::map<std::string, std::size_t> by_cause;
    for (Stage& stage : scratch.stages)
        for (const NamedConstant& named : constants(stage)) {
            Constant& c = *named.constant;
            const double u = c.standard_uncertainty();
            if (!(u > 0)) continue;
            std::size_t source = sources.size();
            if (const auto known = by_cause.find(c.cause); !c.cause.empty() && known != by_cause.end())
                source = known->second;
            else
                sources.push_back({c.spread == Spread::rectangular});
            if (!c.cause.empty()) by_cause[c.cause] = source;
            drawn.push_back({&c.value, c.value, u, source});
        }
}

bool counts_codes(const Chain& chain) {
    return std::any_of(chain.stages.begin(), chain.stages.end(), [](const Stage& s) { return code_bits(s) > 0; });
}

} // namespace

MonteCarlo monte_carlo(const Chain& chain, double x, const DoubtInputs& inputs, std::size_t draws,
                       std::uint64_t seed) {
    MonteCarlo out;
    out.draws = draws;
    Chain scratch = chain;
    std::vector<Drawn> drawn;
    std::vector<Source> sources;
    collect(scratch, drawn, sources);
    const double step = counts_codes(chain) ? 1 : 0;
    const std::unique_ptr<gsl_rng, decltype(&gsl_rng_free)> random(gsl_rng_alloc(gsl_rng_taus2), &gsl_rng_free);
    gsl_rng_set(random.get(), seed);

    std::vector<double> results;
    results.reserve(draws);
    for (std::size_t i = 0; i < draws; ++i) {
        for (Source& s : sources)
            s.now = s.rectangular ? std::numbers::sqrt3 * (2 * gsl_rng_uniform(random.get()) - 1)
                                  : gsl_ran_gaussian_ziggurat(random.get(), 1);
        for (const Drawn& d : drawn)
            *d.value = d.centre + d.u * sources[d.source].now;
        double in = x;
        if (step > 0) in += step * (gsl_rng_uniform(random.get()) - 0.5);
        if (inputs.noise > 0) in += gsl_ran_gaussian_ziggurat(random.get(), inputs.noise);
        Value value = forward(scratch, in);
        if (!value.ok()) {
            ++out.failed;
            continue;
        }
        for (const Contribution& other : inputs.others)
            value.number += other.u * (std::isfinite(other.dof) && other.dof < 200
                                           ? gsl_ran_tdist(random.get(), other.dof)
                                           : gsl_ran_gaussian_ziggurat(random.get(), 1));
        results.push_back(value.number);
    }
    if (results.size() < 100) return out;
    double sum = 0;
    for (const double r : results)
        sum += r;
    out.mean = sum / static_cast<double>(results.size());
    double squares = 0;
    for (const double r : results)
        squares += (r - out.mean) * (r - out.mean);
    out.sd = std::sqrt(squares / static_cast<double>(results.size() - 1));
    const auto quantile = [&](double share) {
        const auto at = static_cast<std::ptrdiff_t>(share * static_cast<double>(results.size() - 1));
        std::nth_element(results.begin(), results.begin() + at, results.end());
        return results[static_cast<std::size_t>(at)];
    };
    out.low = quantile(0.025);
    out.high = quantile(0.975);
    return out;
}

bool disagree(const Budget& budget, const MonteCarlo& check) {
    const double larger = std::max(budget.expanded(), check.expanded());
    return larger > 0 && std::abs(budget.expanded() - check.expanded()) > 0.05 * larger;
}

} // namespace cognitum
