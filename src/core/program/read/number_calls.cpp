// The core's functions of numbers and of memory.
#include "core/base/phrase.h"
#include "core/program/read/evaluator.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum::program {

namespace {

using Call = Evaluator::Call;

/// A function of one or two numbers, by name, with real arithmetic beside it.
template <typename F>
CodeValue function_of(Evaluator& e, Call& c, const char* name, F f) {
    const CodeValue& a = c.value(0);
    const CodeValue& b = c.value(1);
    const bool two = c.given.size() > 1;
    CodeValue out = real_value(f(a.number(), two ? b.number() : 0.0), c.node.type);
    out = in_type(out, e.tree().type_of(c.node), c.node.type);
    out.ideal = f(a.ideal, two ? b.ideal : 0.0);
    out.losses = a.losses | b.losses;
    if (a.trace || (two && b.trace)) out.trace = applied(name, c.given, c.node.place);
    e.pass_time(10);
    return out;
}

#define COGNITUM_FUNCTION(name, expression)                                                                        \
    calls[name] = [](Evaluator& e, Call& c) {                                                                      \
        return function_of(e, c, name, [](double x, [[maybe_unused]] double y) -> double { return expression; });  \
    }

/// To whole numbers, as the core does it: long in, long out.
CodeValue map(Evaluator& e, Call& c) {
    const CodeValue& x = c.value(0);
    const double in_low = c.number(1), in_high = c.number(2), out_low = c.number(3), out_high = c.number(4);
    if (in_high == in_low) {
        e.stop(phrase("map() divides by zero: both ends of its input are the same"), c.node.place);
        return whole_value(0);
    }
    const auto up = static_cast<std::int64_t>((x.number() - in_low) * (out_high - out_low));
    CodeValue out = whole_value(
        up / static_cast<std::int64_t>(in_high - in_low) + static_cast<std::int64_t>(out_low), c.node.type);
    out.ideal = (x.ideal - in_low) * (out_high - out_low) / (in_high - in_low) + out_low;
    out.losses = x.losses;
    if (!x.trace) return out;
    const auto step = [&](const CodeValue& from, char op, double number, std::size_t argument) {
        CodeValue by = real_value(number);
        by.literals = c.value(argument).literals;
        CodeValue next = from;
        next.trace = combined(op, from, by, c.node.place);
        return next;
    };
    CodeValue traced = step(x, '-', in_low, 1);
    traced = step(traced, '*', out_high - out_low, 4);
    traced = step(traced, '/', in_high - in_low, 2);
    traced = step(traced, '+', out_low, 3);
    out.trace = traced.trace;
    if (out.ideal != out.number())
        out.losses |= std::uint64_t{1} << e.loss(Loss::Kind::map, c.node.place, out, out.ideal);
    return out;
}

CodeValue random(Evaluator& e, Call& c) {
    e.random = e.random * 6364136223846793005ULL + 1442695040888963407ULL;
    const double least = c.given.size() > 1 ? c.number(0) : 0,
                 most = c.given.size() > 1 ? c.number(1) : c.number(0);
    const auto span = static_cast<std::uint64_t>(std::max(1.0, most - least));
    return whole_value(static_cast<std::int64_t>(least) + static_cast<std::int64_t>((e.random >> 33) % span));
}

CodeValue copy_memory(Evaluator& e, Call& c) {
    CodeValue to = c.value(0);
    const CodeValue& from = c.value(1);
    if (from.text) {
        e.put_text(to, *from.text);
        return to;
    }
    const int n = std::min({e.room(to), e.room(from), static_cast<int>(std::clamp(c.number(2), 0.0, 16384.0))});
    for (int i = 0; i < n; ++i)
        e.store({to.object, to.slot + i, nothing}, e.load({from.object, from.slot + i, nothing}));
    return to;
}

CodeValue set_memory(Evaluator& e, Call& c) {
    const CodeValue& to = c.value(0);
    const int n = std::min(e.room(to), static_cast<int>(std::clamp(c.number(2), 0.0, 16384.0)));
    for (int i = 0; i < n; ++i)
        e.store({to.object, to.slot + i, nothing}, whole_value(static_cast<std::int64_t>(c.number(1))));
    return to;
}

/// Sorts numbers by asking the program's own function.
CodeValue sort(Evaluator& e, Call& c) {
    const CodeValue& base = c.value(0);
    const int n = std::min(e.room(base), static_cast<int>(std::clamp(c.number(1), 0.0, 1024.0)));
    const auto at = [&](int i) {
        CodeValue out = base;
        out.slot += i;
        return out;
    };
    for (int i = 1; i < n && !e.stopped(); ++i)
        for (int k = i; k > 0; --k) {
            const CodeValue order = e.call_function(c.value(3).slot, {at(k - 1), at(k)}, {});
            if (order.number() <= 0) break;
            const CodeValue first = e.load({base.object, base.slot + k - 1, nothing});
            e.store({base.object, base.slot + k - 1, nothing}, e.load({base.object, base.slot + k, nothing}));
            e.store({base.object, base.slot + k, nothing}, first);
        }
    return {};
}

} // namespace

std::string printed_real(double value, int digits) {
    if (std::isnan(value)) return "nan";
    if (std::isinf(value)) return "inf";
    if (std::abs(value) > 4294967040.0) return "ovf";
    return fmt::format("{:.{}f}", value, std::clamp(digits, 0, 30));
}

std::string printed_whole(std::int64_t value, int base, int bits) {
    if (base == 10 || base < 2 || base > 36) return fmt::format("{}", value);
    auto left = static_cast<std::uint64_t>(value);
    if (bits > 0 && bits < 64) left &= (std::uint64_t{1} << std::max(bits, 32)) - 1;
    std::string out;
    do {
        out.insert(out.begin(), "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ"[left % static_cast<unsigned>(base)]);
        left /= static_cast<unsigned>(base);
    } while (left > 0);
    return out;
}

void add_number_calls(CoreCalls& calls) {
    COGNITUM_FUNCTION("sin", std::sin(x));
    COGNITUM_FUNCTION("cos", std::cos(x));
    COGNITUM_FUNCTION("tan", std::tan(x));
    COGNITUM_FUNCTION("asin", std::asin(x));
    COGNITUM_FUNCTION("acos", std::acos(x));
    COGNITUM_FUNCTION("atan", std::atan(x));
    COGNITUM_FUNCTION("atan2", std::atan2(x, y));
    COGNITUM_FUNCTION("sinh", std::sinh(x));
    COGNITUM_FUNCTION("cosh", std::cosh(x));
    COGNITUM_FUNCTION("tanh", std::tanh(x));
    COGNITUM_FUNCTION("exp", std::exp(x));
    COGNITUM_FUNCTION("log", std::log(x));
    COGNITUM_FUNCTION("log10", std::log10(x));
    COGNITUM_FUNCTION("log2", std::log2(x));
    COGNITUM_FUNCTION("pow", std::pow(x, y));
    COGNITUM_FUNCTION("sqrt", std::sqrt(x));
    COGNITUM_FUNCTION("cbrt", std::cbrt(x));
    COGNITUM_FUNCTION("fabs", std::abs(x));
    COGNITUM_FUNCTION("floor", std::floor(x));
    COGNITUM_FUNCTION("ceil", std::ceil(x));
    COGNITUM_FUNCTION("trunc", std::trunc(x));
    COGNITUM_FUNCTION("fmod", std::fmod(x, y));
    COGNITUM_FUNCTION("fmin", std::fmin(x, y));
    COGNITUM_FUNCTION("fmax", std::fmax(x, y));
    COGNITUM_FUNCTION("hypot", std::hypot(x, y));
    COGNITUM_FUNCTION("lround", std::round(x));
    COGNITUM_FUNCTION("lrint", std::nearbyint(x));
    calls["isnan"] = [](Evaluator&, Call& c) { return whole_value(std::isnan(c.number(0)) ? 1 : 0); };
    calls["isinf"] = [](Evaluator&, Call& c) { return whole_value(std::isinf(c.number(0)) ? 1 : 0); };
    calls["isfinite"] = [](Evaluator&, Call& c) { return whole_value(std::isfinite(c.number(0)) ? 1 : 0); };
    calls["__builtin_nanf"] =
        calls["__builtin_nan"] = [](Evaluator&, Call& c) { return real_value(std::nan(""), c.node.type); };
    calls["__builtin_inff"] =
        calls["__builtin_inf"] = [](Evaluator&, Call& c) { return real_value(INFINITY, c.node.type); };
    calls["map"] = map;
    calls["random"] = random;
    calls["randomSeed"] = [](Evaluator&, Call&) { return CodeValue{}; };
    calls["makeWord"] = [](Evaluator&, Call& c) {
        return whole_value(static_cast<std::int64_t>(c.number(0)) << 8 | static_cast<std::int64_t>(c.number(1)));
    };
    calls["memcpy"] = calls["memmove"] = copy_memory;
    calls["memset"] = set_memory;
    calls["qsort"] = sort;
    calls["EEPROMClass::read"] = [](Evaluator& e, Call& c) {
        const auto at = e.memory.find(static_cast<int>(c.number(0)));
        return whole_value(at == e.memory.end() ? 255 : at->second);
    };
    calls["EEPROMClass::write"] = calls["EEPROMClass::update"] = [](Evaluator& e, Call& c) {
        if (e.memory.size() < 4096)
            e.memory[static_cast<int>(c.number(0))] = static_cast<std::uint8_t>(c.number(1));
        return CodeValue{};
    };
}

CoreCall core_call(const std::string& name) {
    static const CoreCalls calls = [] {
        CoreCalls out;
        add_pin_calls(out);
        add_number_calls(out);
        add_text_calls(out);
        add_print_calls(out);
        add_network_calls(out);
        add_bus_calls(out);
        return out;
    }();
    const auto at = calls.find(name);
    return at == calls.end() ? nullptr : at->second;
}

} // namespace cognitum::program
