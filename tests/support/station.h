// The demo's window at its Calibrate stop, with Whelk Point's simulated boards sending into it on the test's clock.
#pragma once

#include "demo/board.h"
#include "support/test_window.h"
#include "ui/stops/calibrate/calibrate_page.h"

#include <map>

namespace cognitum::test {

inline constexpr std::uint64_t station_seed = 20261;

/// The window with Whelk Point's boards sending into it, on the test's clock.
class Station : public TestWindow {
  public:
    Station() {
        openDemo();
        for (const std::string& name : demo::board_names()) {
            boards[name] = demo::make_board(name, {station_seed, 0, 0}, clocked.now);
            for (const demo::Sent& sent : boards[name]->start(clocked.now))
                hear(name, sent);
        }
        boards["gauge"]->command("wave off", clocked.now);
    }
    void hear(const std::string& name, const demo::Sent& sent) {
        const QByteArray bytes = QByteArray::fromStdString(sent.bytes);
        if (name == "gauge" || name == "beacon-log")
            clocked.session.worker().injectBytesNow(name, bytes);
        else
            clocked.session.worker().injectMessageNow(name,
                                                      {QString::fromStdString(sent.channel), bytes, sent.retained});
    }
    void run(double s) {
        const TimeUs end = clocked.now + from_seconds(s);
        while (clocked.now < end) {
            TimeUs next = end;
            for (const auto& [name, board] : boards)
                next = std::min(next, std::max(clocked.now + 1, board->next()));
            clocked.now = next;
            for (const auto& [name, board] : boards)
                for (const demo::Sent& sent : board->step(clocked.now))
                    hear(name, sent);
        }
        refresh();
    }
    void tell(const std::string& line) { boards["gauge"]->command(line, clocked.now); }
    CalibratePage& page() { return *window.findChild<CalibratePage*>(); }
    void open(const char* reading) {
        window.context().selectReading(reading);
        window.showStop(5);
        run(1);
    }
    /// Types a reference and takes the point, steady or not.
    void take(double reference, double u) {
        type("referenceValue", qPrintable(QString::number(reference, 'g', 9)));
        type("referenceDoubt", qPrintable(QString::number(u, 'g', 6)));
        const std::size_t before = page().points().size();
        click("takePoint");
        QCOMPARE(page().points().size(), before + 1);
    }
    /// What the reading says now, corrected, and how sure.
    double shown(const char* id) { return clocked.session.worker().live().readings.at(id).value.number; }
    double expanded(const char* id) {
        const Reading& r = reading(id);
        const Live live = clocked.session.worker().live();
        return clocked.session.views().budget(r, live.readings.at(id).raw, live).expanded();
    }

    std::map<std::string, std::unique_ptr<demo::Board>> boards;
};

} // namespace cognitum::test
