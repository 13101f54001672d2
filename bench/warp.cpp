#include "warp.h"

#include "layers.h"
#include "raster/noise.h"
#include "raster/warp/remap.h"
#include "release/edits/edits.h"
#include "release/placing.h"
#include "release/warp.h"
#include "render/renderer.h"

#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

namespace glyptos::bench {
namespace {

constexpr int kSide = 3750;

Picture smoothNoise() {
    Picture out = Picture::create<uint8_t>(kSide, kSide);
    out.opaque = true;
    for (int y = 0; y < kSide; ++y) {
        uint8_t* p = out.row<uint8_t>(y);
        for (int x = 0; x < kSide; ++x, p += 4) {
            for (uint32_t c = 0; c < 3; ++c)
                p[c] = static_cast<uint8_t>(255 * valueNoise(float(x) / 40, float(y) / 40, 7 + c));
            p[3] = 255;
        }
    }
    return out;
}

KneadField swirl() {
    KneadTip tip;
    tip.radius = 0.25;
    KneadStroke stroke({}, tip);
    for (int i = 0; i <= 40; ++i)
        stroke.moveTo({0.5 + 0.15 * std::cos(i / 8.0), 0.5 + 0.15 * std::sin(i / 8.0)});
    stroke.finish();
    return stroke.field();
}

/// That both show the same, as far as a cubic whose steps are 32 to a pixel does.
void compare(const Picture& ours, const cv::Mat& theirs) {
    constexpr int kNear = 6;
    for (const auto& [x, y] : {std::pair{1000, 1000}, {1800, 2222}, {2600, 1400}})
        for (int c = 0; c < 3; ++c)
            if (std::abs(int(ours.row<uint8_t>(y)[4 * x + c]) - theirs.at<cv::Vec4b>(y, x)[c]) > kNear) {
                std::fprintf(stderr, "bench: OpenCV's remap shows another colour at %d, %d\n", x, y);
                std::exit(2);
            }
}

} // namespace

std::vector<Row> remapping() {
    const Rect box{0, 0, kSide, kSide};
    const auto plane = Homography::toCorners({Vec2{60, -200}, {3900, 100}, {3820, 3900}, {-150, 3800}});
    const Mapping tilted =
        Mapping(Mapping::Stage(*plane)) * Mapping(Affine::scaling(1.0 / kSide, 1.0 / kSide));
    const Mapping kneaded(KneadStage{std::make_shared<const KneadField>(swirl()), box});
    const Pyramid picture(smoothNoise());
    const cv::Mat source(kSide, kSide, CV_8UC4, const_cast<uint8_t*>(picture.level(0).row<uint8_t>(0)));
    std::vector<Row> rows;
    for (const auto& [name, mapping] : {std::pair{"tilt", tilted}, {"knead", kneaded}}) {
        const Coordinates at = coordinatesFor(mapping, box, {0, 0, kSide, kSide});
        // Their pixels have their middles on whole numbers.
        cv::Mat x(kSide, kSide, CV_32F, const_cast<float*>(at.x.data())),
            y(kSide, kSide, CV_32F, const_cast<float*>(at.y.data()));
        x -= 0.5, y -= 0.5;
        Picture mine;
        cv::Mat theirs;
        double ours = 1e300, peer = 1e300;
        for (int i = 0; i < 3; ++i) { // by turns, so that both meet the machine in the same mood
            ours = std::min(ours, milliseconds([&] { mine = remapped(picture, mapping, kSide, kSide); }));
            peer = std::min(peer, milliseconds([&] {
                                cv::remap(source, theirs, x, y, cv::INTER_CUBIC, cv::BORDER_REPLICATE);
                            }));
        }
        compare(mine, theirs);
        rows.push_back({std::string(name) + " 3750², against OpenCV's cubic remap", ours, peer, 1.2, "ms"});
    }
    return rows;
}

std::vector<Row> kneadStrokes(const FontLibrary& fonts) {
    Layers layers(kSide, kSide, 12);
    Renderer renderer(layers.pictures, fonts);
    const double scale = 600.0 / kSide;
    const std::string id = stackOf(*layers.release, layers.panel)[5]->id;
    KneadTip tip;
    tip.radius = 0.25;
    KneadStroke stroke({}, tip);
    Warp warp;
    warp.box = {0, 0, kSide, kSide};
    std::vector<double> times;
    for (int i = 0; i < 90; ++i) {
        const Vec2 at{0.2 + 0.0075 * i, 0.5 + 0.25 * std::sin(i / 12.0)};
        const double ms = milliseconds([&] {
            stroke.moveTo(at);
            warp.knead = std::make_shared<const KneadField>(stroke.field());
            const ReleasePtr next = withChangedLayer(layers.release, layers.panel, id, [&](Layer& l) {
                l = withWarp(l, std::make_shared<const Warp>(warp));
            });
            Scene scene = panelScene(next, layers.panel, {scale, false, {150, 0}});
            scene.inHand = id;
            scene.moving = true; // as the bench asks for it while it is dragged
            renderer.renderBgra8(scene, {0, 0, 900, 600});
        });
        if (i > 1) times.push_back(ms); // the first take the layer in hand
    }
    std::sort(times.begin(), times.end());
    return {{"one move of kneading at half the picture's width there, p95",
             times[size_t(double(times.size()) * 0.95)], 0, 1000.0 / 60, "ms"}};
}

} // namespace glyptos::bench
