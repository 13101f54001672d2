#include "vision/mend/arcs.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <opencv2/imgproc.hpp>
#include <optional>

namespace glyptos::mending {
namespace {

constexpr double kDegrees = 180 / std::numbers::pi;
/// px from the hole at which its own outline no longer shows in softened steps; how far an edge is followed.
constexpr float kFromHole = 7, kFollowed = 70;
constexpr size_t kMostEnds = 6;

/// Steps of light, and how far each pixel is from the hole.
struct Steps {
    cv::Mat1f x, y, size, fromHole;

    explicit Steps(const WorkPicture& p)
        : x(p.height, p.width)
        , fromHole(p.height, p.width) {
        cv::Mat1f light(p.height, p.width);
        cv::Mat1b known(p.height, p.width);
        for (int row = 0; row < p.height; ++row)
            for (int column = 0; column < p.width; ++column) {
                const int16_t* v = p.pixel(p.place(column, row));
                light(row, column) = float(v[0] + v[1] + v[2]) / (3 * kFull);
                known(row, column) = p.hole[p.place(column, row)] ? 0 : 255;
            }
        constexpr double kSoft = 1.2;
        cv::GaussianBlur(light, light, {}, kSoft);
        cv::Sobel(light, x, CV_32F, 1, 0, 3, 0.125);
        cv::Sobel(light, y, CV_32F, 0, 1, 3, 0.125);
        cv::magnitude(x, y, size);
        cv::distanceTransform(known, fromHole, cv::DIST_L2, 5);
    }
    Vec2 way(cv::Point p) const { return {double(x(p)) / double(size(p)), double(y(p)) / double(size(p))}; }
};

Vec2 middleOf(cv::Point p) {
    return {p.x + 0.5, p.y + 0.5};
}

double dot(Vec2 a, Vec2 b) {
    return a.x * b.x + a.y * b.y;
}

/// Where clear edges meet a ring round the hole; too many when it is a texture that does.
std::vector<cv::Point> endsAt(const Steps& steps) {
    std::vector<std::pair<float, cv::Point>> ring;
    for (int y = 1; y + 1 < steps.size.rows; ++y)
        for (int x = 1; x + 1 < steps.size.cols; ++x) {
            const float d = steps.fromHole(y, x);
            if (d >= kFromHole && d < kFromHole + 1.5f) ring.emplace_back(steps.size(y, x), cv::Point(x, y));
        }
    if (ring.empty()) return {};
    std::sort(ring.begin(), ring.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
    constexpr float kClear = 0.4f, kAgainstRest = 6, kApart = 12;
    const float least = std::max(kClear * ring.front().first, kAgainstRest * ring[ring.size() / 2].first);
    std::vector<cv::Point> out;
    for (const auto& [size, at] : ring) {
        if (size < least || out.size() > kMostEnds) break;
        const bool isNew = std::none_of(out.begin(), out.end(), [&, here = at](const cv::Point& other) {
            return cv::norm(here - other) < double(kApart);
        });
        if (isNew) out.push_back(at);
    }
    return out;
}

/// The circle at right angles to the steps at both; nothing for a straight line, or when both bend apart.
std::optional<Arc> circleThrough(const Steps& steps, cv::Point a, cv::Point b) {
    const Vec2 p = middleOf(a), q = middleOf(b), u = steps.way(a), v = steps.way(b);
    const double cross = u.x * v.y - u.y * v.x;
    constexpr double kBent = 0.05, kSame = 0.2;
    if (std::abs(cross) < kBent) return std::nullopt;
    const Vec2 pq = q - p;
    const double s = (pq.x * v.y - pq.y * v.x) / cross, t = (pq.x * u.y - pq.y * u.x) / cross;
    if (s * t <= 0 || std::abs(std::abs(s) - std::abs(t)) > kSame * std::abs(s)) return std::nullopt;
    return Arc{p + u * s, (std::abs(s) + std::abs(t)) / 2};
}

/// A step of fitting it to the edge as it goes on outside the hole, by the squared ways of its pixels from
/// the circle (Gauss and Newton); nothing when it does not go on.
std::optional<Arc> fitted(const Steps& steps, Arc arc, cv::Point end, double reach) {
    const float least = steps.size(end) / 3;
    const double side = dot(steps.way(end), middleOf(end) - arc.centre) < 0 ? -1 : 1;
    cv::Matx33d a = cv::Matx33d::zeros();
    cv::Vec3d b(0, 0, 0);
    int count = 0;
    for (int y = 1; y + 1 < steps.size.rows; ++y)
        for (int x = 1; x + 1 < steps.size.cols; ++x) {
            const cv::Point at(x, y);
            if (steps.fromHole(at) < kFromHole - 2 || steps.fromHole(at) > kFollowed ||
                steps.size(at) < least)
                continue;
            const Vec2 from = middleOf(at) - arc.centre;
            constexpr double kAlong = 0.96;
            if (std::abs(from.length() - arc.radius) > reach) continue;
            if (dot(steps.way(at), from) * side < kAlong * from.length()) continue;
            const double w = double(steps.size(at)) * double(steps.size(at));
            const cv::Vec3d row(from.x / from.length(), from.y / from.length(), 1);
            a += w * row * row.t();
            b += w * (from.length() - arc.radius) * row;
            ++count;
        }
    constexpr int kFewest = 24;
    cv::Vec3d solved;
    if (count < kFewest || !cv::solve(a, b, solved, cv::DECOMP_SVD)) return std::nullopt;
    if (!(arc.radius + solved[2] > 0)) return std::nullopt;
    return Arc{arc.centre + Vec2{solved[0], solved[1]}, arc.radius + solved[2]};
}

/// Whether the edge really runs on along the circle from an end, and alone: near it most of what is a clear
/// step lies on the circle and at right angles to it.
bool runsOn(const Steps& steps, const Arc& arc, cv::Point end) {
    constexpr int kNear = 30, kFewest = 30;
    constexpr double kBeside = 8, kOn = 3, kAlong = 0.96, kMost = 0.75;
    const float least = steps.size(end) / 3;
    const double side = dot(steps.way(end), middleOf(end) - arc.centre) < 0 ? -1 : 1;
    int clear = 0, on = 0;
    const cv::Rect near =
        cv::Rect(end.x - kNear, end.y - kNear, 2 * kNear, 2 * kNear) & cv::Rect({}, steps.size.size());
    for (int y = near.y; y < near.br().y; ++y)
        for (int x = near.x; x < near.br().x; ++x) {
            const cv::Point at(x, y);
            const Vec2 from = middleOf(at) - arc.centre;
            const double off = std::abs(from.length() - arc.radius);
            if (steps.fromHole(at) < kFromHole - 2 || steps.size(at) < least || off > kBeside) continue;
            ++clear;
            if (off <= kOn && dot(steps.way(at), from) * side >= kAlong * from.length()) ++on;
        }
    return on >= kFewest && on >= kMost * clear;
}

/// Of the two ways round from one end to the other the one through the hole, degrees; nothing when none is.
std::optional<double> spannedBy(const WorkPicture& p, const Arc& arc, Vec2 a, Vec2 b) {
    const Vec2 u = a - arc.centre, v = b - arc.centre;
    const double begin = std::atan2(u.y, u.x),
                 turn = std::remainder(std::atan2(v.y, v.x) - begin, 2 * std::numbers::pi);
    for (const double way : {turn, turn - std::copysign(2 * std::numbers::pi, turn)}) {
        const double middle = begin + way / 2;
        const Vec2 at = arc.centre + Vec2{std::cos(middle), std::sin(middle)} * arc.radius;
        const int x = wholePixel(std::floor(at.x)), y = wholePixel(std::floor(at.y));
        if (x >= 0 && y >= 0 && x < p.width && y < p.height && p.hole[p.place(x, y)])
            return std::abs(way) * kDegrees;
    }
    return std::nullopt;
}

} // namespace

std::vector<Arc> arcsThrough(const WorkPicture& picture) {
    const Steps steps(picture);
    const std::vector<cv::Point> ends = endsAt(steps);
    if (ends.size() < 2 || ends.size() > kMostEnds) return {};
    std::vector<Arc> out;
    constexpr double kMostSpanned = 200, kWide = 5, kClose = 2;
    for (size_t i = 0; i < ends.size(); ++i)
        for (size_t k = i + 1; k < ends.size(); ++k) {
            auto arc = circleThrough(steps, ends[i], ends[k]);
            for (const double reach : {kWide, kWide, kWide, kClose, kClose, kClose})
                if (arc) arc = fitted(steps, *arc, ends[i], reach);
            const auto spanned = arc && runsOn(steps, *arc, ends[i]) && runsOn(steps, *arc, ends[k])
                                     ? spannedBy(picture, *arc, middleOf(ends[i]), middleOf(ends[k]))
                                     : std::nullopt;
            if (!spanned || *spanned > kMostSpanned) continue;
            arc->spanned = *spanned;
            out.push_back(*arc);
        }
    return out;
}

} // namespace glyptos::mending
