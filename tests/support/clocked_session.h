// A session whose clock the test moves and whose board sends what the test gives it.
#pragma once

#include "demo/demo_bench.h"
#include "demo/gauge_board.h"
#include "session/session.h"
#include "store/exchange/csv_import.h"
#include "store/samples/samples.h"
#include "support/support.h"

#include <atomic>

namespace cognitum::test {

constexpr int warm = 160, cool = 120; ///< counts of the small bench's thermometer: some 28 and 9 °C

/// The open bench's file through a connection of its own.
inline std::unique_ptr<BenchFile> bench_file(Session& session, Access access = Access::write) {
    auto file = BenchFile::open(session.path().toStdString(), access);
    if (!file) qFatal("%s", file.error().text().c_str());
    return std::make_unique<BenchFile>(std::move(*file));
}

/// Makes the demo bench at `path` if there is none, and opens it.
inline bool open_demo(Session& session, const QString& path, DemoHistory history = DemoHistory::two_days) {
    if (!QFile::exists(path) && !create_demo_bench(path.toStdString(), session.now(), history)) return false;
    return session.openBench(path).has_value();
}

/// Its logbook, newest first.
inline std::vector<LogEntry> entries(Session& session) {
    return bench_file(session, Access::read)->log().value_or(std::vector<LogEntry>{});
}

class ClockedSession {
  public:
    ClockedSession() : session(options()) {}

    static constexpr TimeUs start = 1795617060LL * second_us; // 2026-11-25T14:31:00Z

    void pass(double s) { now += from_seconds(s); }
    void send(const QByteArray& bytes, const char* board = "gauge") {
        session.worker().injectBytesNow(board, bytes);
    }
    /// `lines` lines, one a second, of a board that measures `code` on its first analog pin.
    void lines(int n, int code, const char* pin = "A0") {
        if (!m_header) send(QByteArray("seq,ms,") + pin + "\n");
        m_header = true;
        for (int i = 0; i < n; ++i) {
            pass(1);
            send(QByteArray::number(m_sequence) + "," + QByteArray::number((m_sequence + 1) * 1000) + "," +
                 QByteArray::number(code) + "\n");
            ++m_sequence;
        }
    }
    /// Everything that was asked of the worker is done.
    void settle() { session.worker().injectBytesNow("nobody", {}); }

    std::atomic<TimeUs> now = start;
    QTemporaryDir folder;
    Session session;

  private:
    SessionOptions options() {
        SessionOptions o;
        o.clock = [this] { return now.load(); };
        o.open_links = false;
        return o;
    }
    bool m_header = false;
    int m_sequence = 0;
};

/// A new bench with one linked board and one reading on A0.
inline void open_small_bench(ClockedSession& s, const char* name = "small.cognitum") {
    QVERIFY(s.session.createBench(s.folder.filePath(QLatin1String(name)), QStringLiteral("Small")));
    s.session.edit(QStringLiteral("Fill"), [](Bench& bench) {
        const Bench small = small_bench();
        bench.boards = small.boards;
        bench.boards[0].link = {LinkKind::simulated, "", 115200, 1};
        bench.readings = small.readings;
        bench.readings[0].bands = Bands{10, 25, 1};
    });
    s.session.undoStack()->clear();
    s.settle();
}

} // namespace cognitum::test
