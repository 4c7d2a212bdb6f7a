// What can go wrong on a simulated bench, by name: switched on and off at run time.
#pragma once

#include <set>
#include <string>
#include <string_view>
#include <vector>

namespace cognitum::demo {

struct Fault {
    std::string name;    ///< "unplugged-sensor"; stands in scripts: do not change
    std::string title;   ///< the same for people, in English
    std::string board;   ///< of Whelk Point: gauge, shed, pump-house
    std::string reading; ///< id of the reading that shows it; empty: all of the board's
    std::string about;   ///< a sentence: what happens
    std::string verdict; ///< id of the verdict that the Raw stop must give
};
const std::vector<Fault>& all_faults();
const Fault* find_fault(std::string_view name);

/// The faults that are on.
class Faults {
  public:
    /// "none" clears all; "NAME" switches that one on alone; "+NAME" and "-NAME" add and take away. False, and
    /// nothing changed, for a name that is not known.
    bool change(std::string_view text);
    [[nodiscard]] bool on(std::string_view name) const { return m_on.find(name) != m_on.end(); }
    [[nodiscard]] std::string text() const; ///< names with blanks between, "none" when there is none

  private:
    std::set<std::string, std::less<>> m_on;
};

} // namespace cognitum::demo
