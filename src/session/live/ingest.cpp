#include "session/live/ingest.h"

#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "demo/board.h"
#include "store/samples/unsaved.h"

#include <QFile>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {
constexpr int commit_every_ms = 800;
constexpr int pass_every_ms = 1000;
constexpr std::size_t most_waiting_samples = 2'000'000; ///< samples kept in memory while the file cannot be written
} // namespace

Ingest::Ingest(Shared shared, Clock clock, QStringList simulation_arguments, bool open_links)
    : m_share(shared.live),
      m_lines(shared.lines),
      m_watch(shared.watch),
      m_clock(std::move(clock)),
      m_open_links(open_links),
      m_watch_rules(
          shared.live, m_clock,
          [this](const std::string& reading, const char* kind, const std::string& text) {
              writeLog(reading, kind, text);
          },
          [this](const ToldNotice& notice) { emit told(notice); }),
      m_acting(
          shared.live, m_clock,
          [this](const std::string& reading, const char* kind, const std::string& text) {
              writeLog(reading, kind, text);
          },
          [this](const ToldNotice& notice) { emit told(notice); },
          [this](const std::string& board, const std::string& load, const std::string& line,
                 const std::string& topic) {
              const auto feed = m_feeds.find(board);
              return feed != m_feeds.end() && feed->second->tellState(load, line, topic);
          }) {
    m_services.simulation_arguments = std::move(simulation_arguments);
    m_services.simulated_as = [](const std::string& id) { return std::string(demo::stand_in(id)); };
    m_services.plan_file = [this] {
        QString path = m_services.folder + QStringLiteral("/plan.json");
        if (QFile file(path); file.open(QIODevice::WriteOnly))
            file.write(QByteArray::fromStdString(json_dump(bench_json(m_bench))));
        return path;
    };
    m_commit.setParent(this);
    m_commit.setInterval(commit_every_ms);
    connect(&m_commit, &QTimer::timeout, this, &Ingest::commit);
    m_pass.setParent(this);
    m_pass.setInterval(pass_every_ms);
    connect(&m_pass, &QTimer::timeout, this, &Ingest::passTime);
}

void Ingest::setPlan(const Bench& bench, const Facts& facts, const DoubtOf& doubt_of, const QString& path) {
    const bool another = path.toStdString() != m_path;
    if (const std::string next = path.toStdString(); another) {
        shutDown();
        m_path = next;
        if (auto file = BenchFile::open(m_path, Access::write))
            m_file = std::make_unique<BenchFile>(std::move(*file));
    }
    m_share->change_all([&](Live& live) { // numbers of another wiring or field say nothing of this one
        for (const Reading& now : bench.readings) {
            const Reading* before = m_bench.reading(now.id);
            const auto known = live.readings.find(now.id);
            if (before && known != live.readings.end() &&
                (path_key(*before) != path_key(now) || !(before->source == now.source))) {
                known->second.points.clear();
                known->second.signal.clear();
            }
        }
    });
    m_bench = bench;
    m_watch_rules.setPlan(bench, doubt_of, another ? m_file.get() : nullptr);
    m_acting.setPlan(bench, doubt_of);
    m_pass.start();
    m_partners.set_plan(bench);
    m_by_hand.clear();
    for (const Reading& reading : bench.readings)
        if (const auto known = facts.find(reading.id); known != facts.end())
            m_by_hand[reading.id] = Intake(reading, known->second);
    for (auto it = m_feeds.begin(); it != m_feeds.end();) {
        const BoardUse* board = bench.board(it->first);
        it = board && board->link == it->second->board().link ? std::next(it) : m_feeds.erase(it);
    }
    for (const BoardUse& board : bench.boards)
        if (const auto known = m_feeds.find(board.id); known != m_feeds.end())
            setRoutes(*known->second, facts);
        else
            addFeed(board, facts);
    m_share->change_all([&](Live& live) {
        std::erase_if(live.readings, [&](const auto& entry) { return !bench.reading(entry.first); });
        std::erase_if(live.boards, [&](const auto& entry) { return !bench.board(entry.first); });
        // The last value is shown through the new path at once, not only after the next line.
        for (const Reading& reading : bench.readings) {
            const auto known = live.readings.find(reading.id);
            if (known == live.readings.end() || !std::isfinite(known->second.raw) || known->second.by_hand)
                continue;
            if (known->second.value.cause == Cause::failed) continue;
            if (const std::string why = no_way(reading); !why.empty()) {
                known->second.value = Value::none(Cause::not_a_number);
                known->second.cause = why;
                continue;
            }
            const Walk steps = walk(effective_path(reading, m_partners.last()), known->second.raw);
            known->second.value = steps.result();
            known->second.cause = steps.cause;
        }
    });
}

void Ingest::addFeed(const BoardUse& board, const Facts& facts) {
    if ((board.link.simulated || board.link.processor) && !m_folder) m_folder = std::make_unique<RunFolder>();
    if (m_folder) m_services.folder = m_folder->path();
    BoardFeed::Sink sink;
    sink.value = [this](const Route& route, const Sample& sample, const std::string& cause) {
        std::string sentence = cause;
        if (sentence.empty() && sample.cause == Cause::missing)
            sentence = phrase("The board’s lines have no column {}. Its header must name it.", route.field);
        else if (sentence.empty() && sample.cause != Cause::none)
            sentence = route.intake.path().stages.empty() ? cause_text(sample.cause)
                                                          : walk(route.intake.path(), sample.raw).cause;
        take(route.reading, route.bands, sample, sentence);
    };
    sink.signal = [this](const Route& route, const RawSample& sample) {
        m_share->change_reading(route.reading, [&](LiveReading& reading) {
            reading.signal.push_back(sample);
            if (reading.signal.size() > LiveReading::ring_size) reading.signal.pop_front();
        });
    };
    sink.answer = [this, id = board.id](const std::string& text) { m_acting.answered(id, text); };
    sink.link = [this, id = board.id](bool open) { m_acting.linkChanged(id, open); };
    sink.speed_found = [this, id = QString::fromStdString(board.id)](int baud) { emit speedFound(id, baud); };
    // A plan is followed without its links where a test plays the boards.
    BoardUse use = board;
    if (!m_open_links) use.link.kind = LinkKind::none;
    auto feed = std::make_unique<BoardFeed>(use, m_share, m_lines, m_clock, std::move(sink), m_bench, m_partners,
                                            m_services, m_watch);
    if (!m_open_links) feed->pretend(board.link);
    setRoutes(*feed, facts);
    if (m_open_links) feed->start();
    m_feeds[board.id] = std::move(feed);
}

void Ingest::setRoutes(BoardFeed& feed, const Facts& facts) {
    std::vector<Route> routes;
    for (const Reading& reading : m_bench.readings) {
        if (reading.feed() != feed.board().id) continue;
        Route route;
        route.reading = reading.id;
        route.field = reading.field().empty() ? reading.id : reading.field();
        route.signal = reading.source.signal;
        route.bands = reading.bands;
        const auto known = facts.find(reading.id);
        route.intake = Intake(reading, known == facts.end() ? RawRules{} : known->second);
        routes.push_back(std::move(route));
    }
    feed.setRoutes(std::move(routes));
}

void Ingest::take(const std::string& id, const std::optional<Bands>& bands, const Sample& sample,
                  const std::string& cause) {
    ZoneChange change;
    m_share->change_reading(id, [&](LiveReading& reading) {
        reading.time = sample.time;
        reading.raw = sample.raw;
        reading.value = {sample.value, sample.cause};
        reading.cause = cause;
        reading.by_hand = false;
        reading.points.push_back(
            {sample.time, sample.cause == Cause::failed ? no_number : sample.raw, sample.value});
        if (reading.points.size() > LiveReading::ring_size) reading.points.pop_front();
        const Zone next = bands ? next_zone(reading.zone, sample.value, *bands) : Zone::unknown;
        if (next != reading.zone && next != Zone::unknown && reading.zone != Zone::unknown)
            change = {sample.time, reading.zone, next, sample.value};
        if (next != Zone::unknown || !bands) reading.zone = next;
    });
    if (sample.cause == Cause::none && m_partners.is_followed(id))
        if (const Reading* reading = m_bench.reading(id)) m_partners.tell(*reading, sample.value, sample.time);
    m_watch_rules.take(id, sample.time, sample.value);
    m_acting.take(id, sample.time, sample.value);
    // Rules say more than a band that was left; without them the logbook has at least that.
    if (change.time != 0 && !m_watch_rules.looksAt(id))
        if (const Reading* reading = m_bench.reading(id)) {
            const InEnglish in_the_logbook;
            writeLog(id, change.to == Zone::in_range ? log_kind::recovery : log_kind::alert,
                     phrase("{}: {} at {}.", reading->name, zone_word(change.to),
                            format_value(change.value, 0.3, reading->quantity.unit)));
        }
    if (m_recording && sample.cause != Cause::missing) record(id, sample);
}

void Ingest::record(const std::string& reading, const Sample& sample) {
    auto batch = std::find_if(m_pending.begin(), m_pending.end(),
                              [&](const SeriesBatch& b) { return b.reading == reading; });
    if (batch == m_pending.end()) batch = m_pending.insert(m_pending.end(), SeriesBatch{reading, {}});
    if (m_waiting >= most_waiting_samples) {
        ++m_lost;
        return;
    }
    batch->samples.push_back(sample);
    ++m_waiting;
}

void Ingest::takeByHand(const QString& id, double value, double doubt) {
    const Reading* reading = m_bench.reading(id.toStdString());
    if (!reading) return;
    const Arrived typed = m_by_hand[reading->id].finished(value);
    const Sample sample{m_clock(), no_number, typed.value.number, typed.value.cause};
    take(reading->id, reading->bands, sample, typed.why);
    m_share->change_reading(reading->id, [&](LiveReading& now) {
        if (!now.points.empty()) now.points.pop_back(); // it has no raw signal, which is no failed measurement
        now.by_hand = true;
        now.hand_doubt = doubt;
    });
    {
        const InEnglish in_the_logbook;
        writeLog(reading->id, for_people("by hand"),
                 phrase("{} ± {}, read by a person.{}", format_value(value, doubt, reading->quantity.unit),
                        format_value(doubt, doubt / 10, reading->quantity.unit),
                        typed.value.ok() ? "" : phrase(" Kept as no value: {}.", cause_text(typed.value.cause))));
    }
    // Typed values are few and dear: they are kept whether a recording runs or not.
    if (!m_recording) {
        record(reading->id, sample);
        commit();
    }
}

void Ingest::startRecording() {
    if (m_recording) return;
    m_recording = true;
    m_saved = m_lost = 0;
    const TimeUs now = m_clock();
    m_share->change_recording([&](LiveRecording& recording) {
        recording = {};
        recording.on = true;
        recording.since = now;
    });
    writeLog("", log_kind::recording, for_people("Recording started."));
    m_commit.start();
}

void Ingest::stopRecording() {
    if (!m_recording) return;
    for (const auto& [id, feed] : m_feeds)
        feed->finishWaiting(); // what a board was told is taken belongs to the recording
    m_recording = false;
    m_commit.stop();
    commit();
    {
        const InEnglish in_the_logbook;
        writeLog("", log_kind::recording,
                 phrase("Recording stopped after {} samples.{}", m_saved,
                        m_lost > 0 ? phrase(" {} more could not be kept.", m_lost) : ""));
    }
    m_share->change_recording([](LiveRecording& recording) { recording.on = false; });
}

void Ingest::shutDown() {
    m_acting.close(); // while its boards can be told
    stopRecording();
    keepPending();
    m_feeds.clear();
    m_pass.stop();
    m_watch_rules.close();
    m_services.receivers.clear();
    m_services.broker.reset();
    m_folder.reset();
    m_file.reset();
    m_path.clear();
    m_share->change_all([](Live& live) {
        live.readings.clear();
        live.boards.clear();
        live.recording = {};
        live.rules.clear();
        live.loads.clear();
    });
}

void Ingest::commit() {
    const bool had_file = m_file != nullptr;
    // A file that was taken away or replaced still has its old inode open; saving into that would be lost.
    if (m_file && !m_file->check_in_place()) {
        m_file.reset();
        if (QFile::exists(QString::fromStdString(m_path))) emit fileReplaced();
    }
    Result<AddResult> added = addPending();
    if (!added && had_file && m_file && !m_file->check_in_place()) m_file.reset(); // told with the next commit
    if (added) m_saved += added->added;
    const TimeUs now = m_clock();
    m_share->change_recording([&](LiveRecording& recording) {
        recording.saved = m_saved;
        recording.waiting = m_waiting;
        recording.lost = m_lost;
        recording.trouble.clear();
        if (!added)
            recording.trouble = QString::fromStdString(added.error().text());
        else if (!added->damaged.empty())
            recording.trouble = QString::fromStdString(added->damaged.begin()->second.text());
        if (m_lost > 0)
            recording.trouble += tr(" %n sample(s) could not be kept any more.", nullptr, static_cast<int>(m_lost));
        if (added) recording.saved_at = now;
    });
    while (m_file && !m_log_waiting.empty() && m_file->append_log(m_log_waiting.front()))
        m_log_waiting.erase(m_log_waiting.begin());
}

/// What was added is not pending any more; what belongs among damaged samples stays, and holds up nothing else.
Result<AddResult> Ingest::addPending() {
    if (!m_file) {
        if (!identity_of(m_path))
            return failure(phrase("the bench file is gone."), m_path, phrase("Put it back, or save a copy."));
        auto file = BenchFile::open(m_path, Access::write);
        if (!file) return tl::make_unexpected(file.error());
        m_file = std::make_unique<BenchFile>(std::move(*file));
    }
    if (m_waiting == 0) return AddResult{};
    COGNITUM_TRY(added, add_samples(*m_file, m_pending));
    std::vector<SeriesBatch> rest;
    m_waiting = 0;
    for (const auto& [index, error] : added.damaged) {
        m_waiting += m_pending[index].samples.size();
        rest.push_back(std::move(m_pending[index]));
    }
    m_pending = std::move(rest);
    return added;
}

/// At the end: what the bench could not take is kept beside it.
void Ingest::keepPending() {
    if (m_waiting > 0 || !m_log_waiting.empty()) {
        const auto kept = keep_unsaved(m_path, m_bench, {m_pending, m_log_waiting}, m_clock());
        const QString count = tr("%n sample(s) could not be saved in %1", nullptr, static_cast<int>(m_waiting))
                                  .arg(QString::fromStdString(m_path));
        emit said(kept ? tr("%1. They are kept in %2, and taken in when the bench is opened again.")
                             .arg(count, QString::fromStdString(*kept))
                       : tr("%1, nor anywhere else, and are lost: %2")
                             .arg(count, QString::fromStdString(kept.error().text())));
    }
    m_pending.clear();
    m_log_waiting.clear();
    m_waiting = 0;
}

void Ingest::writeLog(const std::string& reading, const std::string& kind, const std::string& text) {
    m_log_waiting.push_back({0, m_clock(), reading, kind, text, 0});
    if (m_log_waiting.size() > 1000) m_log_waiting.erase(m_log_waiting.begin());
    while (m_file && !m_log_waiting.empty() && m_file->append_log(m_log_waiting.front()))
        m_log_waiting.erase(m_log_waiting.begin());
    m_share->change_log();
}

void Ingest::sendCommand(const QString& board, const QString& line) {
    const auto feed = m_feeds.find(board.toStdString());
    if (feed != m_feeds.end()) feed->second->send(line.toUtf8());
}

void Ingest::setPlugged(const QString& board, bool plugged) {
    const auto feed = m_feeds.find(board.toStdString());
    if (feed != m_feeds.end()) feed->second->setPlugged(plugged);
}

void Ingest::logIn(const QString& board, const QString& user, const QString& password) {
    const auto feed = m_feeds.find(board.toStdString());
    if (feed != m_feeds.end()) feed->second->logIn(user, password);
}

void Ingest::allowWide(const QString& board) {
    const auto feed = m_feeds.find(board.toStdString());
    if (feed != m_feeds.end()) feed->second->allowWide();
}

void Ingest::injectMessage(const QString& board, const LinkMessage& message) {
    const auto feed = m_feeds.find(board.toStdString());
    if (feed != m_feeds.end()) feed->second->takeMessage(message, m_clock());
}

void Ingest::injectBytes(const QString& board, const QByteArray& bytes) {
    const auto feed = m_feeds.find(board.toStdString());
    if (feed != m_feeds.end()) feed->second->take(bytes, m_clock());
}

} // namespace cognitum
