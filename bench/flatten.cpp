#include "flatten.h"

#include "file/pictures/picture_reader.h"
#include "file/pictures/picture_store.h"
#include "file/pictures/picture_writer.h"
#include "peers.h"
#include "raster/brush/paint_mix.h"
#include "raster/brush/painted_stroke.h"
#include "raster/noise.h"
#include "release/edits/edits.h"
#include "release/placing.h"
#include "render/renderer.h"

#include <cmath>
#include <cstdio>
#include <cstdlib>

namespace glyptos::bench {
namespace {

/// That a peer did the same work: its result may differ by its rounding to 8 bits after each layer.
void compare(const Peer& peer, const Buffer<uint8_t>& bgra, int width) {
    constexpr int kRounding = 8;
    for (const auto& [x, y] : {std::pair{100, 100}, {1501, 777}, {2222, 3333}, {3700, 50}}) {
        const uint8_t* ours = bgra.data() + (size_t(y) * size_t(width) + size_t(x)) * 4;
        const auto theirs = peer.pixel(x, y);
        for (int c = 0; c < 3; ++c)
            if (std::abs(int(ours[2 - c]) - theirs[size_t(c)]) > kRounding) {
                std::fprintf(stderr, "bench: %s has another colour at %d, %d: %d %d %d, not %d %d %d\n",
                             peer.name.c_str(), x, y, theirs[0], theirs[1], theirs[2], ours[2], ours[1],
                             ours[0]);
                std::exit(2);
            }
    }
}

} // namespace

SourcePtr photo(int width, int height, uint32_t seed) {
    std::vector<uint8_t> rgb(size_t(width) * size_t(height) * 3);
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x)
            for (uint32_t c = 0; c < 3; ++c)
                rgb[(size_t(y) * size_t(width) + size_t(x)) * 3 + c] =
                    static_cast<uint8_t>(255 * valueNoise(float(x) / 90, float(y) / 90, seed + c));
    return importBytes(*encodeJpeg(rgb, width, height, 90, {300}), "photo" + std::to_string(seed) + ".jpg")
        ->source;
}

std::vector<Row> flattenAgainstPeers(const FontLibrary& fonts) {
    Layers layers(3750, 3750, 12);
    Renderer renderer(layers.pictures, fonts, 0); // nothing of one run is kept for the next
    const Scene scene = panelScene(layers.release, layers.panel, {1, false});
    Buffer<uint8_t> flat;
    std::vector<Row> rows;
    for (const Peer& peer : peersFor(layers)) {
        // By turns, so that both meet the machine in the same mood.
        double ours = 1e300, theirs = 1e300;
        for (int i = 0; i < 3; ++i) {
            ours = std::min(ours, milliseconds([&] { flat = renderer.renderBgra8(scene, scene.bounds()); }));
            if (i < 2) theirs = std::min(theirs, milliseconds(peer.flatten));
        }
        if (peer.sameFormulas) compare(peer, flat, layers.width);
        rows.push_back({"flatten 12 layers of 3750², against " + peer.name, ours, theirs, peer.budget, "ms"});
    }
    return rows;
}

void whatTilesWouldGain(const FontLibrary& fonts) {
    // As many pixels, but the rows of a tile follow each other in memory, as in a picture stored as tiles.
    constexpr int kSide = 3750, kTile = 256;
    Layers asRows(kSide, kSide, 12), asTiles(kTile, kSide * kSide / kTile, 12);
    Renderer renderer(asRows.pictures, fonts, 0), tiled(asTiles.pictures, fonts, 0);
    double rows = 1e300, tiles = 1e300;
    for (int i = 0; i < 7; ++i) {
        const auto flatten = [](Renderer& with, const Layers& layers) {
            const Scene scene = panelScene(layers.release, layers.panel, {1, false});
            return milliseconds([&] { with.renderBgra8(scene, scene.bounds()); });
        };
        rows = std::min(rows, flatten(renderer, asRows));
        tiles = std::min(tiles, flatten(tiled, asTiles));
    }
    std::printf("pictures as rows %.0f ms, as tiles %.0f ms: %.2f\n", rows, tiles, tiles / rows);
}

std::vector<Row> oneLayerChanges(const FontLibrary& fonts) {
    Layers layers(3750, 3750, 12);
    Renderer renderer(layers.pictures, fonts);
    const double scale = 600.0 / 3750;
    const auto show = [&](const ReleasePtr& release, const std::string& inHand) {
        Scene scene = panelScene(release, layers.panel, {scale, false, {150, 0}});
        scene.inHand = inHand;
        renderer.renderBgra8(scene, {0, 0, 900, 600});
    };
    show(layers.release, {});
    std::vector<double> opacities, drags;
    const Stack& stack = stackOf(*layers.release, layers.panel);
    for (int i = 0; i < 60; ++i) {
        const std::string id = stack[size_t(i) % stack.size()]->id;
        const auto change = [&](const LayerChange& edit) {
            return withChangedLayer(layers.release, layers.panel, id, edit);
        };
        opacities.push_back(
            milliseconds([&] { show(change([&](Layer& l) { l.opacity = 0.3 + 0.01 * i; }), {}); }));
    }
    // A drag: one layer in hand, a new place each time, as when the mouse moves.
    for (int i = 0; i < 120; ++i) {
        const std::string id = stack[size_t(i / 30) * 3]->id;
        const ReleasePtr next = withChangedLayer(layers.release, layers.panel, id, [&](Layer& l) {
            l = moved(l, {7.3 * (i % 30), 3.1 * (i % 30)});
        });
        const double ms = milliseconds([&] { show(next, id); });
        if (i % 30 > 0) drags.push_back(ms); // the first takes the layer in hand
    }
    return {{"one opacity change, 900×600 at fit zoom, p95", percentile95(opacities), 0, 16, "ms"},
            {"one step of a drag there, p95", percentile95(drags), 0, 1000.0 / 60, "ms"}};
}

std::vector<Row> maskStrokes(const FontLibrary& fonts) {
    Layers layers(3750, 3750, 12);
    Renderer renderer(layers.pictures, fonts);
    const double scale = 600.0 / 3750;
    const std::string id = stackOf(*layers.release, layers.panel)[5]->id;
    const PixelTiles before(kMaskPixels);
    PixelTiles now = before;
    Brush round;
    round.diameter = 1000;
    PaintedStroke stroke(round, tipLook(round, {}), {0, 0, 3750, 3750});
    std::vector<double> times;
    for (int i = 0; i < 90; ++i) {
        const Vec2 at{300 + 35.0 * i, 1800 + 1300 * std::sin(i / 9.0)};
        const double ms = milliseconds([&] {
            const IntRect area = stroke.lineTo(at);
            mixDabs(now, before, stroke.cover(), MaskPaint{255}, area);
            const auto tiles = std::make_shared<const PixelTiles>(now);
            const ReleasePtr next = withChangedLayer(layers.release, layers.panel, id, [&](Layer& l) {
                Mask mask;
                mask.form = PaintedMask{tiles, true};
                l.mask = std::make_shared<const Mask>(std::move(mask));
            });
            Scene scene = panelScene(next, layers.panel, {scale, false, {150, 0}});
            scene.inHand = id;
            renderer.renderBgra8(scene, {0, 0, 900, 600});
        });
        if (i > 0) times.push_back(ms); // the first takes the layer in hand
    }
    return {{"one move of a 1000 px mask brush there, p95", percentile95(times), 0, 1000.0 / 60, "ms"}};
}

std::vector<Row> panning(const FontLibrary& fonts) {
    Layers layers(3750, 3750, 12);
    std::vector<Row> rows;
    for (const auto& [name, scale] : {std::pair{"fit zoom", 600.0 / 3750}, {"100 %", 1.0}}) {
        Renderer renderer(layers.pictures, fonts);
        const Scene scene = panelScene(layers.release, layers.panel, {scale, false});
        const int far = int(3750 * scale) - 300;
        std::vector<IntRect> windows;
        for (int x = -200; x < far; x += 100) windows.push_back({x, 0, 900, 600});
        for (int y = 100; y < far; y += 100) windows.push_back({far, y, 900, 600});
        const auto show = [&](const IntRect& window) { renderer.renderBgra8(scene, window); };
        show(windows[0]);
        std::vector<double> there, back;
        for (size_t i = 1; i < windows.size(); ++i) there.push_back(milliseconds([&] { show(windows[i]); }));
        const size_t before = renderer.tilesRendered();
        for (size_t i = windows.size(); i-- > 0;) back.push_back(milliseconds([&] { show(windows[i]); }));
        const std::string what = std::string("pan by 100 px, 900×600 at ") + name;
        rows.push_back({what + ", p95", percentile95(there), 0, 8, "ms"});
        rows.push_back({what + ", back again, p95", percentile95(back), 0, 8, "ms"});
        rows.push_back({what + ", back again: tiles rendered", double(renderer.tilesRendered() - before), 0,
                        0.5, "tiles"});
    }
    return rows;
}

void linearity(const FontLibrary& fonts) {
    std::printf("\n%8s %8s %12s %22s\n", "side", "layers", "flatten", "ns a pixel and layer");
    for (const int side : {1500, 3000, 6000})
        for (const int depth : {5, 10, 20}) {
            Layers layers(side, side, depth);
            Renderer renderer(layers.pictures, fonts, 0);
            const Scene scene = panelScene(layers.release, layers.panel, {1, false});
            const double ms = least(3, [&] { renderer.renderBgra8(scene, scene.bounds()); });
            std::printf("%8d %8d %9.0f ms %22.2f\n", side, depth, ms,
                        ms * 1e6 / (double(side) * side * depth));
        }
}

std::pair<ReleasePtr, PanelRef> releaseOfPictures(const PictureLoad& load, std::shared_ptr<const Form> form) {
    ReleasePtr release = *withPiece(std::make_shared<const Release>(), std::move(form));
    const PanelRef panel{release->pieces[0]->id, "front"};
    const Rect area = release->pieces[0]->flat->panel("front")->trim();
    for (uint32_t i = 0; i < load.count; ++i) {
        const SourcePtr source = photo(load.pictureWidth, load.pictureHeight, 40 * i);
        Layer layer;
        layer.blend = Layers::kTurns[i % Layers::kTurns.size()];
        layer.opacity = i == 0 ? 1 : Layers::kOpacity;
        layer.content = PictureContent{source->id, {0, 0, 1, 1}};
        layer.placement = covering(area, *source);
        release = withLayer(withSource(release, source), panel, layer);
    }
    return {release, panel};
}

double flattenPictures(const FontLibrary& fonts, const PictureLoad& load) {
    const auto [release, panel] = releaseOfPictures(load, screenForm(load.width, load.height));
    PictureStore pictures;
    Renderer renderer(pictures, fonts);
    const Scene scene = panelScene(release, panel, {1, false});
    return milliseconds([&] { renderer.renderBgra8(scene, scene.bounds()); });
}

} // namespace glyptos::bench
