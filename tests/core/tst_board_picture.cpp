// A board as a picture, and all findings as a list of work: nothing is lost, and the order is that of need.
#include "core/plan/assign.h"
#include "core/plan/bill.h"
#include "core/plan/board_picture.h"
#include "core/plan/findings_order.h"
#include "demo/demo_bench.h"
#include "store/file/data_files.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <map>
#include <set>

using namespace cognitum;

class TestBoardPicture : public QObject {
    Q_OBJECT

  private slots:
    void initTestCase() {
        m_catalog = load_catalog().catalog;
        m_bench = load_bench_json(data_folder() + "/demo/whelk-point.json").value_or(Bench{});
        QVERIFY(!m_bench.boards.empty());
    }

    void everyPinStandsOnce() {
        for (const BoardCard& card : m_catalog.boards) {
            Bench bench;
            BoardUse use;
            use.id = use.name = "b";
            use.card = card.id;
            bench.boards = {use};
            const BoardPicture picture = board_picture(bench, m_catalog, use);
            std::set<std::string> labels;
            for (const auto* side : {&picture.left, &picture.right})
                for (const PicturedPin& pin : *side)
                    QVERIFY2(labels.insert(pin.label).second, (card.id + " " + pin.label).c_str());
            QCOMPARE(labels.size(), card.pins.size());
            QVERIFY2(4 * std::min(picture.left.size(), picture.right.size()) + 3 >=
                         std::max(picture.left.size(), picture.right.size()),
                     card.id.c_str()); // it stands on both legs
        }
    }

    void whoSitsThereIsWhoIsWiredThere() {
        for (const BoardUse& use : m_bench.boards) {
            const BoardPicture picture = board_picture(m_bench, m_catalog, use);
            const BoardCard* card = m_catalog.board(use.card);
            if (!card) {
                QVERIFY(picture.left.empty() && picture.right.empty());
                continue;
            }
            int free = 0;
            for (const auto* side : {&picture.left, &picture.right})
                for (const PicturedPin& shown : *side) {
                    const Pin* pin = card->pin(shown.label);
                    const bool used = pin_is_used(m_bench, use, *pin);
                    QCOMPARE(shown.use == PicturedPin::Use::free, !used && pin->taken_by.empty());
                    free += shown.use == PicturedPin::Use::free;
                    if (used) QCOMPARE(shown.user, pin_user(m_bench, m_catalog, use, *pin));
                    if (shown.reading.empty()) continue;
                    const auto& pins = m_bench.reading(shown.reading)->wiring.pins;
                    QVERIFY(std::any_of(pins.begin(), pins.end(),
                                        [&](const Connection& c) { return c.pin == shown.label; }));
                }
            QCOMPARE(picture.free, free);
            QCOMPARE(picture.rails.size(), board_budget(m_bench, m_catalog, use).rails.size());
        }
        const BoardPicture gauge = board_picture(m_bench, m_catalog, *m_bench.board("gauge"));
        QVERIFY2(gauge.spoken().find("Pin A2: Hut air.") != std::string::npos, gauge.spoken().c_str());
    }

    void partsOnOneBusShareItsPins() {
        // Two readings and a converter on one bus; the two quantities of one part are one user.
        const auto shared_of = [&](const char* board) {
            const BoardPicture picture = board_picture(m_bench, m_catalog, *m_bench.board(board));
            std::set<std::string> out;
            for (const auto* side : {&picture.left, &picture.right})
                for (const PicturedPin& pin : *side)
                    if (pin.shared) {
                        out.insert(pin.label);
                        if (pin.user.find("Cistern") == std::string::npos) qFatal("%s", pin.user.c_str());
                    }
            return out;
        };
        QCOMPARE(shared_of("pump-house"), (std::set<std::string>{"D1", "D2"}));
        QVERIFY(shared_of("shed").empty());
    }

    void everyLineOfTheBillHasAName() {
        for (const BillRow& row : bill_of_materials(m_bench, m_catalog)) {
            QVERIFY2(!row.item.empty() && !row.what.empty(), (row.item + "|" + row.what).c_str());
            QVERIFY(row.count > 0);
        }
    }

    void findingsInTheOrderOfNeed() {
        const auto finding = [](Severity severity, Stop stop, const char* message) {
            Finding f;
            f.severity = severity;
            f.stop = stop;
            f.message = message;
            return f;
        };
        Finding burns = finding(Severity::note, Stop::watch, "burns");
        burns.is_caution = true;
        Finding floats = finding(Severity::look, Stop::convert, "floats");
        floats.measures_nothing = true;
        const std::vector<Finding> mixed = {finding(Severity::note, Stop::raw, "note"),
                                            finding(Severity::look, Stop::watch, "late look"),
                                            finding(Severity::error, Stop::convert, "late error"),
                                            burns,
                                            floats,
                                            finding(Severity::error, Stop::wiring, "early error"),
                                            finding(Severity::look, Stop::wiring, "early look")};
        std::string order;
        std::vector<Need> needs;
        for (const FindingGroup& group : by_need(mixed)) {
            needs.push_back(group.need);
            for (const Finding& f : group.findings)
                order += f.message + ";";
        }
        QCOMPARE(order, std::string("burns;early error;late error;floats;early look;late look;note;"));
        QVERIFY((needs == std::vector<Need>{Need::beware, Need::first, Need::then, Need::know}));
        QCOMPARE(count_to_do(mixed), 5);
        for (const FindingGroup& group : by_need(mixed)) {
            const bool to_do = group.need == Need::first || group.need == Need::then;
            QCOMPARE(count_to_do(group.findings), to_do ? static_cast<int>(group.findings.size()) : 0);
        }
        QVERIFY(by_need({}).empty());
        // Of the demo nothing is lost.
        const std::vector<Finding> all = check_bench(m_bench, m_catalog);
        std::size_t n = 0;
        for (const FindingGroup& group : by_need(all))
            n += group.findings.size();
        QCOMPARE(n, all.size());
    }

  private:
    Catalog m_catalog;
    Bench m_bench;
};

RUN_TESTS_OF(TestBoardPicture)
#include "tst_board_picture.moc"
