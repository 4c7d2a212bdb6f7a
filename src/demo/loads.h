// The loads of a simulated board: switched by commands, off by themselves when they were not told again in time.
#pragma once

#include "core/base/time.h"

#include <map>
#include <string>
#include <string_view>

namespace cognitum::demo {

class Loads {
  public:
    /// "NAME on SECONDS", "NAME on" (without a time-out) or "NAME off". False when it is none of them.
    bool change(std::string_view text, TimeUs now);
    [[nodiscard]] bool on(std::string_view name, TimeUs now) const;
    /// How long it has been on so far, s.
    [[nodiscard]] double on_for_s(std::string_view name, TimeUs now) const;
    [[nodiscard]] std::string text(TimeUs now) const; ///< names of those that are on, "none" when there is none

  private:
    struct Load {
        TimeUs since = 0, until = 0; ///< on in between
        TimeUs before = 0;           ///< on in all, before that
    };
    std::map<std::string, Load, std::less<>> m_loads;
};

} // namespace cognitum::demo
