#include "vision/mend/hole_parts.h"

#include <algorithm>
#include <opencv2/imgproc.hpp>

namespace glyptos::mending {
namespace {

/// Holes less than this apart are one; thin ones are cut into squares of this side.
constexpr int kTogether = 16, kCut = 256;
constexpr double kThin = 24; ///< px from the rim to the middle

IntRect around(const IntRect& area, const AlphaMap& hole) {
    constexpr int kLeast = 64;
    const int by = std::max(kLeast, std::max(area.w, area.h) * 3 / 4);
    return IntRect{area.x - by, area.y - by, area.w + 2 * by, area.h + 2 * by}.intersected(
        {0, 0, hole.width, hole.height});
}

/// Areas of one hole: itself, or its squares when it is long and thin.
std::vector<IntRect> cut(const IntRect& area, const cv::Mat& is) {
    cv::Mat distance;
    double depth = 0;
    cv::copyMakeBorder(is, distance, 1, 1, 1, 1, cv::BORDER_REPLICATE);
    cv::distanceTransform(distance, distance, cv::DIST_L2, 3);
    cv::minMaxLoc(distance, nullptr, &depth);
    if (depth > kThin || std::max(area.w, area.h) <= 2 * kCut) return {area};
    std::vector<IntRect> out;
    for (int y = area.y; y < area.bottom(); y += kCut)
        for (int x = area.x; x < area.right(); x += kCut) {
            const IntRect square = IntRect{x, y, kCut, kCut}.intersected(area);
            const cv::Rect inside(square.x - area.x, square.y - area.y, square.w, square.h);
            const cv::Rect used = cv::boundingRect(is(inside));
            if (used.width > 0)
                out.push_back({square.x + used.x, square.y + used.y, used.width, used.height});
        }
    return out;
}

} // namespace

IntRect coveredArea(const AlphaMap& hole) {
    int left = hole.width, right = 0, top = hole.height, bottom = 0;
    for (int y = 0; y < hole.height; ++y)
        for (int x = 0; x < hole.width; ++x)
            if (hole.at(x, y)) {
                left = std::min(left, x), right = std::max(right, x + 1);
                top = std::min(top, y), bottom = y + 1;
            }
    return {left, top, right - left, bottom - top};
}

std::vector<HolePart> holeParts(const AlphaMap& hole) {
    const IntRect all = coveredArea(hole);
    if (all.empty()) return {};
    const cv::Mat whole(hole.height, hole.width, CV_8UC1, const_cast<uint8_t*>(hole.values.data()));
    const cv::Mat is = whole(cv::Rect(all.x, all.y, all.w, all.h)) > 0;
    cv::Mat near, labels, stats, middles;
    cv::dilate(is, near, cv::Mat::ones(kTogether + 1, kTogether + 1, CV_8UC1));
    const int count = cv::connectedComponentsWithStats(near, labels, stats, middles);
    std::vector<HolePart> out;
    for (int i = 1; i < count; ++i) {
        const cv::Rect box(stats.at<int>(i, cv::CC_STAT_LEFT), stats.at<int>(i, cv::CC_STAT_TOP),
                           stats.at<int>(i, cv::CC_STAT_WIDTH), stats.at<int>(i, cv::CC_STAT_HEIGHT));
        const cv::Mat own = (labels(box) == i) & is(box);
        const cv::Rect used = cv::boundingRect(own);
        const IntRect area{all.x + box.x + used.x, all.y + box.y + used.y, used.width, used.height};
        for (const IntRect& part : cut(area, own(used))) out.push_back({part, around(part, hole)});
    }
    return out;
}

} // namespace glyptos::mending
