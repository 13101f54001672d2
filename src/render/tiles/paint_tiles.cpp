#include "render/tiles/paint_tiles.h"

#include "raster/noise.h"
#include "raster/resample.h"
#include "render/tiles/gradient_run.h"

#include <cmath>
#include <numbers>
#include <vector>

namespace glyptos {
namespace {

constexpr double kRound = 2 * std::numbers::pi;

uint16_t to16(double v) {
    // NOLINTNEXTLINE(bugprone-incorrect-roundings): never negative
    return static_cast<uint16_t>(std::clamp(v, 0.0, 1.0) * 65535 + 0.5);
}

Colour4 premultiplied(const Rgba& c, double light = 1) {
    return {c.r * light * c.a, c.g * light * c.a, c.b * light * c.a, c.a};
}

/// Place along the run, and how far it goes over one unit at most.
struct Along {
    double t, slope;
};

/// The way of a gradient over the plane.
class Course {
  public:
    explicit Course(const Gradient& g)
        : kind_(g.kind)
        , from_(g.from)
        , line_(g.to - g.from)
        , length_(std::max(line_.length(), kLeast))
        , start_(std::atan2(line_.y, line_.x))
        , winds_(g.turns / length_) {
        line_ = line_ * (1 / (length_ * length_));
    }

    /// Whether it goes on as far everywhere.
    bool isEven() const { return kind_ == GradientKind::Linear || kind_ == GradientKind::Radial; }

    /// Places along the run from a first one on, `step` apart; of one that is even.
    void row(Vec2 first, Vec2 step, int count, float* out) const {
        const Vec2 way = first - from_;
        if (kind_ == GradientKind::Linear) {
            const double t = way.x * line_.x + way.y * line_.y, by = step.x * line_.x + step.y * line_.y;
            for (int i = 0; i < count; ++i) out[i] = float(t + by * i);
            return;
        }
        const double over = 1 / (length_ * length_);
        for (int i = 0; i < count; ++i) {
            const double x = way.x + step.x * i, y = way.y + step.y * i;
            out[i] = std::sqrt(float((x * x + y * y) * over));
        }
    }

    Along at(Vec2 place) const {
        const Vec2 way = place - from_;
        if (kind_ == GradientKind::Linear) return {way.x * line_.x + way.y * line_.y, 1 / length_};
        const double far = std::max(std::sqrt(way.x * way.x + way.y * way.y), kLeast);
        if (kind_ == GradientKind::Radial) return {far / length_, 1 / length_};
        const double angle = (std::atan2(way.y, way.x) - start_) / kRound;
        const double round = 1 / (kRound * far);
        if (kind_ == GradientKind::Conic) return {angle, round};
        return {far * winds_ - angle, std::sqrt(winds_ * winds_ + round * round)};
    }

  private:
    static constexpr double kLeast = 1e-9;
    GradientKind kind_;
    Vec2 from_, line_; ///< where it begins; its direction over its length
    double length_, start_, winds_;
};

/// Fills a tile with the colour that `at` gives for each pixel's middle in the paint's units.
template <class At>
Tile filled(const Affine& toOutput, const IntRect& region, At at) {
    const auto back = toOutput.inverse();
    if (!back) return {};
    Tile tile(region.w, region.h);
    for (int y = 0; y < region.h; ++y) {
        uint16_t* rows[4] = {tile.row(0, y), tile.row(1, y), tile.row(2, y), tile.row(3, y)};
        for (int x = 0; x < region.w; ++x) {
            const Colour4 c = at(back->map({region.x + x + 0.5, region.y + y + 0.5}));
            for (size_t k = 0; k < 4; ++k) rows[k][x] = to16(c[k]);
        }
    }
    tile.settle();
    return tile;
}

/// Units that one output pixel is wide.
double pixelSide(const Affine& toOutput) {
    return 1 / std::max(std::sqrt(std::abs(toOutput.determinant())), 1e-9);
}

/// fractalNoise(), averaged over a pixel where its knots are not much wider than one. What is finer than half
/// a pixel stands at its mean.
double fadedNoise(Vec2 at, double size, int octaves, uint32_t seed, double pixel) {
    auto x = float(at.x / size), y = float(at.y / size);
    double sum = 0, strength = 0.5, total = 0;
    auto knots = float(pixel / size); // of this octave in one pixel
    for (int i = 0; i < octaves; ++i) {
        const double seen = std::clamp(2 - double(knots), 0.0, 1.0);
        const uint32_t own = seed + static_cast<uint32_t>(i);
        const float q = knots / 4;
        double value = 0.5;
        if (seen > 0 && knots < 0.5f)
            value = valueNoise(x, y, own);
        else if (seen > 0)
            value = 0.25 * (valueNoise(x - q, y - q, own) + valueNoise(x + q, y - q, own) +
                            valueNoise(x - q, y + q, own) + valueNoise(x + q, y + q, own));
        sum += strength * (0.5 + (value - 0.5) * seen);
        total += strength;
        strength *= 0.5, knots *= 2;
        x = x * 2 + 17.3f, y = y * 2 + 9.1f;
    }
    return sum / total;
}

Tile tileOf(const Rgba& colour, const Affine& toOutput, const IntRect& region) {
    return filled(toOutput, region, [c = premultiplied(colour)](Vec2) { return c; });
}

/// Some pixels of a row on one straight part of a run.
void fillStraight(const GradientRun::Straight& part, const float* t, int count, uint16_t* const (&rows)[4],
                  int from) {
    for (size_t c = 0; c < 4; ++c) {
        const auto at0 = float(part.at0[c]), rise = float(part.rise[c]);
        uint16_t* out = rows[c] + from;
        for (int i = 0; i < count; ++i)
            // NOLINTNEXTLINE(bugprone-incorrect-roundings): never negative
            out[i] = uint16_t(int(std::min(std::max(at0 + rise * t[i], 0.0F), 1.0F) * 65535 + 0.5F));
    }
}

/// Straight or round gradients, row by row.
Tile evenTile(const GradientRun& run, const Course& course, const Affine& toOutput, const IntRect& region) {
    const auto back = toOutput.inverse();
    if (!back) return {};
    const double width = course.at({}).slope * pixelSide(toOutput);
    Tile tile(region.w, region.h);
    std::vector<float> t(size_t(region.w));
    const Vec2 step = back->mapVector({1, 0});
    for (int y = 0; y < region.h; ++y) {
        course.row(back->map({region.x + 0.5, region.y + y + 0.5}), step, region.w, t.data());
        uint16_t* const rows[4] = {tile.row(0, y), tile.row(1, y), tile.row(2, y), tile.row(3, y)};
        for (int x = 0; x < region.w;) {
            const GradientRun::Straight part = run.straightAt(double(t[size_t(x)]), width);
            int end = x;
            while (end < region.w && part.holds(double(t[size_t(end)]))) ++end;
            if (end > x) {
                fillStraight(part, t.data() + x, end - x, rows, x);
                x = end;
                continue;
            }
            const Colour4 c = run.mean(double(t[size_t(x)]), width);
            for (size_t k = 0; k < 4; ++k) rows[k][x] = to16(c[k]);
            ++x;
        }
    }
    tile.settle();
    return tile;
}

Tile tileOf(const Gradient& g, const Affine& toOutput, const IntRect& region) {
    const GradientRun run(g);
    const double pixel = pixelSide(toOutput);
    const Course course(g);
    if (course.isEven()) return evenTile(run, course, toOutput, region);
    return filled(toOutput, region, [&](Vec2 at) {
        const Along a = course.at(at);
        return run.mean(a.t, a.slope * pixel);
    });
}

Tile tileOf(const Clouds& clouds, const Affine& toOutput, const IntRect& region) {
    const double pixel = pixelSide(toOutput);
    const Colour4 low = premultiplied(clouds.low), high = premultiplied(clouds.high);
    return filled(toOutput, region, [&](Vec2 at) {
        const double noise = fadedNoise(at, clouds.size, clouds.octaves, clouds.seed, pixel);
        // Sums of noises crowd round the middle; twice their spread reaches both colours.
        const double t = std::clamp((noise - 0.5) * 2 * clouds.contrast + 0.5, 0.0, 1.0);
        Colour4 out;
        for (size_t c = 0; c < 4; ++c) out[c] = low[c] + (high[c] - low[c]) * t;
        return out;
    });
}

/// Grain of two octaves, and fibres: noise drawn out in two directions.
Tile tileOf(const Paper& paper, const Affine& toOutput, const IntRect& region) {
    const double pixel = pixelSide(toOutput);
    const Affine first = Affine::rotation(27), second = Affine::rotation(-64);
    return filled(toOutput, region, [&](Vec2 at) {
        const Vec2 p = first.map(at), q = second.map(at);
        const double grain = fadedNoise(at, paper.size, 2, paper.seed, pixel);
        const double fibres = (fadedNoise({p.x / 9, p.y}, paper.size, 2, paper.seed + 11, pixel) +
                               fadedNoise({q.x / 9, q.y}, paper.size, 2, paper.seed + 23, pixel)) /
                              2;
        const double light = 1 + paper.grain * 2 * (0.6 * (grain - 0.5) + 0.8 * (fibres - 0.5));
        Colour4 out = premultiplied(paper.colour, light);
        for (double& v : out) v = std::min(v, double(paper.colour.a));
        return out;
    });
}

/// Samples of a picture that goes on without end.
class EndlessPicture {
  public:
    EndlessPicture(const Picture& picture, const Pattern& pattern)
        : picture_(picture)
        , step_(static_cast<int64_t>(std::lround(pattern.shift * picture.width)))
        , mirrored_(pattern.mirrored) {}

    /// Keys's cubic with a = -1/2 about (x, y), pixels of the picture.
    Colour4 at(double x, double y) const {
        x -= 0.5, y -= 0.5;
        const double fx = std::floor(x), fy = std::floor(y);
        double wx[4], wy[4];
        weights(x - fx, wx), weights(y - fy, wy);
        Colour4 out{};
        for (int j = 0; j < 4; ++j)
            for (int i = 0; i < 4; ++i) add(out, int64_t(fx) + i - 1, int64_t(fy) + j - 1, wx[i] * wy[j]);
        return out;
    }

  private:
    static void weights(double t, double* w) {
        w[0] = ((-0.5 * t + 1) * t - 0.5) * t;
        w[1] = (1.5 * t - 2.5) * t * t + 1;
        w[2] = ((-1.5 * t + 2) * t + 0.5) * t;
        w[3] = (0.5 * t - 0.5) * t * t;
    }
    static int64_t cell(int64_t v, int64_t size) { return v >= 0 ? v / size : -((size - 1 - v) / size); }
    int64_t folded(int64_t v, int64_t size) const {
        const int64_t which = cell(v, size), rest = v - which * size;
        return mirrored_ && which % 2 ? size - 1 - rest : rest;
    }
    void add(Colour4& out, int64_t x, int64_t y, double weight) const {
        x -= cell(y, picture_.height) * step_;
        const auto px = size_t(folded(x, picture_.width)) * 4;
        const int py = int(folded(y, picture_.height));
        if (picture_.is16())
            addPixel(out, picture_.row<uint16_t>(py) + px, weight);
        else
            addPixel(out, picture_.row<uint8_t>(py) + px, weight);
    }
    template <class T>
    static void addPixel(Colour4& out, const T* straight, double weight) {
        constexpr double full = T(~T(0));
        const double alpha = weight * straight[3] / full;
        for (size_t c = 0; c < 3; ++c) out[c] += alpha * straight[c] / full;
        out[3] += alpha;
    }

    const Picture& picture_;
    int64_t step_;
    bool mirrored_;
};

Tile patternTile(const Pattern& pattern, const Affine& toOutput, const IntRect& region,
                 const PatternPicture& source) {
    if (!source.picture) return {};
    const Affine placed = toOutput * Affine::translation(pattern.origin.x, pattern.origin.y) *
                          Affine::rotation(pattern.turn) * Affine::scaling(pattern.scale, pattern.scale) *
                          Affine::scaling(double(source.width) / source.picture->width(),
                                          double(source.height) / source.picture->height());
    const int level = levelFor(std::max(placed.scaleX(), placed.scaleY()), *source.picture);
    const Picture& picture = source.picture->level(level);
    const EndlessPicture endless(picture, pattern);
    const Affine fromLevel = placed * Affine::scaling(double(source.picture->width()) / picture.width,
                                                      double(source.picture->height()) / picture.height);
    const bool smaller = std::max(fromLevel.scaleX(), fromLevel.scaleY()) < 0.999;
    const double quarter = 0.25 * pixelSide(fromLevel);
    return filled(fromLevel, region, [&](Vec2 at) {
        if (!smaller) return endless.at(at.x, at.y);
        Colour4 out{};
        for (const Vec2 off : {Vec2{-1, -1}, Vec2{1, -1}, Vec2{-1, 1}, Vec2{1, 1}}) {
            const Colour4 part = endless.at(at.x + off.x * quarter, at.y + off.y * quarter);
            for (size_t c = 0; c < 4; ++c) out[c] += part[c] / 4;
        }
        return out;
    });
}

} // namespace

Tile paintTile(const Paint& paint, const Affine& toOutput, const IntRect& region,
               const PatternPicture& pattern) {
    if (const auto* p = std::get_if<Pattern>(&paint)) return patternTile(*p, toOutput, region, pattern);
    return std::visit(
        [&](const auto& p) -> Tile {
            if constexpr (std::is_same_v<std::decay_t<decltype(p)>, Pattern>)
                return {};
            else
                return tileOf(p, toOutput, region);
        },
        paint);
}

} // namespace glyptos
