#include "link/file_link.h"

#include <QDir>
#include <QFileInfo>
#include <algorithm>

namespace cognitum {

namespace {
constexpr int look_again_ms = 250;
constexpr qint64 piece = 65536;
constexpr double longest_wait_s = 60; ///< a night without a line is not waited through
} // namespace

std::optional<TimeUs> time_in_line(std::string_view line) {
    std::size_t start = 0;
    while (start < line.size()) {
        const std::size_t end = std::min(line.find_first_of(",;\t\" {}", start), line.size());
        const std::string_view word = line.substr(start, end - start);
        if (word.size() >= 10)
            if (const auto time = parse_time(word); time && *time > 86400LL * 365 * second_us) return time;
        start = end + 1;
    }
    return {};
}

FileLink::FileLink(const FilePlan& plan, QObject* parent) : Link(parent), m_plan(plan) {
    m_file.setParent(this);
    m_timer.setParent(this);
    m_timer.setSingleShot(true);
    connect(&m_timer, &QTimer::timeout, this, &FileLink::work);
}

void FileLink::start() {
    const QString path = QString::fromStdString(m_plan.path);
    const QFileInfo info(path);
    m_folder = info.isDir();
    m_waiting.clear();
    if (m_folder)
        for (const QString& name : QDir(path).entryList(QDir::Files, QDir::Name))
            m_waiting.append(QDir(path).filePath(name));
    else
        m_waiting.append(path);
    m_last_time.reset();
    if (m_file.isOpen()) m_file.close();
    work();
}

void FileLink::stop() {
    m_timer.stop();
    m_file.close();
    emit stateChanged(LinkState::closed, {});
}

bool FileLink::openNext() {
    while (!m_waiting.isEmpty()) {
        m_file.setFileName(m_waiting.first());
        if (m_file.open(QIODevice::ReadOnly)) {
            m_waiting.removeFirst();
            emit stateChanged(LinkState::open, {});
            return true;
        }
        const QString reason = QFile::exists(m_waiting.first())
                                   ? tr("%1 cannot be read: %2").arg(m_waiting.first(), m_file.errorString())
                                   : tr("%1 is not there yet. It is read as soon as it is.").arg(m_waiting.first());
        emit stateChanged(LinkState::lost, reason);
        if (!m_folder) return false;
        m_waiting.removeFirst();
    }
    return false;
}

/// A log that was begun anew is shorter than what was read of it.
bool FileLink::wasReplaced() {
    const QFileInfo info(m_file.fileName());
    return !info.exists() || info.size() < m_file.pos();
}

void FileLink::work() {
    if (!m_file.isOpen() && !openNext()) {
        m_timer.start(4 * look_again_ms);
        return;
    }
    if (m_plan.speed > 0) {
        if (!m_held.isEmpty()) emit bytes(std::exchange(m_held, {}));
        const QByteArray line = m_file.readLine(piece);
        if (!line.isEmpty()) return pace(line);
    } else if (const QByteArray data = m_file.read(piece); !data.isEmpty()) {
        emit bytes(data);
        m_timer.start(0); // others have a turn in between
        return;
    }
    if (!m_waiting.isEmpty()) {
        m_file.close();
        m_timer.start(0);
        return;
    }
    if (!m_plan.follow) {
        emit stateChanged(LinkState::closed, tr("The end of %1 was reached.").arg(m_file.fileName()));
        return;
    }
    if (wasReplaced()) {
        m_waiting.prepend(m_file.fileName());
        m_file.close();
    }
    m_timer.start(look_again_ms);
}

void FileLink::pace(const QByteArray& line) {
    const auto time = time_in_line({line.constData(), static_cast<std::size_t>(line.size())});
    double wait_s = 0;
    if (time && m_last_time) wait_s = std::clamp(seconds(*time - *m_last_time) / m_plan.speed, 0.0, longest_wait_s);
    if (time) m_last_time = time;
    m_held = line;
    m_timer.start(static_cast<int>(wait_s * 1000));
}

} // namespace cognitum
