// take-screenshots RELEASE FOLDER: one picture of each main view at 1280 × 800, from a release.
#include "app/widgets/theme.h"
#include "app/window/main_window.h"
#include "file/cut/cut_paths.h"
#include "file/disk/atomic_file.h"
#include "release/edits/edits.h"
#include "release/placing.h"
#include "release/walks.h"

#include <QApplication>
#include <QComboBox>
#include <QElapsedTimer>
#include <QMouseEvent>
#include <QScrollArea>
#include <QScrollBar>
#include <QSlider>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <QToolButton>
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

/// The treatments of the brass letters.
bool shootTreatments(MainWindow& window, const QString& folder) {
    ComposeView& compose = *window.compose();
    Document& document = *window.document();
    const PanelRef cover = document.panel();
    compose.showTreatments(true);
    document.showTake("A");
    document.selectLayer({});
    for (const LayerPtr& layer : stackOf(*document.release(), cover))
        if (layer->name == "Moon") document.selectLayer(layer->id);
    for (const PiecePtr& piece : document.release()->pieces)
        if (piece->form->id == "sleeve-12") document.selectPanel({piece->id, "front"});
    document.showTake("B");
    eachLayer(stackOf(*document.release(), document.panel()), [&](const LayerPtr& layer) {
        if (layer->name == "Title") document.selectLayer(layer->id);
    });
    const bool fine = shoot(window, folder, QStringLiteral("treatments"));
    compose.showTreatments(false);
    document.selectPanel(cover);
    return fine;
}

/// The artist's line in all faces, those that go with its own, and round the moon, being typed.
bool shootLettering(MainWindow& window, const QString& folder) {
    Document& document = *window.document();
    ComposeView& compose = *window.compose();
    document.showTake("A");
    const LayerPtr line = firstLayer(stackOf(*document.release(), document.panel()),
                                     [](const Layer& l) { return l.name == "Artist line"; });
    if (!line) return false;
    document.selectLayer(line->id);
    compose.specimens()->open();
    settle(window,
           [&] { return compose.specimens()->isMeasured() && compose.specimens()->list()->isSettled(); });
    compose.specimens()->list()->setCurrent(5);
    Q_EMIT compose.specimens()->list()->tried(5);
    bool fine = shoot(window, folder, QStringLiteral("specimens"));
    compose.specimens()->leave();
    document.edit("Round the moon",
                  withChangedLayer(document.release(), document.panel(), line->id, [](Layer& l) {
                      auto& text = std::get<TextContent>(l.content);
                      text.spec.frame = RoundCircle{560, -20, false}, text.spec.align = Align::Centre;
                      text.spec.letters.size = 110;
                      l.placement.position = {1908, 1005};
                  }));
    compose.bench()->editWords();
    fine = shoot(window, folder, QStringLiteral("lettering")) && fine;
    compose.bench()->setFocus();
    while (document.history().canUndo()) document.undo();
    for (const PiecePtr& piece : document.release()->pieces)
        if (piece->form->id == "sleeve-12") document.selectPanel({piece->id, "back"});
    document.showTake("A");
    if (const LayerPtr list = firstLayer(stackOf(*document.release(), document.panel()),
                                         [](const Layer& l) { return l.name == "Tracks"; }))
        document.selectLayer(list->id);
    fine = shoot(window, folder, QStringLiteral("track-list")) && fine;
    document.selectPanel({document.release()->pieces.front()->id, "front"});
    return fine;
}

/// The crate with some of the drawer's pictures in it, the drawer and the wall.
bool shootGather(MainWindow& window, const QString& folder) {
    GatherView& gather = *window.gather();
    window.showStep(Step::Gather);
    settle(window, [] { return true; });
    gather.showPlace(GatherPlace::Drawer);
    settle(window, [&] { return !gather.pictures()->drawerGrid()->entries().empty(); });
    const auto stock = gather.pictures()->drawerGrid()->entries();
    for (size_t i = 0; i < stock.size(); i += 2) window.crate().take(stock[i]->id);
    settle(window, [] { return true; });
    bool fine = true;
    gather.showPlace(GatherPlace::Crate);
    settle(window, [&] { return !gather.pictures()->crateGrid()->entries().empty(); });
    for (const EntryPtr& e : gather.pictures()->crateGrid()->entries())
        if (e->facts.kind == SourceKind::Photo) gather.pictures()->crateGrid()->choose(e->id);
    fine = shoot(window, folder, QStringLiteral("gather-crate")) && fine;
    gather.showPlace(GatherPlace::Wall);
    gather.wall()->zoomToFit();
    return shoot(window, folder, QStringLiteral("gather-wall")) && fine;
}

void moveOver(ComposeBench& bench, QPointF at, Qt::MouseButtons buttons, Qt::KeyboardModifiers keys) {
    QMouseEvent move(QEvent::MouseMove, at, bench.mapToGlobal(at), Qt::NoButton, buttons, keys);
    QApplication::sendEvent(&bench, &move);
}

/// A drag over points of the panel.
void stroke(ComposeBench& bench, const std::vector<Vec2>& points,
            Qt::KeyboardModifiers keys = Qt::NoModifier) {
    const auto on = [&](Vec2 p) {
        const Vec2 v = bench.toView().map(p);
        return QPointF(v.x, v.y);
    };
    const auto button = [&](QEvent::Type type, QPointF at) {
        QMouseEvent event(type, at, bench.mapToGlobal(at), Qt::LeftButton,
                          type == QEvent::MouseButtonPress ? Qt::LeftButton : Qt::NoButton, keys);
        QApplication::sendEvent(&bench, &event);
    };
    button(QEvent::MouseButtonPress, on(points.front()));
    for (size_t i = 1; i < points.size(); ++i)
        for (int step = 1; step <= 4; ++step)
            moveOver(bench, on(points[i - 1] + (points[i] - points[i - 1]) * (step / 4.0)), Qt::LeftButton,
                     keys);
    button(QEvent::MouseButtonRelease, on(points.back()));
}

/// The keeper found by a box and strokes.
bool shootHandwork(MainWindow& window, const QString& folder) {
    Document& document = *window.document();
    ComposeBench& bench = *window.compose()->bench();
    const PanelRef cover = document.panel();
    for (const PiecePtr& piece : document.release()->pieces)
        if (piece->form->id == "podcast-tile") document.selectPanel({piece->id, "front"});
    LayerPtr keeper;
    for (const LayerPtr& layer : stackOf(*document.release(), document.panel()))
        if (layer->name == "Keeper") keeper = layer;
    if (!keeper) return false;
    const Affine map =
        pictureToPanel(keeper->placement, *document.release()->source(keeper->as<PictureContent>()->source));
    const auto at = [&](double x, double y) { return map.map({x, y}); };
    document.selectLayer(keeper->id);
    settle(window, [] { return true; });
    bench.setHand(Hand::Select);
    stroke(bench, {at(560, 60), at(2420, 2420)});
    settle(window, [] { return true; });
    const std::vector<std::vector<Vec2>> his{
        {at(1300, 1500), at(1300, 950), at(950, 900), at(900, 1050), at(860, 1180), at(1050, 1300),
         at(1000, 1000)},
        {at(1000, 500), at(1300, 400), at(1650, 500), at(1750, 650), at(1500, 640)},
        {at(800, 2300), at(1000, 2000), at(1600, 2050), at(2000, 2180)}};
    for (const auto& way : his) {
        stroke(bench, way, Qt::ShiftModifier);
        settle(window, [] { return true; });
    }
    for (const auto& way : {std::vector{at(2250, 2000), at(2330, 2150)},
                            {at(1790, 1700), at(1800, 1800)},
                            {at(2250, 150), at(2330, 250)}}) {
        stroke(bench, way, Qt::AltModifier);
        settle(window, [] { return true; });
    }
    const bool fine = shoot(window, folder, QStringLiteral("select"));
    document.selectPanel(cover);
    bench.setHand(Hand::Move);
    while (document.history().canUndo()) document.undo();
    return fine;
}

bool take(MainWindow& window, const std::string& take, const std::string& layer) {
    Document& document = *window.document();
    document.showTake(take);
    settle(window, [] { return true; });
    const LayerPtr found = firstLayer(stackOf(*document.release(), document.panel()),
                                      [&](const Layer& l) { return l.name == layer; });
    if (found) document.selectLayer(found->id);
    settle(window, [] { return true; });
    return found != nullptr;
}

void hold(ComposeBench& bench, Vec2 at) {
    const Vec2 v = bench.toView().map(at);
    moveOver(bench, {v.x, v.y}, Qt::NoButton, Qt::NoModifier);
}

/// A few strokes on the second take.
bool shootPainting(MainWindow& window, const QString& folder) {
    Document& document = *window.document();
    ComposeBench& bench = *window.compose()->bench();
    bool fine = take(window, "B", "Moon");
    bench.setHand(Hand::Paint);
    settle(window, [&] { return window.compose()->brushes().isRead(); });
    const auto wave = [](double y, double high) {
        std::vector<Vec2> out;
        for (int i = 0; i <= 30; ++i) out.push_back({150 + 90.0 * i, y + high * std::sin(i / 4.0)});
        return out;
    };
    for (const auto& [brush, y, colour] : {std::tuple{"Dry bristles", 2350.0, Ink{0.72f, 0.25f, 0.16f, 1}},
                                           {"Chalk", 2560.0, Ink{0.95f, 0.91f, 0.82f, 1}},
                                           {"Firs", 2080.0, Ink{0.05f, 0.1f, 0.12f, 1}},
                                           {"Salt", 420.0, Ink{0.95f, 0.93f, 0.85f, 1}},
                                           {"Thin light", 2760.0, Ink{1, 0.86f, 0.6f, 1}}}) {
        fine = window.compose()->brushes().choose(QString::fromLatin1(brush)) && fine;
        HandSettings settings = bench.settings();
        settings.paint.colour = colour;
        bench.setSettings(settings);
        stroke(bench, wave(y, 34));
    }
    hold(bench, {2400, 2650});
    fine = shoot(window, folder, QStringLiteral("paint")) && fine;
    bench.setHand(Hand::Move);
    while (document.history().canUndo()) document.undo();
    return fine;
}

/// The gatefold in hand as an object, half folded.
bool shootFolded(MainWindow& window, const QString& folder) {
    LayoutView& layOut = *window.layOut();
    layOut.showFolded(true);
    layOut.findChild<QSlider*>()->setValue(560);
    const bool fine = shoot(window, folder, QStringLiteral("folded"),
                            [&] { return layOut.fold()->isSettled() && layOut.isJudged(); });
    layOut.showFolded(false);
    return fine;
}

bool takeForm(MainWindow& window, const char* form, const char* panel) {
    for (const PiecePtr& piece : window.document()->release()->pieces)
        if (piece->form->id == form) return window.document()->selectPanel({piece->id, panel}), true;
    return false;
}

/// The jewel case, taken apart up to its booklet.
bool shootPacked(MainWindow& window, const QString& folder) {
    LayoutView& layOut = *window.layOut();
    if (!takeForm(window, "tray-card", "back")) return false;
    layOut.showFolded(true);
    layOut.fold()->setPacked(true);
    layOut.findChild<QSlider*>()->setValue(480);
    return shoot(window, folder, QStringLiteral("packed"),
                 [&] { return layOut.fold()->isSettled() && layOut.isJudged(); });
}

/// Flats of a disc's and a cassette's card, and the form of the first over a plant's own sheet.
bool shootForms(MainWindow& window, const QString& folder) {
    LayoutView& layOut = *window.layOut();
    const auto judged = [&] { return layOut.isJudged(); };
    bool fine = takeForm(window, "cassette-card", "front") &&
                shoot(window, folder, QStringLiteral("lay-out-cassette"), judged);
    fine = takeForm(window, "tray-card", "back") &&
           shoot(window, folder, QStringLiteral("lay-out-tray"), judged) && fine;
    layOut.showWay(LayoutView::Way::Form);
    const QTemporaryDir plant;
    const std::string sheet = cutSvg(cutJobOf(*window.document()->piece()->flat, {0}), "Tray card");
    const QString file = plant.filePath(QStringLiteral("plant tray card.svg"));
    fine =
        writeFile(file.toStdString(), {reinterpret_cast<const uint8_t*>(sheet.data()), sheet.size()}) && fine;
    layOut.form()->laySheet(file);
    settle(window, [&] { return !layOut.isBusy(); });
    Q_EMIT layOut.form()->side()->chosen(PartRef{PartKind::Zone, 0});
    fine = shoot(window, folder, QStringLiteral("form"), [&] { return !layOut.isBusy(); }) && fine;
    window.document()->undo();
    layOut.showWay(LayoutView::Way::Flat);
    return fine;
}

/// The cover as the press shows it, on the right half, with what its inks cannot show.
bool shootAsPrinted(MainWindow& window, const QString& folder) {
    window.showStep(Step::Compose);
    takeForm(window, "digital-cover", "front");
    window.document()->showTake("A");
    ProofLook look;
    look.mark = ProofMark::Gamut;
    window.proofing().setLook(look);
    window.proofing().setSplit(true);
    window.proofing().setOn(true);
    const bool fine = shoot(window, folder, QStringLiteral("as-printed"),
                            [&] { return window.compose()->bench()->isFinished(); });
    window.proofing().setOn(false);
    return fine;
}

/// The sheet that begins a release.
bool shootStart(MainWindow& window, const QString& folder) {
    StartSheet* start = window.askNewRelease();
    for (QToolButton* b : start->findChildren<QToolButton*>())
        if (b->accessibleName() == QStringLiteral("Tide lines")) b->click();
    settle(window, [] { return true; });
    bool fine = start->grab().save(folder + QStringLiteral("/new-release.png"));
    start->reject();
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
    qputenv("XDG_STATE_HOME", (home.path() + QStringLiteral("/state")).toUtf8());
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
    fine = shootLettering(window, folder) && fine;
    fine = shootHandwork(window, folder) && shootPainting(window, folder) && fine;
    fine = shootTreatments(window, folder) && fine;
    fine = shootGather(window, folder) && shootStart(window, folder) && fine;
    window.showStep(Step::Brief);
    fine = shoot(window, folder, QStringLiteral("brief")) && fine;
    for (const PiecePtr& piece : document.release()->pieces)
        if (piece->form->id == "gatefold-12") document.selectPanel({piece->id, "inner-left"});
    window.showStep(Step::LayOut);
    fine =
        shoot(window, folder, QStringLiteral("lay-out"), [&] { return window.layOut()->isJudged(); }) && fine;
    fine = shootFolded(window, folder) && fine;
    fine = shootForms(window, folder) && fine;
    window.showStep(Step::Deliver);
    QElapsedTimer weighing;
    weighing.start();
    fine =
        shoot(window, folder, QStringLiteral("deliver"), [&] { return weighing.elapsed() > 4000; }) && fine;
    fine = shootAsPrinted(window, folder) && fine;
    applyTheme(app, true);
    window.showStep(Step::LayOut);
    fine = shootPacked(window, folder) && fine;
    return fine ? 0 : 2;
}
