// take-screenshots RELEASE FOLDER: one picture of each main view at 1280 × 800, from a release.
#include "app/widgets/theme.h"
#include "app/window/main_window.h"
#include "release/edits/edits.h"
#include "release/placing.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QStandardPaths>
#include <QTemporaryDir>
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

/// The crate with some of the drawer's pictures in it, the drawer, the wall, the colours and the credits.
bool shootGather(MainWindow& window, const QString& folder) {
    GatherView& gather = *window.gather();
    window.showStep(Step::Gather);
    settle(window, [] { return true; });
    gather.showPlace(GatherPlace::Drawer);
    settle(window, [&] { return !gather.pictures()->drawerGrid()->entries().empty(); });
    const auto stock = gather.pictures()->drawerGrid()->entries();
    for (size_t i = 0; i < stock.size(); i += 2) window.crate().take(stock[i]->id);
    settle(window, [] { return true; });
    for (const EntryPtr& e : stock)
        if (e->name() == "Keeper's evening") gather.pictures()->drawerGrid()->choose(e->id);
    bool fine = shoot(window, folder, QStringLiteral("gather-drawer"));
    gather.showPlace(GatherPlace::Crate);
    settle(window, [&] { return !gather.pictures()->crateGrid()->entries().empty(); });
    for (const EntryPtr& e : gather.pictures()->crateGrid()->entries())
        if (e->facts.kind == SourceKind::Photo) gather.pictures()->crateGrid()->choose(e->id);
    fine = shoot(window, folder, QStringLiteral("gather-crate")) && fine;
    gather.showPlace(GatherPlace::Wall);
    gather.wall()->zoomToFit();
    fine = shoot(window, folder, QStringLiteral("gather-wall")) && fine;
    gather.showPlace(GatherPlace::Colours);
    fine = shoot(window, folder, QStringLiteral("gather-colours")) && fine;
    gather.showPlace(GatherPlace::Credits);
    return shoot(window, folder, QStringLiteral("gather-credits")) && fine;
}

/// A wide picture on its way onto a square.
bool shootFraming(MainWindow& window, const QString& folder) {
    Document& document = *window.document();
    GatherView& gather = *window.gather();
    const auto stock = gather.pictures()->drawerGrid()->entries();
    const auto wide = std::find_if(stock.begin(), stock.end(),
                                   [](const EntryPtr& e) { return e->name() == "Lighthouse on a blue day"; });
    if (wide == stock.end()) return false;
    window.showStep(Step::Compose);
    document.newTake();
    ReleasePtr bare = document.release();
    for (const LayerPtr& layer : stackOf(*bare, document.panel()))
        bare = withoutLayer(bare, document.panel(), layer->id);
    document.edit(QStringLiteral("Bare"), bare);
    window.bringIn({QString::fromStdString(window.crate().fileOf(**wide).string())});
    settle(window, [&] { return window.compose()->framing()->isOpen(); });
    const bool fine = shoot(window, folder, QStringLiteral("framing"));
    window.compose()->framing()->leave();
    while (document.history().canUndo()) document.undo();
    return fine;
}

/// The sheets that begin a release and bring tracks in.
bool shootSheets(MainWindow& window, const QString& folder) {
    StartSheet* start = window.askNewRelease();
    for (QToolButton* b : start->findChildren<QToolButton*>())
        if (b->accessibleName() == QStringLiteral("Tide lines")) b->click();
    settle(window, [] { return true; });
    bool fine = start->grab().save(folder + QStringLiteral("/new-release.png"));
    start->reject();
    window.showStep(Step::Brief);
    TracksSheet* tracks = window.brief()->askTracks();
    tracks->findChild<QPlainTextEdit*>()->setPlainText(QStringLiteral(
        "Side A\n1. Low Water 3:42\n2. Lantern Room 4:08\n3. Cormorant Street (2:55)\n4. The Pilot Boat "
        "15:11\n\nSide B\nB1 Slack Tide – 6:20\nB2\tSalt Ledger\t3:33\nNightjar 4:47"));
    settle(window, [] { return true; });
    fine = tracks->grab().save(folder + QStringLiteral("/tracks.png")) && fine;
    tracks->reject();
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
    const QTemporaryDir home;
    qputenv("XDG_CACHE_HOME", (home.path() + QStringLiteral("/cache")).toUtf8());
    MainWindow window(engine, *forms, home.path().toStdString() + "/crate");
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
    fine = shootGather(window, folder) && shootFraming(window, folder) && shootSheets(window, folder) && fine;
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
