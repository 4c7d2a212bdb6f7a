// The functions of libmosquitto that are called here, each under its own name: they load the library and pass on.
// Where it is missing, a connection fails and its sentence says so.
#include "link/late_library.h"

#include <mosquitto.h>

namespace {

cognitum::LateLibrary mosquitto_library("libmosquitto.so.1");
constexpr const char* missing_mosquitto = "libmosquitto.so.1 is not installed";

} // namespace

#define REAL(function) auto* const real = mosquitto_library.find<decltype(function)>(#function)

extern "C" {

mosquitto* mosquitto_new(const char* id, bool clean_session, void* obj) {
    // The library wants to be started once for a program. It is here, and not where a connection is planned: a
    // window that speaks to no broker does not load it.
    static const int started = [] {
        REAL(mosquitto_lib_init);
        return real ? real() : MOSQ_ERR_NOT_SUPPORTED;
    }();
    REAL(mosquitto_new);
    return real && started == MOSQ_ERR_SUCCESS ? real(id, clean_session, obj) : nullptr;
}
void mosquitto_destroy(mosquitto* mosq) {
    REAL(mosquitto_destroy);
    if (real) real(mosq);
}
int mosquitto_int_option(mosquitto* mosq, mosq_opt_t option, int value) {
    REAL(mosquitto_int_option);
    return real ? real(mosq, option, value) : MOSQ_ERR_NOT_SUPPORTED;
}
int mosquitto_will_set(mosquitto* mosq, const char* topic, int length, const void* payload, int qos, bool retain) {
    REAL(mosquitto_will_set);
    return real ? real(mosq, topic, length, payload, qos, retain) : MOSQ_ERR_NOT_SUPPORTED;
}
int mosquitto_username_pw_set(mosquitto* mosq, const char* username, const char* password) {
    REAL(mosquitto_username_pw_set);
    return real ? real(mosq, username, password) : MOSQ_ERR_NOT_SUPPORTED;
}
int mosquitto_tls_set(mosquitto* mosq, const char* ca_file, const char* ca_path, const char* certificate,
                      const char* key, int (*password)(char*, int, int, void*)) {
    REAL(mosquitto_tls_set);
    return real ? real(mosq, ca_file, ca_path, certificate, key, password) : MOSQ_ERR_NOT_SUPPORTED;
}
int mosquitto_reconnect_delay_set(mosquitto* mosq, unsigned delay, unsigned longest, bool exponential) {
    REAL(mosquitto_reconnect_delay_set);
    return real ? real(mosq, delay, longest, exponential) : MOSQ_ERR_NOT_SUPPORTED;
}
int mosquitto_connect_async(mosquitto* mosq, const char* host, int port, int keep_alive) {
    REAL(mosquitto_connect_async);
    return real ? real(mosq, host, port, keep_alive) : MOSQ_ERR_NOT_SUPPORTED;
}
int mosquitto_disconnect(mosquitto* mosq) {
    REAL(mosquitto_disconnect);
    return real ? real(mosq) : MOSQ_ERR_NOT_SUPPORTED;
}
int mosquitto_loop_start(mosquitto* mosq) {
    REAL(mosquitto_loop_start);
    return real ? real(mosq) : MOSQ_ERR_NOT_SUPPORTED;
}
int mosquitto_loop_stop(mosquitto* mosq, bool force) {
    REAL(mosquitto_loop_stop);
    return real ? real(mosq, force) : MOSQ_ERR_NOT_SUPPORTED;
}
int mosquitto_publish(mosquitto* mosq, int* id, const char* topic, int length, const void* payload, int qos,
                      bool retain) {
    REAL(mosquitto_publish);
    return real ? real(mosq, id, topic, length, payload, qos, retain) : MOSQ_ERR_NOT_SUPPORTED;
}
int mosquitto_subscribe(mosquitto* mosq, int* id, const char* topic, int qos) {
    REAL(mosquitto_subscribe);
    return real ? real(mosq, id, topic, qos) : MOSQ_ERR_NOT_SUPPORTED;
}
void mosquitto_connect_callback_set(mosquitto* mosq, void (*on_connect)(mosquitto*, void*, int)) {
    REAL(mosquitto_connect_callback_set);
    if (real) real(mosq, on_connect);
}
void mosquitto_disconnect_callback_set(mosquitto* mosq, void (*on_disconnect)(mosquitto*, void*, int)) {
    REAL(mosquitto_disconnect_callback_set);
    if (real) real(mosq, on_disconnect);
}
void mosquitto_connect_v5_callback_set(mosquitto* mosq,
                                       void (*on_connect)(mosquitto*, void*, int, int, const mosquitto_property*)) {
    REAL(mosquitto_connect_v5_callback_set);
    if (real) real(mosq, on_connect);
}
void mosquitto_disconnect_v5_callback_set(mosquitto* mosq, void (*on_disconnect)(mosquitto*, void*, int,
                                                                                 const mosquitto_property*)) {
    REAL(mosquitto_disconnect_v5_callback_set);
    if (real) real(mosq, on_disconnect);
}
void mosquitto_message_v5_callback_set(mosquitto* mosq,
                                       void (*on_message)(mosquitto*, void*, const mosquitto_message*,
                                                          const mosquitto_property*)) {
    REAL(mosquitto_message_v5_callback_set);
    if (real) real(mosq, on_message);
}
const char* mosquitto_strerror(int code) {
    REAL(mosquitto_strerror);
    return real ? real(code) : missing_mosquitto;
}
const char* mosquitto_connack_string(int code) {
    REAL(mosquitto_connack_string);
    return real ? real(code) : missing_mosquitto;
}
const char* mosquitto_reason_string(int code) {
    REAL(mosquitto_reason_string);
    return real ? real(code) : missing_mosquitto;
}

} // extern "C"

#undef REAL
