#include "support/run_tests.h"

#include <QFileInfo>
#include <QTest>
#include <map>
#ifdef QT_WIDGETS_LIB
#include <QApplication>
#else
#include <QCoreApplication>
#endif

namespace cognitum::test {

namespace {

std::map<QString, MakeTest>& test_files() {
    static std::map<QString, MakeTest> files;
    return files;
}

} // namespace

TestFile::TestFile(const char* file, MakeTest make) {
    test_files()[QFileInfo(QString::fromUtf8(file)).completeBaseName().mid(4)] = std::move(make);
}

} // namespace cognitum::test

int main(int argc, char** argv) {
    const auto& files = cognitum::test::test_files();
    const QString name = argc > 1 ? QString::fromLocal8Bit(argv[1]) : QString();
    const auto found = files.find(name);
    if (found == files.end()) {
        fprintf(stderr, "Which tests? The first argument is one of:");
        for (const auto& [known, make] : files)
            fprintf(stderr, " %s", qPrintable(known));
        fprintf(stderr, "\n");
        return 2;
    }
    // Each has places of its own for what a program keeps under its name.
    QCoreApplication::setApplicationName(QFileInfo(QString::fromLocal8Bit(argv[0])).fileName() + '_' + name);
    std::vector<char*> rest(argv, argv + argc);
    rest.erase(rest.begin() + 1);
    int count = argc - 1;
#ifdef QT_WIDGETS_LIB
    QApplication app(count, rest.data());
    QApplication::setAttribute(Qt::AA_Use96Dpi);
#else
    QCoreApplication app(count, rest.data());
#endif
    return QTest::qExec(found->second().get(), count, rest.data());
}
