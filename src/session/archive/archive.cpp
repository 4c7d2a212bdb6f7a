#include "session/archive/archive.h"

#include "core/base/phrase.h"
#include "store/file/bench_file.h"

#include <sqlite3.h>

namespace cognitum {

Archive::Archive() {
    m_thread.setMaxThreadCount(1);
    m_thread.setExpiryTimeout(-1);
}

Archive::~Archive() {
    close();
}

void Archive::open(const std::string& path) {
    close();
    const std::lock_guard lock(m_file_mutex);
    m_path = path;
}

void Archive::close() {
    ++m_opened;
    {
        const std::lock_guard lock(m_file_mutex);
        m_path.clear();
    }
    // An interrupt reaches the statement that runs; one that begins a moment later needs another.
    constexpr int moment_ms = 20;
    do {
        const std::lock_guard lock(m_file_mutex);
        if (m_file) sqlite3_interrupt(m_file->db().getHandle());
    } while (!m_thread.waitForDone(moment_ms));
    m_file.reset();
}

void Archive::run(std::function<void(const Result<BenchFile*>&)> job) {
    ++m_asked;
    m_thread.start([this, job = std::move(job), opened = m_opened.load()] { job(file(opened)); });
}

Result<BenchFile*> Archive::file(std::uint64_t opened) {
    std::string path;
    {
        const std::lock_guard lock(m_file_mutex);
        if (m_path.empty() || opened != m_opened) return failure(phrase("the bench was closed meanwhile."));
        if (m_file) return m_file.get();
        path = m_path;
    }
    COGNITUM_TRY(file, BenchFile::open(path, Access::read));
    const std::lock_guard lock(m_file_mutex);
    if (opened != m_opened) return failure(phrase("the bench was closed meanwhile."));
    m_file = std::make_unique<BenchFile>(std::move(file));
    return m_file.get();
}

} // namespace cognitum
