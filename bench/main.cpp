// glyptos-bench [--json FILE] [OPTION]: the budgets of docs/performance.md, measured against a peer in the
// same run where there is one. An option measures one group of rows alone, or shows something else: --curve
// how the cost grows with size and depth, --layout what pictures stored as tiles would gain; --gatefold and
// others like it print the time and the peak memory of one work, for a process of its own. Times are the
// least of several runs for ratios, and the 95th percentile where a budget says so.
#include "app/widgets/theme.h"
#include "app/window/main_window.h"
#include "base/json.h"
#include "file/data_folder.h"
#include "file/pictures/picture_reader.h"
#include "file/pictures/picture_writer.h"
#include "flatten.h"
#include "folding.h"
#include "gather.h"
#include "keeping.h"
#include "layers.h"
#include "laying_out.h"
#include "lettering.h"
#include "painting.h"
#include "printing.h"
#include "raster/noise.h"
#include "release/edits/edits.h"
#include "release/placing.h"
#include "treating.h"
#include "vision.h"
#include "warp.h"

#include <QApplication>
#include <QProcess>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <atomic>
#include <cstdio>
#include <fstream>
#include <functional>
#include <map>
#include <thread>

namespace {

using namespace glyptos;
using namespace glyptos::bench;

/// Renders a cover with that picture at fit zoom.
void showOnCover(PictureStore& store, const FontLibrary& fonts, const SourcePtr& source) {
    Renderer renderer(store, fonts);
    ReleasePtr release =
        withSource(*withPiece(std::make_shared<const Release>(), screenForm(3000, 3000)), source);
    Layer layer;
    layer.content = PictureContent{source->id, {0, 0, 1, 1}};
    layer.placement = covering({0, 0, 3000, 3000}, *source);
    const PanelRef panel{release->pieces[0]->id, "front"};
    release = withLayer(release, panel, layer);
    renderer.renderBgra8(panelScene(release, panel, {0.2, false}), {0, 0, 600, 600});
}

std::vector<Row> bigJpeg(const FontLibrary& fonts) {
    constexpr int w = 6000, h = 4000;
    std::vector<uint8_t> rgb(size_t(w) * h * 3);
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x)
            for (uint32_t c = 0; c < 3; ++c)
                rgb[(size_t(y) * w + size_t(x)) * 3 + c] = static_cast<uint8_t>(
                    255 * (0.8f * valueNoise(float(x) / 90, float(y) / 90, c) + 0.2f * hashNoise(x, y, 9)));
    auto bytes = *encodeJpeg(rgb, w, h, 90, {300});
    // What happens after a drop: the bytes are checked, which gives the first look; then the bench shows it.
    SourcePtr source;
    const double first = least(2, [&] {
        Imported imported = *importBytes(bytes, "photo.jpg");
        source = imported.source;
        PictureStore store;
        store.offer(*source, imported.look, 1);
        showOnCover(store, fonts, source);
    });
    const double all = least(2, [&] {
        PictureStore store;
        showOnCover(store, fonts, source);
    });
    return {{"24-megapixel JPEG dropped, something to see", first, 0, 300},
            {"24-megapixel JPEG dropped, all of it", first + all, 0, 1500}};
}

Row startUp(QApplication& app, const std::string& demo) {
    const double ms = milliseconds([&] {
        applyTheme(app, false);
        Engine engine;
        MainWindow window(engine, *shippedForms());
        window.resize(1280, 800);
        window.show();
        bool drawn = false, open = false;
        QObject::connect(&window, &MainWindow::opened, [&] { open = true; });
        window.openFile(QString::fromStdString(demo));
        while (!open) QApplication::processEvents(QEventLoop::AllEvents, 5);
        QObject::connect(window.compose()->bench(), &BenchView::firstShown, [&] { drawn = true; });
        while (!drawn) QApplication::processEvents(QEventLoop::AllEvents, 5);
    });
    return {"start to usable window with the demo", ms, 0, 1500};
}

/// Prints the memory that was held by the process itself at its peak, MiB: what could not be given back to
/// the files it came from.
int peakHere(const std::function<void()>& work) {
    std::atomic<bool> done = false;
    size_t most = 0;
    std::thread watch([&] {
        while (!done) {
            std::ifstream status("/proc/self/status");
            for (std::string line; std::getline(status, line);)
                if (line.starts_with("RssAnon:"))
                    most = std::max(most, size_t(std::stoul(line.substr(8))) / 1024);
            std::this_thread::sleep_for(std::chrono::milliseconds(5));
        }
    });
    const double ms = milliseconds(work);
    done = true;
    watch.join();
    std::printf("%.0f\n%zu\n", ms, most);
    return 0;
}

/// In a process of its own, whose memory holds nothing else: the time, with that of making what is worked on,
/// is printed, the peak is the row.
Row memoryRow(const std::string& work, const QString& option, double budgetMiB) {
    QProcess child;
    child.start(QCoreApplication::applicationFilePath(), {option});
    child.waitForFinished(-1);
    const QList<QByteArray> lines = child.readAllStandardOutput().split('\n');
    std::printf("%s: %s ms, making its pictures included\n", work.c_str(), lines.value(0).constData());
    return {work + ", peak memory", lines.value(1).toDouble(), 0, budgetMiB, "MiB"};
}

/// The table, and the same as JSON where a file is named. True when all budgets hold.
bool print(const std::vector<Row>& rows, const std::string& jsonFile) {
    Json json = Json::list();
    std::printf("%-52s %12s %12s %8s %9s  %s\n", "work", "ours", "peer", "ratio", "budget", "holds");
    bool all = true;
    for (const Row& r : rows) {
        const std::string peer = r.peer > 0 ? std::to_string(int(r.peer)) + " ms" : "-";
        std::printf("%-52s %8.1f %-3s %12s %8.3f %9.3g  %s\n", r.work.c_str(), r.ours, r.unit.c_str(),
                    peer.c_str(), r.peer > 0 ? r.figure() : 0.0, r.budget,
                    r.budget <= 0 ? "-"
                    : r.holds()   ? "yes"
                                  : "NO");
        json.push_back({{"work", r.work},
                        {"ours", r.ours},
                        {"unit", r.unit},
                        {"peer", r.peer},
                        {"ratio", r.peer > 0 ? r.figure() : 0},
                        {"budget", r.budget},
                        {"holds", r.holds()}});
        all = all && r.holds();
    }
    if (!jsonFile.empty()) std::ofstream(jsonFile) << json.dump(2) << '\n';
    return all;
}

/// Rows that belong together.
struct Group {
    QString option;
    std::function<std::vector<Row>()> rows;
};

std::vector<Row> joined(std::vector<std::vector<Row>> lists) {
    std::vector<Row> out;
    for (auto& list : lists) std::move(list.begin(), list.end(), std::back_inserter(out));
    return out;
}

std::vector<Group> groupsOf(QApplication& app, const FontLibrary& fonts, const std::string& demo) {
    const auto named = [](const char* option) { return QString::fromLatin1(option); };
    return {
        {named("--flatten"), [&] { return flattenAgainstPeers(fonts); }},
        {named("--feel"),
         [&] {
             return joined({oneLayerChanges(fonts), maskStrokes(fonts), kneadStrokes(fonts), panning(fonts)});
         }},
        {named("--warp"), [] { return remapping(); }},
        {named("--painting"),
         [&] {
             return joined({{dabsAgainstPeer()},
                            painting(fonts),
                            {memoryRow("2000 strokes on a layer of 3750², undone at will",
                                       QStringLiteral("--night"), 2048)}});
         }},
        {named("--keeping"),
         [] {
             auto rows = joined({writingDown(),
                                 largeRelease(),
                                 {memoryRow("a release with 2 GB of pictures, opened",
                                            QStringLiteral("--two-gigabytes"), 300)}});
             forgetLargeRelease();
             return rows;
         }},
        {named("--lettering"),
         [&] {
             return joined({typing(fonts), specimens()});
         }},
        {named("--folding"), [&] { return folding(fonts, demo); }},
        {named("--laying-out"), [&] { return layingOut(fonts, demo); }},
        {named("--printing"), [&] { return printing(fonts, demo); }},
        {named("--pictures"),
         [&] {
             return joined(
                 {{memoryRow("gatefold 7617×3756 of 20 pictures", QStringLiteral("--gatefold"), 2048),
                   memoryRow("cover 3000² of thirty 45-megapixel photos", QStringLiteral("--thirty"), 2048)},
                  bigJpeg(fonts)});
         }},
        {named("--gather"), [] { return gathering(); }},
        {named("--vision"),
         [] {
             return joined({cuttingOut(),
                            {memoryRow("a figure of a 24-megapixel photo", QStringLiteral("--figure"), 1536)},
                            mending()});
         }},
        {named("--treating"),
         [&] {
             return joined({blurs(),
                            grades(),
                            treatments(),
                            demoSliders(fonts, demo),
                            tenBelow(fonts),
                            {memoryRow("gatefold 7617×3756 of 20 layers with 3 treatments each",
                                       QStringLiteral("--treated"), 2048)}});
         }},
        {named("--start"), [&] { return std::vector<Row>{startUp(app, demo)}; }},
    };
}

/// What a process of its own does, its memory being measured.
std::map<QString, std::function<void()>> worksAlone(const FontLibrary& fonts) {
    return {{QStringLiteral("--gatefold"), [&] { flattenPictures(fonts, kGatefold); }},
            {QStringLiteral("--thirty"), [&] { flattenPictures(fonts, kThirty); }},
            {QStringLiteral("--treated"), [&] { flattenTreated(fonts); }},
            {QStringLiteral("--figure"), [] { cutOutPhoto(); }},
            {QStringLiteral("--night"), [] { paintAllNight(); }},
            {QStringLiteral("--two-gigabytes"), [] { openTwoGigabytes(); }}};
}

int measure(QApplication& app, const QStringList& arguments) {
    const std::string demo =
        (QApplication::applicationDirPath() + QStringLiteral("/../demo/slack-tide-almanac.glyptos"))
            .toStdString();
    const FontLibrary fonts(dataFolder() / "fonts", true);
    const QString option = arguments.value(1);
    const auto alone = worksAlone(fonts);
    if (const auto found = alone.find(option); found != alone.end()) return peakHere(found->second);
    if (option == QStringLiteral("--curve")) return linearity(fonts), 0;
    if (option == QStringLiteral("--layout")) return whatTilesWouldGain(fonts), 0;
    const bool whole = option.isEmpty() || option == QStringLiteral("--json");
    std::vector<std::vector<Row>> rows;
    for (const Group& group : groupsOf(app, fonts, demo))
        if (whole || group.option == option) rows.push_back(group.rows());
    if (rows.empty())
        return std::fprintf(stderr, "glyptos-bench: %s measures nothing.\n", qPrintable(option)), 2;
    const bool all = print(joined(std::move(rows)), whole ? arguments.value(2).toStdString() : std::string());
    return all || !whole ? 0 : 1;
}

} // namespace

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QStandardPaths::setTestModeEnabled(true);
    QApplication app(argc, argv);
    QApplication::setOrganizationName(QStringLiteral("glyptos-bench"));
    const QTemporaryDir home; // the crate and small pictures of the bench are its own
    qputenv("XDG_DATA_HOME", home.path().toUtf8());
    qputenv("XDG_CACHE_HOME", home.path().toUtf8() + "/cache");
    return measure(app, QApplication::arguments());
}
