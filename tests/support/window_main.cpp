#include "app/session/application.h"
#include "support/random_edits.h"
#include "support/register.h"

int main(int argc, char** argv) {
    const glyptos::Application app(argc, argv);
    const QStringList arguments = QCoreApplication::arguments();
    if (arguments.size() == 5 && arguments[1] == QStringLiteral("--edit-at-random"))
        return glyptos::test::editAtRandom(arguments[2].toUInt(), arguments[3], arguments[4]);
    return glyptos::test::runTests(argc, argv);
}
