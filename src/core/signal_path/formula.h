// A formula that a person typed, compiled once and evaluated many times. It knows numbers, x, the constants that it
// was given, operators and functions of one or more numbers; it has no loops, writes nothing and reads nothing.
#pragma once

#include "core/base/error.h"

#include <memory>
#include <span>
#include <string>
#include <vector>

namespace cognitum {

class FormulaProgram {
  public:
    FormulaProgram() = default;

    /// `names`: the constants beside x. An error says what is wrong and where in the text. At most 400 characters.
    static Result<FormulaProgram> compile(const std::string& expression, const std::vector<std::string>& names);

    [[nodiscard]] bool there() const { return m_parser != nullptr; }
    /// Values of the constants in the order of their names. NaN where the formula gives no finite number, such as
    /// a division by zero or a logarithm of nothing. May be called from several threads; they wait for each other.
    [[nodiscard]] double evaluate(double x, std::span<const double> values) const;

  private:
    struct Parser;
    std::shared_ptr<Parser> m_parser;
};

} // namespace cognitum
