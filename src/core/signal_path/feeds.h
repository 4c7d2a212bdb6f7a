// Readings that feed each other: a constant of a path may follow another reading, such as the temperature that sets
// the speed of sound. Its own value is what is assumed while that reading says nothing.
#pragma once

#include "core/base/time.h"
#include "core/signal_path/chain.h"

#include <map>
#include <string>
#include <vector>

namespace cognitum {

/// What another reading says now.
struct Partner {
    double value = 0;
    double u = 0; ///< standard uncertainty, same unit; 0: not asked for
    std::string unit;
    std::string name; ///< for a person
    TimeUs time = 0;
};
/// By reading; those that are fresh and have a value.
using Partners = std::map<std::string, Partner>;

/// How one constant was fed.
struct Fed {
    std::size_t stage = 0;
    std::string key;
    std::string from;  ///< id of the reading
    bool live = false; ///< false: the stated assumption holds
};

/// Gives each constant that follows a reading that reading's value and doubt; two that follow the same one err
/// together. Where the partner is missing, or its unit does not fit, the assumption and its doubt stay.
std::vector<Fed> feed(Chain& chain, const Partners& partners);

/// Whether `feed` gave this constant the value of the reading that it follows.
bool is_fed(const Constant& c);

/// Ids of the readings that a chain follows, each once.
std::vector<std::string> followed(const Chain& chain);

} // namespace cognitum
