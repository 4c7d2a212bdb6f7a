#include "simboard/transport.h"

#include "demo/wire.h"

#include <cerrno>
#include <cstdlib>
#include <cstring>
#include <fcntl.h>
#include <termios.h>
#include <unistd.h>
#include <utility>

namespace cognitum::demo {

namespace {

double baud_of(speed_t speed) {
    static constexpr std::pair<speed_t, double> known[] = {{B1200, 1200},     {B2400, 2400},      {B4800, 4800},
                                                           {B9600, 9600},     {B19200, 19200},    {B38400, 38400},
                                                           {B57600, 57600},   {B115200, 115200},  {B230400, 230400},
                                                           {B500000, 500000}, {B1000000, 1000000}};
    for (const auto& [code, baud] : known)
        if (code == speed) return baud;
    return 115200;
}

class Terminal : public Transport {
  public:
    Terminal(int master, int slave, std::string place, std::string link)
        : m_master(master), m_slave(slave), m_place(std::move(place)), m_link(std::move(link)) {}
    ~Terminal() override {
        if (!m_link.empty()) ::unlink(m_link.c_str());
        ::close(m_slave);
        ::close(m_master);
    }
    Terminal(const Terminal&) = delete;
    Terminal& operator=(const Terminal&) = delete;

    /// What nobody reads is lost, as on a cable: a full buffer drops the line.
    void send(const Sent& sent, const Faults& faults) override {
        const double own = faults.on("wrong-speed") ? 9600 : 115200;
        const std::string bytes = as_heard(sent.bytes, own, heard_baud());
        [[maybe_unused]] const ssize_t n = ::write(m_master, bytes.data(), bytes.size());
    }
    std::vector<std::string> receive() override {
        char buffer[512];
        for (ssize_t n = 0; (n = ::read(m_master, buffer, sizeof buffer)) > 0;)
            m_received.append(buffer, static_cast<std::size_t>(n));
        if (m_received.size() > 4096) m_received.clear();
        std::vector<std::string> out;
        for (std::size_t end = 0; (end = m_received.find('\n')) != std::string::npos; m_received.erase(0, end + 1))
            out.push_back(as_heard(m_received.substr(0, end), heard_baud(), 115200));
        return out;
    }
    [[nodiscard]] std::string place() const override { return m_link.empty() ? m_place : m_link; }
    [[nodiscard]] int descriptor() const override { return m_master; }

  private:
    /// The speed that the reader set, which the master side can see.
    [[nodiscard]] double heard_baud() const {
        termios settings{};
        return tcgetattr(m_master, &settings) == 0 ? baud_of(cfgetospeed(&settings)) : 115200;
    }

    int m_master, m_slave; ///< the slave is held open as well, so that a reader may come and go
    std::string m_place, m_link, m_received;
};

} // namespace

std::unique_ptr<Transport> open_terminal(const std::string& link, std::string& trouble) {
    const auto fail = [&](const std::string& what) {
        trouble = what + ": " + std::strerror(errno);
        return nullptr;
    };
    const int master = posix_openpt(O_RDWR | O_NOCTTY | O_CLOEXEC | O_NONBLOCK);
    if (master < 0 || grantpt(master) != 0 || unlockpt(master) != 0)
        return fail("no pseudo-terminal could be opened");
    const std::string path = ptsname(master);
    const int slave = ::open(path.c_str(), O_RDWR | O_NOCTTY | O_CLOEXEC);
    termios settings{};
    if (slave < 0 || tcgetattr(slave, &settings) != 0) return fail(path);
    cfmakeraw(&settings);
    cfsetspeed(&settings, B115200);
    tcsetattr(slave, TCSANOW, &settings);
    if (!link.empty()) {
        ::unlink(link.c_str());
        if (::symlink(path.c_str(), link.c_str()) != 0) return fail(link);
    }
    return std::make_unique<Terminal>(master, slave, path, link);
}

} // namespace cognitum::demo
