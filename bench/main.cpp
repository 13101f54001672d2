// glyptos-bench [--json FILE]: the budgets of docs/performance.md, measured against a peer in the same run
// where there is one. Times are the least of several runs for ratios, and the 95th percentile where a budget
// says so.
#include "app/main_window.h"
#include "app/theme.h"
#include "file/data_folder.h"
#include "file/picture_reader.h"
#include "file/picture_writer.h"
#include "raster/noise.h"
#include "release/placing.h"

#include <QApplication>
#include <QPainter>
#include <QStandardPaths>
#include <algorithm>
#include <chrono>
#include <cstdio>
#include <fstream>
#include <nlohmann/json.hpp>

namespace {

using namespace glyptos;
using Clock = std::chrono::steady_clock;

double milliseconds(const std::function<void()>& work) {
    const auto start = Clock::now();
    work();
    return std::chrono::duration<double, std::milli>(Clock::now() - start).count();
}

double least(int runs, const std::function<void()>& work) {
    double best = 1e300;
    for (int i = 0; i < runs; ++i) best = std::min(best, milliseconds(work));
    return best;
}

struct Row {
    std::string work;
    double ours = 0, peer = 0, budget = 0; ///< ms; budget is a ratio when there is a peer
    double figure() const { return peer > 0 ? ours / peer : ours; }
    bool holds() const { return figure() <= budget; }
};

/// Decoded pictures at hand, so that compositing is measured and not decoding.
class HeldPictures : public PictureProvider {
  public:
    PyramidPtr picture(const Source& source, double) override { return held.at(source.id); }
    std::map<std::string, PyramidPtr> held;
};

Picture texture(int side, uint32_t seed, bool opaque) {
    Picture p = Picture::create<uint8_t>(side, side);
    p.opaque = opaque;
    for (int y = 0; y < side; ++y) {
        uint8_t* row = p.row<uint8_t>(y);
        for (int x = 0; x < side; ++x) {
            const uint32_t a = opaque ? 255 : uint32_t(96 + 128 * hashNoise(x / 64, y / 64, seed));
            for (uint32_t c = 0; c < 3; ++c)
                row[4 * x + int(c)] =
                    static_cast<uint8_t>(uint32_t(hashNoise(x / 3, y / 3, seed + c) * 255) * a / 255);
            row[4 * x + 3] = static_cast<uint8_t>(a);
        }
    }
    return p;
}

std::shared_ptr<const Form> screenForm(int side) {
    Form form;
    form.id = form.name = "bench";
    form.unit = Unit::Px;
    form.panels.push_back(
        {"front", "Front", "0", "0", std::to_string(side), std::to_string(side), 0, {}, true});
    return std::make_shared<const Form>(form);
}

/// Twelve layers of side², in five modes by turns, on a screen piece of that size.
struct TwelveLayers {
    static constexpr int kLayers = 12;
    static constexpr std::array kTurns{BlendMode::Normal, BlendMode::Multiply, BlendMode::Screen,
                                       BlendMode::Overlay, BlendMode::SoftLight};
    HeldPictures pictures;
    ReleasePtr release;
    PanelRef panel;
    std::vector<QImage> images; ///< the same pixels for QPainter

    explicit TwelveLayers(int side) {
        release = *withPiece(std::make_shared<const Release>(), screenForm(side));
        panel = {release->pieces[0]->id, "front"};
        for (int i = 0; i < kLayers; ++i) {
            auto source = std::make_shared<Source>();
            source->id = std::to_string(i);
            source->width = source->height = side;
            Picture p = texture(side, uint32_t(i) * 10, i == 0);
            images.push_back(
                QImage(p.row<uint8_t>(0), side, side, side * 4, QImage::Format_RGBA8888_Premultiplied)
                    .convertToFormat(QImage::Format_ARGB32_Premultiplied));
            pictures.held[source->id] = std::make_shared<const Pyramid>(std::move(p));
            release = withSource(release, source);
            Layer layer;
            layer.name = source->id;
            layer.blend = kTurns[size_t(i) % kTurns.size()];
            layer.opacity = i == 0 ? 1 : 0.9;
            layer.content = PictureContent{source->id, {0, 0, 1, 1}};
            layer.placement.position = {side / 2.0, side / 2.0};
            release = withLayer(release, panel, layer);
        }
    }

    QImage withQPainter() const {
        constexpr std::array modes{QPainter::CompositionMode_SourceOver, QPainter::CompositionMode_Multiply,
                                   QPainter::CompositionMode_Screen, QPainter::CompositionMode_Overlay,
                                   QPainter::CompositionMode_SoftLight};
        QImage out(images[0].size(), QImage::Format_ARGB32_Premultiplied);
        out.fill(Qt::transparent);
        QPainter painter(&out);
        for (int i = 0; i < kLayers; ++i) {
            painter.setCompositionMode(modes[size_t(i) % modes.size()]);
            painter.setOpacity(i == 0 ? 1 : 0.9);
            painter.drawImage(0, 0, images[size_t(i)]);
        }
        return out;
    }
};

Row flatten(TwelveLayers& work, const FontLibrary& fonts) {
    Renderer renderer(work.pictures, fonts);
    const Scene scene = panelScene(work.release, work.panel, 1, false);
    const double ours = least(4, [&] { renderer.renderBgra8(scene, scene.bounds()); });
    const double peer = least(2, [&] { work.withQPainter(); });
    return {"flatten 12 layers of 3750², against QPainter", ours, peer, 0.2};
}

Row opacityChange(TwelveLayers& work, const FontLibrary& fonts) {
    Renderer renderer(work.pictures, fonts);
    const double scale = 600.0 / 3750;
    const auto show = [&](const ReleasePtr& release) {
        renderer.renderBgra8(panelScene(release, work.panel, scale, false, {150, 0}), {0, 0, 900, 600});
    };
    show(work.release);
    std::vector<double> times;
    for (int i = 0; i < 60; ++i) {
        const std::string layer = stackOf(*work.release, work.panel)[size_t(i) % TwelveLayers::kLayers]->id;
        const ReleasePtr next =
            withChangedLayer(work.release, work.panel, layer, [&](Layer& l) { l.opacity = 0.3 + 0.01 * i; });
        times.push_back(milliseconds([&] { show(next); }));
    }
    std::sort(times.begin(), times.end());
    return {"one opacity change, 900×600 at fit zoom, p95", times[size_t(double(times.size()) * 0.95)], 0,
            16};
}

/// Renders a cover with that picture at fit zoom.
void showOnCover(PictureStore& store, const FontLibrary& fonts, const SourcePtr& source) {
    Renderer renderer(store, fonts);
    ReleasePtr release = withSource(*withPiece(std::make_shared<const Release>(), screenForm(3000)), source);
    Layer layer;
    layer.content = PictureContent{source->id, {0, 0, 1, 1}};
    layer.placement = covering({0, 0, 3000, 3000}, *source);
    const PanelRef panel{release->pieces[0]->id, "front"};
    release = withLayer(release, panel, layer);
    renderer.renderBgra8(panelScene(release, panel, 0.2, false), {0, 0, 600, 600});
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

} // namespace

int main(int argc, char** argv) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    QStandardPaths::setTestModeEnabled(true);
    QApplication app(argc, argv);
    QApplication::setOrganizationName(QStringLiteral("glyptos-bench"));
    const QStringList arguments = QApplication::arguments();
    const std::string demo =
        (QApplication::applicationDirPath() + QStringLiteral("/../demo/slack-tide-almanac.glyptos"))
            .toStdString();
    std::vector<Row> rows;
    rows.push_back(startUp(app, demo));
    const FontLibrary fonts(dataFolder() / "fonts", true);
    {
        TwelveLayers work(3750);
        rows.push_back(flatten(work, fonts));
        rows.push_back(opacityChange(work, fonts));
    }
    for (Row& row : bigJpeg(fonts)) rows.push_back(row);
    nlohmann::ordered_json json = nlohmann::ordered_json::array();
    std::printf("%-52s %12s %12s %8s %9s  %s\n", "work", "ours", "peer", "ratio", "budget", "holds");
    bool all = true;
    for (const Row& r : rows) {
        const std::string peer = r.peer > 0 ? std::to_string(int(r.peer)) + " ms" : "-";
        std::printf("%-52s %9.1f ms %12s %8.3f %9.3g  %s\n", r.work.c_str(), r.ours, peer.c_str(),
                    r.peer > 0 ? r.figure() : 0.0, r.budget, r.holds() ? "yes" : "NO");
        json.push_back({{"work", r.work},
                        {"oursMs", r.ours},
                        {"peerMs", r.peer},
                        {"ratio", r.peer > 0 ? r.figure() : 0},
                        {"budget", r.budget},
                        {"holds", r.holds()}});
        all = all && r.holds();
    }
    if (arguments.size() == 3 && arguments[1] == QStringLiteral("--json"))
        std::ofstream(arguments[2].toStdString()) << json.dump(2) << '\n';
    return all ? 0 : 1;
}
