// Which speed does this board speak at? Speeds are listened to in turn; what reads as text, and best as lines that
// a decoder understands, wins.
#pragma once

#include "core/decode/detect.h"

#include <QByteArray>
#include <string>
#include <vector>

namespace cognitum {

class SpeedSearch {
  public:
    static constexpr int listen_ms = 700; ///< to one speed
    static constexpr int enough_bytes = 400;
    /// Starts at `first`, then the usual ones.
    explicit SpeedSearch(int first);

    [[nodiscard]] int baud() const { return m_speeds[m_at]; }
    void take(const QByteArray& bytes);
    [[nodiscard]] bool heardEnough() const { return m_heard.size() >= enough_bytes; }
    /// The speed is sure enough to stop here.
    [[nodiscard]] bool found() const;
    /// On to the next speed; false when all were listened to: then baud() is the best of them, if any spoke.
    bool next();
    [[nodiscard]] bool heardAnything() const { return m_best_score > 0; }

  private:
    [[nodiscard]] double score() const;

    std::vector<int> m_speeds;
    std::size_t m_at = 0, m_best = 0;
    double m_best_score = 0;
    std::string m_heard;
};

/// 0…1: how much bytes look like what a board sends at the right speed.
double speech_score(std::string_view bytes);

} // namespace cognitum
