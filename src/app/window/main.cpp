#include "app/session/application.h"
#include "app/session/engine.h"
#include "app/session/memory_budget.h"
#include "app/widgets/theme.h"
#include "app/window/main_window.h"

#include <QIcon>
#include <QSettings>
#include <csignal>
#include <iostream>

int main(int argc, char** argv) {
    if (qEnvironmentVariableIsEmpty("DISPLAY") && qEnvironmentVariableIsEmpty("WAYLAND_DISPLAY") &&
        qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM")) {
        std::cerr << "glyptos: there is no display to open a window on; use a desktop session, or "
                     "glyptos-cli, which needs none.\n";
        return 2;
    }
    std::signal(SIGXFSZ,
                SIG_IGN); // a file over the limit fails to be written and is reported, as a full disk is
    glyptos::Application app(argc, argv);
    QApplication::setOrganizationName(QStringLiteral("glyptos"));
    QApplication::setApplicationName(QStringLiteral("glyptos"));
    QApplication::setApplicationDisplayName(QStringLiteral("Glyptos"));
    QApplication::setDesktopFileName(QStringLiteral("glyptos"));
    QApplication::setWindowIcon(QIcon(QStringLiteral(":/icons/glyptos.svg")));
    auto forms = glyptos::shippedForms();
    if (!forms) {
        std::cerr << "glyptos: " << forms.error().message << '\n';
        return 2;
    }
    glyptos::applyTheme(app, QSettings().value(QStringLiteral("look/night"), false).toBool());
    glyptos::Engine engine;
    glyptos::applyMemoryShare(engine);
    glyptos::MainWindow window(engine, std::move(*forms));
    QObject::connect(&app, &glyptos::Application::failed, &window, &glyptos::MainWindow::tell);
    window.show();
    const QStringList arguments = QApplication::arguments();
    if (arguments.size() > 1)
        window.openFile(arguments[1]);
    else
        window.begin();
    return QApplication::exec();
}
