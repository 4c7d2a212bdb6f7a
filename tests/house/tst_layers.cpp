// Reads the includes of src/ and fails on an arrow that points up; the core and the store stay without Qt.
#include "support/run_tests.h"
#include <QDirIterator>
#include <QRegularExpression>
#include <QTest>

class TestLayers : public QObject {
    Q_OBJECT

  private:
    /// Which layers each may include; itself is not named.
    const QMap<QString, QStringList> m_below = {
        {"core", {}},
        {"store", {"core"}},
        {"demo", {"core", "store"}},
        {"mirror", {"core", "store"}},
        {"link", {"core", "store"}},
        {"session", {"core", "store", "demo", "link"}},
        {"ui", {"core", "store", "demo", "link", "session"}},
        {"app", {"core", "store", "demo", "link", "session", "ui"}},
        {"recorder", {"core", "store", "demo", "link", "session"}},
        {"cli", {"core", "store", "demo", "mirror"}},
        {"machine", {"core", "store"}},
        {"simboard", {"core", "store", "demo", "machine"}},
        {"processor", {"core", "store", "demo", "machine"}},
        {"reader", {"core", "store"}},
    };
    const QStringList m_without_qt = {"core",     "store",   "demo",      "mirror", "cli",
                                      "simboard", "machine", "processor", "reader"};

    /// Sentences about the includes of one file's text.
    QStringList problems(const QString& layer, const QString& name, const QString& text) const {
        static const QRegularExpression include("^\\s*#\\s*include\\s*[<\"]([^\">]+)[\">]",
                                                QRegularExpression::MultilineOption);
        QStringList out;
        for (auto it = include.globalMatch(text); it.hasNext();) {
            const QString target = it.next().captured(1);
            const QString first = target.section('/', 0, 0);
            if (m_below.contains(first) && target.contains('/') && first != layer &&
                !m_below[layer].contains(first))
                out << name + " includes " + target + ", which is above it";
            static const QRegularExpression qt("^Q[A-Z]|^Qt");
            if (m_without_qt.contains(layer) && qt.match(target).hasMatch())
                out << name + " includes Qt: " + target;
            static const QStringList input_output = {"iostream", "fstream", "filesystem", "cstdio", "stdio.h"};
            if (layer == "core" && input_output.contains(target)) out << name + " does input or output: " + target;
        }
        return out;
    }

    /// "core/plan" for core/plan/rules/rules_bus.cpp; "ui" for ui/theme.h.
    static QString room_of(const QString& path) {
        return path.count('/') > 1 ? path.section('/', 0, 1) : path.section('/', 0, 0);
    }

    static void add_arrows(QMap<QString, QSet<QString>>& below, const QString& name, const QString& text) {
        static const QRegularExpression include("^#include \"([^\"]+)\"", QRegularExpression::MultilineOption);
        QSet<QString>& arrows = below[room_of(name)];
        for (auto it = include.globalMatch(text); it.hasNext();) {
            const QString target = it.next().captured(1);
            if (target.section('/', 0, 0) == name.section('/', 0, 0) && room_of(target) != room_of(name))
                arrows << room_of(target);
        }
    }

    /// What is left when rooms that lead nowhere are taken away again and again.
    static QStringList in_rings(QMap<QString, QSet<QString>> below) {
        const auto leads_on = [&](const QSet<QString>& arrows) {
            return std::any_of(arrows.begin(), arrows.end(),
                               [&](const QString& room) { return below.contains(room); });
        };
        for (bool taken = true; taken;) {
            taken = false;
            for (const QString& room : below.keys())
                if (!leads_on(below[room])) taken |= below.remove(room) > 0;
        }
        return below.keys();
    }

  private slots:
    void noArrowPointsUp() {
        QStringList found;
        int files = 0;
        QDirIterator it(QStringLiteral(COGNITUM_SOURCE_DIR "/src"), {"*.h", "*.cpp"}, QDir::Files,
                        QDirIterator::Subdirectories);
        while (it.hasNext()) {
            QFile file(it.next());
            QVERIFY(file.open(QIODevice::ReadOnly));
            const QString name = QDir(QStringLiteral(COGNITUM_SOURCE_DIR "/src")).relativeFilePath(file.fileName());
            found += problems(name.section('/', 0, 0), name, QString::fromUtf8(file.readAll()));
            ++files;
        }
        QVERIFY(files > 50);
        QVERIFY2(found.isEmpty(), qPrintable(found.join('\n')));
    }

    /// strtod("0.25") is 0 on a desktop with a decimal comma, what is printed there has one, and a Turkish one has
    /// no small letter for I.
    void nothingFollowsTheCountry() {
        static const QRegularExpression follows(
            "\\b(strto(d|f|ld)|sto(d|f|ld)|atof|v?sn?printf|"
            "to(lower|upper)|is(alpha|alnum|digit|punct|upper|lower|space))\\(");
        QStringList found;
        QDirIterator it(QStringLiteral(COGNITUM_SOURCE_DIR "/src"), {"*.h", "*.cpp"}, QDir::Files,
                        QDirIterator::Subdirectories);
        while (it.hasNext()) {
            QFile file(it.next());
            QVERIFY(file.open(QIODevice::ReadOnly));
            const QString text = QString::fromUtf8(file.readAll());
            for (auto use = follows.globalMatch(text); use.hasNext();)
                found << file.fileName() + ": " + use.next().captured();
        }
        QVERIFY2(found.isEmpty(), qPrintable(found.join('\n')));
    }

    /// The rooms of a layer stand above each other as the layers do: none is reached again from what it includes.
    /// In the session, Session and its parts know each other.
    void roomsOfALayerFormNoRing() {
        QMap<QString, QSet<QString>> below;
        QDirIterator it(QStringLiteral(COGNITUM_SOURCE_DIR "/src"), {"*.h", "*.cpp"}, QDir::Files,
                        QDirIterator::Subdirectories);
        while (it.hasNext()) {
            QFile file(it.next());
            QVERIFY(file.open(QIODevice::ReadOnly));
            const QString name = QDir(QStringLiteral(COGNITUM_SOURCE_DIR "/src")).relativeFilePath(file.fileName());
            if (!name.startsWith("session/")) add_arrows(below, name, QString::fromUtf8(file.readAll()));
        }
        QVERIFY(below["core/plan"].contains("core/bench"));
        QVERIFY2(in_rings(below).isEmpty(), qPrintable(in_rings(below).join(", ")));
    }

    void theTestItselfSeesRings() {
        QMap<QString, QSet<QString>> below;
        add_arrows(below, "core/a/x.cpp", "#include \"core/b/y.h\"\n#include \"core/a/x.h\"");
        add_arrows(below, "core/b/inner/y.h", "#include \"core/c/z.h\"\n#include \"store/c/z.h\"");
        QCOMPARE(in_rings(below), QStringList());
        add_arrows(below, "core/c/z.cpp", "#include \"core/a/x.h\"");
        QCOMPARE(in_rings(below), (QStringList{"core/a", "core/b", "core/c"}));
    }

    /// One name, one meaning: nobody has to ask which of two headers is meant.
    void headersHaveNamesOfTheirOwn() {
        QMap<QString, QString> known;
        QDirIterator it(QStringLiteral(COGNITUM_SOURCE_DIR "/src"), {"*.h"}, QDir::Files,
                        QDirIterator::Subdirectories);
        while (it.hasNext()) {
            const QString path = it.next(), name = it.fileName();
            QVERIFY2(!known.contains(name), qPrintable(known[name] + " and " + path));
            known[name] = path;
        }
    }

    void theTestItselfSeesArrows() {
        QCOMPARE(problems("core", "x", "#include \"store/samples/samples.h\"").size(), 1);
        QCOMPARE(problems("core", "x", "#include <QString>").size(), 1);
        QCOMPARE(problems("core", "x", "#include <fstream>").size(), 1);
        QCOMPARE(problems("store", "x", "#include \"link/link.h\"").size(), 1);
        QCOMPARE(problems("store", "x", "#include \"demo/world.h\"").size(), 1);
        QCOMPARE(problems("link", "x", "#include \"demo/world.h\"").size(), 1);
        QCOMPARE(problems("ui", "x", "#include \"core/base/error.h\"").size(), 0);
    }
};

RUN_TESTS_OF(TestLayers)
#include "tst_layers.moc"
