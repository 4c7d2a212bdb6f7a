// The counts of docs/extending.md are those of the tree.
#include "support/run_tests.h"
#include <QDirIterator>
#include <QRegularExpression>
#include <QTest>

class TestExtending : public QObject {
    Q_OBJECT

    static QString read(const QString& path) {
        QFile file(path);
        return file.open(QIODevice::ReadOnly) ? QString::fromUtf8(file.readAll()) : QString();
    }

  private slots:
    void filesAreCounted_data() {
        QTest::addColumn<int>("files");
        QTest::addColumn<QString>("word");
        static const QRegularExpression row("^\\| (.+) \\| (\\d+) \\| `(.+)` \\|$",
                                            QRegularExpression::MultilineOption);
        const QString text = read(QStringLiteral(COGNITUM_SOURCE_DIR "/docs/extending.md"));
        int rows = 0;
        for (auto it = row.globalMatch(text); it.hasNext(); ++rows) {
            const auto match = it.next();
            QTest::newRow(qPrintable(match.captured(1))) << match.captured(2).toInt() << match.captured(3);
        }
        QVERIFY(rows >= 8);
    }
    void filesAreCounted() {
        QFETCH(int, files);
        QFETCH(QString, word);
        static const QStringList texts = [] {
            QStringList out;
            QDirIterator it(QStringLiteral(COGNITUM_SOURCE_DIR "/src"), {"*.h", "*.cpp"}, QDir::Files,
                            QDirIterator::Subdirectories);
            while (it.hasNext())
                out << read(it.next());
            return out;
        }();
        const QRegularExpression whole("(?<![\\w-])" + QRegularExpression::escape(word) + "(?![\\w-])");
        QCOMPARE(texts.filter(whole).size(), files);
    }
};

RUN_TESTS_OF(TestExtending)
#include "tst_extending.moc"
