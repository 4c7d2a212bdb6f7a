// Passwords of brokers: kept only when asked to, found again for the same place and no other, never in the bench.
#include "link/mqtt_link.h"
#include "session/secrets.h"
#include "support/clocked_session.h"
#include "support/run_tests.h"

#include <QFile>
#include <QSignalSpy>
#include <map>

using namespace cognitum;
using namespace cognitum::test;

namespace {

/// As a desktop's service: answers, or says that it is locked.
class MemoryStore : public SecretStore {
  public:
    struct Shelf {
        std::map<QString, Login> kept;
        bool locked = false;
        int asked = 0;
    };
    explicit MemoryStore(Shelf& shelf) : m_shelf(shelf) {}
    void keep(const QString& place, const Login& login,
              const std::function<void(const QString&)>& answer) override {
        if (!m_shelf.locked) m_shelf.kept[place] = login;
        answer(m_shelf.locked ? QStringLiteral("It is locked.") : QString());
    }
    void find(const QString& place, const std::function<void(const std::optional<Login>&)>& answer) override {
        ++m_shelf.asked;
        const auto found = m_shelf.kept.find(place);
        answer(m_shelf.locked || found == m_shelf.kept.end() ? std::nullopt : std::optional(found->second));
    }
    void forget(const QString& place) override { m_shelf.kept.erase(place); }

  private:
    Shelf& m_shelf;
};

void publish_with_login(Session& session, const char* host, int port) {
    session.edit("Publish", [&](Bench& bench) {
        bench.publishing.host = host;
        bench.publishing.port = port;
        bench.publishing.log_in = true;
    });
}

} // namespace

class TstSecrets : public QObject {
    Q_OBJECT

  private slots:
    void aKeptOneIsFoundAtTheNextStart() {
        MemoryStore::Shelf shelf;
        {
            ClockedSession s;
            open_small_bench(s);
            s.session.secrets().setStore(std::make_unique<MemoryStore>(shelf));
            publish_with_login(s.session, "127.0.0.1", 1);
            QVERIFY(s.session.messenger().wantsSecret());
            s.session.secrets().look();
            QVERIFY(s.session.messenger().wantsSecret()); // nobody knows it yet
            s.session.secrets().giveToBroker({"keeper", "lantern"}, true);
            QVERIFY(!s.session.messenger().wantsSecret());
            s.session.savePlan();
            QFile bench(s.session.path());
            QVERIFY(bench.open(QIODevice::ReadOnly));
            QVERIFY(!bench.readAll().contains("lantern"));
        }
        QCOMPARE(shelf.kept.at(broker_place("127.0.0.1", 1, false)), (Login{"keeper", "lantern"}));
        ClockedSession s;
        open_small_bench(s);
        s.session.secrets().setStore(std::make_unique<MemoryStore>(shelf));
        publish_with_login(s.session, "127.0.0.1", 1);
        s.session.secrets().look();
        QVERIFY(!s.session.messenger().wantsSecret());
    }

    void nothingIsKeptUnasked() {
        MemoryStore::Shelf shelf;
        ClockedSession s;
        open_small_bench(s);
        s.session.secrets().setStore(std::make_unique<MemoryStore>(shelf));
        publish_with_login(s.session, "127.0.0.1", 1);
        s.session.secrets().giveToBroker({"keeper", "lantern"}, false);
        QVERIFY(shelf.kept.empty());
    }

    void anotherPlaceDoesNotGetIt() {
        MemoryStore::Shelf shelf;
        shelf.kept[broker_place("127.0.0.1", 1, true)] = {"keeper", "lantern"}; // over TLS
        shelf.kept[broker_place("127.0.0.1", 2, false)] = {"keeper", "lantern"};
        ClockedSession s;
        open_small_bench(s);
        s.session.secrets().setStore(std::make_unique<MemoryStore>(shelf));
        publish_with_login(s.session, "127.0.0.1", 1);
        s.session.secrets().look();
        QVERIFY(s.session.messenger().wantsSecret());
        s.session.secrets().look();
        QCOMPARE(shelf.asked, 1); // not again and again
    }

    void aLockedServiceIsSaid() {
        MemoryStore::Shelf shelf;
        shelf.locked = true;
        ClockedSession s;
        open_small_bench(s);
        s.session.secrets().setStore(std::make_unique<MemoryStore>(shelf));
        QSignalSpy said(&s.session.secrets(), &Secrets::said);
        publish_with_login(s.session, "127.0.0.1", 1);
        s.session.secrets().giveToBroker({"keeper", "lantern"}, true);
        QCOMPARE(said.size(), 1);
        QCOMPARE(said[0][0].toString(), QStringLiteral("It is locked."));
        QVERIFY(!s.session.messenger().wantsSecret()); // it works all the same, until the end
    }

    void aBoardsLinkGetsIt() {
        MemoryStore::Shelf shelf;
        shelf.kept[broker_place("127.0.0.1", 1, false)] = {"keeper", "lantern"};
        Session session; // its links are real
        QTemporaryDir folder;
        QVERIFY(session.createBench(folder.filePath("b.cognitum"), "B"));
        session.edit("Board", [](Bench& bench) {
            BoardUse board;
            board.id = board.name = "far";
            board.link = LinkPlan::broker("127.0.0.1", 1);
            board.link.mqtt.log_in = true;
            bench.boards.push_back(board);
        });
        QTRY_VERIFY(!session.worker().live().boards["far"].secret_wanted.isEmpty());
        QCOMPARE(session.worker().live().boards["far"].secret_wanted, broker_place("127.0.0.1", 1, false));
        session.secrets().setStore(std::make_unique<MemoryStore>(shelf));
        session.secrets().look();
        QTRY_VERIFY(session.worker().live().boards["far"].secret_wanted.isEmpty());
        QCOMPARE(session.secrets().forgetAll(), 1);
        QVERIFY(shelf.kept.empty());
    }
};

RUN_TESTS_OF(TstSecrets)
#include "tst_secrets.moc"
