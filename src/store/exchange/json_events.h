// Records out of JSON text that is read piece by piece: the events of a parser to points of readings.
#pragma once

#include "store/exchange/point_intake.h"

#include <functional>
#include <nlohmann/json.hpp>
#include <optional>
#include <string>
#include <vector>

namespace cognitum {

/// Bytes from a descriptor, one at a time, with the number of the line.
class ByteSource {
  public:
    static constexpr std::size_t longest = 1 << 20; ///< bytes of one text or number
    /// `more` is asked before each piece is read, with the bytes so far; false ends the input.
    ByteSource(int descriptor, std::string head, std::function<bool(std::uint64_t)> more)
        : m_descriptor(descriptor), m_buffer(std::move(head)), m_total(m_buffer.size()), m_more(std::move(more)) {}

    /// -1 at the end, on an error, and inside a text that is too long.
    int peek();
    void pop();
    [[nodiscard]] std::uint64_t line() const { return m_line; }
    void token_done() { m_token = 0; }
    [[nodiscard]] bool stopped() const { return m_stopped; }
    [[nodiscard]] const std::string& trouble() const { return m_trouble; } ///< why it ended; empty: it was the end

    /// For the parser.
    class Iterator {
      public:
        using iterator_category = std::input_iterator_tag;
        using value_type = char;
        using difference_type = std::ptrdiff_t;
        using pointer = const char*;
        using reference = char;
        explicit Iterator(ByteSource* source = nullptr) : m_source(source) {}
        char operator*() const { return static_cast<char>(m_source->peek()); }
        Iterator& operator++() {
            m_source->pop();
            return *this;
        }
        Iterator operator++(int) {
            const Iterator before = *this;
            ++*this;
            return before;
        }
        bool operator==(const Iterator& other) const { return at_end() == other.at_end(); }

      private:
        [[nodiscard]] bool at_end() const { return !m_source || m_source->peek() < 0; }
        ByteSource* m_source;
    };

  private:
    bool fill();
    int m_descriptor;
    std::string m_buffer;
    std::size_t m_at = 0, m_token = 0;
    std::uint64_t m_total, m_line = 1;
    std::function<bool(std::uint64_t)> m_more;
    bool m_ended = false, m_stopped = false;
    std::string m_trouble;
};

/// A member of a record, or a place in a list of a sample.
struct JsonScalar {
    enum class Type { nothing, number, text, boolean } type = Type::nothing;
    double number = 0; ///< of a boolean 0 or 1
    std::string text;
};

/// What a record became: a point, or why it is none.
using TakeRecord = std::function<void(std::uint64_t line, const Point& point, const std::string& reason)>;

/// Handler of the parser's events. Stops at what cannot be a file of its form, and says why.
class JsonEvents : public nlohmann::json_sax<nlohmann::json> {
  public:
    JsonEvents(ByteSource& source, TakeRecord take) : m_source(source), m_take(std::move(take)) {}
    [[nodiscard]] const std::string& trouble() const { return m_trouble; }

    bool null() override { return scalar({}); }
    bool boolean(bool value) override { return scalar({JsonScalar::Type::boolean, value ? 1.0 : 0.0, {}}); }
    bool number_integer(number_integer_t value) override {
        return scalar({JsonScalar::Type::number, static_cast<double>(value), {}});
    }
    bool number_unsigned(number_unsigned_t value) override {
        return scalar({JsonScalar::Type::number, static_cast<double>(value), {}});
    }
    bool number_float(number_float_t value, const string_t&) override {
        return scalar({JsonScalar::Type::number, value, {}});
    }
    bool string(string_t& value) override { return scalar({JsonScalar::Type::text, 0, value}); }
    bool binary(binary_t&) override { return false; }
    bool start_object(std::size_t) override { return open('{'); }
    bool key(string_t& value) override;
    bool end_object() override { return close(); }
    bool start_array(std::size_t) override { return open('['); }
    bool end_array() override { return close(); }
    bool parse_error(std::size_t, const std::string&, const nlohmann::detail::exception&) override;

  protected:
    static constexpr std::size_t deepest = 8;
    virtual bool opened() { return true; }
    virtual bool closing() { return true; }
    virtual bool value(JsonScalar scalar) = 0;
    bool refuse(const std::string& why);
    void record(const Point& point, const std::string& reason) { m_take(m_source.line(), point, reason); }
    [[nodiscard]] std::size_t depth() const { return m_open.size(); }
    [[nodiscard]] const std::string& key_at(std::size_t depth) const { return m_keys[depth - 1]; }

  private:
    bool open(char bracket);
    bool close();
    bool scalar(JsonScalar scalar);
    ByteSource& m_source;
    TakeRecord m_take;
    std::string m_open;              ///< brackets
    std::vector<std::string> m_keys; ///< of each bracket that is open the key that came last
    std::string m_trouble;
};

/// Records of SenML, RFC 8428.
class SenmlEvents : public JsonEvents {
  public:
    using JsonEvents::JsonEvents;

  protected:
    bool opened() override;
    bool closing() override;
    bool value(JsonScalar scalar) override;

  private:
    struct Record {
        std::string name, unit, reason, text;
        double time = 0, value = 0;
        bool has_value = false, has_text = false;
    };
    void finish();
    std::string m_base_name, m_base_unit;
    double m_base_time = 0, m_base_value = 0;
    Record m_record;
};

/// Samples as export writes them in JSON.
class SeriesEvents : public JsonEvents {
  public:
    using JsonEvents::JsonEvents;

  protected:
    bool opened() override;
    bool closing() override;
    bool value(JsonScalar scalar) override;

  private:
    std::string m_name, m_unit;
    std::vector<JsonScalar> m_sample;
};

} // namespace cognitum
