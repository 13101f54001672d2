#include "painting.h"

#include "file/memory.h"
#include "layers.h"
#include "raster/brush/paint_mix.h"
#include "raster/brush/painted_stroke.h"
#include "release/edits/brush_edits.h"
#include "release/history/history.h"
#include "release/history/history_memory.h"
#include "render/renderer.h"

#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

namespace glyptos::bench {
namespace {

constexpr int kSide = 3750;
constexpr double kDiameter = 1000;
constexpr std::array<float, 3> kColour{0.9f, 0.4f, 0.2f};
constexpr IntRect kAll{0, 0, kSide, kSide};

Brush softBrush() {
    Brush out;
    out.diameter = kDiameter, out.hardness = 0, out.flow = 0.5;
    return out;
}

Vec2 wayAt(int i) {
    return {300 + 35.0 * i, 1800 + 1300 * std::sin(i / 9.0)};
}

PixelTiles flatLayer() {
    PixelTiles out(kPaintPixels);
    out.change(kAll, [](const PixelPart& part) {
        for (int y = part.area.y; y < part.area.bottom(); ++y)
            for (int x = 0; x < part.area.w; ++x) {
                uint8_t* p = part.row(y) + ptrdiff_t(4) * x;
                p[0] = 40, p[1] = uint8_t(y), p[2] = 120, p[3] = 255;
            }
    });
    return out;
}

} // namespace

Row dabsAgainstPeer() {
    // One dab a move, so that both lay as many.
    constexpr int kDabs = 60;
    Brush brush = softBrush();
    brush.hardness = 0;
    std::vector<Vec2> middles;
    middles.reserve(kDabs);
    for (int i = 0; i < kDabs; ++i) middles.push_back({700.0 + 38 * i, 1800 + 600 * std::sin(i / 9.0)});
    const PixelTiles before = flatLayer();
    const int side = int(kDiameter) + 2;
    cv::Mat share(side, side, CV_32F), rest(side, side, CV_32F);
    for (int y = 0; y < side; ++y)
        for (int x = 0; x < side; ++x) {
            const double away = std::hypot(x + 0.5 - side / 2.0, y + 0.5 - side / 2.0);
            share.at<float>(y, x) = float(roundCover(kDiameter / 2, 0, away) * brush.flow);
            rest.at<float>(y, x) = 1 - share.at<float>(y, x);
        }
    const cv::Mat colour(side, side, CV_8UC4, cv::Scalar(230, 102, 51, 255));
    double ours = 1e300, peer = 1e300;
    for (int run = 0; run < 3; ++run) {
        ours = std::min(ours, milliseconds([&] {
                            PixelTiles now = before;
                            DabLayer layer(tipLook(brush, kColour));
                            for (const Vec2& at : middles) {
                                Dab dab;
                                dab.place = Affine::translation(at.x, at.y) *
                                            Affine::scaling(kDiameter / 2, kDiameter / 2);
                                dab.from = at;
                                const IntRect area = layer.draw(std::span(&dab, 1), kAll);
                                mixDabs(now, before, layer, LayerPaint{kColour}, area);
                            }
                        }));
        cv::Mat picture(kSide, kSide, CV_8UC4, cv::Scalar(40, 90, 120, 255));
        peer =
            std::min(peer, milliseconds([&] {
                         for (const Vec2& at : middles) {
                             cv::Mat part = picture({int(at.x) - side / 2, int(at.y) - side / 2, side, side});
                             cv::blendLinear(part, colour, rest, share, part);
                         }
                     }));
    }
    return {"60 dabs of a soft brush of 1000 px on 3750², against OpenCV's blending", ours, peer, 1.5, "ms"};
}

std::vector<Row> painting(const FontLibrary& fonts) {
    Layers layers(kSide, kSide, 12);
    Renderer renderer(layers.pictures, fonts);
    const double scale = 600.0 / kSide;
    const std::string above = stackOf(*layers.release, layers.panel)[5]->id;
    const Made made = withPaintLayer(layers.release, layers.panel, above, 1);
    const auto show = [&](const ReleasePtr& release, const std::string& inHand) {
        Scene scene = panelScene(release, layers.panel, {scale, false, {150, 0}});
        scene.inHand = inHand;
        renderer.renderBgra8(scene, {0, 0, 900, 600});
    };
    const auto with = [&](const PixelTiles& tiles) {
        const auto shared = std::make_shared<const PixelTiles>(tiles);
        return withChangedLayer(made.release, layers.panel, made.id, [&](Layer& l) {
            l.content = PaintedContent{shared, nullptr};
        });
    };
    const PixelTiles before = flatLayer();
    const ReleasePtr start = with(before);
    std::vector<double> moves, undone;
    ReleasePtr painted = start;
    for (const Brush& brush : {softBrush()}) {
        PixelTiles now = before;
        PaintedStroke stroke(brush, tipLook(brush, kColour), kAll);
        for (int i = 0; i < 90; ++i) {
            const double ms = milliseconds([&] {
                const IntRect area = stroke.lineTo(wayAt(i));
                mixDabs(now, before, stroke.cover(), LayerPaint{kColour}, area);
                show(painted = with(now), made.id);
            });
            if (i > 1) moves.push_back(ms); // the first take the layer in hand
        }
    }
    for (int i = 0; i < 20; ++i)
        undone.push_back(milliseconds([&] { show(i % 2 ? painted : start, made.id); }));
    Layers few(kSide, kSide, 12);
    BrushedLine line;
    line.brush.tip = TipKind::Stamp, line.brush.spacing = 0.2, line.brush.spread = 2,
    line.brush.sizeJitter = 0.6;
    Contour star;
    for (int i = 0; i < 10; ++i)
        star.nodes.push_back({Affine::rotation(36.0 * i).mapVector({0, i % 2 ? -4.0 : -10.0}), {}, {}});
    line.stamps = {{{}, {star}}};
    Contour way;
    way.closed = false;
    for (int i = 0; i <= 24; ++i) way.nodes.push_back({{200 + 140.0 * i, i % 2 ? 3300.0 : 400.0}, {}, {}});
    double length = 0;
    for (size_t i = 1; i < way.nodes.size(); ++i) length += (way.nodes[i].at - way.nodes[i - 1].at).length();
    const double width = length / 2000 / line.brush.spacing;
    std::vector<double> changes;
    for (int i = 0; i < 20; ++i) {
        line.brush.seed = 1 + i;
        changes.push_back(milliseconds([&] {
            const Made stamped = withBrushedLine(few.release, few.panel, above, "Stars", wayOf({way}), width,
                                                 Ink{1, 1, 1, 1}, line);
            show(stamped.release, stamped.id);
        }));
    }
    return {{"one move of a soft brush of 1000 px on a layer there, p95", percentile95(moves), 0, 1000.0 / 60,
             "ms"},
            {"undo of that stroke, p95", percentile95(undone), 0, 16, "ms"},
            {"2000 stamps along a line, changed by a slider, p95", percentile95(changes), 0, 100, "ms"}};
}

void paintAllNight(const std::function<void(const History&)>& after) {
    Layers layers(kSide, kSide, 1);
    const Made made = withPaintLayer(layers.release, layers.panel, {}, 1);
    History history(made.release);
    // As much as the window leaves it on a machine of 8 GB.
    HistoryMemory memory(size_t(512) << 20,
                         [] { return TileFile::in(std::filesystem::temp_directory_path()); });
    Brush brush = softBrush();
    brush.diameter = 160;
    PixelTiles now(kPaintPixels);
    for (int i = 0; i < 2000; ++i) {
        const PixelTiles before = now;
        PaintedStroke stroke(brush, tipLook(brush, kColour), kAll);
        Rect area;
        for (int k = 0; k < 8; ++k) {
            const Vec2 at{200 + std::fmod(i * 397.0, 3300) + 25 * k,
                          200 + std::fmod(i * 211.0, 3300) + 30 * std::sin(k)};
            area = area.united(stroke.lineTo(at).toRect());
        }
        mixDabs(now, before, stroke.cover(), LayerPaint{kColour}, pixelsAround(area));
        const auto tiles = std::make_shared<const PixelTiles>(now);
        history.push("Paint", withChangedLayer(history.current(), layers.panel, made.id, [&](Layer& l) {
                         l.content = PaintedContent{tiles, nullptr};
                     }));
        memory.add(*history.current());
        HistoryMemory::putAway(memory.excess(*history.current()), memory.file());
        if (after) after(history);
    }
    if (history.steps().size() != 2001) std::exit(2);
}

} // namespace glyptos::bench
