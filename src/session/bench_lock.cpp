#include "session/bench_lock.h"

#include <algorithm>
#include <cstring>
#include <string>
#include <sys/socket.h>
#include <sys/un.h>
#include <unistd.h>

namespace cognitum {

BenchLock::~BenchLock() {
    release();
}

bool BenchLock::take(const FileIdentity& file) {
    release();
    m_socket = ::socket(AF_UNIX, SOCK_DGRAM | SOCK_CLOEXEC, 0);
    if (m_socket < 0) return true; // nothing is known, and nothing is said
    const std::string name = "cognitum-bench-" + std::to_string(file.device) + "-" + std::to_string(file.inode);
    sockaddr_un address{};
    address.sun_family = AF_UNIX;
    const std::size_t n = std::min(name.size(), sizeof address.sun_path - 1);
    std::memcpy(address.sun_path + 1, name.data(), n); // a first byte of zero: no file
    const auto size = static_cast<socklen_t>(offsetof(sockaddr_un, sun_path) + 1 + n);
    if (::bind(m_socket, reinterpret_cast<const sockaddr*>(&address), size) == 0) return true;
    release();
    return false;
}

void BenchLock::release() {
    if (m_socket >= 0) ::close(m_socket);
    m_socket = -1;
}

} // namespace cognitum
