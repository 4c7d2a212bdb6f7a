// Hands values from one thread to another: pushed anywhere, drained in the thread of the object that is woken. The
// values cross under a mutex of ours, so that nothing depends on what an event queue promises. Bounded in number
// and bytes: what does not fit is counted.
#pragma once

#include <QCoreApplication>
#include <QEvent>
#include <QObject>
#include <cstdint>
#include <deque>
#include <mutex>
#include <vector>

namespace cognitum {

/// What happens to a value that does not fit.
enum class WhenFull {
    refuse_new, ///< push() says so: for senders that can be told
    drop_oldest ///< the newest says most: for senders that cannot
};

template <typename T>
class Inbox {
  public:
    static constexpr std::size_t most = 20000;
    static constexpr std::size_t most_bytes = 8 << 20;
    explicit Inbox(WhenFull when_full = WhenFull::refuse_new) : m_when_full(when_full) {}

    /// `wake` is called under the lock when the first value comes in; it must not drain. `bytes` 0: it is small,
    /// and never dropped or refused. False: it was refused.
    template <typename Wake>
    bool push(T value, std::size_t bytes, Wake wake) {
        const std::lock_guard lock(m_mutex);
        if (bytes > 0) {
            if (m_when_full == WhenFull::drop_oldest) drop_for(bytes);
            if (is_full_for(bytes)) {
                ++m_dropped;
                return false;
            }
            m_bytes += bytes;
            ++m_large;
        }
        m_values.push_back({std::move(value), bytes});
        if (m_values.size() == 1) wake();
        return true;
    }
    std::vector<T> drain() {
        const std::lock_guard lock(m_mutex);
        std::vector<T> out;
        out.reserve(m_values.size());
        for (Kept& kept : m_values)
            out.push_back(std::move(kept.value));
        m_values.clear();
        m_bytes = m_large = 0;
        return out;
    }
    [[nodiscard]] std::uint64_t dropped() const {
        const std::lock_guard lock(m_mutex);
        return m_dropped;
    }

  private:
    struct Kept {
        T value;
        std::size_t bytes;
    };
    [[nodiscard]] bool is_full_for(std::size_t bytes) const {
        return m_large >= most || m_bytes + bytes > most_bytes;
    }
    void drop_for(std::size_t bytes) {
        for (auto at = m_values.begin(); at != m_values.end() && is_full_for(bytes);) {
            if (at->bytes == 0) {
                ++at;
                continue;
            }
            m_bytes -= at->bytes;
            --m_large;
            ++m_dropped;
            at = m_values.erase(at);
        }
    }

    mutable std::mutex m_mutex;
    WhenFull m_when_full;
    std::deque<Kept> m_values;
    std::size_t m_bytes = 0, m_large = 0;
    std::uint64_t m_dropped = 0;
};

} // namespace cognitum
