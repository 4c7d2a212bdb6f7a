// P15: what the recorder needs. First `cognitum-recorder` itself, at rest on the demo bench with its four boards:
// share of one core, memory. Then the same session without a window at SPEED times the speed for DAYS simulated
// days: memory in use, open descriptors and threads at the end of each day, which must not grow. Prints one JSON
// object.
//   cognitum-recorder-week FOLDER_OF_THE_PROGRAMS SPEED DAYS
#include "core/base/json_reader.h"
#include "demo/demo_bench.h"
#include "session/session.h"

#include <QCoreApplication>
#include <QDir>
#include <QEventLoop>
#include <QFile>
#include <QProcess>
#include <QTemporaryDir>
#include <QTimer>
#include <chrono>
#include <cstdio>
#include <malloc.h>
#include <sqlite3.h>
#include <unistd.h>

using namespace cognitum;

namespace {

constexpr int warm_up_ms = 8000, measured_ms = 20000;

void wait(int ms) {
    QEventLoop loop;
    QTimer::singleShot(ms, &loop, &QEventLoop::quit);
    loop.exec();
}

QByteArray read_all(const QString& path) {
    QFile file(path);
    return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
}

/// Seconds of processor time of a process, of all its threads.
double cpu_seconds(qint64 pid) {
    const QByteArray stat = read_all(QStringLiteral("/proc/%1/stat").arg(pid));
    const QList<QByteArray> fields = stat.mid(stat.lastIndexOf(')') + 2).split(' '); // from the state on, the third
    return fields.size() < 13 ? 0 : (fields[11].toDouble() + fields[12].toDouble()) / double(sysconf(_SC_CLK_TCK));
}

double resident_MB(qint64 pid) {
    const QList<QByteArray> pages = read_all(QStringLiteral("/proc/%1/statm").arg(pid)).split(' ');
    return pages.size() < 2 ? 0 : pages[1].toDouble() * double(sysconf(_SC_PAGESIZE)) / 1e6;
}

std::size_t entries(const char* folder) {
    return std::size_t(
        QDir(QLatin1String(folder)).entryList(QDir::AllEntries | QDir::System | QDir::NoDotAndDotDot).size());
}

Json at_rest(const QString& program, const QString& bench) {
    QProcess recorder;
    recorder.setProcessChannelMode(QProcess::ForwardedErrorChannel);
    recorder.start(program, {bench});
    if (!recorder.waitForStarted()) return {{"trouble", "the recorder did not start"}};
    wait(warm_up_ms);
    const double before = cpu_seconds(recorder.processId());
    wait(measured_ms);
    const Json out = {{"share", (cpu_seconds(recorder.processId()) - before) / (measured_ms / 1000.0)},
                      {"resident_MB", resident_MB(recorder.processId())}};
    recorder.terminate();
    recorder.waitForFinished(10000);
    return out;
}

TimeUs real_now() {
    using namespace std::chrono;
    return duration_cast<microseconds>(system_clock::now().time_since_epoch()).count();
}

Json day(int number, Session& session) {
    const struct mallinfo2 heap = mallinfo2();
    const Json out = {{"day", number},
                      {"heap_MB", double(heap.uordblks + heap.hblkhd) / 1e6},
                      {"database_cache_MB", double(sqlite3_memory_used()) / 1e6}, // bounded by itself, in the heap
                      {"resident_MB", resident_MB(getpid())},
                      {"descriptors", entries("/proc/self/fd")},
                      {"threads", entries("/proc/self/task")},
                      {"samples", session.worker().live().recording.saved}};
    std::fprintf(stderr, "%s\n", json_dump(out).c_str());
    return out;
}

Json week(const QString& bench, double speed, int days) {
    SessionOptions options;
    const TimeUs begin = real_now();
    options.clock = [begin, speed] { return begin + TimeUs(double(real_now() - begin) * speed); };
    options.simulation_arguments = {QStringLiteral("--speed"), QString::number(speed)};
    Session session(options);
    if (const auto opened = session.openBench(bench); !opened) return {{"trouble", opened.error().text()}};
    session.worker().startRecording();
    Json out = Json::array();
    for (int number = 0; number <= days; ++number) {
        wait(number == 0 ? 2000 : int(86400e3 / speed));
        out.push_back(day(number, session));
    }
    session.worker().endRecordingNow();
    session.closeBench();
    return out;
}

} // namespace

int main(int argc, char** argv) {
    QCoreApplication app(argc, argv);
    QCoreApplication::setApplicationName(QStringLiteral("cognitum-recorder-week"));
    if (argc != 4) {
        std::fputs("recorder-week: FOLDER SPEED DAYS\n", stderr);
        return 2;
    }
    const QTemporaryDir home;
    const QString rest = home.filePath(QStringLiteral("rest.cognitum"));
    const QString fast = home.filePath(QStringLiteral("fast.cognitum"));
    for (const QString& path : {rest, fast})
        if (!create_demo_bench(path.toStdString(), real_now())) return 1;
    const Json resting = at_rest(QString::fromLocal8Bit(argv[1]) + QStringLiteral("/cognitum-recorder"), rest);
    const Json days = week(fast, QByteArray(argv[2]).toDouble(), QByteArray(argv[3]).toInt());
    std::puts(json_dump({{"at_rest", resting}, {"week", days}}).c_str());
    return 0;
}
