// The lines of every board as they came, for the eye: kept apart from the live values, because there are many and a
// reader wants only those that are new. Shared between the worker and the interface; bounded.
#pragma once

#include "core/base/time.h"

#include <cstdint>
#include <deque>
#include <map>
#include <mutex>
#include <string>
#include <vector>

namespace cognitum {

struct KeptLine {
    std::uint64_t number = 0; ///< from 1, as the decoder counts
    TimeUs time = 0;
    std::string text;          ///< at most `longest` bytes, what is no text as dots
    std::uint64_t fields = 0;  ///< bit i: it brought the decoder's field i (the first 64)
    std::string rejected = {}; ///< why it is no record; empty: it is one, or a comment
    [[nodiscard]] bool is_comment() const { return !text.empty() && text.front() == '#'; }
};

class LineStore {
  public:
    static constexpr std::size_t most = 20000; ///< of one board
    static constexpr std::size_t longest = 160;

    void add(const std::string& board, std::vector<KeptLine> lines);
    /// Lines with a number above `after` that brought any of `fields` (0: every line), oldest first, at most the
    /// newest `limit`. Comments and rejected lines always count.
    [[nodiscard]] std::vector<KeptLine> since(const std::string& board, std::uint64_t after, std::uint64_t fields,
                                              std::size_t limit) const;
    /// Number of the oldest line that is still kept; 0: none.
    [[nodiscard]] std::uint64_t oldest(const std::string& board) const;
    void clear(const std::string& board);

  private:
    mutable std::mutex m_mutex;
    std::map<std::string, std::deque<KeptLine>> m_lines;
};

} // namespace cognitum
