#include "app/session/application.h"
#include "support/register.h"

int main(int argc, char** argv) {
    const glyptos::Application app(argc, argv);
    return glyptos::test::runTests(argc, argv);
}
