#include "type/faces/sample_ink.h"

#include "raster/blur.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

namespace glyptos {
namespace {

constexpr int kBins = 256;
constexpr double kMostWidth = 1600, kMostHeight = 500; // px: as much as is of use

/// The means of both classes.
std::pair<float, float> parted(const std::vector<float>& values) {
    std::array<double, kBins> counts{};
    for (const float v : values) counts[size_t(std::clamp(int(v * (kBins - 1) + 0.5F), 0, kBins - 1))] += 1;
    double all = 0, sum = 0;
    for (int i = 0; i < kBins; ++i) all += counts[size_t(i)], sum += i * counts[size_t(i)];
    double below = 0, belowSum = 0, best = -1;
    std::pair<float, float> out{0, 1};
    for (int i = 0; i + 1 < kBins; ++i) {
        below += counts[size_t(i)], belowSum += i * counts[size_t(i)];
        if (below == 0 || below == all) continue;
        const double low = belowSum / below, high = (sum - belowSum) / (all - below);
        const double between = below * (all - below) * (high - low) * (high - low);
        if (between > best) best = between, out = {float(low / (kBins - 1)), float(high / (kBins - 1))};
    }
    return out;
}

/// How much of the border is nearer to the first.
double borderShare(const InkMap& map, float first, float second) {
    int near = 0, all = 0;
    const auto look = [&](int x, int y) {
        near += std::abs(map.at(x, y) - first) < std::abs(map.at(x, y) - second), ++all;
    };
    for (int x = 0; x < map.width; ++x) look(x, 0), look(x, map.height - 1);
    for (int y = 0; y < map.height; ++y) look(0, y), look(map.width - 1, y);
    return double(near) / all;
}

/// Connected ink of fewer px than `least` becomes ground.
void dropSpecks(InkMap& map, size_t least) {
    std::vector<char> seen(map.ink.size(), 0);
    std::vector<size_t> part;
    for (size_t start = 0; start < map.ink.size(); ++start) {
        if (seen[start] || map.ink[start] < 0.5F) continue;
        part.assign(1, start);
        seen[start] = 1;
        for (size_t i = 0; i < part.size(); ++i) {
            const int x = int(part[i] % size_t(map.width)), y = int(part[i] / size_t(map.width));
            for (const auto& [dx, dy] : {std::pair(1, 0), {-1, 0}, {0, 1}, {0, -1}}) {
                const int u = x + dx, v = y + dy;
                if (u < 0 || v < 0 || u >= map.width || v >= map.height) continue;
                const size_t next = size_t(v) * size_t(map.width) + size_t(u);
                if (seen[next] || map.ink[next] < 0.5F) continue;
                seen[next] = 1;
                part.push_back(next);
            }
        }
        if (part.size() < least)
            for (const size_t p : part) map.ink[p] = 0;
    }
}

InkMap cutToInk(const InkMap& map) {
    int left = map.width, right = -1, top = map.height, bottom = -1;
    for (int y = 0; y < map.height; ++y)
        for (int x = 0; x < map.width; ++x)
            if (map.at(x, y) > 0.5F) {
                left = std::min(left, x), right = std::max(right, x);
                top = std::min(top, y), bottom = std::max(bottom, y);
            }
    if (right < left) return {};
    InkMap out{right - left + 1, bottom - top + 1, {}, {left, top, right - left + 1, bottom - top + 1}};
    for (int y = top; y <= bottom; ++y)
        for (int x = left; x <= right; ++x) out.ink.push_back(map.at(x, y));
    return out;
}

} // namespace

float InkMap::at(double x, double y) const {
    const double fx = std::floor(x), fy = std::floor(y);
    const int u = int(fx), v = int(fy);
    if (u < -1 || v < -1 || u >= width || v >= height) return 0;
    const auto px = [&](int a, int b) {
        return a < 0 || b < 0 || a >= width || b >= height ? 0.0F : at(a, b);
    };
    const auto s = float(x - fx), t = float(y - fy);
    return (px(u, v) * (1 - s) + px(u + 1, v) * s) * (1 - t) +
           (px(u, v + 1) * (1 - s) + px(u + 1, v + 1) * s) * t;
}

InkMap softened(const InkMap& map, double sigma) {
    Buffer<float> plane(map.ink.size());
    std::copy(map.ink.begin(), map.ink.end(), plane.data());
    const Buffer<float> soft = gaussianBlur(plane, map.width, map.height, sigma);
    return {map.width, map.height, {soft.data(), soft.data() + map.ink.size()}};
}

InkMap resized(const InkMap& map, int width, int height) {
    InkMap out{width, height, std::vector<float>(size_t(width) * size_t(height), 0)};
    const double sx = double(map.width) / width, sy = double(map.height) / height;
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x) {
            double sum = 0, all = 0;
            const double l = x * sx, r = l + sx, t = y * sy, b = t + sy;
            for (int v = int(t); v < b && v < map.height; ++v)
                for (int u = int(l); u < r && u < map.width; ++u) {
                    const double share = (std::min(r, u + 1.0) - std::max(l, double(u))) *
                                         (std::min(b, v + 1.0) - std::max(t, double(v)));
                    sum += share * map.at(u, v), all += share;
                }
            if (all > 0) out.ink[size_t(y) * size_t(width) + size_t(x)] = float(sum / all);
        }
    return out;
}

InkMap inkOf(const FaceSample& sample) {
    if (sample.width < 4 || sample.height < 4 ||
        sample.lightness.size() != size_t(sample.width) * size_t(sample.height))
        return {};
    InkMap map{sample.width, sample.height, sample.lightness};
    const double scale = std::max({sample.width / kMostWidth, sample.height / kMostHeight, 1.0});
    if (scale > 1)
        map = resized(map, std::max(4, int(sample.width / scale)), std::max(4, int(sample.height / scale)));
    // Noise is averaged away as far as letters of that size allow.
    map = softened(map, std::max(1.2, map.height / 75.0));
    auto [ground, ink] = parted(map.ink);
    if (std::abs(ground - ink) < 0.02F) return {};
    if (borderShare(map, ground, ink) < 0.5) std::swap(ground, ink);
    for (float& v : map.ink) v = std::clamp((v - ground) / (ink - ground), 0.0F, 1.0F);
    dropSpecks(map, std::max<size_t>(4, map.ink.size() / 8000));
    const double back = double(sample.width) / map.width;
    InkMap out = cutToInk(map);
    const IntRect cut = out.inSample;
    out.inSample = pixelsAround({cut.x * back, cut.y * back, cut.w * back, cut.h * back});
    return out;
}

IntRect inkBounds(const FaceSample& sample) {
    return inkOf(sample).inSample;
}

} // namespace glyptos
