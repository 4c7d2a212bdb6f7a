#include "store/exchange/json_events.h"

#include "core/base/phrase.h"

#include <cerrno>
#include <cmath>
#include <cstring>
#include <fmt/format.h>
#include <poll.h>
#include <unistd.h>

namespace cognitum {

namespace {

constexpr std::size_t piece = 1 << 18;

/// RFC 8428, 4.5.3: a smaller time counts from now, which a file does not know.
constexpr double least_absolute_time = 268435456;

bool fits(double seconds_since_1970) {
    return seconds_since_1970 >= seconds(earliest_time) && seconds_since_1970 < seconds(latest_time);
}

} // namespace

bool ByteSource::fill() {
    m_buffer.clear();
    m_at = 0;
    while (!m_ended) {
        if (m_more && !m_more(m_total)) {
            m_stopped = m_ended = true;
            break;
        }
        pollfd waiting{m_descriptor, POLLIN, 0};
        const int ready = ::poll(&waiting, 1, 500);
        if (ready == 0 || (ready < 0 && errno == EINTR)) continue;
        m_buffer.resize(piece);
        const ssize_t n = ::read(m_descriptor, m_buffer.data(), piece);
        m_buffer.resize(static_cast<std::size_t>(std::max<ssize_t>(n, 0)));
        if (n < 0) m_trouble = phrase("it cannot be read any further ({}).", std::strerror(errno));
        m_ended = n <= 0;
        m_total += m_buffer.size();
        break;
    }
    return !m_buffer.empty();
}

int ByteSource::peek() {
    if (m_token > longest) {
        m_trouble = phrase("a text in it is longer than a megabyte.");
        return -1;
    }
    if (m_at == m_buffer.size() && !fill()) return -1;
    return static_cast<unsigned char>(m_buffer[m_at]);
}

void ByteSource::pop() {
    if (m_buffer[m_at] == '\n') ++m_line;
    ++m_at;
    ++m_token;
}

bool JsonEvents::refuse(const std::string& why) {
    if (m_trouble.empty()) m_trouble = why;
    return false;
}

bool JsonEvents::parse_error(std::size_t, const std::string&, const nlohmann::detail::exception&) {
    return refuse(phrase("this is no JSON from here on."));
}

bool JsonEvents::open(char bracket) {
    m_source.token_done();
    if (m_open.size() == deepest) return refuse(phrase("brackets stand deeper than {} in each other.", deepest));
    m_open += bracket;
    m_keys.emplace_back();
    return opened();
}

bool JsonEvents::close() {
    m_source.token_done();
    const bool goes_on = closing();
    m_open.pop_back();
    m_keys.pop_back();
    return goes_on;
}

bool JsonEvents::key(string_t& value) {
    m_source.token_done();
    m_keys.back() = value;
    return true;
}

bool JsonEvents::scalar(JsonScalar scalar) {
    m_source.token_done();
    return value(std::move(scalar));
}

bool SenmlEvents::opened() {
    if (depth() == 2) m_record = {};
    if (depth() == 3 && m_record.reason.empty()) m_record.reason = phrase("a list or an object inside a record");
    return true;
}

bool SenmlEvents::closing() {
    if (depth() == 2) finish();
    return true;
}

bool SenmlEvents::value(JsonScalar scalar) {
    using Type = JsonScalar::Type;
    if (depth() == 1) {
        record({}, phrase("something that is no record"));
        return true;
    }
    if (depth() != 2) return true;
    const std::string& key = key_at(2);
    const auto number = [&](double& into) {
        if (scalar.type == Type::number)
            into = scalar.number;
        else
            m_record.reason = phrase("text where a number belongs, \"{}\"", key);
    };
    const auto text = [&](std::string& into) {
        if (scalar.type == Type::text)
            into = scalar.text;
        else
            m_record.reason = phrase("a number where text belongs, \"{}\"", key);
    };
    if (key == "bn")
        text(m_base_name);
    else if (key == "bu")
        text(m_base_unit);
    else if (key == "bt")
        number(m_base_time);
    else if (key == "bv")
        number(m_base_value);
    else if (key == "bver") {
        double version = 10;
        number(version);
        if (version > 10) return refuse(phrase("its version of SenML is newer than 10."));
    } else if (key == "n")
        text(m_record.name);
    else if (key == "u")
        text(m_record.unit);
    else if (key == "t")
        number(m_record.time);
    else if (key == "v") {
        number(m_record.value);
        m_record.has_value = true;
    } else if (key == "vb") {
        if (scalar.type == Type::boolean)
            m_record.value = scalar.number - m_base_value; // a base value is none of a yes or no
        else
            m_record.reason = phrase("no true or false, \"vb\"");
        m_record.has_value = true;
    } else if (key == "vs") {
        text(m_record.text);
        m_record.has_text = true;
    } else if (key.ends_with("_")) // RFC 8428, 4.4: who does not know it must leave the record
        m_record.reason = phrase("a field that must be understood, \"{}\"", key);
    return true;
}

void SenmlEvents::finish() {
    Record& r = m_record;
    const std::string name = m_base_name + r.name;
    const std::string& unit = r.unit.empty() ? m_base_unit : r.unit;
    Point point;
    point.name = name;
    point.unit = unit;
    const double time = m_base_time + r.time;
    if (!r.has_value && !r.has_text && r.reason.empty()) {
        if (r.name.empty()) return; // base values alone
        r.reason = phrase("no value");
    }
    if (r.has_text && !r.has_value && r.reason.empty()) {
        const auto cause = cause_from_text(r.text);
        if (cause)
            point.cell = {no_number, *cause};
        else
            r.reason = phrase("text where a number belongs");
    } else {
        point.cell = {r.value + m_base_value, Cause::none};
    }
    if (r.reason.empty() && std::abs(time) < least_absolute_time)
        r.reason = phrase("a time that counts from now");
    else if (r.reason.empty() && !fits(time))
        r.reason = phrase("a time that cannot be read");
    if (r.reason.empty()) point.time = from_seconds(time);
    record(point, r.reason);
}

bool SeriesEvents::opened() {
    if (depth() == 3) {
        m_name.clear();
        m_unit.clear();
    }
    if (depth() == 5) m_sample.clear();
    return true;
}

bool SeriesEvents::value(JsonScalar scalar) {
    const bool in_readings = depth() >= 3 && key_at(1) == "readings";
    if (!in_readings) return true;
    if (depth() == 3 && key_at(3) == "name") m_name = scalar.text;
    if (depth() == 3 && key_at(3) == "unit") m_unit = scalar.text;
    if (depth() == 4 && key_at(3) == "samples") record({}, phrase("something that is no sample"));
    if (depth() == 5 && m_sample.size() < 4) m_sample.push_back(std::move(scalar));
    return true;
}

bool SeriesEvents::closing() {
    using Type = JsonScalar::Type;
    if (depth() != 5 || key_at(1) != "readings" || key_at(3) != "samples") return true;
    if (m_name.empty()) return refuse(phrase("a reading's name must stand before its samples."));
    Point point;
    point.name = m_name;
    point.unit = m_unit;
    const auto fail = [&](const char* reason) {
        record(point, reason);
        return true;
    };
    if (m_sample.size() < 2 || m_sample.size() > 3)
        return fail(phrase("a sample is [time, value] or [time, null, cause]"));
    const JsonScalar& when = m_sample[0];
    const auto time = when.type == Type::text                          ? parse_time(when.text)
                      : when.type == Type::number && fits(when.number) ? std::optional(from_seconds(when.number))
                                                                       : std::nullopt;
    if (!time) return fail(phrase("a time that cannot be read"));
    point.time = *time;
    point.cell = {no_number, Cause::none};
    if (m_sample[1].type == Type::number)
        point.cell.number = m_sample[1].number;
    else if (m_sample[1].type != Type::nothing)
        return fail(phrase("text where a number belongs"));
    if (m_sample.size() == 3 && m_sample[2].type != Type::nothing) {
        const auto cause = cause_from_text(m_sample[2].text);
        if (!cause) return fail(phrase("a cause that is not known"));
        point.cell.cause = *cause;
    }
    record(point, {});
    return true;
}

} // namespace cognitum
