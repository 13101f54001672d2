// All classes of tests in a folder make one program; each can be run by the name of its file.
#pragma once

#include <QTest>
#include <functional>
#include <memory>

namespace glyptos::test {

/// Puts a class of tests on the list of its program, under the name of its file without folder and suffix.
class Registered {
  public:
    Registered(const char* file, std::function<std::unique_ptr<QObject>()> make);
};

/// Runs the class that the first argument names, or all of them; further arguments are those of Qt Test.
int runTests(int argc, char** argv);

} // namespace glyptos::test

#define GLYPTOS_TEST(Class)                                                                                  \
    static const glyptos::test::Registered registered##Class(__FILE__,                                       \
                                                             [] { return std::make_unique<Class>(); });
