#include "vision/cutout/trimap.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

namespace glyptos {
namespace {

cv::Mat view(const AlphaMap& map) {
    return {map.height, map.width, CV_8UC1, const_cast<uint8_t*>(map.values.data())};
}

} // namespace

AlphaMap trimapAround(const AlphaMap& mask, double inwards, double outwards) {
    cv::Mat toGround, toFigure, inverse;
    cv::bitwise_not(view(mask), inverse);
    cv::distanceTransform(view(mask), toGround, cv::DIST_L2, cv::DIST_MASK_PRECISE);
    cv::distanceTransform(inverse, toFigure, cv::DIST_L2, cv::DIST_MASK_PRECISE);
    AlphaMap out = mask;
    for (int y = 0; y < mask.height; ++y)
        for (int x = 0; x < mask.width; ++x) {
            const bool figure = mask.at(x, y) != 0;
            const double way = double(figure ? toGround.at<float>(y, x) : toFigure.at<float>(y, x));
            if (way <= (figure ? inwards : outwards)) out.at(x, y) = kUncertain;
        }
    return out;
}

AlphaMap resizedTrimap(const AlphaMap& trimap, int width, int height, int margin) {
    AlphaMap out(width, height);
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x)
            out.at(x, y) = trimap.at(std::min(trimap.width - 1, int((x + 0.5) * trimap.width / width)),
                                     std::min(trimap.height - 1, int((y + 0.5) * trimap.height / height)));
    if (margin <= 0) return out;
    cv::Mat uncertain(height, width, CV_8UC1), wider;
    std::transform(out.values.begin(), out.values.end(), uncertain.data,
                   [](uint8_t v) { return isUncertain(v) ? 255 : 0; });
    cv::dilate(uncertain, wider, cv::getStructuringElement(cv::MORPH_RECT, {2 * margin + 1, 2 * margin + 1}));
    for (size_t i = 0; i < out.values.size(); ++i)
        if (wider.data[i] && !isUncertain(out.values[i])) out.values[i] = kUncertain;
    return out;
}

IntRect uncertainArea(const AlphaMap& trimap) {
    int left = trimap.width, top = trimap.height, right = 0, bottom = 0;
    for (int y = 0; y < trimap.height; ++y)
        for (int x = 0; x < trimap.width; ++x)
            if (isUncertain(trimap.at(x, y))) {
                left = std::min(left, x), right = std::max(right, x + 1);
                top = std::min(top, y), bottom = std::max(bottom, y + 1);
            }
    return right > left ? IntRect{left, top, right - left, bottom - top} : IntRect{};
}

} // namespace glyptos
