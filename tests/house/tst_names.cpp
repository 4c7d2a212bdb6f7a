// Files of a folder compile together (CMakeLists.txt), so a helper in an anonymous namespace is seen by its
// neighbours: one of the same name with other parameters would answer them, and no compiler complains.
#include "support/run_tests.h"
#include <QDirIterator>
#include <QMap>
#include <QRegularExpression>
#include <QSet>
#include <QTest>

namespace {

using Texts = QMap<QString, QString>; ///< path to text

const QRegularExpression
    function_line("^(?:\\[\\[nodiscard\\]\\] )?(?!using|struct|class|enum|static_assert|return)"
                  "[A-Za-z_][\\w:<>,&*\\[\\] ]*?[ &*>](\\w+)\\(");

/// Functions that begin in the first column: those of no class.
QSet<QString> functions(const QString& text, bool hidden) {
    QSet<QString> out;
    bool inside = false;
    for (const QString& line : text.split('\n')) {
        if (line == "namespace {") inside = true;
        if (line == "} // namespace") inside = false;
        const auto match = function_line.match(line);
        if (inside == hidden && match.hasMatch()) out.insert(match.captured(1));
    }
    return out;
}

/// What a folder's files hide from all but each other, and share with a neighbour or with a header that one uses.
QStringList taken(const Texts& folder, const QSet<QString>& in_headers) {
    QStringList out;
    QMap<QString, QString> first;
    for (auto file = folder.begin(); file != folder.end(); ++file)
        for (const QString& name : functions(file.value(), true)) {
            if (first.contains(name)) out << name + "() is in " + first[name] + " and in " + file.key();
            first.insert(name, file.key());
            if (!in_headers.contains(name)) continue;
            const QRegularExpression used("(?<![\\w.>:])" + name + "\\(");
            for (auto other = folder.begin(); other != folder.end(); ++other)
                if (other.key() != file.key() && used.match(other.value()).hasMatch())
                    out << name + "() of " + file.key() + " would answer " + other.key() +
                               ", which means a header's";
        }
    return out;
}

Texts texts_in(const QString& root, const QString& pattern) {
    Texts out;
    QDirIterator it(QStringLiteral(COGNITUM_SOURCE_DIR "/") + root, {pattern}, QDir::Files,
                    QDirIterator::Subdirectories);
    while (it.hasNext()) {
        QFile file(it.next());
        if (file.open(QIODevice::ReadOnly)) out.insert(file.fileName(), QString::fromUtf8(file.readAll()));
    }
    return out;
}

} // namespace

class TestNames : public QObject {
    Q_OBJECT

  private slots:
    void neighboursHideNothingOfOneName_data() {
        QTest::addColumn<QString>("root");
        QTest::newRow("program") << "src";
        QTest::newRow("tests") << "tests";
    }
    void neighboursHideNothingOfOneName() {
        QFETCH(QString, root);
        QSet<QString> in_headers;
        for (const QString& headers : root == "src" ? QStringList{"src"} : QStringList{"src", "tests/support"})
            for (const QString& text : texts_in(headers, "*.h"))
                in_headers += functions(text, false);
        QVERIFY(in_headers.contains("drift_of"));
        QMap<QString, Texts> folders;
        const Texts all = texts_in(root, "*.cpp");
        QVERIFY(all.size() > 100);
        for (auto file = all.begin(); file != all.end(); ++file)
            if (!file.key().contains("/fuzz/")) // each a program of its own
                folders[file.key().section('/', 0, -2)].insert(file.key(), file.value());
        QStringList found;
        for (const Texts& folder : folders)
            found += taken(folder, in_headers);
        QVERIFY2(found.isEmpty(), qPrintable(found.join('\n')));
    }
    void itIsNoticed() {
        const QString hides = "namespace {\n\ndouble level(double raw) {\n    return raw;\n}\n\n} // namespace\n";
        const QString uses = "double both() {\n    return level(1) + tank.depth(2);\n}\n";
        QCOMPARE(taken({{"a", hides}, {"b", hides}}, {}).size(), 1);
        QCOMPARE(taken({{"a", hides}, {"b", uses}}, {"level"}).size(), 1);
        QVERIFY(taken({{"a", hides}, {"b", uses}}, {"depth"}).isEmpty()); // a member, and not hidden
        QVERIFY(taken({{"a", hides}, {"b", uses}}, {}).isEmpty());        // then b does not compile alone
    }
};

RUN_TESTS_OF(TestNames)
#include "tst_names.moc"
