// cognitum-cli decode: bytes as a board sent them, to records.
#include "cli/cli.h"
#include "core/decode/decoder.h"

#include <cmath>
#include <cstdio>
#include <fmt/format.h>

namespace cognitum::cli {

namespace {

Json decoded_json(const Records& records, std::size_t row, const std::vector<Field>& fields, bool named) {
    const Records::Row& r = records.rows[row];
    Json values = named ? Json::object() : Json::array();
    for (std::size_t i = r.first; i < r.first + r.count; ++i) {
        const Cell& cell = records.cells[i];
        if (named)
            values[fields[cell.field].name] = number_or_null(cell.value);
        else
            values.push_back(number_or_null(cell.value));
    }
    Json out = {{"line", r.line}, {"values", values}};
    if (r.time) out["time"] = iso_time(*r.time);
    return out;
}

void print_decoded(const Decoder& decoder, const Records& records, std::size_t shown) {
    std::fputs(fmt::format("format: {}\n", decoder.format_text()).c_str(), stdout);
    if (!decoder.reason().empty()) std::fputs(fmt::format("because: {}\n", decoder.reason()).c_str(), stdout);
    for (std::size_t row = 0; row < shown; ++row) {
        std::string line = fmt::format("{:>6} ", records.rows[row].line);
        const Records::Row& r = records.rows[row];
        for (std::size_t i = r.first; i < r.first + r.count; ++i) {
            const Field& field = decoder.fields()[records.cells[i].field];
            const double value = records.cells[i].value;
            line +=
                fmt::format(" {}={}{}", field.name, std::isfinite(value) ? fmt::format("{}", value) : "no number",
                            field.unit.empty() ? "" : " " + field.unit);
        }
        std::fputs((line + "\n").c_str(), stdout);
    }
    if (shown < records.rows.size())
        std::fputs(fmt::format("… and {} more records\n", records.rows.size() - shown).c_str(), stdout);
    for (const Rejection& r : decoder.rejections().reasons())
        std::fputs(
            fmt::format("rejected: {} × {}; first in line {}: {}\n", r.count, r.reason, r.first_line, r.first_text)
                .c_str(),
            stdout);
}

} // namespace

int run_decode(const std::string& input, const std::string& format, long head, bool json) {
    const auto wanted = parse_format(format);
    if (!wanted) return complain(wanted.error(), usage);
    const auto bytes = read_input(input);
    if (!bytes) return complain(bytes.error());
    Decoder decoder(*wanted);
    Records records;
    decoder.feed(*bytes, records);
    decoder.finish(false, records); // a line without an end is no record
    const std::size_t all = records.rows.size();
    const std::size_t shown = head >= 0 ? std::min(all, static_cast<std::size_t>(head)) : all;
    const auto nothing = [&] {
        const std::string why = bytes->empty() ? "nothing is in it" : no_format_reason(*bytes);
        return complain(
            {"no record was found: " + why + ".", input + ":1",
             wanted->kind == FormatKind::automatic ? "Name its format with --format." : "Try --format auto."});
    };
    if (!json && all == 0) return nothing();
    if (!json) {
        print_decoded(decoder, records, head >= 0 ? shown : std::min<std::size_t>(all, 20));
        return done;
    }
    const bool unnamed = std::all_of(decoder.fields().begin(), decoder.fields().end(), [](const Field& f) {
        return f.name == "value" || f.name.starts_with("value ");
    });
    Json list = Json::array();
    for (std::size_t row = 0; row < shown; ++row)
        list.push_back(decoded_json(records, row, decoder.fields(), !unnamed));
    Json reasons = Json::array();
    const Rejections& rejected = decoder.rejections();
    for (const Rejection& r : rejected.reasons())
        reasons.push_back(
            {{"reason", r.reason}, {"count", r.count}, {"first_line", r.first_line}, {"first_text", r.first_text}});
    Json units = Json::object();
    for (const Field& f : decoder.fields())
        if (!f.unit.empty()) units[f.name] = f.unit;
    print_json({{"format", cognitum::format_text(decoder.format())},
                {"about", decoder.format_text()},
                {"reason", decoder.reason()},
                {"count", all},
                {"records", list},
                {"units", units},
                {"rejected", {{"count", rejected.total()}, {"reasons", reasons}}}});
    return all == 0 ? nothing() : done;
}

} // namespace cognitum::cli
