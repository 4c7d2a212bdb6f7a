#include "session/recorder/end_on_signal.h"

#include <QSocketNotifier>
#include <csignal>
#include <fcntl.h>
#include <unistd.h>

namespace cognitum {

namespace {
int end_pipe[2] = {-1, -1}; ///< a signal handler may only write
}

EndOnSignal::EndOnSignal(std::function<void()> end) : m_end(std::move(end)) {
    if (::pipe2(end_pipe, O_CLOEXEC | O_NONBLOCK) != 0) return;
    auto* notifier = new QSocketNotifier(end_pipe[0], QSocketNotifier::Read, this);
    connect(notifier, &QSocketNotifier::activated, this, [this, notifier] {
        notifier->setEnabled(false);
        m_end();
    });
    struct sigaction action {};
    action.sa_handler = [](int) { static_cast<void>(!::write(end_pipe[1], "", 1)); };
    for (const int signal : {SIGTERM, SIGINT, SIGHUP})
        ::sigaction(signal, &action, nullptr);
}

} // namespace cognitum
