// Expected failures are values: a function that can fail on what a person gave it returns Result<T>.
// Every Error is written for that person: what went wrong, where, and what to do about it.
#pragma once

#include <string>
#include <tl/expected.hpp>
#include <utility>

namespace cognitum {

struct Error {
    std::string what;  ///< one sentence: what is wrong
    std::string where; ///< file:line, JSON pointer, field or port; empty when there is no place
    std::string fix;   ///< what to do; empty when `what` already says it

    /// "where: what fix", for a terminal or a message box.
    [[nodiscard]] std::string text() const {
        std::string out = where.empty() ? what : where + ": " + what;
        if (!fix.empty()) out += " " + fix;
        return out;
    }
};

template <typename T>
using Result = tl::expected<T, Error>;

inline tl::unexpected<Error> failure(std::string what, std::string where = {}, std::string fix = {}) {
    return tl::make_unexpected(Error{std::move(what), std::move(where), std::move(fix)});
}

} // namespace cognitum
