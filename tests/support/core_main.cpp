#include "support/register.h"

#include <QCoreApplication>

int main(int argc, char** argv) {
    const QCoreApplication app(argc, argv);
    return glyptos::test::runTests(argc, argv);
}
