#include "vision/cutout/cutout.h"

#include "vision/cutout/colour_density.h"
#include "vision/cutout/sampling.h"
#include "vision/cutout/segment.h"
#include "vision/cutout/trimap.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>
#include <tbb/parallel_for.h>

namespace glyptos {
namespace {

/// The figure is looked for in a picture of this longer side, which holds its shape and not its hairs.
constexpr int kLookSide = 420;
/// Levels of more pixels are solved tile by tile, from the level above.
constexpr double kSolvedWhole = 1.0e6;
constexpr int kTile = 256, kMargin = 16;
/// How far a sampled guess is trusted against the smoothness of alpha, and one from the level above.
constexpr float kSampledWeight = 0.05f, kCoarserWeight = 0.01f, kProbableWeight = 0.0005f;

using Floats = std::vector<float>;

bool stopped(const CutoutOptions& options) {
    return options.cancel && *options.cancel;
}

void tell(const CutoutOptions& options, double share) {
    if (options.progress) options.progress(share);
}

/// Marks what the hints are certain of: the ground outside the box, and the strokes.
void keepHints(const Pyramid& picture, const CutoutHints& hints, AlphaMap& map) {
    const double k = double(map.width) / picture.width();
    cv::Mat view(map.height, map.width, CV_8UC1, map.values.data());
    if (!hints.box.empty())
        for (int y = 0; y < map.height; ++y)
            for (int x = 0; x < map.width; ++x)
                if (x + 1 <= hints.box.x * k || y + 1 <= hints.box.y * k || x >= hints.box.right() * k ||
                    y >= hints.box.bottom() * k)
                    map.at(x, y) = 0;
    for (const HintStroke& s : hints.strokes) {
        const auto width = std::max(1, int(std::lround(2 * s.radius * k)));
        const auto at = [&](Vec2 p) {
            return cv::Point(int(std::lround(p.x * k)), int(std::lround(p.y * k)));
        };
        for (size_t i = 0; i < s.points.size(); ++i)
            cv::line(view, at(s.points[i ? i - 1 : 0]), at(s.points[i]), s.figure ? 255 : 0, width);
    }
}

/// The band round the outline of `mask`, `width` px to each side, and near it wherever colours do not speak
/// clearly for what the mask says: hairs that stand out, and ground that shows between them.
AlphaMap bandOf(const Reduced& picture, const AlphaMap& mask, double width) {
    constexpr double kFar = 10, kDeep = 6; // widths
    const AlphaMap near = trimapAround(mask, width, width),
                   far = trimapAround(mask, kDeep * width, kFar * width);
    std::vector<Rgba> figures, grounds, closeGrounds;
    for (int y = 0; y < mask.height; ++y)
        for (int x = 0; x < mask.width; ++x) {
            const Rgba& c = picture.at(x, y);
            if (near.at(x, y) == 255) figures.push_back(c);
            if (near.at(x, y) == 0) closeGrounds.push_back(c);
            if (far.at(x, y) == 0) grounds.push_back(c);
        }
    // Hairs that stand out far are no ground; where the figure fills the picture there is none but that.
    constexpr size_t kEnough = 20;
    if (grounds.size() * kEnough < mask.values.size()) grounds = closeGrounds;
    if (figures.empty() || grounds.empty()) return near;
    const ColourDensity ground(grounds);
    const ColourDensity figure = ColourDensity(figures).without(ground);
    constexpr float kClear = 2; // e² times as likely
    cv::Mat doubtful(mask.height, mask.width, CV_8UC1, cv::Scalar(0));
    for (int y = 0; y < mask.height; ++y)
        for (int x = 0; x < mask.width; ++x) {
            if (near.at(x, y) == kUncertain) doubtful.at<uint8_t>(y, x) = 255;
            if (near.at(x, y) == kUncertain || far.at(x, y) != kUncertain) continue;
            const float speaks = leaning(figure, ground, picture.at(x, y));
            if (mask.at(x, y) ? speaks < kClear : speaks > -kClear) doubtful.at<uint8_t>(y, x) = 255;
        }
    // Only what hangs together with the outline.
    cv::Mat joined, labels;
    const int reach = 1 + 2 * int(std::lround(0.4 * width));
    cv::dilate(doubtful, joined, cv::getStructuringElement(cv::MORPH_ELLIPSE, {reach, reach}));
    const int count = cv::connectedComponents(joined, labels, 8);
    std::vector<bool> onOutline(size_t(count), false);
    for (int y = 0; y < mask.height; ++y)
        for (int x = 0; x < mask.width; ++x)
            if (near.at(x, y) == kUncertain) onOutline[size_t(labels.at<int>(y, x))] = true;
    AlphaMap out = mask;
    for (int y = 0; y < mask.height; ++y)
        for (int x = 0; x < mask.width; ++x)
            if (joined.at<uint8_t>(y, x) && onOutline[size_t(labels.at<int>(y, x))])
                out.at(x, y) = near.at(x, y) == kUncertain ? kUncertain
                               : mask.at(x, y)             ? kProbablyFigure
                                                           : kProbablyGround;
    return out;
}

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
    if (area.empty()) {
        Floats out(trimap.values.size());
        std::transform(trimap.values.begin(), trimap.values.end(), out.begin(),
                       [](uint8_t v) { return float(v) / 255; });
        return out;
    }
    area = IntRect{area.x - 4, area.y - 4, area.w + 8, area.h + 8}.intersected(all);
    const Reduced part = partOf(level, area);
    AlphaMap inside(area.w, area.h);
    for (int y = 0; y < area.h; ++y)
        for (int x = 0; x < area.w; ++x) inside.at(x, y) = trimap.at(area.x + x, area.y + y);
    std::vector<AlphaGuess> guesses = sampledAlpha(part, inside);
    for (size_t i = 0; i < guesses.size(); ++i) guesses[i] = leant(guesses[i], inside.values[i]);
    const Floats solved = solvedAlpha(part, inside, guesses, options.cancel);
    Floats out(trimap.values.size());
    std::transform(trimap.values.begin(), trimap.values.end(), out.begin(),
                   [](uint8_t v) { return float(v) / 255; });
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
    if (!any || stopped(options)) return;
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

/// The finest level that is solved as a whole.
int wholeLevel(const Pyramid& picture) {
    int k = picture.firstLevel();
    while (k + 1 < picture.levels() &&
           double(picture.level(k).width) * picture.level(k).height > kSolvedWhole)
        ++k;
    return k;
}

tl::unexpected<Error> noFigure() {
    return fail(Fault::NotFound,
                "No figure could be told from its ground there; nothing was cut out. Draw the box closer, "
                "or a stroke over the figure and one over the ground.");
}

} // namespace

Result<AlphaMap> refinedAlpha(const Pyramid& picture, const AlphaMap& trimap, const CutoutOptions& options) {
    int k = wholeLevel(picture);
    const auto trimapOf = [&](const Picture& level) {
        return resizedTrimap(trimap, level.width, level.height, level.width < trimap.width ? 1 : 0);
    };
    Floats alpha = solvedWhole(picture.level(k), trimapOf(picture.level(k)), options);
    for (const int first = picture.firstLevel(); k > first; --k) {
        if (stopped(options)) return cancelled();
        tell(options, 0.9 / double(1 << (2 * (k - first))));
        const Picture &above = picture.level(k), &level = picture.level(k - 1);
        alpha = solvedInTiles(level, trimapOf(level),
                              enlarged(alpha, above.width, above.height, level.width, level.height), options);
    }
    if (stopped(options)) return cancelled();
    const Picture& finest = picture.level(k);
    if (finest.width != picture.width())
        alpha = enlarged(alpha, finest.width, finest.height, picture.width(), picture.height());
    AlphaMap out(picture.width(), picture.height());
    std::transform(alpha.begin(), alpha.end(), out.values.begin(), [](float a) {
        return static_cast<uint8_t>(std::lround(std::clamp(a, 0.0f, 1.0f) * 255));
    });
    tell(options, 1);
    return out;
}

Result<AlphaMap> figureAlpha(const Pyramid& picture, const CutoutHints& hints, const CutoutOptions& options) {
    const Rect all{0, 0, double(picture.width()), double(picture.height())};
    if (!hints.box.empty() && hints.box.intersected(all).empty())
        return fail(Fault::Usage, "The box lies outside the picture; nothing was cut out.");
    const Reduced small = reducedTo(picture, kLookSide);
    AlphaMap asked(small.width, small.height, kProbablyFigure);
    keepHints(picture, hints, asked);
    const auto segments = segmented(small, asked);
    if (!segments) return noFigure();
    if (stopped(options)) return cancelled();
    const Picture& level = picture.level(wholeLevel(picture));
    const double width = std::max(1.5, options.band * std::max(level.width, level.height));
    AlphaMap trimap = bandOf(partOf(level, {0, 0, level.width, level.height}),
                             resizedTrimap(*segments, level.width, level.height, 0), width);
    keepHints(picture, hints, trimap);
    return refinedAlpha(picture, resizedTrimap(trimap, picture.width(), picture.height(), 0), options);
}

} // namespace glyptos
