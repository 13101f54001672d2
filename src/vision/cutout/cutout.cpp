#include "vision/cutout/cutout.h"

#include "vision/cutout/band.h"
#include "vision/cutout/segment.h"
#include "vision/cutout/subject.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

namespace glyptos {
namespace {

/// The figure is looked for in a picture of this longer side, which holds its shape and not its hairs.
constexpr int kLookSide = 420;
/// What OpenCV can draw: coordinates, and widths of lines.
constexpr double kBeyond = 30000, kWidest = 30000;

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
        const auto width = std::max(1, int(std::lround(std::min(2 * s.radius * k, kWidest))));
        const auto along = [&](double v) { return int(std::lround(std::clamp(v * k, -kBeyond, kBeyond))); };
        const auto at = [&](Vec2 p) { return cv::Point(along(p.x), along(p.y)); };
        for (size_t i = 0; i < s.points.size(); ++i)
            cv::line(view, at(s.points[i ? i - 1 : 0]), at(s.points[i]), s.figure ? 255 : 0, width);
    }
}

/// What the strokes say is the figure, 255, and nothing else.
AlphaMap clickedIn(const Pyramid& picture, const CutoutHints& hints, AlphaMap empty) {
    CutoutHints figure;
    std::copy_if(hints.strokes.begin(), hints.strokes.end(), std::back_inserter(figure.strokes),
                 [](const HintStroke& s) { return s.figure; });
    keepHints(picture, figure, empty);
    return empty;
}

/// The bounds of all that may be the figure, px of the picture.
Rect boxOf(const AlphaMap& labels, double pixel) {
    const cv::Rect box = cv::boundingRect(
        cv::Mat(labels.height, labels.width, CV_8UC1, const_cast<uint8_t*>(labels.values.data())));
    return {box.x * pixel, box.y * pixel, box.width * pixel, box.height * pixel};
}

/// Whether hardly more was found than what was clicked.
bool isMereClick(const AlphaMap& asked, const AlphaMap& found) {
    constexpr ptrdiff_t kMore = 3;
    constexpr size_t kSmall = 100; // of them make a picture
    const auto clicked = std::count(asked.values.begin(), asked.values.end(), 255),
               all = std::count(found.values.begin(), found.values.end(), 255);
    return size_t(clicked) * kSmall < asked.values.size() && all < kMore * clicked;
}

tl::unexpected<Error> noFigure() {
    return fail(Fault::NotFound,
                "No figure could be told from its ground there; nothing was cut out. Draw a box round it, "
                "or a stroke over the figure and one over the ground.");
}

} // namespace

Result<AlphaMap> figureAlpha(const Pyramid& picture, const CutoutHints& hints, const CutoutOptions& options) {
    const Rect all{0, 0, double(picture.width()), double(picture.height())};
    if (!hints.box.empty() && hints.box.intersected(all).empty())
        return fail(Fault::Usage, "The box lies outside the picture; nothing was cut out.");
    const Reduced small = reducedTo(picture, kLookSide);
    AlphaMap asked(small.width, small.height, kProbablyFigure);
    CutoutHints told = hints;
    float trust = 0;
    if (hints.box.empty()) {
        auto subject = subjectIn(small, clickedIn(picture, hints, AlphaMap(small.width, small.height)));
        if (!subject) return noFigure();
        asked = std::move(subject->labels);
        trust = subject->trust;
        told.box = boxOf(asked, double(picture.width()) / small.width);
    }
    keepHints(picture, told, asked);
    const auto segments = segmented(small, asked, trust);
    if (!segments || (hints.box.empty() && isMereClick(asked, *segments))) return noFigure();
    if (isCancelled(options.cancel)) return cancelled();
    const Picture& level = picture.level(levelSolvedWhole(picture));
    const double width = std::max(1.5, options.band * std::max(level.width, level.height));
    AlphaMap trimap = bandOf(partOf(level, {0, 0, level.width, level.height}),
                             resizedTrimap(*segments, level.width, level.height, 0), width);
    keepHints(picture, told, trimap);
    return refinedAlpha(picture, resizedTrimap(trimap, picture.width(), picture.height(), 0), options);
}

} // namespace glyptos
