#include "vision/cutout/sampling.h"

#include "raster/noise.h"
#include "vision/cutout/colour_density.h"

#include <algorithm>
#include <cmath>
#include <tbb/parallel_for.h>

namespace glyptos {
namespace {

struct Sample {
    int x, y;
    Rgba colour;
};

float squared(const Rgba& a, const Rgba& b) {
    const float r = a.r - b.r, g = a.g - b.g, u = a.b - b.b;
    return r * r + g * g + u * u;
}

/// Certain pixels of one kind within 2 px of the band and some of all others, from dark to light.
std::vector<Sample> borderSamples(const Reduced& picture, const AlphaMap& trimap, uint8_t kind) {
    std::vector<Sample> out;
    for (int y = 0; y < trimap.height; ++y)
        for (int x = 0; x < trimap.width; ++x) {
            if (trimap.at(x, y) != kind) continue;
            bool near = false;
            for (int dy = -2; dy <= 2 && !near; ++dy)
                for (int dx = -2; dx <= 2 && !near; ++dx) {
                    const int px = x + dx, py = y + dy;
                    near = px >= 0 && py >= 0 && px < trimap.width && py < trimap.height &&
                           isUncertain(trimap.at(px, py));
                }
            constexpr float kOthers = 0.01f;
            if (near || hashNoise(x, y, kind) < kOthers) out.push_back({x, y, picture.at(x, y)});
        }
    std::stable_sort(out.begin(), out.end(),
                     [](const Sample& a, const Sample& b) { return lumaOf(a.colour) < lumaOf(b.colour); });
    return out;
}

std::vector<Rgba> coloursOf(const std::vector<Sample>& samples) {
    std::vector<Rgba> out;
    out.reserve(samples.size());
    for (const Sample& s : samples) out.push_back(s.colour);
    return out;
}

/// A pair of samples of a pixel, and how badly it explains it.
struct Pair {
    int figure = 0, ground = 0;
    float cost = 1e30f;
};

class Search {
  public:
    Search(const Reduced& picture, const AlphaMap& trimap)
        : picture_(picture)
        , trimap_(trimap)
        , figures_(borderSamples(picture, trimap, 255))
        , grounds_(borderSamples(picture, trimap, 0))
        , pairs_(trimap.values.size())
        , figure_(coloursOf(figures_))
        , ground_(coloursOf(grounds_)) {}

    bool possible() const { return !figures_.empty() && !grounds_.empty(); }

    void run() {
        findNearest();
        constexpr int kRounds = 8;
        for (int round = 0; round < kRounds; ++round)
            // Strips of rows are searched side by side; what is beyond a strip's edge is found by chance.
            tbb::parallel_for(0, (trimap_.height + kStrip - 1) / kStrip, [&](int strip) {
                const int from = strip * kStrip, to = std::min(trimap_.height, from + kStrip);
                for (int i = 0; i < (to - from) * trimap_.width; ++i) {
                    const int k = round % 2 ? (to - from) * trimap_.width - 1 - i : i;
                    const int x = k % trimap_.width, y = from + k / trimap_.width;
                    if (isUncertain(trimap_.at(x, y))) improve(x, y, round, from, to);
                }
            });
    }

    AlphaGuess guess(int x, int y) const {
        const Pair& pair = pairs_[place(x, y)];
        const Rgba &f = figures_[size_t(pair.figure)].colour, &b = grounds_[size_t(pair.ground)].colour;
        const float alpha = alphaOf(picture_.at(x, y), f, b);
        const float off = std::sqrt(distance(picture_.at(x, y), f, b, alpha));
        const float apart = std::sqrt(squared(f, b));
        // A colour that both have by themselves tells nothing.
        const float one = figure_.at(picture_.at(x, y)), other = ground_.at(picture_.at(x, y));
        const float both = std::min(1.0f, 10 * std::min(one, other) / std::max({one, other, 1.0f}));
        // Off by 0.02 halves the trust; colours less than 0.25 apart tell less.
        return {alpha, std::exp2(-off / 0.02f) * std::min(1.0f, apart / 0.25f) * (1 - both)};
    }

  private:
    static constexpr int kStrip = 64;

    size_t place(int x, int y) const { return size_t(y) * size_t(trimap_.width) + size_t(x); }

    static float alphaOf(const Rgba& c, const Rgba& f, const Rgba& b) {
        const float r = f.r - b.r, g = f.g - b.g, u = f.b - b.b;
        const float length = r * r + g * g + u * u + 1e-6f;
        return std::clamp(((c.r - b.r) * r + (c.g - b.g) * g + (c.b - b.b) * u) / length, 0.0f, 1.0f);
    }
    static float distance(const Rgba& c, const Rgba& f, const Rgba& b, float a) {
        return squared(c, {a * f.r + (1 - a) * b.r, a * f.g + (1 - a) * b.g, a * f.b + (1 - a) * b.b, 1});
    }

    /// For each uncertain pixel how far the nearest sample of each kind is, about.
    void findNearest() {
        nearest_.assign(pairs_.size(), {1e9f, 1e9f});
        for (const auto& [samples, kind] : {std::pair{&figures_, 0}, std::pair{&grounds_, 1}}) {
            for (const Sample& s : *samples) nearest_[place(s.x, s.y)][size_t(kind)] = 0;
            const auto pull = [&, k = size_t(kind)](int x, int y, int dx, int dy) {
                const int px = x + dx, py = y + dy;
                if (px < 0 || py < 0 || px >= trimap_.width || py >= trimap_.height) return;
                float& own = nearest_[place(x, y)][k];
                own = std::min(own, nearest_[place(px, py)][k] + (dx && dy ? 1.41421f : 1.0f));
            };
            // Chamfer distance, two passes.
            for (int y = 0; y < trimap_.height; ++y)
                for (int x = 0; x < trimap_.width; ++x)
                    pull(x, y, -1, 0), pull(x, y, -1, -1), pull(x, y, 0, -1), pull(x, y, 1, -1);
            for (int y = trimap_.height - 1; y >= 0; --y)
                for (int x = trimap_.width - 1; x >= 0; --x)
                    pull(x, y, 1, 0), pull(x, y, 1, 1), pull(x, y, 0, 1), pull(x, y, -1, 1);
        }
    }

    float cost(int x, int y, int figure, int ground) const {
        const Sample &f = figures_[size_t(figure)], &b = grounds_[size_t(ground)];
        const Rgba& c = picture_.at(x, y);
        const float off = std::sqrt(distance(c, f.colour, b.colour, alphaOf(c, f.colour, b.colour)));
        const auto& near = nearest_[place(x, y)];
        const float way = std::hypot(float(f.x - x), float(f.y - y)) / std::max(1.0f, near[0]) +
                          std::hypot(float(b.x - x), float(b.y - y)) / std::max(1.0f, near[1]);
        constexpr float kWay = 1.0f / 255; // one nearest way weighs as much as one step of 8 bits
        return off + kWay * way;
    }

    void offer(int x, int y, int figure, int ground) {
        Pair& own = pairs_[place(x, y)];
        const float c = cost(x, y, figure, ground);
        if (c < own.cost) own = {figure, ground, c};
    }

    void improve(int x, int y, int round, int from, int to) {
        auto random = [&, k = uint32_t(0)](double span) mutable {
            return double(hashNoise(x, y, uint32_t(round) * 64 + k++)) * span;
        };
        const auto figures = int(figures_.size()), grounds = int(grounds_.size());
        if (round == 0) offer(x, y, int(random(figures)), int(random(grounds)));
        for (int dy = -1; dy <= 1; ++dy)
            for (int dx = -1; dx <= 1; ++dx) {
                const int px = x + dx, py = y + dy;
                if ((dx == 0 && dy == 0) || px < 0 || px >= trimap_.width || py < from || py >= to) continue;
                if (!isUncertain(trimap_.at(px, py)) || pairs_[place(px, py)].cost > 1e29f) continue;
                offer(x, y, pairs_[place(px, py)].figure, pairs_[place(px, py)].ground);
            }
        for (double share = 1; share * std::max(figures, grounds) > 1; share *= 0.5) {
            const Pair now = pairs_[place(x, y)];
            const auto around = [&](int middle, int count) {
                const double span = count * share;
                return std::clamp(int(middle + random(2 * span) - span), 0, count - 1);
            };
            offer(x, y, around(now.figure, figures), around(now.ground, grounds));
        }
    }

    const Reduced& picture_;
    const AlphaMap& trimap_;
    std::vector<Sample> figures_, grounds_;
    std::vector<Pair> pairs_;
    ColourDensity figure_, ground_;
    std::vector<std::array<float, 2>> nearest_;
};

} // namespace

std::vector<AlphaGuess> sampledAlpha(const Reduced& picture, const AlphaMap& trimap) {
    std::vector<AlphaGuess> out(trimap.values.size());
    Search search(picture, trimap);
    if (search.possible()) search.run();
    for (int y = 0; y < trimap.height; ++y)
        for (int x = 0; x < trimap.width; ++x) {
            const size_t i = size_t(y) * size_t(trimap.width) + size_t(x);
            if (!isUncertain(trimap.values[i]))
                out[i] = {float(trimap.values[i]) / 255, 1};
            else if (search.possible())
                out[i] = search.guess(x, y);
            else
                out[i] = {0.5f, 0};
        }
    return out;
}

} // namespace glyptos
