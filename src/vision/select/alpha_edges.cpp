#include "vision/select/alpha_edges.h"

#include <opencv2/imgproc.hpp>

namespace glyptos {
namespace {

cv::Mat matOf(const AlphaMap& map) {
    return {map.height, map.width, CV_8UC1, const_cast<uint8_t*>(map.values.data())};
}

AlphaMap mapOf(const cv::Mat& mat) {
    AlphaMap out(mat.cols, mat.rows);
    mat.copyTo(cv::Mat(mat.rows, mat.cols, CV_8UC1, out.values.data()));
    return out;
}

/// How far each pixel's middle lies outside the edge, px; negative inside.
cv::Mat distances(const AlphaMap& map) {
    cv::Mat whole, outside, inside;
    cv::copyMakeBorder(matOf(map), whole, 1, 1, 1, 1, cv::BORDER_CONSTANT, 0);
    cv::distanceTransform(whole < 128, outside, cv::DIST_L2, cv::DIST_MASK_PRECISE);
    cv::distanceTransform(whole >= 128, inside, cv::DIST_L2, cv::DIST_MASK_PRECISE);
    // Distances are to the nearest pixel of the other side: the edge lies half a pixel before it.
    const cv::Mat signed_ = cv::max(outside - 0.5f, 0) - cv::max(inside - 0.5f, 0);
    return signed_(cv::Rect(1, 1, map.width, map.height)).clone();
}

} // namespace

AlphaMap grown(const AlphaMap& map, double by) {
    if (map.values.empty() || by == 0) return map;
    cv::Mat out;
    distances(map).convertTo(out, CV_8U, -255, 255 * (by + 0.5));
    return mapOf(out);
}

AlphaMap feathered(const AlphaMap& map, double width) {
    if (map.values.empty() || !(width > 0)) return map;
    cv::Mat out;
    cv::GaussianBlur(matOf(map), out, {}, width / 2, width / 2, cv::BORDER_CONSTANT);
    return mapOf(out);
}

AlphaMap smoothed(const AlphaMap& map, double radius) {
    if (map.values.empty() || !(radius > 0)) return map;
    cv::Mat soft, out;
    matOf(map).convertTo(soft, CV_32F);
    cv::GaussianBlur(soft, soft, {}, radius, radius, cv::BORDER_REPLICATE);
    // The half line of the blur, one pixel soft: its slope across an edge is 255 / (radius · √(2π)).
    const double slope = radius * 2.5066;
    soft.convertTo(out, CV_8U, slope, 127.5 * (1 - slope));
    return mapOf(out);
}

std::vector<std::vector<Vec2>> outlinesOf(const AlphaMap& map, double slack) {
    if (map.values.empty()) return {};
    // Twice as large, so that the edge between two pixels is a place of its own.
    cv::Mat large;
    cv::resize(matOf(map) >= 128, large, {}, 2, 2, cv::INTER_NEAREST);
    std::vector<std::vector<cv::Point>> found;
    cv::findContours(large, found, cv::RETR_CCOMP, cv::CHAIN_APPROX_SIMPLE);
    std::vector<std::vector<Vec2>> out;
    for (auto& contour : found) {
        if (slack > 0) cv::approxPolyDP(std::vector<cv::Point>(contour), contour, 2 * slack, true);
        std::vector<Vec2>& points = out.emplace_back();
        for (const cv::Point& p : contour) points.push_back({(p.x + 0.5) / 2, (p.y + 0.5) / 2});
    }
    return out;
}

} // namespace glyptos
