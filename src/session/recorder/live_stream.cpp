#include "session/recorder/live_stream.h"

#include <QDataStream>
#include <QIODevice>
#include <type_traits>

namespace cognitum {

namespace {

constexpr quint32 live_version = 2;
constexpr quint32 longest_list = 200'000;

/// Writes what it is called with.
class LiveWriter {
  public:
    explicit LiveWriter(QByteArray& out) : m_stream(&out, QIODevice::WriteOnly) {
        m_stream.setVersion(QDataStream::Qt_6_4);
    }
    template <typename T>
    LiveWriter& operator()(const T& value);
    [[nodiscard]] bool good() const { return m_stream.status() == QDataStream::Ok; }

  private:
    QDataStream m_stream;
};

/// Reads into what it is called with.
class LiveReader {
  public:
    explicit LiveReader(const QByteArray& in) : m_stream(in) { m_stream.setVersion(QDataStream::Qt_6_4); }
    template <typename T>
    LiveReader& operator()(T& value);
    [[nodiscard]] bool good() const { return m_stream.status() == QDataStream::Ok; }
    [[nodiscard]] bool at_end() const { return m_stream.atEnd(); }
    void refuse() { m_stream.setStatus(QDataStream::ReadCorruptData); }

  private:
    QDataStream m_stream;
};

// Each struct once. S is T or const T.
template <typename A>
void fields(A& a, auto& v, const LivePoint*) {
    a(v.time)(v.raw)(v.value);
}
template <typename A>
void fields(A& a, auto& v, const RawSample*) {
    a(v.time)(v.code);
}
template <typename A>
void fields(A& a, auto& v, const Value*) {
    a(v.number)(v.cause);
}
template <typename A>
void fields(A& a, auto& v, const LiveReading*) {
    a(v.time)(v.raw)(v.value)(v.cause)(v.zone)(v.points)(v.signal)(v.by_hand)(v.hand_doubt);
}
template <typename A>
void fields(A& a, auto& v, const Field*) {
    a(v.name)(v.unit)(v.example)(v.numeric);
}
template <typename A>
void fields(A& a, auto& v, const ClockFit*) {
    a(v.offset_s)(v.u_offset_s)(v.drift_ppm)(v.u_drift_ppm)(v.span_s)(v.absolute);
}
template <typename A>
void fields(A& a, auto& v, const StreamFacts*) {
    a(v.lines)(v.rejected)(v.bytes)(v.odd_bytes)(v.lost)(v.duplicates)(v.late)(v.restarts)(v.set_back)(v.now)(
        v.clock);
}
template <typename A>
void fields(A& a, auto& v, const Rejection*) {
    a(v.reason)(v.count)(v.first_line)(v.first_text);
}
template <typename A>
void fields(A& a, auto& v, const RejectedLine*) {
    a(v.line)(v.reason)(v.text);
}
template <typename A>
void fields(A& a, auto& v, const LiveBoard*) {
    a(v.state)(v.reason)(v.port)(v.format)(v.format_reason)(v.lines)(v.lost)(v.rejected)(v.resets)(v.last_line)(
        v.reference)(v.program)(v.restart)(v.fields)(v.facts)(v.lines_per_s)(v.rejections)(v.rejected_last)(
        v.dropped)(v.kept)(v.secret_wanted)(v.permission_wanted)(v.answer)(v.answers);
}
template <typename A>
void fields(A& a, auto& v, const LiveRecording*) {
    a(v.on)(v.since)(v.saved_at)(v.saved)(v.trouble)(v.waiting)(v.lost);
}
template <typename A>
void fields(A& a, auto& v, const LiveRule*) {
    a(v.raised)(v.since)(v.unseen);
}
template <typename A>
void fields(A& a, auto& v, const LiveLoad*) {
    a(v.on)(v.since)(v.why)(v.by_hand)(v.hand_until)(v.waits_until)(v.trouble);
}
template <typename A>
void fields(A& a, auto& v, const KeptLine*) {
    a(v.number)(v.time)(v.text)(v.fields)(v.rejected);
}
template <typename A>
void fields(A& a, auto& v, const LiveUpdate*) {
    a(v.revision)(v.log_revision)(v.recording)(v.rules)(v.loads)(v.readings)(v.boards)(v.begun_anew)(
        v.changed_readings)(v.changed_boards)(v.lines)(v.lines_anew);
}
template <typename A>
void fields(A& a, auto& v, const LiveWish*) {
    a(v.kind)(v.target)(v.text)(v.more)(v.number)(v.doubt);
}

template <typename T>
concept IsMap = requires {
    typename T::mapped_type;
};
template <typename T>
concept IsOptional = requires(T v) {
    v.has_value();
};

template <typename T>
LiveWriter& LiveWriter::operator()(const T& value) {
    if constexpr (std::is_enum_v<T>) {
        m_stream << static_cast<quint32>(value);
    } else if constexpr (std::is_same_v<T, std::string>) {
        m_stream << QByteArray::fromStdString(value);
    } else if constexpr (std::is_same_v<T, QString> || std::is_same_v<T, bool> || std::is_same_v<T, double>) {
        m_stream << value;
    } else if constexpr (std::is_integral_v<T>) {
        m_stream << static_cast<qint64>(value);
    } else if constexpr (IsOptional<T>) {
        (*this)(value.has_value());
        if (value) (*this)(*value);
    } else if constexpr (IsMap<T>) {
        m_stream << static_cast<quint32>(value.size());
        for (const auto& [key, item] : value)
            (*this)(key)(item);
    } else if constexpr (requires { value.begin(); }) {
        m_stream << static_cast<quint32>(value.size());
        for (const auto& item : value)
            (*this)(item);
    } else {
        fields(*this, value, static_cast<const T*>(nullptr));
    }
    return *this;
}

template <typename T>
LiveReader& LiveReader::operator()(T& value) {
    if (!good()) return *this;
    if constexpr (std::is_enum_v<T>) {
        quint32 number = 0;
        m_stream >> number;
        value = static_cast<T>(number);
    } else if constexpr (std::is_same_v<T, std::string>) {
        QByteArray bytes;
        m_stream >> bytes;
        value = bytes.toStdString();
    } else if constexpr (std::is_same_v<T, QString> || std::is_same_v<T, bool> || std::is_same_v<T, double>) {
        m_stream >> value;
    } else if constexpr (std::is_integral_v<T>) {
        qint64 number = 0;
        m_stream >> number;
        value = static_cast<T>(number);
    } else if constexpr (IsOptional<T>) {
        bool there = false;
        (*this)(there);
        if (there) (*this)(value.emplace());
    } else {
        quint32 n = 0;
        if constexpr (IsMap<T> || requires { value.begin(); }) {
            m_stream >> n;
            if (n > longest_list) refuse();
        }
        if constexpr (IsMap<T>) {
            for (quint32 i = 0; i < n && good(); ++i) {
                typename T::key_type key{};
                (*this)(key);
                (*this)(value[key]);
            }
        } else if constexpr (requires { value.begin(); }) {
            value.clear();
            for (quint32 i = 0; i < n && good(); ++i)
                (*this)(value.emplace_back());
        } else {
            fields(*this, value, static_cast<const T*>(nullptr));
        }
    }
    return *this;
}

template <typename T>
QByteArray bytes_of_struct(const T& value) {
    QByteArray out;
    LiveWriter writer(out);
    writer(live_version)(value);
    return out;
}

template <typename T>
std::optional<T> struct_of_bytes(const QByteArray& bytes) {
    LiveReader reader(bytes);
    quint32 version = 0;
    T out;
    reader(version);
    if (version != live_version) return {};
    reader(out);
    if (!reader.good() || !reader.at_end()) return {};
    return out;
}

/// Of a list in order of time those behind `last`, which moves on.
template <typename T>
std::deque<T> behind(const std::deque<T>& all, TimeUs& last, bool whole) {
    auto from = all.begin();
    if (!whole) from = std::find_if(all.rbegin(), all.rend(), [&](const T& p) { return p.time <= last; }).base();
    if (!all.empty()) last = all.back().time;
    return {from, all.end()};
}

template <typename T>
void append(std::deque<T>& to, const std::deque<T>& more) {
    to.insert(to.end(), more.begin(), more.end());
    while (to.size() > LiveReading::ring_size)
        to.pop_front();
}

} // namespace

QByteArray live_bytes(const LiveUpdate& update) {
    return bytes_of_struct(update);
}
std::optional<LiveUpdate> read_live(const QByteArray& bytes) {
    auto out = struct_of_bytes<LiveUpdate>(bytes);
    if (!out) return out;
    // What an enum of another program could not be.
    for (const auto& [id, r] : out->changed_readings)
        if (r.value.cause > last_cause || r.zone > Zone::high) return {};
    for (const auto& [id, b] : out->changed_boards)
        if (b.state > LinkState::lost) return {};
    return out;
}
QByteArray wish_bytes(const LiveWish& wish) {
    return bytes_of_struct(wish);
}
std::optional<LiveWish> read_wish(const QByteArray& bytes) {
    auto out = struct_of_bytes<LiveWish>(bytes);
    if (out && out->kind > LiveWish::Kind::end) out.reset();
    return out;
}

std::optional<LiveUpdate> LiveTeller::next(const LiveShare& share, const LineStore& lines) {
    constexpr std::size_t most_lines = 2000; ///< of one board at once
    share.update(m_live);
    if (m_live.revision == m_revision && !m_first) return {};
    m_revision = m_live.revision;
    LiveUpdate out;
    out.revision = m_live.revision;
    out.log_revision = m_live.log_revision;
    out.recording = m_live.recording;
    out.rules = m_live.rules;
    for (const auto& [id, reading] : m_live.readings) {
        out.readings.push_back(id);
        const auto [known, is_new] = m_readings.try_emplace(id, 0);
        if (!is_new && known->second == reading.revision) continue;
        known->second = reading.revision;
        LiveReading& changed = out.changed_readings[id];
        changed.time = reading.time;
        changed.raw = reading.raw;
        changed.value = reading.value;
        changed.cause = reading.cause;
        changed.zone = reading.zone;
        changed.by_hand = reading.by_hand;
        changed.hand_doubt = reading.hand_doubt;
        std::size_t& size = m_sizes[id];
        const bool anew = is_new || reading.points.size() < size; // a ring only shrinks when it is cleared
        size = reading.points.size();
        if (anew) out.begun_anew.push_back(id);
        changed.points = behind(reading.points, m_points[id], anew);
        changed.signal = behind(reading.signal, m_signals[id], anew);
    }
    for (const auto& [id, board] : m_live.boards) {
        out.boards.push_back(id);
        const auto [known, is_new] = m_boards.try_emplace(id, 0);
        if (!is_new && known->second == board.revision) continue;
        known->second = board.revision;
        out.changed_boards[id] = board;
        // A board that is linked anew counts its lines from 1 again.
        const auto newest = lines.since(id, 0, 0, 1);
        if (is_new || (!newest.empty() && newest.back().number < m_lines[id])) {
            m_lines[id] = 0;
            out.lines_anew.push_back(id);
        }
        auto fresh = lines.since(id, m_lines[id], 0, most_lines);
        if (fresh.empty()) continue;
        m_lines[id] = fresh.back().number;
        out.lines[id] = std::move(fresh);
    }
    m_first = false;
    return out;
}

void take_update(const LiveUpdate& update, LiveShare& share, LineStore& lines) {
    const auto is_gone = [](const std::vector<std::string>& ids) {
        return [&ids](const auto& entry) { return std::find(ids.begin(), ids.end(), entry.first) == ids.end(); };
    };
    const Live known = share.copy();
    const auto any_gone = [&](const auto& map, const std::vector<std::string>& ids) {
        return std::any_of(map.begin(), map.end(), is_gone(ids));
    };
    if (any_gone(known.readings, update.readings) || any_gone(known.boards, update.boards))
        share.change_all([&](Live& live) {
            std::erase_if(live.readings, is_gone(update.readings));
            std::erase_if(live.boards, is_gone(update.boards));
        });
    for (const auto& entry : update.changed_readings)
        share.change_reading(entry.first, [&](LiveReading& mine) {
            const auto& [id, changed] = entry;
            LiveReading next = changed;
            if (std::find(update.begun_anew.begin(), update.begun_anew.end(), id) == update.begun_anew.end()) {
                next.points = std::move(mine.points);
                next.signal = std::move(mine.signal);
            } else {
                next.points.clear();
                next.signal.clear();
            }
            append(next.points, changed.points);
            append(next.signal, changed.signal);
            mine = std::move(next);
        });
    for (const auto& entry : update.changed_boards)
        share.change_board(entry.first, [&](LiveBoard& mine) { mine = entry.second; });
    for (const std::string& id : update.lines_anew)
        lines.clear(id);
    for (const auto& [id, fresh] : update.lines)
        lines.add(id, fresh);
    share.change_recording([&](LiveRecording& mine) { mine = update.recording; });
    share.change_rules(update.rules);
    if (known.log_revision != update.log_revision) share.change_log_to(update.log_revision);
}

} // namespace cognitum
