// The tests of a folder are one program: `core_tests physics` runs those of tst_physics.cpp, with what Qt Test
// takes behind the name. CTest runs each in a process of its own, so that a crash takes nothing else with it.
#pragma once

#include <QObject>
#include <functional>
#include <memory>

namespace cognitum::test {

/// Makes the object whose private slots are the tests of one file.
using MakeTest = std::function<std::unique_ptr<QObject>()>;

/// Known to the program's main() from before it on; `file` is the path of the test's source.
struct TestFile {
    TestFile(const char* file, MakeTest make);
};

} // namespace cognitum::test

/// At the end of a tst_NAME.cpp: its tests are run under NAME.
#define RUN_TESTS_OF(Class)                                                                                        \
    static const cognitum::test::TestFile tests_of_##Class(__FILE__, [] { return std::make_unique<Class>(); });
