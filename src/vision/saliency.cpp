#include "vision/saliency.h"

#include "color/oklab.h"
#include "vision/reduced.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

constexpr int kSide = 96;
constexpr double kMiddle = 0.35; // weight at the corners is 1 - kMiddle of that in the middle
constexpr double kRim = 0.2;     // of the frame, at each edge, where less is held
constexpr double kStay = 0.15;   // of what stands out is given up for staying in the middle

/// Binomial 1 4 6 4 1 both ways, edges held.
std::vector<Oklab> softened(const std::vector<Oklab>& in, int width, int height) {
    constexpr float k[] = {1 / 16.0f, 4 / 16.0f, 6 / 16.0f, 4 / 16.0f, 1 / 16.0f};
    const auto pass = [&](const std::vector<Oklab>& from, int stepX, int stepY) {
        std::vector<Oklab> to(from.size());
        for (int y = 0; y < height; ++y)
            for (int x = 0; x < width; ++x) {
                Oklab& sum = to[size_t(y) * size_t(width) + size_t(x)];
                for (int i = -2; i <= 2; ++i) {
                    const int sx = std::clamp(x + i * stepX, 0, width - 1),
                              sy = std::clamp(y + i * stepY, 0, height - 1);
                    const Oklab& c = from[size_t(sy) * size_t(width) + size_t(sx)];
                    sum.L += k[i + 2] * c.L, sum.a += k[i + 2] * c.a, sum.b += k[i + 2] * c.b;
                }
            }
        return to;
    };
    return pass(pass(in, 1, 0), 0, 1);
}

} // namespace

SaliencyMap saliencyOf(const Pyramid& picture) {
    const Reduced small = reducedTo(picture, kSide);
    std::vector<Oklab> colours;
    Oklab mean;
    for (const Rgba& c : small.pixels) {
        colours.push_back(toOklab(c));
        mean.L += colours.back().L, mean.a += colours.back().a, mean.b += colours.back().b;
    }
    const auto n = float(colours.size());
    mean = {mean.L / n, mean.a / n, mean.b / n};
    SaliencyMap out{small.width, small.height, {}};
    float most = 1e-6f;
    for (const Oklab& c : softened(colours, small.width, small.height)) {
        out.weight.push_back(distance(c, mean));
        most = std::max(most, out.weight.back());
    }
    for (int y = 0; y < out.height; ++y)
        for (int x = 0; x < out.width; ++x) {
            const double dx = (x + 0.5) / out.width - 0.5, dy = (y + 0.5) / out.height - 0.5;
            const double lean = 1 - kMiddle * 2 * (dx * dx + dy * dy);
            float& w = out.weight[size_t(y) * size_t(out.width) + size_t(x)];
            w = float(std::pow(double(w / most), 2) * lean); // squared: what stands out a little is ground
        }
    return out;
}

Rect partInFrame(const SaliencyMap& map, double pictureAspect, double aspect) {
    const bool slidesAcross = pictureAspect > aspect;
    const double part = slidesAcross ? aspect / pictureAspect : pictureAspect / aspect;
    const int count = slidesAcross ? map.width : map.height;
    std::vector<double> lines(size_t(count), 0);
    double all = 1e-9;
    for (int y = 0; y < map.height; ++y)
        for (int x = 0; x < map.width; ++x) {
            const double w = double(map.weight[size_t(y) * size_t(map.width) + size_t(x)]);
            lines[size_t(slidesAcross ? x : y)] += w;
            all += w;
        }
    // What lies near the edge of the frame counts less, so that a subject is not just inside.
    const auto held = [&](double start) {
        double sum = 0;
        for (int i = 0; i < count; ++i) {
            const double at = (i + 0.5) / count - start;
            sum += lines[size_t(i)] * std::clamp(std::min(at, part - at) / (kRim * part), 0.0, 1.0);
        }
        return sum / all;
    };
    const double room = 1 - part;
    double best = room / 2, bestWorth = -1;
    constexpr int kSteps = 200;
    for (int i = 0; i <= kSteps; ++i) {
        const double start = room * i / kSteps, off = std::abs(2.0 * i / kSteps - 1);
        const double worth = held(start) - kStay * off * off;
        if (worth > bestWorth + 1e-9) best = start, bestWorth = worth;
    }
    return slidesAcross ? Rect{best, 0, part, 1} : Rect{0, best, 1, part};
}

} // namespace glyptos
