// Text from strangers is plain text: every text of a bench is markup, every page is looked at, and no label,
// message or tool tip reads it as a document.
#include "support/run_tests.h"
#include "support/test_window.h"
#include "ui/plain_text.h"

#include <QMessageBox>
#include <QToolTip>

using namespace cognitum;

namespace {

const QString evil = QStringLiteral("<img src='/dev/zero' width='9999'><b>x</b>");

Bench poisoned(Bench bench) {
    const std::string text = evil.toStdString();
    bench.name = bench.place = text;
    for (BoardUse& board : bench.boards)
        board.name = text;
    for (Reading& r : bench.readings) {
        r.name = r.quantity.place = r.sensor.reason = r.sensor.marking = text;
        r.sensor.rejected.push_back({"no-such-part" + text, text});
        r.source.field = text;
        r.bring_up.signs.push_back({"power", 1, text, true, text});
        r.bring_up.disturbed = 1;
        r.bring_up.disturbed_how = text;
    }
    ReferenceInstrument reference;
    reference.id = "ref";
    reference.name = reference.certificate = reference.design = text;
    reference.kind = "temperature";
    reference.unit = "degC";
    reference.u = 0.1;
    bench.references.push_back(reference);
    return bench;
}

} // namespace

class TestPlainText : public QObject {
    Q_OBJECT

    /// The first label that would read its text as a document.
    static QString reader(QWidget& window) {
        for (const QLabel* label : window.findChildren<QLabel*>())
            if (label->textFormat() != Qt::PlainText && Qt::mightBeRichText(label->text()))
                return label->objectName() + QStringLiteral(": ") + label->text();
        return {};
    }

  private slots:
    void everyPageShowsMarkupAsItStands() {
        test::TestWindow w;
        test::open_small_bench(w.clocked);
        w.clocked.session.edit("Poison", [](Bench& bench) { bench = poisoned(bench); });
        w.clocked.session.note("air", evil.toStdString(), [] { return evil.toStdString(); });
        w.clocked.send("# ok " + evil.toUtf8() + "\n" + evil.toUtf8() + ",A0\n1,140\n" + evil.toUtf8() + "\n");
        for (int stop = 0; stop < 7; ++stop) {
            w.window.showStop(stop);
            w.refresh();
            QVERIFY2(reader(w.window).isEmpty(), qPrintable(reader(w.window)));
        }
        for (const char* page : {"overview", "boards", "logbook"}) {
            w.window.showPage(QLatin1String(page));
            w.refresh();
            QVERIFY2(reader(w.window).isEmpty(), qPrintable(reader(w.window)));
        }
        int seen = 0; // and the markup was there to be seen
        for (const QLabel* label : w.window.findChildren<QLabel*>())
            seen += label->text().contains(QStringLiteral("<b>x</b>"));
        QVERIFY(seen > 3);
    }
    void messagesAndToolTipsToo() {
        const test::TestWindow w;
        QMessageBox box(QMessageBox::NoIcon, evil, evil, QMessageBox::Ok);
        box.setInformativeText(evil);
        box.show();
        QVERIFY2(reader(box).isEmpty(), qPrintable(reader(box)));
        QToolTip::showText(QPoint(10, 10), evil);
        int tips = 0;
        for (QWidget* top : QApplication::topLevelWidgets())
            if (auto* tip = qobject_cast<QLabel*>(top); tip && tip->text() == evil) {
                ++tips;
                QCOMPARE(tip->textFormat(), Qt::PlainText);
            }
        QCOMPARE(tips, 1);
        QToolTip::hideText();
    }
    void whatIsMeantAsADocumentStaysOne() {
        PlainTexts::install();
        QLabel label(QStringLiteral("<b>x</b>"));
        label.setTextFormat(Qt::RichText);
        label.show();
        QCOMPARE(label.textFormat(), Qt::RichText);
    }
};

RUN_TESTS_OF(TestPlainText)
#include "tst_plain_text.moc"
