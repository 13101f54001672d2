#include "vision/cutout/subject.h"

#include "color/oklab.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <opencv2/imgproc.hpp>

namespace glyptos {
namespace {

/// How hard each pixel is to reach, in steps of Oklab's L, a and b together; at the size of the picture.
using Barriers = cv::Mat1f;

constexpr float kFaint = 0.06f; ///< what stands out less cannot be told from the ground
constexpr float kMuch = 0.55f;  ///< of what the place clicked stands out, its surroundings do at least
constexpr double kRare = 0.2;   ///< of the edge may be the figure
constexpr double kApart = 0.08; ///< of the edge to each side of a pixel says nothing of it
constexpr double kRoom = 0.12;  ///< of the subject's size round it, in which the figure is looked for
constexpr int kSoften = 5, kPasses = 6; ///< px; sweeps

cv::Mat3f softened(const Reduced& picture) {
    cv::Mat3f out(picture.height, picture.width);
    for (int y = 0; y < picture.height; ++y)
        for (int x = 0; x < picture.width; ++x) {
            const Oklab c = toOklab(picture.at(x, y));
            out(y, x) = {c.L, c.a, c.b};
        }
    // Grain and hairs go, outlines stay.
    std::array<cv::Mat, 3> planes;
    cv::split(out, planes.data());
    for (cv::Mat& plane : planes) cv::medianBlur(plane, plane, kSoften);
    cv::merge(planes.data(), planes.size(), out);
    return out;
}

std::vector<cv::Point> edgeOf(const cv::Size& size) {
    std::vector<cv::Point> out;
    for (int x = 0; x < size.width; ++x) out.emplace_back(x, 0);
    for (int y = 1; y < size.height; ++y) out.emplace_back(size.width - 1, y);
    for (int x = size.width - 2; x >= 0 && size.height > 1; --x) out.emplace_back(x, size.height - 1);
    for (int y = size.height - 2; y > 0 && size.width > 1; --y) out.emplace_back(0, y);
    return out;
}

/// For each pixel of the edge how far its colour is from those of the rest of the edge that are most like it.
std::vector<float> rarity(const cv::Mat3f& colours, const std::vector<cv::Point>& edge) {
    const auto n = ptrdiff_t(edge.size());
    const auto apart = ptrdiff_t(std::lround(kApart * double(n)));
    std::vector<float> out(edge.size()), off;
    for (ptrdiff_t i = 0; i < n; ++i) {
        off.clear();
        for (ptrdiff_t k = apart; k < n - apart; k += 3)
            off.push_back(float(cv::norm(colours(edge[size_t(i)]) - colours(edge[size_t((i + k) % n)]))));
        if (off.empty()) continue;
        const auto rare = off.begin() + ptrdiff_t(kRare * double(off.size()));
        std::nth_element(off.begin(), rare, off.end());
        out[size_t(i)] = *rare;
    }
    return out;
}

/// The least barrier, highest less lowest value on the way, from the edge to each pixel, by sweeps there and
/// back.
Barriers barriersFrom(const cv::Mat3f& colours, const std::vector<cv::Point>& edge,
                      const std::vector<float>& begins) {
    const cv::Size size = colours.size();
    constexpr float kNever = 1e3f;
    Barriers cost(size, kNever), begun(size, 0.0f);
    cv::Mat3f high = colours.clone(), low = colours.clone();
    for (size_t i = 0; i < edge.size(); ++i) cost(edge[i]) = begun(edge[i]) = begins[i];
    const auto reach = [&](int x, int y, int fromX, int fromY) {
        if (fromX < 0 || fromY < 0 || fromX >= size.width || fromY >= size.height) return;
        cv::Vec3f top = high(fromY, fromX), bottom = low(fromY, fromX);
        float barrier = 0;
        for (int k = 0; k < 3; ++k) {
            top[k] = std::max(top[k], colours(y, x)[k]), bottom[k] = std::min(bottom[k], colours(y, x)[k]);
            barrier += (top[k] - bottom[k]) * (top[k] - bottom[k]);
        }
        const float now = std::max(std::sqrt(barrier), begun(fromY, fromX));
        if (now >= cost(y, x)) return;
        cost(y, x) = now, begun(y, x) = begun(fromY, fromX);
        high(y, x) = top, low(y, x) = bottom;
    };
    for (int pass = 0; pass < kPasses; ++pass) {
        const int way = pass % 2 ? -1 : 1;
        for (int i = 0; i < size.height; ++i)
            for (int j = 0; j < size.width; ++j) {
                const int y = way > 0 ? i : size.height - 1 - i, x = way > 0 ? j : size.width - 1 - j;
                reach(x, y, x - way, y), reach(x, y, x, y - way);
            }
    }
    return cost;
}

/// The part of what stands out by more than `least` that holds a place; nothing when that does not.
cv::Mat1b partAt(const Barriers& barriers, float least, cv::Point place) {
    cv::Mat1b high = barriers > least;
    cv::Mat labels;
    cv::connectedComponents(high, labels);
    const int label = labels.at<int>(place);
    return label ? cv::Mat1b(labels == label) : cv::Mat1b(high.size(), uchar(0));
}

} // namespace

std::optional<AlphaMap> subjectLabels(const Reduced& picture, const AlphaMap& on) {
    const cv::Mat3f colours = softened(picture);
    const std::vector<cv::Point> edge = edgeOf(colours.size());
    const Barriers barriers = barriersFrom(colours, edge, rarity(colours, edge));
    const cv::Mat clicked(on.height, on.width, CV_8UC1, const_cast<uint8_t*>(on.values.data()));
    double most = 0;
    cv::Point place;
    cv::minMaxLoc(barriers, nullptr, &most, nullptr, &place, clicked == 255);
    if (most == 0) cv::minMaxLoc(barriers, nullptr, &most, nullptr, &place);
    if (most < double(kFaint)) return std::nullopt;
    const cv::Mat1b part = partAt(barriers, std::max(kFaint, kMuch * float(most)), place);
    const cv::Rect box = cv::boundingRect(part);
    const int room = int(std::lround(kRoom * std::max(box.width, box.height))) + 2;
    const cv::Rect round = cv::Rect(box.x - room, box.y - room, box.width + 2 * room, box.height + 2 * room) &
                           cv::Rect({}, part.size());
    AlphaMap out(picture.width, picture.height);
    for (int y = round.y; y < round.br().y; ++y)
        for (int x = round.x; x < round.br().x; ++x)
            out.at(x, y) = clicked.at<uchar>(y, x) == 255 ? 255
                           : part(y, x)                   ? kProbablyFigure
                                                          : kProbablyGround;
    return out;
}

} // namespace glyptos
