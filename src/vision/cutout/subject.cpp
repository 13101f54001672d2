#include "vision/cutout/subject.h"

#include "color/oklab.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <opencv2/imgproc.hpp>

namespace glyptos {
namespace {

/// How hard each pixel is to reach from the edge, in steps of colour as Oklab measures them.
using Costs = cv::Mat1f;
constexpr float kNever = 1e3f;

/// What stands out less cannot be told from the ground.
constexpr float kFaint = 0.06f;
/// The subject stands out by this share of what the place clicked does, or by as much as is clear.
constexpr float kMuch = 0.55f, kClear = 0.1f;
/// Off what the edge lets expect: a ground of which nothing is to be expected.
constexpr float kPlain = 0.05f;
/// In what is found before a ground that is as expected.
constexpr float kTrust = 2;
/// Shares of the edge: that may be the figure; to each side of a pixel, that says nothing of it.
constexpr double kRare = 0.2, kApart = 0.08;
/// Of the subject's size round it, in which the figure is looked for.
constexpr double kRoom = 0.12;
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
    out.reserve(size_t(2) * size_t(size.width + size.height));
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

/// Sweeps there and back over all pixels; `reach(x, y, fromX, fromY)` for the two neighbours that come
/// before.
template <class Reach>
void sweep(const cv::Size& size, const Reach& reach) {
    for (int pass = 0; pass < kPasses; ++pass) {
        const int way = pass % 2 ? -1 : 1;
        for (int i = 0; i < size.height; ++i)
            for (int j = 0; j < size.width; ++j) {
                const int y = way > 0 ? i : size.height - 1 - i, x = way > 0 ? j : size.width - 1 - j;
                if (x - way >= 0 && x - way < size.width) reach(x, y, x - way, y);
                if (y - way >= 0 && y - way < size.height) reach(x, y, x, y - way);
            }
    }
}

/// The least sum of steps, those of a slow change of light not counted, from each pixel of the edge along it,
/// either way, to far enough that a figure ends before.
std::vector<float> boundedness(const cv::Mat3f& colours, const std::vector<cv::Point>& edge) {
    constexpr float kSlow = 0.012f;
    constexpr double kFar = 0.3; // of the edge
    const size_t n = edge.size(), far = size_t(kFar * double(n));
    std::vector<float> sums{0};
    for (size_t i = 0; i < 2 * n; ++i) {
        const auto step = float(cv::norm(colours(edge[i % n]) - colours(edge[(i + 1) % n])));
        sums.push_back(sums.back() + std::max(step - kSlow, 0.0f));
    }
    std::vector<float> out(n);
    for (size_t i = 0; i < n; ++i)
        out[i] = std::min(sums[i + far] - sums[i], sums[i + n] - sums[i + n - far]);
    return out;
}

/// The least barrier, highest less lowest value on the way, from the edge to each pixel: grain does not add
/// up.
Costs barriersFrom(const cv::Mat3f& colours, const std::vector<cv::Point>& edge,
                   const std::vector<float>& begins) {
    Costs cost(colours.size(), kNever), begun(colours.size(), 0.0f);
    cv::Mat3f high = colours.clone(), low = colours.clone();
    for (size_t i = 0; i < edge.size(); ++i) cost(edge[i]) = begun(edge[i]) = begins[i];
    sweep(colours.size(), [&](int x, int y, int fromX, int fromY) {
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
    });
    return cost;
}

/// What the picture would be if there were nothing but the colours of its edge, running evenly into each
/// other.
cv::Mat3f groundFrom(const cv::Mat3f& colours, const std::vector<cv::Point>& edge,
                     const std::vector<float>& rare) {
    constexpr double kSide = 48;
    constexpr int kRounds = 400;
    const double k = kSide / std::max(colours.cols, colours.rows);
    const cv::Size size(std::max(1, int(std::lround(colours.cols * k))),
                        std::max(1, int(std::lround(colours.rows * k))));
    cv::Mat3f sum(size, cv::Vec3f(0, 0, 0));
    cv::Mat1f count(size, 0.0f);
    cv::Vec3f all(0, 0, 0);
    float known = 0;
    for (size_t i = 0; i < edge.size(); ++i) {
        if (rare[i] > kFaint) continue;
        const cv::Point cell(edge[i].x * size.width / colours.cols, edge[i].y * size.height / colours.rows);
        sum(cell) += colours(edge[i]), count(cell) += 1;
        all += colours(edge[i]), known += 1;
    }
    cv::Mat3f out(size, all / std::max(known, 1.0f));
    for (int round = 0; round < kRounds; ++round)
        for (int y = 0; y < size.height; ++y)
            for (int x = 0; x < size.width; ++x) {
                if (count(y, x) > 0) {
                    out(y, x) = sum(y, x) / count(y, x);
                    continue;
                }
                cv::Vec3f round4(0, 0, 0);
                for (const auto& [dx, dy] : {std::pair{-1, 0}, {1, 0}, {0, -1}, {0, 1}})
                    round4 +=
                        out(std::clamp(y + dy, 0, size.height - 1), std::clamp(x + dx, 0, size.width - 1));
                out(y, x) = round4 / 4;
            }
    cv::Mat3f large;
    cv::resize(out, large, colours.size(), 0, 0, cv::INTER_LINEAR);
    return large;
}

Costs apart(const cv::Mat3f& a, const cv::Mat3f& b) {
    Costs out(a.size());
    for (int y = 0; y < a.rows; ++y)
        for (int x = 0; x < a.cols; ++x) out(y, x) = float(cv::norm(a(y, x) - b(y, x)));
    return out;
}

/// The middle one of the values a twentieth of the size inwards of what is not rare of the edge; kNever when
/// most of that is rare.
float medianNear(const Costs& values, const std::vector<float>& rare, const std::vector<cv::Point>& edge) {
    constexpr float kInwards = 0.05f;
    const cv::Point2f middle(float(values.cols) / 2, float(values.rows) / 2);
    std::vector<float> out;
    for (size_t i = 0; i < edge.size(); ++i) {
        const cv::Point2f at(edge[i]);
        if (rare[i] <= kFaint) out.push_back(values(cv::Point(at + (middle - at) * (2 * kInwards))));
    }
    if (2 * out.size() < edge.size()) return kNever;
    const auto half = out.begin() + ptrdiff_t(out.size() / 2);
    std::nth_element(out.begin(), half, out.end());
    return *half;
}

/// The part of what stands out by more than `least` that holds a place; nothing when that does not.
cv::Mat1b partAt(const Costs& costs, float least, cv::Point place) {
    cv::Mat1b high = costs > least;
    cv::Mat labels;
    cv::connectedComponents(high, labels);
    const int label = labels.at<int>(place);
    return label ? cv::Mat1b(labels == label) : cv::Mat1b(high.size(), uchar(0));
}

} // namespace

std::optional<Subject> subjectIn(const Reduced& picture, const AlphaMap& on) {
    const cv::Mat3f colours = softened(picture);
    const std::vector<cv::Point> edge = edgeOf(colours.size());
    std::vector<float> rare = rarity(colours, edge);
    const std::vector<float> bounded = boundedness(colours, edge);
    for (size_t i = 0; i < rare.size(); ++i) rare[i] = std::min(rare[i], bounded[i]);
    const Costs reached = barriersFrom(colours, edge, rare),
                unlike = apart(colours, groundFrom(colours, edge, rare));
    // Where the edge lets expect what lies near it, what is as expected is ground too.
    const float trust = kTrust * (1 - std::min(medianNear(unlike, rare, edge) / kPlain, 1.0f));
    const Costs costs = trust > 0 ? Costs(cv::min(reached, unlike)) : reached;
    const cv::Mat clicked(on.height, on.width, CV_8UC1, const_cast<uint8_t*>(on.values.data()));
    const cv::Mat asked = clicked == 255;
    double most = 0;
    cv::Point place;
    cv::minMaxLoc(costs, nullptr, &most, nullptr, &place, cv::countNonZero(asked) ? asked : cv::Mat());
    if (most < double(kFaint)) return std::nullopt;
    const cv::Mat1b part = partAt(costs, std::max(kFaint, std::min(kMuch * float(most), kClear)), place);
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
    return Subject{std::move(out), trust};
}

} // namespace glyptos
