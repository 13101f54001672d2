#include "raster/warp/knead_dab.h"

#include <cmath>
#include <tbb/parallel_for.h>

namespace glyptos {
namespace {

/// 1 in the middle, 0 from the rim on, smooth to the second derivative; `square`: of the distance in radii.
double bump(double square) {
    if (square >= 1) return 0;
    const double k = 1 - square;
    return k * k * k;
}

/// The same with a plain top, for what is to be wholly there.
double plateau(double square) {
    constexpr double kTop = 0.6;
    const double far = std::sqrt(square);
    if (far <= kTop) return 1;
    const double t = (far - kTop) / (1 - kTop);
    return bump(t * t);
}

/// 0 on an edge that is held, 1 from half a radius on, and in the middle.
double held(double at, double length, double radius) {
    const double t = std::clamp(std::min(at, length - at) / std::min(radius / 2, length / 4), 0.0, 1.0);
    return t * t * (3 - 2 * t);
}

/// Where what is seen at z comes from, from there.
Vec2 flow(const KneadDab& dab, Vec2 z) {
    const Vec2 off = z - dab.middle;
    const double square = off.x * off.x + off.y * off.y, rim = dab.radius * dab.radius;
    if (square >= rim) return {};
    double k = bump(square / rim) * dab.strength;
    if (dab.freedom) k *= double(dab.freedom(z * (1 / dab.width)));
    constexpr double kSpin = 0.12, kDraw = 0.08; // a dab
    Vec2 v;
    switch (dab.way) {
    case KneadWay::Push:
        v = (dab.from - dab.to) * k;
        break;
    case KneadWay::Spin:
        v = Vec2{off.y, -off.x} * (kSpin * k);
        break;
    case KneadWay::SpinBack:
        v = Vec2{-off.y, off.x} * (kSpin * k);
        break;
    case KneadWay::Gather:
        v = off * (kDraw * k);
        break;
    case KneadWay::Spread:
        v = off * (-kDraw * k);
        break;
    default:
        break;
    }
    if (dab.holdEdges) v = {v.x * held(z.x, dab.width, dab.radius), v.y * held(z.y, dab.height, dab.radius)};
    return v;
}

/// The same with the flow taken half-way.
Vec2 step(const KneadDab& dab, Vec2 x) {
    constexpr int kRounds = 12;
    constexpr double kStill = 1e-4; // steps
    Vec2 v = flow(dab, x);
    for (int i = 0; i < kRounds && !(v == Vec2{}); ++i) {
        const Vec2 next = flow(dab, x + v * 0.5);
        const Vec2 off = next - v;
        const bool still = off.x * off.x + off.y * off.y < kStill * kStill;
        v = next;
        if (still) break;
    }
    return v;
}

/// How much is restored or smoothed.
double share(const KneadDab& dab, Vec2 x) {
    const Vec2 off = x - dab.middle;
    const double k = plateau((off.x * off.x + off.y * off.y) / (dab.radius * dab.radius)) * dab.strength;
    return dab.freedom && k > 0 ? k * double(dab.freedom(x * (1 / dab.width))) : k;
}

/// The mean of the nodes round one, of a window of them.
class Softened {
  public:
    Softened(const ShiftPatch& patch, const IntRect& area, int reach)
        : area_{area.x - reach, area.y - reach, area.w + 2 * reach, area.h + 2 * reach}
        , reach_(reach)
        , sums_(size_t(area_.w + 1) * size_t(area_.h + 1) * 2) {
        const IntRect& there = patch.nodes;
        for (int y = 0; y < area_.h; ++y)
            for (int x = 0; x < area_.w; ++x) {
                const int nx = area_.x + x, ny = area_.y + y;
                const bool isThere =
                    nx >= there.x && ny >= there.y && nx < there.right() && ny < there.bottom();
                for (size_t c = 0; c < 2; ++c)
                    at(x + 1, y + 1, c) = (isThere ? double(patch.node(nx, ny)[c]) : 0) + at(x, y + 1, c) +
                                          at(x + 1, y, c) - at(x, y, c);
            }
    }
    float mean(int x, int y, size_t c) const {
        const int l = x - area_.x - reach_, t = y - area_.y - reach_, side = 2 * reach_ + 1;
        const double sum = at(l + side, t + side, c) - at(l, t + side, c) - at(l + side, t, c) + at(l, t, c);
        return float(sum / (double(side) * side));
    }

  private:
    double at(int x, int y, size_t c) const {
        return sums_[(size_t(y) * size_t(area_.w + 1) + size_t(x)) * 2 + c];
    }
    double& at(int x, int y, size_t c) {
        return sums_[(size_t(y) * size_t(area_.w + 1) + size_t(x)) * 2 + c];
    }
    IntRect area_;
    int reach_;
    std::vector<double> sums_;
};

/// The least that the mapping makes of a square of the lattice, of its area; below 0 it is folded. Rows of
/// `stride` nodes.
double leastArea(const float* first, int width, int height, int stride) {
    float least = 1;
    for (int y = 0; y + 1 < height; ++y) {
        const float *here = first + size_t(y) * size_t(stride) * 2, *below = here + size_t(stride) * 2;
        for (int x = 0; x + 1 < width; ++x, here += 2, below += 2) {
            // At two of its corners: each is half of it.
            const float ax = 1 + here[2] - here[0], ay = here[3] - here[1], bx = below[0] - here[0],
                        by = 1 + below[1] - here[1], cx = 1 + below[2] - below[0], cy = below[3] - below[1],
                        dx = below[2] - here[2], dy = 1 + below[3] - here[3];
            least = std::min({least, ax * by - ay * bx, cx * dy - cy * dx});
        }
    }
    return double(least);
}

/// What is moved by less is not moved: so that restoring ends, and tiles are given up.
constexpr float kNothing = 1e-3F; // steps

/// The nodes of an area after a dab, two figures each.
template <class Change>
std::vector<float> changed(const ShiftPatch& patch, const IntRect& area, const Change& change) {
    std::vector<float> out(size_t(area.w) * size_t(area.h) * 2);
    tbb::parallel_for(0, area.h, [&](int y) {
        float* to = out.data() + size_t(y) * size_t(area.w) * 2;
        const float* from = patch.node(area.x, area.y + y);
        for (int x = 0; x < area.w; ++x, to += 2, from += 2) {
            to[0] = from[0], to[1] = from[1];
            change(Vec2{double(area.x + x), double(area.y + y)}, to);
        }
    });
    return out;
}

std::vector<float> flowed(const KneadDab& dab, const ShiftPatch& patch, const IntRect& area) {
    return changed(patch, area, [&](Vec2 node, float* shift) {
        const Vec2 v = step(dab, node);
        if (v == Vec2{}) return;
        const Vec2 there = patch.at(node + v);
        shift[0] = float(v.x + there.x), shift[1] = float(v.y + there.y);
    });
}

void settle(float* shift) {
    for (int c = 0; c < 2; ++c)
        if (std::abs(shift[c]) < kNothing) shift[c] = 0;
}

std::vector<float> restored(const KneadDab& dab, const ShiftPatch& patch, const IntRect& area) {
    return changed(patch, area, [&](Vec2 node, float* shift) {
        const auto left = float(1 - share(dab, node));
        shift[0] *= left, shift[1] *= left;
        settle(shift);
    });
}

std::vector<float> smoothed(const KneadDab& dab, const ShiftPatch& patch, const IntRect& area) {
    const Softened soft(patch, area, std::max(1, int(dab.radius / 6)));
    return changed(patch, area, [&](Vec2 node, float* shift) {
        const auto k = float(0.5 * share(dab, node));
        if (k == 0) return;
        for (size_t c = 0; c < 2; ++c) shift[c] += k * (soft.mean(int(node.x), int(node.y), c) - shift[c]);
        settle(shift);
    });
}

void put(const std::vector<float>& values, const IntRect& area, ShiftPatch& patch) {
    for (int y = 0; y < area.h; ++y)
        std::copy_n(values.data() + size_t(y) * size_t(area.w) * 2, size_t(area.w) * 2,
                    patch.node(area.x, area.y + y));
}

} // namespace

IntRect reachOf(const KneadDab& dab) {
    // Half of a dab to each side of its middle; what lies far outside of the picture is never seen.
    const double r = dab.radius * (1 + kLongestDab);
    return pixelsAround({dab.middle.x - r, dab.middle.y - r, 2 * r + 1, 2 * r + 1})
        .intersected(pixelsAround(Rect{0, 0, dab.width, dab.height}.grown(dab.radius + 4)));
}

void apply(KneadDab dab, ShiftPatch& patch) {
    const IntRect area = reachOf(dab).intersected(patch.nodes);
    if (area.empty()) return;
    if (dab.way == KneadWay::Restore) return put(restored(dab, patch, area), area, patch);
    if (dab.way == KneadWay::Smooth) return put(smoothed(dab, patch, area), area, patch);
    constexpr double kLeast = 0.01; // of an area that is left of itself
    constexpr int kMostEasings = 4;
    for (int i = 0; i < kMostEasings; ++i, dab.strength /= 2) {
        const std::vector<float> next = flowed(dab, patch, area);
        const double now = leastArea(next.data(), area.w, area.h, area.w);
        if (now >= kLeast || now >= leastArea(patch.node(area.x, area.y), area.w, area.h, patch.nodes.w))
            return put(next, area, patch);
    }
}

} // namespace glyptos
