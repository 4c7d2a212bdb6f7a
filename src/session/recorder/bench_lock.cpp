#include "session/recorder/bench_lock.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <cstring>
#include <fmt/format.h>
#include <string>
#include <sys/socket.h>
#include <sys/un.h>
#include <unistd.h>

namespace cognitum {

BenchLock::~BenchLock() {
    release();
}

namespace {

struct Address {
    sockaddr_un address{};
    socklen_t size = 0;
};

Address address_of(const FileIdentity& file) {
    const std::string name = "cognitum-bench-" + std::to_string(file.device) + "-" + std::to_string(file.inode);
    Address out;
    out.address.sun_family = AF_UNIX;
    const std::size_t n = std::min(name.size(), sizeof out.address.sun_path - 1);
    std::memcpy(out.address.sun_path + 1, name.data(), n); // a first byte of zero: no file
    out.size = static_cast<socklen_t>(offsetof(sockaddr_un, sun_path) + 1 + n);
    return out;
}

} // namespace

bool BenchLock::take(const FileIdentity& file) {
    release();
    m_socket = ::socket(AF_UNIX, SOCK_STREAM | SOCK_CLOEXEC, 0);
    if (m_socket < 0) return true; // nothing is known, and nothing is said
    const Address at = address_of(file);
    if (::bind(m_socket, reinterpret_cast<const sockaddr*>(&at.address), at.size) == 0 &&
        ::listen(m_socket, 64) == 0) // nobody is ever answered: who connects learns who listens
        return true;
    release();
    return false;
}

std::string BenchLock::holder(const FileIdentity& file) {
    const char* unknown = phrase("Another program");
    const int asking = ::socket(AF_UNIX, SOCK_STREAM | SOCK_CLOEXEC | SOCK_NONBLOCK, 0);
    if (asking < 0) return unknown;
    const Address at = address_of(file);
    ucred peer{};
    socklen_t size = sizeof peer;
    const bool known = ::connect(asking, reinterpret_cast<const sockaddr*>(&at.address), at.size) == 0 &&
                       ::getsockopt(asking, SOL_SOCKET, SO_PEERCRED, &peer, &size) == 0;
    ::close(asking);
    if (!known) return unknown;
    if (peer.pid == ::getpid()) return phrase("Another window");
    return phrase("Another Cognitum (process {})", std::to_string(peer.pid));
}

void BenchLock::release() {
    if (m_socket >= 0) ::close(m_socket);
    m_socket = -1;
}

} // namespace cognitum
