// take-screenshots RELEASE FOLDER: one picture of each main view at 1280 × 800, from a release.
#include "app/main_window.h"
#include "app/theme.h"
#include "release/placing.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QStandardPaths>
#include <iostream>

namespace {

using namespace glyptos;

void settle(MainWindow& window, const std::function<bool()>& done) {
    QElapsedTimer clock;
    clock.start();
    do QApplication::processEvents(QEventLoop::AllEvents, 20);
    while ((window.isBusy() || !done()) && clock.elapsed() < 60000);
    for (int i = 0; i < 20; ++i) QApplication::processEvents(QEventLoop::AllEvents, 20);
}

bool shoot(
    MainWindow& window, const QString& folder, const QString& name,
    const std::function<bool()>& done = [] { return true; }) {
    settle(window, done);
    const QPixmap shot = window.grab();
    return shot.save(folder + QLatin1Char('/') + name + QStringLiteral(".png"));
}

/// Two takes of the cover side by side; the second with its light turned down.
bool shootTakes(MainWindow& window, const QString& folder) {
    ComposeView& compose = *window.compose();
    if (window.document()->piece()->takes.size() < 2) window.document()->newTake();
    compose.grid()->setSideBySide(true);
    const bool fine = shoot(window, folder, QStringLiteral("takes"));
    compose.grid()->setSideBySide(false);
    return fine;
}

/// The cover split with a reference, and the size ladder.
bool shootReference(MainWindow& window, const QString& folder) {
    Document& document = *window.document();
    const SourcePtr source = document.release()->sources.front();
    const Panel* panel = document.piece()->flat->panel(document.panel().panel);
    Reference reference = referenceOver(panel->trim(), *source);
    reference.way = Reference::Way::Split;
    document.edit(QStringLiteral("Reference"),
                  withReference(document.release(), document.panel(), reference));
    window.compose()->ladder()->show();
    const bool fine = shoot(window, folder, QStringLiteral("reference"));
    window.compose()->ladder()->hide();
    document.edit(QStringLiteral("Reference"),
                  withReference(document.release(), document.panel(), std::nullopt));
    return fine;
}

} // namespace

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QStandardPaths::setTestModeEnabled(true);
    QApplication app(argc, argv);
    QApplication::setOrganizationName(QStringLiteral("glyptos-screenshots"));
    if (argc != 3) {
        std::cerr << "take-screenshots: name a release and a folder\n";
        return 2;
    }
    auto forms = shippedForms();
    if (!forms) {
        std::cerr << "take-screenshots: " << forms.error().message << '\n';
        return 2;
    }
    applyTheme(app, false);
    Engine engine;
    MainWindow window(engine, *forms);
    window.resize(1280, 800);
    window.show();
    bool open = false;
    QObject::connect(&window, &MainWindow::opened, [&] { open = true; });
    window.openFile(QString::fromLocal8Bit(argv[1]));
    settle(window, [&] { return open; });
    const QString folder = QString::fromLocal8Bit(argv[2]);
    Document& document = *window.document();

    bool fine = true;
    window.showStep(Step::Compose);
    for (const LayerPtr& layer : stackOf(*document.release(), document.panel()))
        if (layer->name == "Moon") document.selectLayer(layer->id);
    fine = shoot(window, folder, QStringLiteral("compose")) && fine;
    ComposeView& compose = *window.compose();
    compose.blendSheet()->open();
    fine = shoot(window, folder, QStringLiteral("blend-sheet")) && fine;
    compose.blendSheet()->leave();
    fine = shootTakes(window, folder) && shootReference(window, folder) && fine;
    window.showStep(Step::Brief);
    fine = shoot(window, folder, QStringLiteral("brief")) && fine;
    for (const PiecePtr& piece : document.release()->pieces)
        if (piece->form->id == "sleeve-12") document.selectPanel({piece->id, "back"});
    window.showStep(Step::LayOut);
    fine =
        shoot(window, folder, QStringLiteral("lay-out"), [&] { return window.layOut()->isJudged(); }) && fine;
    window.showStep(Step::Deliver);
    QElapsedTimer weighing;
    weighing.start();
    fine =
        shoot(window, folder, QStringLiteral("deliver"), [&] { return weighing.elapsed() > 4000; }) && fine;
    applyTheme(app, true);
    window.showStep(Step::Compose);
    for (const LayerPtr& layer : stackOf(*document.release(), document.panel()))
        if (layer->as<TextContent>()) {
            document.selectLayer(layer->id);
            break;
        }
    fine = shoot(window, folder, QStringLiteral("compose-night")) && fine;
    return fine ? 0 : 2;
}
