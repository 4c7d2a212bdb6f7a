#include "session/ingest.h"

#include "core/units/format.h"

#include <QFile>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {
constexpr int commit_every_ms = 800;
constexpr std::size_t most_waiting = 2'000'000; ///< samples kept in memory while the file cannot be written
} // namespace

Ingest::Ingest(LiveShare* share, Clock clock, QStringList simulation_arguments, bool open_links)
    : m_share(share),
      m_clock(std::move(clock)),
      m_simulation_arguments(std::move(simulation_arguments)),
      m_open_links(open_links) {
    m_commit.setParent(this);
    m_commit.setInterval(commit_every_ms);
    connect(&m_commit, &QTimer::timeout, this, &Ingest::commit);
}

void Ingest::setPlan(const Bench& bench, const QString& path) {
    if (const std::string next = path.toStdString(); next != m_path) {
        shutDown();
        m_path = next;
        if (auto file = BenchFile::open(m_path, Access::write))
            m_file = std::make_unique<BenchFile>(std::move(*file));
    }
    m_share->change([&](Live& live) { // codes of another wiring say nothing of this one
        for (const Reading& now : bench.readings) {
            const Reading* before = m_bench.reading(now.id);
            const auto known = live.readings.find(now.id);
            if (before && known != live.readings.end() && path_key(*before) != path_key(now))
                known->second.points.clear();
        }
    });
    m_bench = bench;
    for (auto it = m_feeds.begin(); it != m_feeds.end();) {
        const BoardUse* board = bench.board(it->first);
        it = board && board->link == it->second->board().link ? std::next(it) : m_feeds.erase(it);
    }
    for (const BoardUse& board : bench.boards) {
        auto& feed = m_feeds[board.id];
        const bool is_new = !feed;
        if (is_new)
            feed = std::make_unique<BoardFeed>(
                board, m_share, m_clock, [this](const Route& r, const Sample& s) { take(r, s); },
                m_simulation_arguments);
        std::vector<Route> routes;
        for (const Reading& reading : bench.readings)
            if (reading.wiring.board == board.id && !reading.wiring.pin().empty() && !reading.path.stages.empty())
                routes.push_back({reading.id, reading.wiring.pin(), effective_path(reading), reading.bands});
        feed->setRoutes(std::move(routes));
        if (is_new && m_open_links) feed->start();
    }
    m_share->change([&](Live& live) {
        std::erase_if(live.readings, [&](const auto& entry) { return !bench.reading(entry.first); });
        std::erase_if(live.boards, [&](const auto& entry) { return !bench.board(entry.first); });
        // The last value is shown through the new path at once, not only after the next line.
        for (const Reading& reading : bench.readings) {
            const auto known = live.readings.find(reading.id);
            if (known == live.readings.end() || !std::isfinite(known->second.raw)) continue;
            const Walk steps = walk(effective_path(reading), known->second.raw);
            known->second.value = steps.result();
            known->second.cause = steps.cause;
        }
    });
}

void Ingest::take(const Route& route, const Sample& sample) {
    ZoneChange change;
    m_share->change([&](Live& live) {
        LiveReading& reading = live.readings[route.reading];
        reading.time = sample.time;
        reading.raw = sample.raw;
        reading.value = {sample.value, sample.cause};
        if (sample.cause == Cause::missing)
            reading.cause =
                fmt::format("The board’s lines have no column {}. Its header must name it.", route.column);
        else
            reading.cause = sample.cause == Cause::none ? std::string() : walk(route.path, sample.raw).cause;
        reading.points.push_back({sample.time, sample.raw, sample.value});
        if (reading.points.size() > LiveReading::ring_size) reading.points.pop_front();
        const Zone next = route.bands ? next_zone(reading.zone, sample.value, *route.bands) : Zone::unknown;
        if (next != reading.zone && next != Zone::unknown && reading.zone != Zone::unknown)
            change = {sample.time, reading.zone, next, sample.value};
        if (next != Zone::unknown || !route.bands) reading.zone = next;
    });
    if (change.time != 0)
        if (const Reading* reading = m_bench.reading(route.reading))
            writeLog(route.reading, "alert",
                     fmt::format("{}: {} at {}.", reading->name, zone_word(change.to),
                                 format_value(change.value, 0.3, reading->quantity.unit)));
    if (!m_recording || sample.cause == Cause::missing) return;
    auto batch = std::find_if(m_pending.begin(), m_pending.end(),
                              [&](const SeriesBatch& b) { return b.reading == route.reading; });
    if (batch == m_pending.end()) batch = m_pending.insert(m_pending.end(), SeriesBatch{route.reading, {}});
    if (batch->samples.size() < most_waiting) batch->samples.push_back(sample);
}

void Ingest::startRecording() {
    if (m_recording) return;
    m_recording = true;
    m_saved = 0;
    const TimeUs now = m_clock();
    m_share->change([&](Live& live) { live.recording = {true, now, {}, 0, {}, 0}; });
    writeLog("", "recording", "Recording started.");
    m_commit.start();
}

void Ingest::stopRecording() {
    if (!m_recording) return;
    m_recording = false;
    m_commit.stop();
    writeLog("", "recording",
             fmt::format(
                 "Recording stopped after {} samples.", m_saved + [&] {
                     std::uint64_t n = 0;
                     for (const SeriesBatch& b : m_pending)
                         n += b.samples.size();
                     return n;
                 }()));
    commit();
    m_share->change([](Live& live) { live.recording.on = false; });
}

void Ingest::shutDown() {
    stopRecording();
    m_feeds.clear();
    m_pending.clear();
    m_log_waiting.clear();
    m_file.reset();
    m_path.clear();
    m_share->change([](Live& live) {
        live.readings.clear();
        live.boards.clear();
        live.recording = {};
    });
}

void Ingest::commit() {
    std::uint64_t waiting = 0;
    for (const SeriesBatch& batch : m_pending)
        waiting += batch.samples.size();
    if (!m_file) {
        if (auto file = BenchFile::open(m_path, Access::write))
            m_file = std::make_unique<BenchFile>(std::move(*file));
    }
    // A file that was taken away or replaced still has its old inode open; saving into that would be lost.
    if (m_file && !QFile::exists(QString::fromStdString(m_path))) m_file.reset();
    Result<AddResult> added = AddResult{};
    if (!m_file)
        added = failure("the bench file is gone.", m_path, "Put it back, or save a copy.");
    else if (waiting > 0)
        added = add_samples(*m_file, m_pending);
    if (added) {
        m_saved += added->added;
        m_pending.clear();
    }
    const TimeUs now = m_clock();
    m_share->change([&](Live& live) {
        live.recording.saved = m_saved;
        live.recording.waiting = added ? 0 : waiting;
        live.recording.trouble = added ? QString() : QString::fromStdString(added.error().text());
        if (added) live.recording.saved_at = now;
    });
    while (m_file && !m_log_waiting.empty() && m_file->append_log(m_log_waiting.front()))
        m_log_waiting.erase(m_log_waiting.begin());
}

void Ingest::writeLog(const std::string& reading, const std::string& kind, const std::string& text) {
    m_log_waiting.push_back({0, m_clock(), reading, kind, text, 0});
    if (m_log_waiting.size() > 1000) m_log_waiting.erase(m_log_waiting.begin());
    while (m_file && !m_log_waiting.empty() && m_file->append_log(m_log_waiting.front()))
        m_log_waiting.erase(m_log_waiting.begin());
    m_share->change([](Live& live) { ++live.log_revision; });
}

void Ingest::sendCommand(const QString& board, const QString& line) {
    const auto feed = m_feeds.find(board.toStdString());
    if (feed != m_feeds.end()) feed->second->send(line.toUtf8());
}

void Ingest::setPlugged(const QString& board, bool plugged) {
    const auto feed = m_feeds.find(board.toStdString());
    if (feed != m_feeds.end()) feed->second->setPlugged(plugged);
}

void Ingest::injectBytes(const QString& board, const QByteArray& bytes) {
    const auto feed = m_feeds.find(board.toStdString());
    if (feed != m_feeds.end()) feed->second->take(bytes);
}

} // namespace cognitum
