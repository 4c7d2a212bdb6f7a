// The parts of a plan in JSON, each by its description in stored.h.
#include "core/bench/stored.h"
#include "core/bench/stored_control.h"
#include "core/bench/stored_sessions.h"
#include "core/bench/stored_watch.h"

namespace cognitum {

const char* link_kind_name(LinkKind kind) {
    return link_kinds[static_cast<std::size_t>(kind)].second;
}

Json reading_json(const Reading& reading) {
    return write_described(reading);
}
Result<Reading> read_reading(const JsonReader& json) {
    return read_described<Reading>(json);
}
Json board_use_json(const BoardUse& board) {
    return write_described(board);
}
Result<BoardUse> read_board_use(const JsonReader& json) {
    return read_described<BoardUse>(json);
}
Json module_json(const Module& module) {
    return write_described(module);
}
Result<Module> read_module(const JsonReader& json) {
    return read_described<Module>(json);
}
Json reference_json(const ReferenceInstrument& reference) {
    return write_described(reference);
}
Result<ReferenceInstrument> read_reference(const JsonReader& json) {
    return read_described<ReferenceInstrument>(json);
}
Json session_json(const TimedSession& session) {
    return write_described(session);
}
Result<TimedSession> read_session(const JsonReader& json) {
    return read_described<TimedSession>(json);
}
Json session_rule_json(const SessionRule& rule) {
    return write_described(rule);
}
Result<SessionRule> read_session_rule(const JsonReader& json) {
    return read_described<SessionRule>(json);
}
Json watch_rule_json(const WatchRule& rule) {
    return write_described(rule);
}
Result<WatchRule> read_watch_rule(const JsonReader& json) {
    return read_described<WatchRule>(json);
}
Json control_json(const LoadControl& control) {
    return write_described(control);
}
Result<LoadControl> read_control(const JsonReader& json) {
    return read_described<LoadControl>(json);
}
Json where_json(const GeoPlace& where) {
    return write_described(where);
}
Result<GeoPlace> read_where(const JsonReader& json) {
    return read_described<GeoPlace>(json);
}
Json telling_json(const Telling& telling) {
    return write_described(telling);
}
Result<Telling> read_telling(const JsonReader& json) {
    return read_described<Telling>(json);
}
Json publishing_json(const Publishing& publishing) {
    return write_described(publishing);
}
Result<Publishing> read_publishing(const JsonReader& json) {
    return read_described<Publishing>(json);
}
Json page_json(const PagePlan& page) {
    return write_described(page);
}
Result<PagePlan> read_page(const JsonReader& json) {
    return read_described<PagePlan>(json);
}

} // namespace cognitum
