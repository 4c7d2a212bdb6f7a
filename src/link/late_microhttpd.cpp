// The functions of libmicrohttpd that are called here, each under its own name: they load the library and pass on.
// Where it is missing, no server begins.
#include "link/late_library.h"

#include <cstdarg>
#include <microhttpd.h>

namespace {

cognitum::LateLibrary microhttpd_library("libmicrohttpd.so.12");

} // namespace

#define REAL(function) auto* const real = microhttpd_library.find<decltype(function)>(#function)

extern "C" {

MHD_Daemon* MHD_start_daemon(unsigned flags, std::uint16_t port, MHD_AcceptPolicyCallback accepts,
                             void* accepts_for, MHD_AccessHandlerCallback handler, void* handles_for, ...) {
    REAL(MHD_start_daemon_va);
    if (!real) return nullptr;
    std::va_list options;
    va_start(options, handles_for);
    MHD_Daemon* out = real(flags, port, accepts, accepts_for, handler, handles_for, options);
    va_end(options);
    return out;
}
void MHD_stop_daemon(MHD_Daemon* daemon) {
    REAL(MHD_stop_daemon);
    if (real) real(daemon);
}
/// Called without further arguments.
const MHD_DaemonInfo* MHD_get_daemon_info(MHD_Daemon* daemon, MHD_DaemonInfoType type, ...) {
    REAL(MHD_get_daemon_info);
    return real ? real(daemon, type) : nullptr;
}
/// Called without further arguments.
const MHD_ConnectionInfo* MHD_get_connection_info(MHD_Connection* connection, MHD_ConnectionInfoType type, ...) {
    REAL(MHD_get_connection_info);
    return real ? real(connection, type) : nullptr;
}
const char* MHD_lookup_connection_value(MHD_Connection* connection, MHD_ValueKind kind, const char* key) {
    REAL(MHD_lookup_connection_value);
    return real ? real(connection, kind, key) : nullptr;
}
MHD_Response* MHD_create_response_from_buffer(std::size_t size, void* buffer, MHD_ResponseMemoryMode mode) {
    REAL(MHD_create_response_from_buffer);
    return real ? real(size, buffer, mode) : nullptr;
}
MHD_Result MHD_add_response_header(MHD_Response* response, const char* header, const char* content) {
    REAL(MHD_add_response_header);
    return real ? real(response, header, content) : MHD_NO;
}
MHD_Result MHD_queue_response(MHD_Connection* connection, unsigned status, MHD_Response* response) {
    REAL(MHD_queue_response);
    return real ? real(connection, status, response) : MHD_NO;
}
void MHD_destroy_response(MHD_Response* response) {
    REAL(MHD_destroy_response);
    if (real) real(response);
}

} // extern "C"

#undef REAL
