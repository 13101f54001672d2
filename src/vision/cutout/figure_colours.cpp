#include "vision/cutout/figure_colours.h"

#include "vision/reduced.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <tbb/parallel_for.h>

namespace glyptos {
namespace {

/// What a pixel shows, and what of it is whose.
struct Both {
    std::array<float, 3> figure{}, ground{};
};

struct Level {
    int width = 0, height = 0;
    std::vector<float> alpha;
    std::vector<Both> colours;
    size_t place(int x, int y) const { return size_t(y) * size_t(width) + size_t(x); }
};

/// Means of 2 × 2 blocks, as the levels of a pyramid are.
std::vector<float> halved(const std::vector<float>& alpha, int width, int height) {
    const int w = (width + 1) / 2, h = (height + 1) / 2;
    std::vector<float> out(size_t(w) * size_t(h));
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) {
            const int x1 = std::min(2 * x + 1, width - 1), y1 = std::min(2 * y + 1, height - 1);
            const auto at = [&](int px, int py) { return alpha[size_t(py) * size_t(width) + size_t(px)]; };
            out[size_t(y) * size_t(w) + size_t(x)] =
                (at(2 * x, 2 * y) + at(x1, 2 * y) + at(2 * x, y1) + at(x1, y1)) / 4;
        }
    return out;
}

std::array<float, 3> colourAt(const Picture& p, int x, int y) {
    const Rgba c = straightAt(p, x, y);
    return {c.r, c.g, c.b};
}

/// The two colours that mix to what is seen and differ least from their neighbours', the less so the more
/// alpha changes there.
void settle(const Picture& picture, Level& level, int x, int y) {
    constexpr float kRegular = 1e-5f;
    const size_t i = level.place(x, y);
    const float a = level.alpha[i], b = 1 - a;
    float weights = 0;
    std::array<float, 3> figures{}, grounds{};
    for (const auto& [dx, dy] : {std::pair{-1, 0}, {1, 0}, {0, -1}, {0, 1}}) {
        const size_t j =
            level.place(std::clamp(x + dx, 0, level.width - 1), std::clamp(y + dy, 0, level.height - 1));
        const float w = kRegular + std::abs(a - level.alpha[j]);
        weights += w;
        for (size_t c = 0; c < 3; ++c)
            figures[c] += w * level.colours[j].figure[c], grounds[c] += w * level.colours[j].ground[c];
    }
    const std::array<float, 3> seen = colourAt(picture, x, y);
    const float ff = a * a + weights, fg = a * b, gg = b * b + weights, inverse = 1 / (ff * gg - fg * fg);
    for (size_t c = 0; c < 3; ++c) {
        const float f = a * seen[c] + figures[c], g = b * seen[c] + grounds[c];
        level.colours[i].figure[c] = std::clamp((gg * f - fg * g) * inverse, 0.0f, 1.0f);
        level.colours[i].ground[c] = std::clamp((ff * g - fg * f) * inverse, 0.0f, 1.0f);
    }
}

/// Every second pixel like a chessboard, then the others: neighbours never change at the same time.
void settleAll(const Picture& picture, Level& level, int rounds) {
    for (int round = 0; round < 2 * rounds; ++round)
        tbb::parallel_for(0, level.height, [&](int y) {
            for (int x = (y + round) % 2; x < level.width; x += 2) settle(picture, level, x, y);
        });
}

/// The level of the picture with the colours of the coarser one to begin with.
Level begun(const Picture& picture, std::vector<float> alpha, const Level& coarser) {
    Level out{picture.width, picture.height, std::move(alpha), {}};
    out.colours.resize(out.alpha.size());
    for (int y = 0; y < out.height; ++y)
        for (int x = 0; x < out.width; ++x)
            out.colours[out.place(x, y)] = coarser.colours[coarser.place(
                std::min(x / 2, coarser.width - 1), std::min(y / 2, coarser.height - 1))];
    return out;
}

Level coarsest(const Picture& picture, std::vector<float> alpha) {
    Level out{picture.width, picture.height, std::move(alpha), {}};
    for (int y = 0; y < out.height; ++y)
        for (int x = 0; x < out.width; ++x) {
            const auto c = colourAt(picture, x, y);
            out.colours.push_back({c, c});
        }
    return out;
}

} // namespace

Picture figureWithColours(const Pyramid& picture, const AlphaMap& alpha) {
    std::vector<std::vector<float>> alphas(1);
    alphas[0].resize(alpha.values.size());
    std::transform(alpha.values.begin(), alpha.values.end(), alphas[0].begin(),
                   [](uint8_t v) { return float(v) / 255; });
    for (int k = 1; k < picture.levels(); ++k)
        alphas.push_back(halved(alphas.back(), picture.level(k - 1).width, picture.level(k - 1).height));
    Level level = coarsest(picture.level(picture.levels() - 1), std::move(alphas.back()));
    for (int k = picture.levels() - 2; k >= 0; --k) {
        const Picture& p = picture.level(k);
        level = begun(p, std::move(alphas[size_t(k)]), level);
        constexpr int kSmall = 32, kMany = 10, kFew = 2;
        settleAll(p, level, std::max(p.width, p.height) <= kSmall ? kMany : kFew);
    }
    Picture out = Picture::create<uint8_t>(picture.width(), picture.height());
    for (int y = 0; y < out.height; ++y)
        for (int x = 0; x < out.width; ++x) {
            uint8_t* p = out.row<uint8_t>(y) + ptrdiff_t(4) * x;
            const uint8_t a = alpha.at(x, y);
            const auto c =
                a == 255 ? colourAt(picture.level(0), x, y) : level.colours[level.place(x, y)].figure;
            for (size_t k = 0; k < 3; ++k) p[k] = static_cast<uint8_t>(std::lround(c[k] * 255));
            p[3] = a;
        }
    return out;
}

} // namespace glyptos
