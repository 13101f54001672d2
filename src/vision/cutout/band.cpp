#include "vision/cutout/band.h"

#include "vision/cutout/local_colours.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

namespace glyptos {
namespace {

/// How far from the outline hairs may reach, and how deep ground may show, in widths of the band.
constexpr double kFar = 10, kDeep = 6;

/// What is surely figure and ground, away from the outline.
AlphaMap labelsBeside(const AlphaMap& near, const AlphaMap& far) {
    // Hairs that stand out far are no ground; where the figure fills the picture there is none but that.
    constexpr size_t kEnough = 20;
    const auto farGrounds = size_t(std::count(far.values.begin(), far.values.end(), 0));
    const AlphaMap& ground = farGrounds * kEnough >= far.values.size() ? far : near;
    AlphaMap out(near.width, near.height, kUncertain);
    for (size_t i = 0; i < out.values.size(); ++i) {
        if (near.values[i] == 255) out.values[i] = 255;
        if (ground.values[i] == 0) out.values[i] = 0;
    }
    return out;
}

/// 255 in the band, and where colours near it speak against the mask or not clearly for it.
cv::Mat doubtful(const Reduced& picture, const AlphaMap& mask, const AlphaMap& near, const AlphaMap& far) {
    const auto colours = LocalColours::learn(picture, labelsBeside(near, far), Place::Local);
    const std::vector<float> speaks = colours ? colours->speaks() : std::vector<float>(mask.values.size());
    constexpr float kClear = 2; // e² times as likely
    cv::Mat out(mask.height, mask.width, CV_8UC1, cv::Scalar(0));
    for (size_t i = 0; i < mask.values.size(); ++i) {
        const bool clear = mask.values[i] ? speaks[i] >= kClear : speaks[i] <= -kClear;
        if (isUncertain(near.values[i]) || (isUncertain(far.values[i]) && !clear)) out.data[i] = 255;
    }
    return out;
}

} // namespace

AlphaMap bandOf(const Reduced& picture, const AlphaMap& mask, double width) {
    const AlphaMap near = trimapAround(mask, width, width),
                   far = trimapAround(mask, kDeep * width, kFar * width);
    cv::Mat joined, labels;
    const int reach = 1 + 2 * int(std::lround(0.4 * width));
    cv::dilate(doubtful(picture, mask, near, far), joined,
               cv::getStructuringElement(cv::MORPH_ELLIPSE, {reach, reach}));
    // Only what hangs together with the outline.
    std::vector<bool> onOutline(size_t(cv::connectedComponents(joined, labels, 8)), false);
    const int* label = labels.ptr<int>();
    for (size_t i = 0; i < mask.values.size(); ++i)
        if (isUncertain(near.values[i])) onOutline[size_t(label[i])] = true;
    AlphaMap out = mask;
    for (size_t i = 0; i < mask.values.size(); ++i) {
        if (!joined.data[i] || !onOutline[size_t(label[i])]) continue;
        const uint8_t probable = mask.values[i] ? kProbablyFigure : kProbablyGround;
        out.values[i] = isUncertain(near.values[i]) ? kUncertain : probable;
    }
    return out;
}

} // namespace glyptos
