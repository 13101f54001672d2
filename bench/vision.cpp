#include "vision.h"

#include "raster/noise.h"
#include "vision/cutout/cutout.h"
#include "vision/mend/mend.h"

#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <opencv2/imgproc.hpp>
#include <opencv2/photo.hpp>
#include <tbb/parallel_for.h>
#include <tuple>

namespace glyptos::bench {
namespace {

/// A disc with a thousand ragged hairs before a sky.
Pyramid ragged(int width, int height) {
    Picture out = Picture::create<uint8_t>(width, height);
    out.opaque = true;
    tbb::parallel_for(0, height, [&](int y) {
        for (int x = 0; x < width; ++x) {
            const float u = (float(x) - 0.5f * float(width)) / float(height),
                        v = float(y) / float(height) - 0.5f;
            const float turn = std::atan2(v, u), way = std::hypot(u, v);
            const float edge = 0.28f + 0.1f * valueNoise(turn * 160 + 600, way * 6, 3);
            const float soft = 2.0f / float(height);
            const float alpha = std::clamp((edge - way) / soft + 0.5f, 0.0f, 1.0f);
            const float grain = valueNoise(float(x) / 3, float(y) / 3, 5) * 0.05f;
            const float hair = 0.2f + 0.25f * valueNoise(turn * 80, way * 20, 7);
            const float figure[3] = {hair + 0.1f, hair, hair * 0.6f};
            const float ground[3] = {0.5f + 0.3f * v + grain, 0.65f + 0.2f * v + grain, 0.85f + grain};
            uint8_t* p = out.row<uint8_t>(y) + ptrdiff_t(4) * x;
            for (int c = 0; c < 3; ++c)
                p[c] = static_cast<uint8_t>(
                    255 * std::clamp(ground[c] + (figure[c] - ground[c]) * alpha, 0.0f, 1.0f));
            p[3] = 255;
        }
    });
    return Pyramid(std::move(out));
}

double cutOutIn(const Pyramid& picture, const char* what) {
    const double w = picture.width(), h = picture.height();
    const Rect box{w / 2 - 0.42 * h, 0.08 * h, 0.84 * h, 0.84 * h};
    return milliseconds([&] {
        const auto alpha = figureAlpha(picture, {box, {}});
        if (alpha && alpha->at(int(w / 2), int(h / 2)) == 255 && alpha->at(2, 2) == 0) return;
        std::fprintf(stderr, "bench: the figure of %s was not found\n", what);
        std::exit(2);
    });
}

} // namespace

namespace {

cv::Mat bgrOf(const Picture& p) {
    const cv::Mat rgba(p.height, p.width, CV_8UC4, const_cast<uint8_t*>(p.row<uint8_t>(0)));
    cv::Mat out;
    cv::cvtColor(rgba, out, cv::COLOR_RGBA2BGR);
    return out;
}

/// The peer finds where the figure is, and no alpha.
double grabCutIn(const Pyramid& picture) {
    const cv::Mat bgr = bgrOf(picture.level(0));
    const double w = picture.width(), h = picture.height();
    return milliseconds([&] {
        cv::Mat mask, background, foreground;
        cv::setRNGSeed(1);
        cv::grabCut(bgr, mask, cv::Rect(int(w / 2 - 0.42 * h), int(0.08 * h), int(0.84 * h), int(0.84 * h)),
                    background, foreground, 5, cv::GC_INIT_WITH_RECT);
    });
}

} // namespace

void cutOutPhoto() {
    cutOutIn(ragged(6000, 4000), "the photo");
}

std::vector<Row> cuttingOut() {
    const Pyramid photo = ragged(6000, 4000), small = ragged(900, 900);
    const double smallTime = cutOutIn(small, "the small picture");
    return {{"a figure of a 24-megapixel photo: something to see",
             cutOutIn(photo.from(levelSolvedWhole(photo)), "the photo's coarse level"), 0, 1500},
            {"the same: all of its edge", cutOutIn(photo, "the photo"), 0, 8000},
            {"a figure of 900 × 900 px", smallTime, 0, 2000},
            {"the same against OpenCV's grabCut, which finds no alpha", smallTime, grabCutIn(small), 0}};
}

namespace {

/// Stones of uneven tone under light that falls from one side.
Picture wall(int side) {
    Picture out = Picture::create<uint8_t>(side, side);
    out.opaque = true;
    tbb::parallel_for(0, side, [&](int y) {
        for (int x = 0; x < side; ++x) {
            const int row = y / 31, column = (x + (row % 2) * 40) / 83;
            const bool joint = y % 31 < 3 || (x + (row % 2) * 40) % 83 < 3;
            const float tone = joint ? 0.7f : 0.35f + 0.2f * hashNoise(column, row, 3);
            const float grain = 0.12f * (fractalNoise(float(x) / 9, float(y) / 9, 3, 5) - 0.5f);
            const float light = 0.15f * float(x) / float(side);
            uint8_t* p = out.row<uint8_t>(y) + ptrdiff_t(4) * x;
            for (int c = 0; c < 3; ++c)
                p[c] = static_cast<uint8_t>(255 *
                                            std::clamp(tone + grain + light - 0.05f * float(c), 0.0f, 1.0f));
            p[3] = 255;
        }
    });
    return out;
}

AlphaMap roundHole(const Picture& picture, int across) {
    AlphaMap hole(picture.width, picture.height);
    for (int y = 0; y < hole.height; ++y)
        for (int x = 0; x < hole.width; ++x)
            hole.at(x, y) = std::hypot(x - hole.width / 2, y - hole.height / 2) < across / 2.0 ? 255 : 0;
    return hole;
}

/// The faster of OpenCV's two ways, on the part of the picture that there is to look at.
double inpaint(const Picture& picture, int across) {
    const cv::Mat bgr = bgrOf(picture);
    AlphaMap hole = roundHole(picture, across);
    const cv::Mat mask(hole.height, hole.width, CV_8UC1, hole.values.data());
    const cv::Rect part(picture.width / 2 - across, picture.height / 2 - across, 2 * across, 2 * across);
    const auto by = [&](int way) {
        return least(2, [&] {
            cv::Mat out;
            cv::inpaint(bgr(part), mask(part), out, 5, way);
        });
    };
    return std::min(by(cv::INPAINT_TELEA), by(cv::INPAINT_NS));
}

double mend(const Picture& picture, int across) {
    const AlphaMap hole = roundHole(picture, across);
    return least(3, [&] {
        if (mended(picture, hole)) return;
        std::fprintf(stderr, "bench: a hole was not mended\n");
        std::exit(2);
    });
}

} // namespace

std::vector<Row> mending() {
    const Picture picture = wall(2000);
    std::vector<Row> out;
    for (const auto& [what, across, budget] : {std::tuple{"mend a blemish 200 px across", 200, 500.0},
                                               {"mend a hole 600 px across", 600, 4000.0}}) {
        const double ours = mend(picture, across);
        out.push_back({what, ours, 0, budget});
        out.push_back(
            {"the same against OpenCV's inpainting, which is smooth", ours, inpaint(picture, across), 0});
    }
    return out;
}

} // namespace glyptos::bench
