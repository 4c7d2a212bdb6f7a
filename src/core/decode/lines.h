// One line, or one message, to records: a function for each way in which boards write. Each adds rows to `out` and
// returns an empty text, or adds nothing and returns why the line is no record.
#pragma once

#include "core/decode/records.h"

#include <string_view>

namespace cognitum {

using Reason = std::string_view;

/// "T=21.5 H=40%", "temp : 21.5", "hum:40,T=21,3": = or : between name and value, blanks around it, and nothing
/// else.
/// `&` separates too, as in posted form fields. "FL: kPa=231.5" names the sender first. Also words that are a
/// letter and a number, "S512".
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

/// The text with its only comma as a point, where it has no point: "21,3" → "21.3".
std::string with_point(std::string_view text);

/// "$WIMWV,214.8,R,0.1,N,A*28": the exclusive or of all bytes between $ (or !) and * stands behind as two
/// hexadecimal digits; or the same without the $.
enum class LineSum { none, holds, broken };
LineSum line_sum(std::string_view line);
/// Such a line without its marks: "WIMWV,214.8,R,0.1,N,A".
std::string_view without_sum(std::string_view line);
/// The numbers of a sentence between commas, named by its first word and their place: "WIMWV 1", "WIMWV 3".
Reason read_sentence(std::string_view line, std::uint64_t number, FieldTable& fields, Records& out);

/// "Water is 21.5 °C, level 1.2 m": every number with the words before it as its name. A short line without a
/// number may say a state: "Motion detected!", "Door closed", "ON".
Reason read_text(std::string_view line, std::uint64_t number, FieldTable& fields, Records& out);

/// Nine bytes in hexadecimal, with or without blanks: temperature in °C of a one-wire thermometer.
Reason read_scratchpad_line(std::string_view line, std::uint64_t number, FieldTable& fields, Records& out);
/// Five bytes in hexadecimal: humidity in % and temperature in °C.
Reason read_humidity_line(std::string_view line, std::uint64_t number, FieldTable& fields, Records& out);

} // namespace cognitum
