#include "vision/select/edge_line.h"

#include "vision/reduced.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <queue>

namespace glyptos {
namespace {

/// How much the colour changes at each pixel of an area, 0…1 of the most there: Sobel's filter over a slight
/// blur, the largest of the channels.
class Steps {
  public:
    Steps(const Picture& picture, const IntRect& area)
        : area_(area)
        , values_(size_t(area.w) * size_t(area.h)) {
        const Reduced part = partOf(picture, area);
        std::vector<std::array<float, 3>> soft(values_.size());
        for (int y = 0; y < area.h; ++y)
            for (int x = 0; x < area.w; ++x) soft[place(x, y)] = blurred(part, x, y);
        float most = 1e-6f;
        for (int y = 0; y < area.h; ++y)
            for (int x = 0; x < area.w; ++x) most = std::max(most, values_[place(x, y)] = step(soft, x, y));
        for (float& v : values_) v /= most;
    }
    float at(int x, int y) const { return values_[place(x, y)]; }
    size_t place(int x, int y) const { return size_t(y) * size_t(area_.w) + size_t(x); }

  private:
    static std::array<float, 3> blurred(const Reduced& part, int x, int y) {
        std::array<float, 3> sum{};
        for (int dy = -1; dy <= 1; ++dy)
            for (int dx = -1; dx <= 1; ++dx) {
                const Rgba& c =
                    part.at(std::clamp(x + dx, 0, part.width - 1), std::clamp(y + dy, 0, part.height - 1));
                const float w = (dx ? 1.0f : 2.0f) * (dy ? 1.0f : 2.0f) / 16;
                sum[0] += w * c.r, sum[1] += w * c.g, sum[2] += w * c.b;
            }
        return sum;
    }
    float step(const std::vector<std::array<float, 3>>& soft, int x, int y) const {
        const auto get = [&](int u, int v, size_t c) {
            return soft[place(std::clamp(u, 0, area_.w - 1), std::clamp(v, 0, area_.h - 1))][c];
        };
        float most = 0;
        for (size_t c = 0; c < 3; ++c) {
            const float gx =
                get(x + 1, y, c) - get(x - 1, y, c) +
                (get(x + 1, y - 1, c) - get(x - 1, y - 1, c) + get(x + 1, y + 1, c) - get(x - 1, y + 1, c)) /
                    2;
            const float gy =
                get(x, y + 1, c) - get(x, y - 1, c) +
                (get(x - 1, y + 1, c) - get(x - 1, y - 1, c) + get(x + 1, y + 1, c) - get(x + 1, y - 1, c)) /
                    2;
            most = std::max(most, std::hypot(gx, gy));
        }
        return most;
    }

    IntRect area_;
    std::vector<float> values_;
};

struct Pixel {
    int x, y;
};

Pixel pixelAt(const Picture& picture, Vec2 p) {
    return {std::clamp(int(std::floor(p.x)), 0, picture.width - 1),
            std::clamp(int(std::floor(p.y)), 0, picture.height - 1)};
}

/// Dijkstra's way through an area; places are within it.
std::vector<Pixel> cheapestWay(const Steps& steps, const IntRect& area, Pixel from, Pixel to) {
    constexpr float kLeast = 0.02f; // of a pixel on the strongest edge: short ways are better
    std::vector<float> cost(size_t(area.w) * size_t(area.h), std::numeric_limits<float>::max());
    constexpr uint8_t kNowhere = 255;
    std::vector<uint8_t> came(cost.size(), kNowhere);
    constexpr std::array<std::array<int, 2>, 8> kWays{
        {{1, 0}, {0, 1}, {-1, 0}, {0, -1}, {1, 1}, {-1, 1}, {-1, -1}, {1, -1}}};
    using Open = std::pair<float, size_t>;
    std::priority_queue<Open, std::vector<Open>, std::greater<>> open;
    cost[steps.place(from.x, from.y)] = 0;
    open.emplace(0.0f, steps.place(from.x, from.y));
    const size_t goal = steps.place(to.x, to.y);
    while (!open.empty()) {
        const auto [spent, place] = open.top();
        open.pop();
        if (place == goal) break;
        if (spent > cost[place]) continue;
        const int x = int(place % size_t(area.w)), y = int(place / size_t(area.w));
        for (size_t w = 0; w < kWays.size(); ++w) {
            const int nx = x + kWays[w][0], ny = y + kWays[w][1];
            if (nx < 0 || ny < 0 || nx >= area.w || ny >= area.h) continue;
            const float dull = 1 - steps.at(nx, ny);
            const float next = spent + (kLeast + dull * dull) * (w < 4 ? 1.0f : 1.4142136f);
            const size_t there = steps.place(nx, ny);
            if (next < cost[there]) cost[there] = next, came[there] = uint8_t(w), open.emplace(next, there);
        }
    }
    std::vector<Pixel> out{to};
    for (Pixel at = to; came[steps.place(at.x, at.y)] != kNowhere && !(at.x == from.x && at.y == from.y);) {
        const auto& way = kWays[came[steps.place(at.x, at.y)]];
        at = {at.x - way[0], at.y - way[1]};
        out.push_back(at);
    }
    std::reverse(out.begin(), out.end());
    return out;
}

} // namespace

std::vector<Vec2> edgeLine(const Picture& picture, Vec2 from, Vec2 to) {
    const Pixel a = pixelAt(picture, from), b = pixelAt(picture, to);
    const int round = 24 + std::max(std::abs(a.x - b.x), std::abs(a.y - b.y)) / 2;
    const int left = std::min(a.x, b.x) - round, top = std::min(a.y, b.y) - round;
    const IntRect area =
        IntRect{left, top, std::max(a.x, b.x) + round - left, std::max(a.y, b.y) + round - top}.intersected(
            {0, 0, picture.width, picture.height});
    const Steps steps(picture, area);
    std::vector<Vec2> out;
    for (const Pixel& p :
         cheapestWay(steps, area, {a.x - area.x, a.y - area.y}, {b.x - area.x, b.y - area.y}))
        out.push_back({area.x + p.x + 0.5, area.y + p.y + 0.5});
    return out;
}

Vec2 nearestEdge(const Picture& picture, Vec2 at, double reach) {
    const Pixel middle = pixelAt(picture, at);
    const int round = int(std::ceil(reach));
    const IntRect area =
        IntRect{middle.x - round, middle.y - round, 2 * round + 1, 2 * round + 1}.intersected(
            {0, 0, picture.width, picture.height});
    const Steps steps(picture, area);
    Pixel best = middle;
    float most = -1;
    for (int y = 0; y < area.h; ++y)
        for (int x = 0; x < area.w; ++x) {
            const double away = std::hypot(area.x + x - middle.x, area.y + y - middle.y);
            if (away > reach) continue;
            const float worth =
                steps.at(x, y) - 0.2f * float(away / std::max(reach, 1.0)); // the nearer of two alike
            if (worth > most) most = worth, best = {area.x + x, area.y + y};
        }
    return {best.x + 0.5, best.y + 0.5};
}

} // namespace glyptos
