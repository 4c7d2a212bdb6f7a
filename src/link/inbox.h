// Hands values from one thread to another: pushed anywhere, drained in the thread of the object that is woken. The
// values cross under a mutex of ours, so that nothing depends on what an event queue promises. Bounded: what does
// not fit is counted.
#pragma once

#include <QCoreApplication>
#include <QEvent>
#include <QObject>
#include <cstdint>
#include <mutex>
#include <vector>

namespace cognitum {

template <typename T>
class Inbox {
  public:
    static constexpr std::size_t most = 20000;
    /// `wake` is called under the lock when the first value comes in; it must not drain.
    template <typename Wake>
    bool push(T value, Wake wake) {
        const std::lock_guard lock(m_mutex);
        if (m_values.size() >= most) {
            ++m_dropped;
            return false;
        }
        m_values.push_back(std::move(value));
        if (m_values.size() == 1) wake();
        return true;
    }
    std::vector<T> drain() {
        const std::lock_guard lock(m_mutex);
        return std::exchange(m_values, {});
    }
    [[nodiscard]] std::uint64_t dropped() const {
        const std::lock_guard lock(m_mutex);
        return m_dropped;
    }

  private:
    mutable std::mutex m_mutex;
    std::vector<T> m_values;
    std::uint64_t m_dropped = 0;
};

} // namespace cognitum
