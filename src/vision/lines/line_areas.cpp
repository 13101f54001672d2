#include "vision/lines/line_areas.h"

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

namespace glyptos {
namespace {

constexpr float kMoreRoom = 1.5; // px, that a ball has in an area somewhere, if it is one
constexpr double kLeastArea = 5; // px, of the side of an area where the ball fits nowhere

GroundColour colourAt(const Picture& p, int x, int y) {
    const uint8_t* px = p.row<uint8_t>(y) + ptrdiff_t(4) * x;
    const float alpha = float(px[3]) / 255;
    return {float(px[0]) / 255 * alpha, float(px[1]) / 255 * alpha, float(px[2]) / 255 * alpha, alpha};
}

/// 255 on lines.
cv::Mat linesOf(const Picture& p, const GroundColour& ground, double tolerance) {
    cv::Mat out(p.height, p.width, CV_8U);
    for (int y = 0; y < p.height; ++y) {
        uint8_t* row = out.ptr(y);
        for (int x = 0; x < p.width; ++x) {
            const GroundColour c = colourAt(p, x, y);
            float off = 0;
            for (size_t i = 0; i < 4; ++i) off = std::max(off, std::abs(c[i] - ground[i]));
            row[x] = double(off) > tolerance ? 255 : 0;
        }
    }
    return out;
}

/// Takes patches of fewer pixels than a square of that side out of a mask.
void clearSpecks(cv::Mat& lines, double speck, int neighbours) {
    cv::Mat labels, stats, middles;
    const int count = cv::connectedComponentsWithStats(lines, labels, stats, middles, neighbours, CV_32S);
    std::vector<uint8_t> keep(size_t(count), 255);
    keep[0] = 0;
    for (int i = 1; i < count; ++i)
        if (stats.at<int>(i, cv::CC_STAT_AREA) < speck * speck) keep[size_t(i)] = 0;
    for (int y = 0; y < lines.rows; ++y)
        for (int x = 0; x < lines.cols; ++x) lines.at<uint8_t>(y, x) = keep[size_t(labels.at<int>(y, x))];
}

/// Gives the labels of labelled pixels to those round them that may pass and have none, nearest first.
void spread(cv::Mat& labels, const cv::Mat& mayPass) {
    std::vector<cv::Point> front, next;
    const auto eachNear = [&](cv::Point p, auto act) {
        static const std::array<cv::Point, 4> kSides{cv::Point{1, 0}, {-1, 0}, {0, 1}, {0, -1}};
        for (const cv::Point& side : kSides) {
            const cv::Point q = p + side;
            if (q.x >= 0 && q.y >= 0 && q.x < labels.cols && q.y < labels.rows) act(q);
        }
    };
    const auto isOpen = [&](cv::Point q) { return labels.at<int>(q) < 0 && mayPass.at<uint8_t>(q); };
    for (int y = 0; y < labels.rows; ++y)
        for (int x = 0; x < labels.cols; ++x) {
            if (labels.at<int>(y, x) < 0) continue;
            bool isRim = false;
            eachNear({x, y}, [&](cv::Point q) { isRim = isRim || isOpen(q); });
            if (isRim) front.emplace_back(x, y);
        }
    while (!front.empty()) {
        next.clear();
        for (const cv::Point& p : front)
            eachNear(p, [&](cv::Point q) {
                if (!isOpen(q)) return;
                labels.at<int>(q) = labels.at<int>(p);
                next.push_back(q);
            });
        front.swap(next);
    }
}

/// Patches of `where` that have no label get new ones, from `count` on.
int labelPatches(cv::Mat& labels, const cv::Mat& where, int count) {
    cv::Mat patches;
    const int found = cv::connectedComponents(where, patches, 4, CV_32S);
    for (int y = 0; y < labels.rows; ++y)
        for (int x = 0; x < labels.cols; ++x)
            if (const int patch = patches.at<int>(y, x); patch > 0 && labels.at<int>(y, x) < 0)
                labels.at<int>(y, x) = count + patch - 1;
    return count + found - 1;
}

/// Patches further from lines than `least`, of those that somewhere are further than `most`.
cv::Mat roomyPatches(const cv::Mat& away, float least, float most) {
    cv::Mat patches, out(away.size(), CV_8U, cv::Scalar(0));
    const int count = cv::connectedComponents(away > least, patches, 4, CV_32S);
    std::vector<uint8_t> isKept(size_t(count), 0);
    for (int y = 0; y < away.rows; ++y)
        for (int x = 0; x < away.cols; ++x)
            if (away.at<float>(y, x) > most) isKept[size_t(patches.at<int>(y, x))] = 255;
    isKept[0] = 0;
    for (int y = 0; y < away.rows; ++y)
        for (int x = 0; x < away.cols; ++x) out.at<uint8_t>(y, x) = isKept[size_t(patches.at<int>(y, x))];
    return out;
}

} // namespace

GroundColour groundAt(const Picture& drawing, int x, int y) {
    GroundColour out{};
    for (size_t c = 0; c < 4; ++c) {
        std::vector<float> values;
        for (int j = -2; j <= 2; ++j)
            for (int i = -2; i <= 2; ++i)
                values.push_back(colourAt(drawing, std::clamp(x + i, 0, drawing.width - 1),
                                          std::clamp(y + j, 0, drawing.height - 1))[c]);
        std::nth_element(values.begin(), values.begin() + ptrdiff_t(values.size() / 2), values.end());
        out[c] = values[values.size() / 2];
    }
    return out;
}

LineAreas lineAreas(const Picture& drawing, const GroundColour& ground, const LineOptions& options) {
    const auto isCancelled = [&] { return options.cancel && *options.cancel; };
    cv::Mat lines = linesOf(drawing, ground, options.tolerance);
    if (options.speck > 0) clearSpecks(lines, options.speck, 8);
    const cv::Mat free = ~lines;
    cv::Mat away;
    // Beyond the edge of the drawing there is no line.
    cv::distanceTransform(free, away, cv::DIST_L2, cv::DIST_MASK_5);
    if (isCancelled()) return {};
    cv::Mat labels(drawing.height, drawing.width, CV_32S, cv::Scalar(-1));
    const auto fits = float(options.gap / 2 + 0.5);
    // Where the ball only just fits, as here and there along a tip, no area begins.
    int count = labelPatches(labels, roomyPatches(away, fits, fits + kMoreRoom), 0);
    spread(labels, free);
    // Patches in which the ball fits nowhere are areas of their own.
    cv::Mat narrow = (labels < 0) & free;
    // But bits of a tip that its own lines cut up go where those go.
    const cv::Mat bits = narrow.clone();
    clearSpecks(narrow, std::max(options.speck, kLeastArea), 4);
    count = labelPatches(labels, narrow, count);
    if (isCancelled()) return {};
    spread(labels, lines | (bits & ~narrow));
    LineAreas out;
    out.width = drawing.width, out.height = drawing.height;
    out.labels.assign(labels.begin<int>(), labels.end<int>());
    out.areas.resize(size_t(count));
    for (int y = 0; y < out.height; ++y)
        for (int x = 0; x < out.width; ++x) {
            const int label = out.at(x, y);
            if (label < 0) continue;
            LineArea& area = out.areas[size_t(label)];
            area.free += free.at<uint8_t>(y, x) != 0;
            const IntRect pixel{x, y, 1, 1};
            if (area.pixels++ == 0) area.bounds = pixel;
            IntRect& b = area.bounds;
            const int left = std::min(b.x, x), top = std::min(b.y, y);
            b = {left, top, std::max(b.right(), x + 1) - left, std::max(b.bottom(), y + 1) - top};
            const bool isEdge = x == 0 || y == 0 || x == out.width - 1 || y == out.height - 1;
            area.runsOut = area.runsOut || (isEdge && free.at<uint8_t>(y, x));
        }
    return out;
}

int LineAreas::at(int x, int y) const {
    if (x < 0 || y < 0 || x >= width || y >= height) return -1;
    return labels[size_t(y) * size_t(width) + size_t(x)];
}

bool LineAreas::isLine(int area) const {
    constexpr int kMost = 4; // times the ground, that the halves of lines round it can be
    const LineArea& one = areas[size_t(area)];
    return one.pixels > kMost * one.free;
}

AlphaMap LineAreas::mask(const std::vector<int>& which, const IntRect& bounds) const {
    std::vector<uint8_t> isIn(areas.size() + 1, 0); // the last one: of no area
    for (const int label : which)
        if (label >= 0) isIn[size_t(label)] = 255;
    // With a pixel round it; what lies at the edge goes on beyond it.
    cv::Mat hard(bounds.h + 2, bounds.w + 2, CV_8U);
    for (int y = 0; y < hard.rows; ++y) {
        const int32_t* from =
            labels.data() + size_t(std::clamp(bounds.y + y - 1, 0, height - 1)) * size_t(width);
        for (int x = 0; x < hard.cols; ++x) {
            const int label = from[std::clamp(bounds.x + x - 1, 0, width - 1)];
            hard.at<uint8_t>(y, x) = isIn[label >= 0 ? size_t(label) : areas.size()];
        }
    }
    const cv::Mat soft = (cv::Mat_<float>(1, 3) << 0.25F, 0.5F, 0.25F);
    cv::sepFilter2D(hard, hard, CV_8U, soft, soft);
    AlphaMap out(bounds.w, bounds.h);
    for (int y = 0; y < bounds.h; ++y)
        std::copy_n(hard.ptr(y + 1) + 1, bounds.w, out.values.data() + size_t(y) * size_t(bounds.w));
    return out;
}

} // namespace glyptos
