#include "demo/loads.h"

#include <algorithm>
#include <charconv>
#include <limits>

namespace cognitum::demo {

namespace {
constexpr TimeUs for_ever = std::numeric_limits<TimeUs>::max() / 4;
constexpr double longest_s = 86400;
} // namespace

bool Loads::change(std::string_view text, TimeUs now) {
    const std::size_t space = text.find(' ');
    if (space == 0 || space == std::string_view::npos) return false;
    const std::string_view name = text.substr(0, space);
    const std::string_view what = text.substr(space + 1);
    TimeUs until = for_ever;
    if (what.starts_with("on ")) {
        double s = 0;
        const std::string_view number = what.substr(3);
        const auto read = std::from_chars(number.data(), number.data() + number.size(), s);
        if (read.ec != std::errc() || read.ptr != number.data() + number.size() || !(s > 0 && s <= longest_s))
            return false;
        until = now + from_seconds(s);
    } else if (what != "on" && what != "off") {
        return false;
    }
    Load& load = m_loads.try_emplace(std::string(name)).first->second;
    const bool was_on = now < load.until;
    if (what == "off") {
        load.until = std::min(load.until, now);
    } else {
        if (!was_on) {
            load.before += load.until - load.since;
            load.since = now;
        }
        load.until = until;
    }
    return true;
}

bool Loads::on(std::string_view name, TimeUs now) const {
    const auto load = m_loads.find(name);
    return load != m_loads.end() && now >= load->second.since && now < load->second.until;
}

double Loads::on_for_s(std::string_view name, TimeUs now) const {
    const auto load = m_loads.find(name);
    if (load == m_loads.end()) return 0;
    return seconds(load->second.before +
                   std::max<TimeUs>(0, std::min(now, load->second.until) - load->second.since));
}

std::string Loads::text(TimeUs now) const {
    std::string out;
    for (const auto& [name, load] : m_loads)
        if (on(name, now)) out += (out.empty() ? "" : " ") + name;
    return out.empty() ? "none" : out;
}

} // namespace cognitum::demo
