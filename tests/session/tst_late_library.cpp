// A library that is loaded when it is called first: its functions, and one that is not on this computer.
#include "link/late_library.h"
#include "link/mqtt_publisher.h"
#include "session/session.h"
#include "support/run_tests.h"

#include <QTest>
#include <dlfcn.h>

using namespace cognitum;

class TestLateLibrary : public QObject {
    Q_OBJECT

  private slots:
    void functionsAreFoundByName() {
        LateLibrary mathematics("libm.so.6");
        auto* cosine = mathematics.find<double(double)>("cos");
        QVERIFY(cosine);
        QCOMPARE(cosine(0), 1.0);
        QVERIFY(!mathematics.find<double(double)>("no_such_function"));
        QVERIFY(mathematics.find<double(double)>("cos") == cosine);
    }

    /// A session loads neither of the two network libraries, which bring a dozen more along, before it needs one.
    void aSessionThatSpeaksToNoBrokerLoadsNone() {
        const auto is_loaded = [](const char* file) {
            void* handle = dlopen(file, RTLD_NOW | RTLD_NOLOAD);
            if (handle) dlclose(handle);
            return handle != nullptr;
        };
        Session session;
        QVERIFY(!is_loaded("libmosquitto.so.1"));
        QVERIFY(!is_loaded("libmicrohttpd.so.12"));
        MqttPublisher publisher;
        publisher.goTo({QStringLiteral("127.0.0.1"), 1, {}});
        QVERIFY(is_loaded("libmosquitto.so.1"));
    }

    void aLibraryThatIsMissingHasNone() {
        LateLibrary none("libwhelk-point.so.7");
        QVERIFY(!none.find<int()>("anything"));
        QVERIFY(!none.find<int()>("anything"));
    }
};

RUN_TESTS_OF(TestLateLibrary)
#include "tst_late_library.moc"
