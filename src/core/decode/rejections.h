// What a decoder set aside, counted by reason, with the last of it kept to look at.
#pragma once

#include <cstddef>
#include <cstdint>
#include <deque>
#include <string>
#include <string_view>
#include <vector>

namespace cognitum {

struct Rejection {
    std::string reason;
    std::uint64_t count = 0;
    std::uint64_t first_line = 0;
    std::string first_text; ///< at most 80 bytes of it, what is no text as dots
};

struct RejectedLine {
    std::uint64_t line = 0;
    std::string reason, text;
};

/// Memory is bounded whatever arrives.
class Rejections {
  public:
    static constexpr std::size_t most_reasons = 64; ///< noise has many; what comes after is counted together
    static constexpr std::size_t most_kept = 20;
    void add(std::string_view reason, std::uint64_t line, std::string_view text);
    void add_all(const Rejections& other);
    [[nodiscard]] std::uint64_t total() const;
    [[nodiscard]] std::uint64_t count(std::string_view reason) const;
    [[nodiscard]] const std::vector<Rejection>& reasons() const { return m_reasons; }
    [[nodiscard]] const std::deque<RejectedLine>& last() const { return m_last; } ///< newest last

  private:
    std::vector<Rejection> m_reasons;
    std::deque<RejectedLine> m_last;
};

/// At most 80 bytes of a text, what is no printable ASCII as dots.
std::string shown_text(std::string_view text);

} // namespace cognitum
