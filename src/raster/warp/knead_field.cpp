#include "raster/warp/knead_field.h"

#include <cmath>
#include <tbb/parallel_for.h>

namespace glyptos {
namespace {

constexpr double kNodesARadius = 32; ///< at least as many steps of the lattice to a tip's radius
constexpr double kLeastMove = 1.0 / 32, kLongestDab = 1.0 / 16; ///< in radii

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

std::array<float, 4> cubicWeights(double t) {
    return {float(((-0.5 * t + 1) * t - 0.5) * t), float((1.5 * t - 2.5) * t * t + 1),
            float(((-1.5 * t + 2) * t + 0.5) * t), float((0.5 * t - 0.5) * t * t)};
}

/// One dab, in steps of the lattice.
struct Dab {
    KneadWay way;
    Vec2 from, to, middle;
    double radius, strength, width, height; ///< of what is kneaded
    bool holdEdges;
    const std::function<float(Vec2)>& freedom;

    /// 0 on an edge that is held, 1 from half a radius on, and in the middle.
    double held(double at, double length) const {
        const double t = std::clamp(std::min(at, length - at) / std::min(radius / 2, length / 4), 0.0, 1.0);
        return t * t * (3 - 2 * t);
    }
    /// Where what is seen at z comes from, from there.
    Vec2 flow(Vec2 z) const {
        const Vec2 off = z - middle;
        double k = bump((off.x * off.x + off.y * off.y) / (radius * radius)) * strength;
        if (k == 0) return {};
        if (freedom) k *= double(freedom(z * (1 / width)));
        constexpr double kSpin = 0.25, kDraw = 0.15; // a dab
        Vec2 v;
        switch (way) {
        case KneadWay::Push:
            v = (from - to) * k;
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
        if (holdEdges) v = {v.x * held(z.x, width), v.y * held(z.y, height)};
        return v;
    }
    Vec2 step(Vec2 x) const {
        constexpr int kRounds = 12;
        constexpr double kStill = 1e-4; // steps
        Vec2 v = flow(x);
        for (int i = 0; i < kRounds && !(v == Vec2{}); ++i) {
            const Vec2 next = flow(x + v * 0.5);
            const bool still = (next - v).length() < kStill;
            v = next;
            if (still) break;
        }
        return v;
    }
    double share(Vec2 x) const {
        const Vec2 off = x - middle;
        const double k = plateau((off.x * off.x + off.y * off.y) / (radius * radius)) * strength;
        return freedom && k > 0 ? k * double(freedom(x * (1 / width))) : k;
    }
};

/// The mean of the nodes round one, of a window of them.
class Softened {
  public:
    Softened(const KneadField& field, const IntRect& area, int reach)
        : area_{area.x - reach, area.y - reach, area.w + 2 * reach, area.h + 2 * reach}
        , reach_(reach)
        , sums_(size_t(area_.w + 1) * size_t(area_.h + 1) * 2) {
        std::vector<float> row(size_t(area_.w) * 2);
        std::fill(sums_.begin(), sums_.end(), 0.0);
        for (int y = 0; y < area_.h; ++y) {
            field.shifts->readRow(area_.x, area_.y + y, size_t(area_.w),
                                  reinterpret_cast<uint8_t*>(row.data()));
            for (int x = 0; x < area_.w; ++x)
                for (size_t c = 0; c < 2; ++c)
                    at(x + 1, y + 1, c) =
                        double(row[2 * size_t(x) + c]) + at(x, y + 1, c) + at(x + 1, y, c) - at(x, y, c);
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

PixelTiles changed(const KneadField& field, const IntRect& area,
                   const std::function<void(Vec2 node, float* shift)>& change) {
    PixelTiles out = *field.shifts;
    out.change(area, [&](const PixelPart& part) {
        for (int y = part.area.y; y < part.area.bottom(); ++y) {
            auto* row = reinterpret_cast<float*>(part.row(y));
            for (int x = part.area.x; x < part.area.right(); ++x, row += 2)
                change({double(x), double(y)}, row);
        }
    });
    return out;
}

/// The least that the mapping makes of a square of the lattice, of its area; below 0 it is folded.
double leastArea(const KneadField& field, const IntRect& area) {
    std::array<std::vector<float>, 2> rows;
    for (auto& row : rows) row.resize(size_t(area.w + 1) * 2);
    const auto read = [&](int y) {
        float* row = rows[size_t(y & 1)].data();
        field.shifts->readRow(area.x, y, size_t(area.w + 1), reinterpret_cast<uint8_t*>(row));
        return row;
    };
    float least = 1;
    const float* next = read(area.y);
    for (int y = area.y; y < area.bottom(); ++y) {
        const float* here = next;
        const float* below = next = read(y + 1);
        for (int x = 0; x < area.w; ++x, here += 2, below += 2) {
            // At two of its corners: each is half of it.
            const float ax = 1 + here[2] - here[0], ay = here[3] - here[1], bx = below[0] - here[0],
                        by = 1 + below[1] - here[1], cx = 1 + below[2] - below[0], cy = below[3] - below[1],
                        dx = below[2] - here[2], dy = 1 + below[3] - here[3];
            least = std::min({least, ax * by - ay * bx, cx * dy - cy * dx});
        }
    }
    return double(least);
}

IntRect round(Vec2 at, double radius) {
    return pixelsAround({at.x - radius, at.y - radius, 2 * radius + 1, 2 * radius + 1});
}

/// What is moved by less is not moved: so that restoring ends, and tiles are given up.
constexpr float kNothing = 1e-3F; // steps

} // namespace

Vec2 KneadField::shiftAt(Vec2 at) const {
    const KneadWindow here(*this, {at.x, at.y, 1, 1});
    return here.shift(at);
}

double KneadField::farthest(const Rect& area) const {
    const IntRect nodes = pixelsAround(area.grown(2)).intersected(shifts->bounds());
    if (nodes.empty()) return 0;
    // Between nodes the cubic overshoots by less than a quarter.
    constexpr double kOvershoot = 1.25;
    float most = 0;
    std::vector<float> row(size_t(nodes.w) * 2);
    for (int y = nodes.y; y < nodes.bottom(); ++y) {
        shifts->readRow(nodes.x, y, size_t(nodes.w), reinterpret_cast<uint8_t*>(row.data()));
        for (const float v : row) most = std::max(most, std::abs(v));
    }
    return double(most) * std::numbers::sqrt2 * kOvershoot * strength;
}

KneadWindow::KneadWindow(const KneadField& field, const Rect& area)
    : strength_(field.strength) {
    const IntRect used = field.shifts->bounds();
    const IntRect wanted =
        pixelsAround(area.grown(2)).intersected({used.x - 2, used.y - 2, used.w + 5, used.h + 5});
    if (used.empty() || wanted.empty() || strength_ == 0) return;
    nodes_ = wanted;
    moves_ = true;
    shifts_ = Buffer<float>(size_t(nodes_.w) * size_t(nodes_.h) * 2);
    for (int y = 0; y < nodes_.h; ++y)
        field.shifts->readRow(nodes_.x, nodes_.y + y, size_t(nodes_.w),
                              reinterpret_cast<uint8_t*>(shifts_.data() + size_t(y) * size_t(nodes_.w) * 2));
}

Vec2 KneadWindow::shift(Vec2 at) const {
    const double fx = std::floor(at.x), fy = std::floor(at.y);
    if (!moves_ ||
        !(fx >= nodes_.x - 2 && fx < nodes_.right() + 1 && fy >= nodes_.y - 2 && fy < nodes_.bottom() + 1))
        return {};
    const int x = int(fx) - 1 - nodes_.x, y = int(fy) - 1 - nodes_.y;
    const auto wx = cubicWeights(at.x - fx), wy = cubicWeights(at.y - fy);
    const bool inside = x >= 0 && y >= 0 && x + 4 <= nodes_.w && y + 4 <= nodes_.h;
    float sumX = 0, sumY = 0;
    for (int j = 0; j < 4; ++j) {
        if (!inside && (y + j < 0 || y + j >= nodes_.h)) continue;
        const float* row = shifts_.data() + (ptrdiff_t(y + j) * nodes_.w + x) * 2;
        float rowX = 0, rowY = 0;
        for (int i = 0; i < 4; ++i) {
            if (!inside && (x + i < 0 || x + i >= nodes_.w)) continue;
            rowX += wx[size_t(i)] * row[2 * i], rowY += wx[size_t(i)] * row[2 * i + 1];
        }
        sumX += wy[size_t(j)] * rowX, sumY += wy[size_t(j)] * rowY;
    }
    return {double(sumX) * strength_, double(sumY) * strength_};
}

KneadField refined(const KneadField& field) {
    KneadField out = field;
    out.across *= 2;
    const IntRect used = field.shifts->bounds();
    KneadField plain = field;
    plain.strength = 1;
    const KneadWindow window(plain, used.toRect().grown(2));
    PixelTiles tiles(kShiftPixels);
    if (!used.empty())
        tiles.change({2 * used.x - 3, 2 * used.y - 3, 2 * used.w + 6, 2 * used.h + 6},
                     [&](const PixelPart& part) {
                         for (int y = part.area.y; y < part.area.bottom(); ++y) {
                             auto* row = reinterpret_cast<float*>(part.row(y));
                             for (int x = part.area.x; x < part.area.right(); ++x, row += 2) {
                                 const Vec2 v = window.shift({x / 2.0, y / 2.0}) * 2;
                                 row[0] = float(v.x), row[1] = float(v.y);
                             }
                         }
                     });
    out.shifts = std::make_shared<const PixelTiles>(std::move(tiles));
    return out;
}

KneadStroke::KneadStroke(const KneadField& before, KneadTip tip)
    : field_(before)
    , tip_(std::move(tip)) {
    if (field_.empty()) field_.across = KneadField{}.across;
    while (tip_.radius * field_.across < kNodesARadius && field_.across < kFinestKnead) {
        if (field_.empty())
            field_.across *= 2;
        else
            field_ = refined(field_);
    }
}

void KneadStroke::dab(Vec2 from, Vec2 to) {
    const KneadField before = field_;
    constexpr double kLeast = 0.01; // of an area that is left of itself
    constexpr int kMostEasings = 4;
    double strength = tip_.strength;
    for (int i = 0; i < kMostEasings; ++i, strength /= 2) {
        const IntRect area = dabOnce(from, to, strength);
        if (area.empty()) return;
        const double now = leastArea(field_, area);
        if (now >= kLeast || now >= leastArea(before, area)) return;
        field_ = before;
    }
}

IntRect KneadStroke::dabOnce(Vec2 from, Vec2 to, double strength) {
    const double steps = field_.across;
    // Between its nodes the lattice carries what they are moved by two steps farther.
    const double radius = std::max(tip_.radius * steps - 2, tip_.radius * steps / 2);
    const Dab dab{tip_.way,       from * steps, to * steps, (from + to) * (steps / 2),
                  radius,         strength,     steps,      tip_.height * steps,
                  tip_.holdEdges, tip_.freedom};
    // What lies far outside of the picture is never seen.
    const IntRect area =
        round(dab.middle, dab.radius + dab.radius * kLongestDab)
            .intersected(pixelsAround(Rect{0, 0, dab.width, dab.height}.grown(dab.radius + 4)));
    if (area.empty()) return {};
    PixelTiles next(kShiftPixels);
    const bool isFlow = tip_.way != KneadWay::Restore && tip_.way != KneadWay::Smooth;
    if (tip_.way == KneadWay::Restore) {
        next = changed(field_, area, [&](Vec2 node, float* shift) {
            const auto left = float(1 - dab.share(node));
            for (int c = 0; c < 2; ++c) {
                shift[c] *= left;
                if (std::abs(shift[c]) < kNothing) shift[c] = 0;
            }
        });
    } else if (tip_.way == KneadWay::Smooth) {
        if (field_.empty()) return {};
        const Softened soft(field_, area, std::max(1, int(dab.radius / 6)));
        next = changed(field_, area, [&](Vec2 node, float* shift) {
            const auto k = float(0.5 * dab.share(node));
            if (k == 0) return;
            for (size_t c = 0; c < 2; ++c) {
                shift[c] += k * (soft.mean(int(node.x), int(node.y), c) - shift[c]);
                if (std::abs(shift[c]) < kNothing) shift[c] = 0;
            }
        });
    } else {
        KneadField whole = field_;
        whole.strength = 1;
        const KneadWindow before(whole, area.toRect().grown(dab.radius / 2 + 2));
        next = changed(field_, area, [&](Vec2 node, float* shift) {
            const Vec2 v = dab.step(node);
            if (v == Vec2{}) return;
            const Vec2 there = before.shift(node + v);
            shift[0] = float(v.x + there.x), shift[1] = float(v.y + there.y);
        });
    }
    field_.shifts = std::make_shared<const PixelTiles>(std::move(next));
    return isFlow ? area : IntRect{};
}

void KneadStroke::moveTo(Vec2 at) {
    if (!std::isfinite(at.x) || !std::isfinite(at.y)) return;
    const bool moves = tip_.way == KneadWay::Push;
    asked_ = at;
    if (!last_) {
        last_ = at;
        if (!moves) dab(at, at);
        return;
    }
    const Vec2 way = at - *last_;
    const double apart = moves ? kLeastMove : kLongestDab;
    if (way.length() < tip_.radius * apart) return;
    if (moves) {
        const int dabs = std::max(1, int(std::ceil(way.length() / (tip_.radius * kLongestDab))));
        const Vec2 from = *last_;
        for (int i = 0; i < dabs; ++i)
            dab(from + way * (double(i) / dabs), from + way * (double(i + 1) / dabs));
        last_ = at;
        return;
    }
    // At even distances, wherever the events fall.
    const Vec2 one = way * (tip_.radius * kLongestDab / way.length());
    for (auto dabs = int(way.length() / (tip_.radius * kLongestDab)); dabs > 0; --dabs) {
        last_ = *last_ + one;
        dab(*last_, *last_);
    }
}

void KneadStroke::dwell() {
    if (last_ && tip_.way != KneadWay::Push) dab(*last_, *last_);
}

void KneadStroke::finish() {
    if (last_ && asked_ && tip_.way == KneadWay::Push && !(*last_ == *asked_)) dab(*last_, *asked_);
    last_ = asked_;
}

} // namespace glyptos
