// Which board the worker is at, and since when: a worker that does not come back is noticed from outside and the
// board named.
#pragma once

#include <chrono>
#include <mutex>
#include <optional>
#include <string>

namespace cognitum {

class WorkerWatch {
  public:
    using Moment = std::chrono::steady_clock::time_point;
    struct Busy {
        std::string board; ///< id
        Moment since;
    };

    void begin(const std::string& board, Moment now = std::chrono::steady_clock::now()) {
        const std::lock_guard lock(m_mutex);
        m_busy = Busy{board, now};
    }
    void end() {
        const std::lock_guard lock(m_mutex);
        m_busy.reset();
    }
    /// The board that the worker is at for longer than `patience`; nothing: none.
    [[nodiscard]] std::optional<Busy> stuck(std::chrono::milliseconds patience,
                                            Moment now = std::chrono::steady_clock::now()) const {
        const std::lock_guard lock(m_mutex);
        return m_busy && now - m_busy->since > patience ? m_busy : std::nullopt;
    }

  private:
    mutable std::mutex m_mutex;
    std::optional<Busy> m_busy;
};

} // namespace cognitum
