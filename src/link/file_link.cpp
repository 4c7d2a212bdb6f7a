#include "link/file_link.h"

#include "store/file/data_files.h"

#include <QDir>
#include <QFileInfo>
#include <algorithm>

namespace cognitum {

namespace {
constexpr int look_again_ms = 250;
constexpr qint64 piece = 65536;
constexpr qsizetype remembered = 64;  ///< bytes before the place of reading, to see whether they are still there
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
    m_folder = QFileInfo(path).isDir();
    m_waiting.clear();
    m_read.clear();
    m_path.clear();
    if (m_folder)
        listFolder();
    else
        m_waiting.append(path);
    m_last_time.reset();
    m_held.clear();
    closeFile();
    work();
}

void FileLink::stop() {
    m_timer.stop();
    closeFile();
    emit stateChanged(LinkState::closed, {});
}

void FileLink::closeFile() {
    m_file.close();
    m_identity.reset();
    m_end.clear();
    m_renamed = false;
}

/// Files of the folder that come after the one that was read last.
void FileLink::listFolder() {
    const QDir folder(QString::fromStdString(m_plan.path));
    for (const QString& name : folder.entryList(QDir::Files, QDir::Name))
        if (const QString path = folder.filePath(name); path > m_path) m_waiting.append(path);
}

bool FileLink::openNext() {
    while (!m_waiting.isEmpty()) {
        m_path = m_waiting.first();
        const auto opened = open_regular_file(m_path.toStdString());
        if (opened &&
            m_file.open(*opened, QIODevice::ReadOnly | QIODevice::Unbuffered, QFileDevice::AutoCloseHandle)) {
            m_identity = identity_of_open(*opened);
            m_waiting.removeFirst();
            if (m_folder && m_identity) {
                if (std::find(m_read.begin(), m_read.end(), *m_identity) != m_read.end()) {
                    m_file.close();
                    continue;
                }
                m_read.push_back(*m_identity);
            }
            emit stateChanged(LinkState::open, {});
            return true;
        }
        emit stateChanged(LinkState::lost,
                          QFile::exists(m_path)
                              ? QString::fromStdString(opened ? std::string() : opened.error().text())
                              : tr("%1 is not there yet. It is read as soon as it is.").arg(m_path));
        if (!m_folder) return false;
        m_waiting.removeFirst();
    }
    return false;
}

/// The same file, and not what was read of it: shorter, or other bytes where its end was.
bool FileLink::wasBegunAnew() {
    const qint64 at = m_file.pos();
    if (m_file.size() < at) return true;
    m_file.seek(at - m_end.size());
    const bool same = m_file.read(m_end.size()) == m_end;
    m_file.seek(at);
    return !same;
}

/// Its logger renamed it, and began another one of its name.
bool FileLink::hasAnotherFile() const {
    const auto now = identity_of(m_path.toStdString());
    return now && m_identity && !(*now == *m_identity);
}

void FileLink::give(const QByteArray& data) {
    m_end = (m_end + data).right(remembered);
    emit bytes(data);
}

/// One piece; false at the end of what is there.
bool FileLink::readOn() {
    if (m_plan.speed > 0) {
        if (!m_held.isEmpty()) give(std::exchange(m_held, {}));
        const QByteArray line = m_file.readLine(piece);
        if (line.isEmpty()) return false;
        pace(line);
        return true;
    }
    const QByteArray data = m_file.read(piece);
    if (data.isEmpty()) return false;
    give(data);
    m_timer.start(0); // others have a turn in between
    return true;
}

void FileLink::work() {
    if (!m_file.isOpen() && !openNext()) {
        m_timer.start(4 * look_again_ms);
        return;
    }
    if (m_file.pos() > 0 && m_held.isEmpty() && wasBegunAnew()) {
        if (!m_end.endsWith('\n')) emit bytes("\n"); // what was half a line there is not the start of this one
        m_end.clear();
        m_file.seek(0);
    }
    if (readOn()) return;
    // A file that was renamed is read to its end, which its writer may still be at, before the one that has its
    // name.
    const bool renamed = m_plan.follow && hasAnotherFile();
    if (renamed && !std::exchange(m_renamed, true)) {
        m_timer.start(look_again_ms);
        return;
    }
    if (m_folder && m_plan.follow && m_waiting.isEmpty()) listFolder();
    if (renamed) m_waiting.prepend(m_path);
    if (!m_waiting.isEmpty()) {
        if (!m_end.isEmpty() && !m_end.endsWith('\n')) emit bytes("\n"); // its last line has no end, and is whole
        closeFile();
        m_timer.start(0);
        return;
    }
    if (!m_plan.follow) {
        emit stateChanged(LinkState::closed, tr("The end of %1 was reached.").arg(m_path));
        return;
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
