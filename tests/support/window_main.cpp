#include "app/session/application.h"
#include "support/register.h"

#include <QTemporaryDir>

int main(int argc, char** argv) {
    // Journals of windows that tests open are theirs alone.
    const QTemporaryDir state;
    qputenv("XDG_STATE_HOME", state.path().toLocal8Bit());
    const glyptos::Application app(argc, argv);
    return glyptos::test::runTests(argc, argv);
}
