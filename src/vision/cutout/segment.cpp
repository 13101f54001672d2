#include "vision/cutout/segment.h"

#include "vision/cutout/local_colours.h"
#include "vision/cutout/trimap.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <opencv2/imgproc.hpp>

// Stands apart, since it needs what the header above declares.
#include <opencv2/imgproc/detail/gcgraph.hpp>

namespace glyptos {
namespace {

constexpr int kRounds = 4, kLocalRounds = 2; ///< the last ones look place by place
/// How much an outline between two pixels of one colour costs, against colours that are e times as likely on
/// one side.
constexpr double kOutline = 12;

double squaredStep(const Rgba& a, const Rgba& b) {
    const double r = double(a.r - b.r), g = double(a.g - b.g), u = double(a.b - b.b);
    return r * r + g * g + u * u;
}

/// The neighbours of a pixel that come after it.
constexpr std::array<std::array<int, 2>, 4> kAfter{{{1, 0}, {0, 1}, {1, 1}, {-1, 1}}};

template <class Act>
void eachEdge(const Reduced& picture, const Act& act) {
    for (int y = 0; y < picture.height; ++y)
        for (int x = 0; x < picture.width; ++x)
            for (const auto& [dx, dy] : kAfter)
                if (x + dx >= 0 && x + dx < picture.width && y + dy < picture.height)
                    act(y * picture.width + x, (y + dy) * picture.width + x + dx, dx && dy);
}

/// The mean squared step of colour between neighbours: what is grain and what is an outline.
double meanStep(const Reduced& picture) {
    double sum = 0, count = 0;
    eachEdge(picture, [&](int a, int b, bool) {
        sum += squaredStep(picture.pixels[size_t(a)], picture.pixels[size_t(b)]), ++count;
    });
    return std::max(sum / std::max(count, 1.0), 1e-8);
}

/// The cheapest outline; `leaning` is the log of figure's to ground's probability.
AlphaMap cut(const Reduced& picture, const AlphaMap& hints, const std::vector<float>& leaning, double step) {
    const int n = picture.width * picture.height;
    cv::detail::GCGraph<double> graph(unsigned(n), unsigned(8 * n));
    constexpr double kCertain = 1e6;
    for (int i = 0; i < n; ++i) {
        graph.addVtx();
        const double v = double(leaning[size_t(i)]);
        const uint8_t hint = hints.values[size_t(i)];
        const double forFigure = hint == 255 ? kCertain : hint == 0 ? 0 : std::max(v, 0.0);
        const double forGround = hint == 0 ? kCertain : hint == 255 ? 0 : std::max(-v, 0.0);
        graph.addTermWeights(i, forFigure, forGround);
    }
    eachEdge(picture, [&](int a, int b, bool diagonal) {
        const double off = squaredStep(picture.pixels[size_t(a)], picture.pixels[size_t(b)]);
        const double w = kOutline * std::exp(-off / (2 * step)) / (diagonal ? std::sqrt(2.0) : 1.0);
        graph.addEdges(a, b, w, w);
    });
    graph.maxFlow();
    AlphaMap out(picture.width, picture.height);
    for (int i = 0; i < n; ++i) out.values[size_t(i)] = graph.inSourceSegment(i) ? 255 : 0;
    return out;
}

/// How far inside the bounds of what may be the figure each pixel lies, from 0 at an edge to 1 in the middle.
std::vector<float> middleness(const AlphaMap& may) {
    const cv::Rect box =
        cv::boundingRect(cv::Mat(may.height, may.width, CV_8UC1, const_cast<uint8_t*>(may.values.data())));
    std::vector<float> out;
    out.reserve(may.values.size());
    for (int y = 0; y < may.height; ++y)
        for (int x = 0; x < may.width; ++x) {
            const float u = std::abs(2 * (float(x - box.x) + 0.5f) / float(box.width) - 1),
                        v = std::abs(2 * (float(y - box.y) + 0.5f) / float(box.height) - 1);
            out.push_back(std::max(0.0f, 1 - std::max(u, v)));
        }
    return out;
}

/// Its largest part and what is at least a tenth of that: a stripe of the ground's colour may part a coat.
void tidy(AlphaMap& mask) {
    cv::Mat map(mask.height, mask.width, CV_8UC1, mask.values.data()), labels, facts, middles;
    const int parts = cv::connectedComponentsWithStats(map, labels, facts, middles);
    int most = 0;
    for (int i = 1; i < parts; ++i) most = std::max(most, facts.at<int>(i, cv::CC_STAT_AREA));
    for (size_t i = 0; i < mask.values.size(); ++i)
        if (facts.at<int>(labels.at<int>(int(i)), cv::CC_STAT_AREA) * 10 < most) mask.values[i] = 0;
}

} // namespace

namespace {

/// At first the figure is looked for in the middle of where it may be.
AlphaMap learntFrom(AlphaMap now, const AlphaMap& hints, const std::vector<float>& middle) {
    constexpr float kInside = 0.3f;
    for (size_t i = 0; i < now.values.size(); ++i)
        if (now.values[i] && middle[i] <= kInside && hints.values[i] != 255) now.values[i] = kUncertain;
    return now;
}

} // namespace

std::optional<AlphaMap> segmented(const Reduced& picture, const AlphaMap& hints, float trust) {
    const double step = meanStep(picture);
    AlphaMap now = hints;
    for (uint8_t& v : now.values) v = v > kUncertain ? 255 : 0;
    const bool isBegun = std::count(hints.values.begin(), hints.values.end(), kProbablyGround) > 0;
    const AlphaMap begin = isBegun ? now : learntFrom(now, hints, middleness(now));
    for (int round = 0; round < kRounds; ++round) {
        const AlphaMap& labels = round == 0 ? begin : now;
        const auto colours = LocalColours::learn(
            picture, labels, round + kLocalRounds < kRounds ? Place::Whole : Place::Local);
        if (!colours) return std::nullopt;
        std::vector<float> speaks = colours->speaks();
        if (trust > 0)
            for (size_t i = 0; i < speaks.size(); ++i)
                speaks[i] += hints.values[i] > kUncertain ? trust : -trust;
        now = cut(picture, hints, speaks, step);
    }
    tidy(now);
    const auto found = std::count(now.values.begin(), now.values.end(), 255);
    if (found == 0 || size_t(found) == now.values.size()) return std::nullopt;
    return now;
}

} // namespace glyptos
