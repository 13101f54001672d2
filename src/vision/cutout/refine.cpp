#include "vision/cutout/cutout.h"
#include "vision/cutout/sampling.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <tbb/parallel_for.h>

namespace glyptos {
namespace {

/// A level of more pixels is solved tile by tile, from the level above.
constexpr int kTile = 256, kMargin = 16;
/// How far a sampled guess is trusted against the smoothness of alpha, one from the level above, and what is
/// only probable.
constexpr float kSampledWeight = 0.05f, kCoarserWeight = 0.01f, kProbableWeight = 0.0005f;

constexpr double kMostSolvedWhole = 1.0e6; ///< px

using Floats = std::vector<float>;

Floats enlarged(const Floats& alpha, int width, int height, int toWidth, int toHeight) {
    const cv::Mat from(height, width, CV_32FC1, const_cast<float*>(alpha.data()));
    Floats out(size_t(toWidth) * size_t(toHeight));
    cv::Mat to(toHeight, toWidth, CV_32FC1, out.data());
    cv::resize(from, to, {toWidth, toHeight}, 0, 0, cv::INTER_LINEAR);
    return out;
}

/// A sampled guess as it is trusted against the smoothness of alpha; where it is not, what is probable
/// counts.
AlphaGuess leant(const AlphaGuess& sampled, uint8_t trimap) {
    const float weight = kSampledWeight * sampled.weight;
    if (trimap != kProbablyGround && trimap != kProbablyFigure) return {sampled.alpha, weight};
    const float probable = trimap == kProbablyFigure ? 1 : 0, sum = weight + kProbableWeight;
    return {(sampled.alpha * weight + probable * kProbableWeight) / sum, sum};
}

/// A level that fits into memory as it is, and into the time.
Floats solvedWhole(const Picture& level, const AlphaMap& trimap, const CutoutOptions& options) {
    const IntRect all{0, 0, level.width, level.height};
    IntRect area = uncertainArea(trimap);
    Floats out(trimap.values.size());
    std::transform(trimap.values.begin(), trimap.values.end(), out.begin(),
                   [](uint8_t v) { return float(v) / 255; });
    if (area.empty()) return out;
    area = IntRect{area.x - 4, area.y - 4, area.w + 8, area.h + 8}.intersected(all);
    const Reduced part = partOf(level, area);
    AlphaMap inside(area.w, area.h);
    for (int y = 0; y < area.h; ++y)
        for (int x = 0; x < area.w; ++x) inside.at(x, y) = trimap.at(area.x + x, area.y + y);
    std::vector<AlphaGuess> guesses = sampledAlpha(part, inside);
    for (size_t i = 0; i < guesses.size(); ++i) guesses[i] = leant(guesses[i], inside.values[i]);
    const Floats solved = solvedAlpha(part, inside, guesses, options.cancel);
    for (int y = 0; y < area.h; ++y)
        std::copy_n(solved.begin() + ptrdiff_t(y) * area.w, area.w,
                    out.begin() + ptrdiff_t(area.y + y) * level.width + area.x);
    return out;
}

/// One tile of a finer level, its surroundings by the level above.
void solveTile(const Picture& level, const AlphaMap& trimap, const Floats& coarse, const IntRect& tile,
               const CutoutOptions& options, Floats& out) {
    const IntRect area =
        IntRect{tile.x - kMargin, tile.y - kMargin, tile.w + 2 * kMargin, tile.h + 2 * kMargin}.intersected(
            {0, 0, level.width, level.height});
    AlphaMap inside(area.w, area.h);
    std::vector<AlphaGuess> guesses(inside.values.size());
    bool any = false;
    for (int y = 0; y < area.h; ++y)
        for (int x = 0; x < area.w; ++x) {
            const float alpha = coarse[size_t(area.y + y) * size_t(level.width) + size_t(area.x + x)];
            uint8_t& value = inside.at(x, y) = trimap.at(area.x + x, area.y + y);
            constexpr float kNothing = 0.004f;
            if (isUncertain(value) && (alpha < kNothing || alpha > 1 - kNothing))
                value = alpha < 0.5f ? 0 : 255;
            any = any || isUncertain(value);
            guesses[size_t(y) * size_t(area.w) + size_t(x)] = {alpha, kCoarserWeight};
        }
    if (!any || isCancelled(options.cancel)) return;
    const Floats solved = solvedAlpha(partOf(level, area), inside, guesses, options.cancel);
    for (int y = tile.y; y < tile.bottom(); ++y)
        for (int x = tile.x; x < tile.right(); ++x)
            out[size_t(y) * size_t(level.width) + size_t(x)] =
                solved[size_t(y - area.y) * size_t(area.w) + size_t(x - area.x)];
}

Floats solvedInTiles(const Picture& level, const AlphaMap& trimap, const Floats& coarse,
                     const CutoutOptions& options) {
    Floats out = coarse;
    std::vector<IntRect> tiles;
    for (int y = 0; y < level.height; y += kTile)
        for (int x = 0; x < level.width; x += kTile)
            tiles.push_back({x, y, std::min(kTile, level.width - x), std::min(kTile, level.height - y)});
    tbb::parallel_for(size_t(0), tiles.size(),
                      [&](size_t i) { solveTile(level, trimap, coarse, tiles[i], options, out); });
    return out;
}

} // namespace

int levelSolvedWhole(const Pyramid& picture) {
    int k = picture.firstLevel();
    while (k + 1 < picture.levels() &&
           double(picture.level(k).width) * picture.level(k).height > kMostSolvedWhole)
        ++k;
    return k;
}

Result<AlphaMap> refinedAlpha(const Pyramid& picture, const AlphaMap& trimap, const CutoutOptions& options) {
    int k = levelSolvedWhole(picture);
    const auto trimapOf = [&](const Picture& level) {
        return resizedTrimap(trimap, level.width, level.height, level.width < trimap.width ? 1 : 0);
    };
    Floats alpha = solvedWhole(picture.level(k), trimapOf(picture.level(k)), options);
    for (const int first = picture.firstLevel(); k > first; --k) {
        if (isCancelled(options.cancel)) return cancelled();
        if (options.progress) options.progress(0.9 / double(1 << (2 * (k - first))));
        const Picture &above = picture.level(k), &level = picture.level(k - 1);
        alpha = solvedInTiles(level, trimapOf(level),
                              enlarged(alpha, above.width, above.height, level.width, level.height), options);
    }
    if (isCancelled(options.cancel)) return cancelled();
    const Picture& finest = picture.level(k);
    if (finest.width != picture.width())
        alpha = enlarged(alpha, finest.width, finest.height, picture.width(), picture.height());
    AlphaMap out(picture.width(), picture.height());
    std::transform(alpha.begin(), alpha.end(), out.values.begin(), [](float a) {
        return static_cast<uint8_t>(std::lround(std::clamp(a, 0.0f, 1.0f) * 255));
    });
    if (options.progress) options.progress(1);
    return out;
}

} // namespace glyptos
