// Labels measure their texts themselves, so that a text is set once and not for each width that a layout asks for:
// the sizes must be QLabel's own.
#include "support/run_tests.h"
#include "ui/widgets/text_label.h"

#include <QFile>
#include <QRegularExpression>
#include <QTest>

using namespace cognitum;

namespace {

/// Every sentence of the interface in both languages, and some that no sentence is like.
QStringList sentences() {
    QFile file(QStringLiteral(COGNITUM_SOURCE_DIR "/assets/translations/cognitum_de.ts"));
    if (!file.open(QIODevice::ReadOnly)) qFatal("no translations");
    const QString all = QString::fromUtf8(file.readAll());
    QStringList out = {QStringLiteral("x"),
                       QStringLiteral(" leading and trailing  blanks  "),
                       QStringLiteral("one line\nand a second\n\nand a fourth after an empty one"),
                       QStringLiteral("≤ 3 → ± 0.05 °C · Ω µV ∞ "),
                       QStringLiteral("WWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWWW"),
                       QStringLiteral("a/b/c-d-e f,g;h a\u00a0b\u00a0c d\u2009e f\u00adg long\u00adhyphened"),
                       QStringLiteral("ends in an f"),
                       QStringLiteral("水位 20 cm 水位 21 cm 水位 22 cm 水位 23 cm 水位 24 cm")};
    static const QRegularExpression texts(QStringLiteral("<(?:source|translation)>([^<]+)<"));
    for (auto m = texts.globalMatch(all); m.hasNext();)
        out << m.next().captured(1);
    return out;
}

} // namespace

class TestTextLabel : public QObject {
    Q_OBJECT

  private slots:
    void sizesAreThoseOfQLabel();
    void anotherTextOrFontIsMeasuredAnew();
};

void TestTextLabel::sizesAreThoseOfQLabel() {
    Theme theme;
    const QStringList all = sentences();
    QVERIFY(all.size() > 1000);
    for (const double scale : {1.0, 1.5}) {
        theme.setScale(scale);
        for (const TextLabel::Role role : {TextLabel::Role::body, TextLabel::Role::small}) {
            TextLabel label(theme, role);
            QLabel plain;
            plain.setTextFormat(Qt::PlainText);
            plain.setWordWrap(true);
            plain.setFont(label.font());
            int number = 0;
            for (const QString& text : all) {
                if (++number > 40 && number % 23 != 0) continue; // each is measured fifteen times
                label.setText(text);
                plain.setText(text);
                const QByteArray about = text.toUtf8();
                QVERIFY2(label.sizeHint() == plain.sizeHint(), about);
                // A last letter that leans out of its place counts for each word here, for its own there.
                const QSize more = label.minimumSizeHint() - plain.minimumSizeHint();
                QVERIFY2(more.height() == 0 && (more.width() == 0 || more.width() == 1), about);
                const int natural = label.fontMetrics().horizontalAdvance(text);
                for (const int width :
                     {0, 40, 97, 180, 333, 500, 776, natural - 1, natural, natural + 1, natural + 4, natural + 9})
                    QVERIFY2(label.heightForWidth(width) == plain.heightForWidth(width),
                             about + " at " + QByteArray::number(width));
            }
        }
    }
}

void TestTextLabel::anotherTextOrFontIsMeasuredAnew() {
    Theme theme;
    TextLabel label(theme, TextLabel::Role::body, QStringLiteral("a few words that need more than one line"));
    const int height = label.heightForWidth(120);
    QCOMPARE(label.heightForWidth(120), height);
    label.setText(QStringLiteral("word"));
    QVERIFY(label.heightForWidth(120) < height);
    const QSize small = label.sizeHint();
    theme.setScale(2);
    QVERIFY(label.sizeHint().height() > small.height());
    QVERIFY(label.minimumSizeHint().width() > small.width());
}

RUN_TESTS_OF(TestTextLabel)
#include "tst_text_label.moc"
