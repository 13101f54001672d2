#include "support/register.h"

#include <QFileInfo>
#include <map>

namespace glyptos::test {
namespace {

std::map<QString, std::function<std::unique_ptr<QObject>()>>& all() {
    static std::map<QString, std::function<std::unique_ptr<QObject>()>> classes;
    return classes;
}

} // namespace

Registered::Registered(const char* file, std::function<std::unique_ptr<QObject>()> make) {
    all()[QFileInfo(QString::fromLocal8Bit(file)).completeBaseName()] = std::move(make);
}

int runTests(int argc, char** argv) {
    QStringList arguments;
    for (int i = 0; i < argc; ++i) arguments << QString::fromLocal8Bit(argv[i]);
    const auto chosen = argc > 1 ? all().find(arguments[1]) : all().end();
    if (chosen != all().end()) {
        arguments.removeAt(1);
        return QTest::qExec(chosen->second().get(), arguments);
    }
    int failed = 0;
    for (const auto& [name, make] : all()) failed += QTest::qExec(make().get(), arguments);
    return failed;
}

} // namespace glyptos::test
