// A library that is loaded when it is called first: its functions, and one that is not on this computer.
#include "link/late_library.h"
#include "support/run_tests.h"

#include <QTest>

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

    void aLibraryThatIsMissingHasNone() {
        LateLibrary none("libwhelk-point.so.7");
        QVERIFY(!none.find<int()>("anything"));
        QVERIFY(!none.find<int()>("anything"));
    }
};

RUN_TESTS_OF(TestLateLibrary)
#include "tst_late_library.moc"
