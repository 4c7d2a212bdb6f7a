// One line, or one message, to records: a function for each way in which boards write. Each adds rows to `out` and
// returns an empty text, or adds nothing and returns why the line is no record.
#pragma once

#include "core/decode/records.h"

#include <string_view>

namespace cognitum {

using Reason = std::string_view;

/// "T=21.5 H=40%", "temp:21.5,hum:40": words with = or : between name and value, and nothing else. `&` separates
/// too, as in posted form fields.
Reason read_pairs(std::string_view line, std::uint64_t number, FieldTable& fields, Records& out);
/// True when a line starts as pairs do; cheap.
bool looks_like_pairs(std::string_view line);

/// One JSON value. An object is a record, nested names are joined by points; a list of objects gives one record
/// each. "time", "timestamp" and "ts" that hold an absolute time are the record's time. At most 64 KiB and eight
/// levels.
Reason read_json_message(std::string_view text, std::uint64_t number, FieldTable& fields, Records& out);
/// Length of the JSON object or list that begins at the first byte, found by its brackets; 0: it has not ended yet.
std::size_t json_length(std::string_view text);
/// SenML (RFC 8428) in JSON: base fields are resolved, one row for each time in the pack. Times below 2^28 are
/// relative to the arrival and give no time.
Reason read_senml(std::string_view text, std::uint64_t number, FieldTable& fields, Records& out);
/// True for a list whose objects carry SenML labels.
bool looks_like_senml(std::string_view text);

/// "Water is 21.5 °C, level 1.2 m": every number with the words before it as its name.
Reason read_text(std::string_view line, std::uint64_t number, FieldTable& fields, Records& out);

/// Nine bytes in hexadecimal, with or without blanks: temperature in °C of a one-wire thermometer.
Reason read_scratchpad_line(std::string_view line, std::uint64_t number, FieldTable& fields, Records& out);
/// Five bytes in hexadecimal: humidity in % and temperature in °C.
Reason read_humidity_line(std::string_view line, std::uint64_t number, FieldTable& fields, Records& out);

} // namespace cognitum
