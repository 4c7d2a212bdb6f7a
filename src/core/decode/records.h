// What decoders give: records of named fields, as flat arrays. A field that a record did not bring has no cell; one
// that it brought without a number has a cell with NaN.
#pragma once

#include "core/base/time.h"

#include <cstdint>
#include <limits>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace cognitum {

struct Field {
    std::string name;     ///< empty: the format gives none; then it is known by its position
    std::string unit;     ///< as the sender wrote it; empty: it did not
    std::string example;  ///< last text of it
    bool numeric = false; ///< it brought a number at least once
    bool counts = false;  ///< one that is neither 0 nor 1: where no reading says what the field is, a word for a
                          ///< state in it is a failure
};

struct Cell {
    std::uint32_t field = 0; ///< index into the decoder's fields
    double value = 0;        ///< NaN: there, and no number
};

struct Records {
    struct Row {
        std::uint64_t line = 0; ///< from 1; of a binary format the number of the frame
        std::size_t first = 0, count = 0;
        std::optional<TimeUs> time = {}; ///< when the record says so itself, absolutely
    };
    std::vector<Cell> cells;
    std::vector<Row> rows;

    void clear() {
        cells.clear();
        rows.clear();
    }
    void begin(std::uint64_t line) { rows.push_back({line, cells.size(), 0, {}}); }
    void add(std::uint32_t field, double value) {
        cells.push_back({field, value});
        ++rows.back().count;
    }
    /// Takes back the row that was begun last.
    void drop() {
        cells.resize(rows.back().first);
        rows.pop_back();
    }
    /// Value of a field in a row; empty when the row did not bring it.
    [[nodiscard]] std::optional<double> value(std::size_t row, std::uint32_t field) const;
};

/// The fields of one stream. Noise can make up names without end: after `most_fields` no new ones are taken.
class FieldTable {
  public:
    static constexpr std::size_t most_fields = 256;
    static constexpr std::uint32_t none = std::numeric_limits<std::uint32_t>::max();
    /// Index of the field of that name, new where it must be; `none` when there are too many.
    std::uint32_t at(std::string_view name, std::string_view unit = {}, std::string_view example = {});
    /// Adds a cell for what a sender wrote: a number with or without a unit, or a word for none. A word in a field
    /// that never held a number is a label and no cell.
    /// Of a name that the last row has already the second number is told apart: "t", "t 2".
    void take(Records& out, std::string_view name, std::string_view text);
    void take(Records& out, std::string_view name, double value);
    /// Keeps the last number as the field's example.
    void note(std::uint32_t field, double value);
    /// Which fields brought numbers, of records that were made without take().
    void note_all(const Records& records);
    [[nodiscard]] std::uint32_t find(std::string_view name) const; ///< or `none`
    /// This name, or one with a number behind it, that the last row does not have yet.
    [[nodiscard]] std::string name_beside(const Records& records, std::string_view name) const;
    [[nodiscard]] const std::vector<Field>& fields() const { return m_fields; }
    /// Gives every cell of the last row a second name with its sender's id before it ("FL.kPa"), so that several
    /// senders on one line of numbers are several readings.
    void key_by(Records& out, std::string_view sender);
    void clear() { m_fields.clear(); }
    /// Names that are taken also when there are too many; of them those that measure, and have no states: "open"
    /// from a thermocouple is a failure and no 1 °C.
    void want(std::vector<std::string> names, std::vector<std::string> measured) {
        m_wanted = std::move(names);
        m_measured = std::move(measured);
    }
    /// Adds a cell for a state.
    void take_state(Records& out, std::string_view name, bool on);

  private:
    [[nodiscard]] bool has_states(std::uint32_t field) const;
    void note_number(std::uint32_t field, double value);
    std::vector<Field> m_fields;
    std::vector<std::string> m_wanted, m_measured;
};

/// True when a field of that name and text says which sender a record is from: "id", "node" or "address" with a
/// word or a whole number, "device", "sensor", "station", "wheel" or "mac" with a word.
bool is_sender_id(std::string_view name, std::string_view text);

} // namespace cognitum
