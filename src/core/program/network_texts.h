// Pieces of a written program for a wireless network; between $ signs stand names.
#pragma once

namespace cognitum::program {

extern const char* const network_outbox; ///< $line$, $lines$
extern const char* const network_radio;
extern const char* const network_broker; ///< $id$, $topic$, $status$, $gone$, $commands$
extern const char* const network_post;   ///< $id$
extern const char* const network_turns;
extern const char* const secrets_head;   ///< $board$
extern const char* const secrets_broker; ///< $host$, $port$
extern const char* const secrets_post;   ///< $port$

} // namespace cognitum::program
