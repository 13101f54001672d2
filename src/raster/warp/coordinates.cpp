#include "raster/warp/remap.h"

#include <array>
#include <cmath>

namespace glyptos {
namespace {

constexpr float kNowhere = std::numeric_limits<float>::quiet_NaN();

/// Faster than Vec2::length(), which looks after figures that nothing here has.
double lengthOf(Vec2 v) {
    return std::sqrt(v.x * v.x + v.y * v.y);
}

/// A place of the result: where it comes from, before the frame itself is kneaded and after.
struct Corner {
    Vec2 border, source;
    bool seen = false;
};

/// A block's corners, or those of the smaller parts in it, in a lattice that lasts for a row of blocks.
struct Corners {
    const Corner* first;
    size_t stride;
    const Corner& at(int i, int j) const { return first[size_t(j) * stride + size_t(i)]; }
    /// How far one pixel leads, on average, when `n` steps of the lattice are a block.
    Coordinates::Footprint footprint(Vec2 Corner::*of, int n) const {
        const Vec2 a = at(0, 0).*of, b = at(n, 0).*of, c = at(0, n).*of, d = at(n, n).*of;
        const double k = 0.5 / kRemapBlock;
        return {((b - a) + (d - c)) * k, ((c - a) + (d - b)) * k};
    }
};

/// What lies within an interval, softly over a pixel.
struct Span {
    double from, to, sharpness;
    double within(double at) const {
        return std::clamp((at - from) * sharpness + 0.5, 0.0, 1.0) *
               std::clamp((to - at) * sharpness + 0.5, 0.0, 1.0);
    }
};

struct Window {
    Span x, y;
    Window(const Rect& shown, const Coordinates::Footprint& print)
        : x{shown.x, shown.right(), 1 / std::max(lengthOf({print.across.x, print.down.x}), 1e-12)}
        , y{shown.y, shown.bottom(), 1 / std::max(lengthOf({print.across.y, print.down.y}), 1e-12)} {}
    double within(Vec2 at) const { return x.within(at.x) * y.within(at.y); }
};

double mirrored(double v, double from, double length) {
    const double t = std::fmod(v - from, 2 * length), u = t < 0 ? t + 2 * length : t;
    return from + (u > length ? 2 * length - u : u);
}

/// Fills blocks of a region: exactly at their corners, evenly between where that is near enough.
class Filler {
  public:
    Filler(const BackMapping& back, const Rect& shown, const IntRect& region, Borders borders,
           Coordinates& out)
        : back_(back)
        , shown_(shown)
        , region_(region)
        , keepsBorders_(back.endsWithKnead() && borders == Borders::Stay)
        , across_((region.w + kRemapBlock - 1) / kRemapBlock)
        , out_(out) {
        // A step that the mapping is smooth over, so that nothing slips between the corners.
        while (side_ > 1 && side_ > back_.smoothOver()) side_ /= 2;
    }

    void fill() {
        const int down = (region_.h + kRemapBlock - 1) / kRemapBlock, n = kRemapBlock / side_;
        out_.footprints.resize(size_t(across_) * size_t(down));
        const size_t stride = size_t(across_) * size_t(n) + 1;
        std::vector<Corner> lattice(stride * size_t(n + 1));
        for (int row = 0; row < down; ++row) {
            // The last line of one row of blocks is the first of the next.
            if (row > 0) std::copy_n(lattice.end() - long(stride), stride, lattice.begin());
            for (int j = row > 0 ? 1 : 0; j <= n; ++j)
                for (size_t i = 0; i < stride; ++i)
                    lattice[size_t(j) * stride + i] = at(double(i) * side_, row * kRemapBlock + j * side_);
            for (int column = 0; column < across_; ++column)
                block(column, row, {lattice.data() + size_t(column) * size_t(n), stride});
        }
    }

  private:
    Corner at(double x, double y) {
        const auto p = back_.mapBeforeKnead({region_.x + x + 0.5, region_.y + y + 0.5}, near_);
        return p ? Corner{*p, back_.kneaded(*p), true} : Corner{};
    }

    void block(int column, int row, const Corners& corners) {
        const int n = kRemapBlock / side_, left = column * kRemapBlock, top = row * kRemapBlock;
        Coordinates::Footprint& print = out_.footprints[size_t(row) * size_t(across_) + size_t(column)];
        bool all = true;
        for (int j = 0; j <= n; ++j)
            for (int i = 0; i <= n; ++i) all = all && corners.at(i, j).seen;
        if (!all) return byPixels(left, top, print);
        print = corners.footprint(&Corner::source, n);
        const auto border = corners.footprint(&Corner::border, n);
        const Part how{isWithin(corners, n, print, border),
                       {shown_, keepsBorders_ ? border : print},
                       kNear * std::max(lengthOf(print.across), lengthOf(print.down))};
        for (int j = 0; j < n; ++j)
            for (int i = 0; i < n; ++i)
                part(left + i * side_, top + j * side_, side_,
                     {corners.at(i, j), corners.at(i + 1, j), corners.at(i, j + 1), corners.at(i + 1, j + 1)},
                     how);
    }

    static constexpr double kNear = 1.0 / 32; ///< of a result pixel
    struct Part {
        bool isInside;
        Window window;
        double near; ///< units of the frame that a place may be off
    };
    using Four = std::array<Corner, 4>; ///< left top, right top, left bottom, right bottom

    static Vec2 meanOf(Vec2 a, Vec2 b) { return (a + b) * 0.5; }

    /// Evenly between its corners where its middle is near enough to that, or where they lie as near to each
    /// other as the nodes of what is kneaded; else in four parts.
    void part(int left, int top, int side, const Four& c, const Part& how) {
        if (side == 1 || side_ < kRemapBlock || left >= region_.w || top >= region_.h)
            return even(left, top, side, c, how);
        const double half = side / 2.0;
        const Corner middle = at(left + half, top + half);
        const Vec2 mean = meanOf(meanOf(c[0].source, c[1].source), meanOf(c[2].source, c[3].source));
        if (middle.seen && lengthOf(middle.source - mean) <= how.near) return even(left, top, side, c, how);
        const Corner above = at(left + half, top), below = at(left + half, top + side),
                     before = at(left, top + half), after = at(left + side, top + half);
        if (!middle.seen || !above.seen || !below.seen || !before.seen || !after.seen)
            return even(left, top, side, c, how);
        const int h = side / 2;
        part(left, top, h, {c[0], above, before, middle}, how);
        part(left + h, top, h, {above, c[1], middle, after}, how);
        part(left, top + h, h, {before, middle, c[2], below}, how);
        part(left + h, top + h, h, {middle, after, below, c[3]}, how);
    }

    /// Whether all of a block, with a pixel round it, lies within what is shown, and so needs no look at
    /// borders.
    bool isWithin(const Corners& corners, int n, const Coordinates::Footprint& print,
                  const Coordinates::Footprint& border) const {
        const double round = 2 * std::max({lengthOf(print.across), lengthOf(print.down),
                                           lengthOf(border.across), lengthOf(border.down)});
        const Rect inner = shown_.grown(-round);
        for (int j = 0; j <= n; ++j)
            for (int i = 0; i <= n; ++i)
                if (!inner.contains(corners.at(i, j).source) || !inner.contains(corners.at(i, j).border))
                    return false;
        return true;
    }

    void even(int left, int top, int side, const Four& c, const Part& how) {
        const int width = std::min(side, region_.w - left), bottom = std::min(top + side, region_.h);
        if (width <= 0) return;
        const double k = 1.0 / side;
        for (int y = top; y < bottom; ++y) {
            const double t = (y - top) * k;
            const auto mix = [&](Vec2 Corner::*of, size_t i) {
                return c[i].*of * (1 - t) + c[i + 2].*of * t;
            };
            const Vec2 from = mix(&Corner::source, 0), way = (mix(&Corner::source, 1) - from) * k;
            const size_t first = size_t(y) * size_t(region_.w) + size_t(left);
            if (how.isInside) {
                evenRow(first, width, from, way);
                continue;
            }
            const Vec2 edge = mix(&Corner::border, 0), edgeWay = (mix(&Corner::border, 1) - edge) * k;
            for (int i = 0; i < width; ++i)
                put(first + size_t(i), {edge + edgeWay * i, from + way * i, true}, how.window);
        }
    }

    void evenRow(size_t first, int width, Vec2 from, Vec2 way) {
        float *x = out_.x.data() + first, *y = out_.y.data() + first, *share = out_.share.data() + first;
        for (int i = 0; i < width; ++i) {
            x[i] = float(from.x + way.x * i), y[i] = float(from.y + way.y * i);
            share[i] = 1;
        }
        out_.empty = false;
    }

    void byPixels(int left, int top, Coordinates::Footprint& print) {
        constexpr int kStride = kRemapBlock + 1;
        std::array<Corner, size_t(kStride) * kStride> pixels;
        for (int j = 0; j < kStride; ++j)
            for (int i = 0; i < kStride; ++i) pixels[size_t(j) * kStride + size_t(i)] = at(left + i, top + j);
        int count = 0;
        Coordinates::Footprint source, border;
        for (int j = 0; j < kRemapBlock; ++j)
            for (int i = 0; i < kRemapBlock; ++i) {
                const Corner* here = pixels.data() + size_t(j) * kStride + size_t(i);
                if (!here[0].seen || !here[1].seen || !here[kStride].seen) continue;
                source.across = source.across + (here[1].source - here->source);
                source.down = source.down + (here[kStride].source - here->source);
                border.across = border.across + (here[1].border - here->border);
                border.down = border.down + (here[kStride].border - here->border);
                ++count;
            }
        const double k = count > 0 ? 1.0 / count : 1;
        print = {source.across * k, source.down * k};
        border = {border.across * k, border.down * k};
        const Window window(shown_, keepsBorders_ ? border : print);
        for (int j = 0; j < std::min(kRemapBlock, region_.h - top); ++j)
            for (int i = 0; i < std::min(kRemapBlock, region_.w - left); ++i)
                put(size_t(top + j) * size_t(region_.w) + size_t(left + i),
                    pixels[size_t(j) * kStride + size_t(i)], window);
    }

    void put(size_t i, const Corner& c, const Window& window) {
        Vec2 source = c.source;
        double share = 0;
        if (!c.seen)
            source = {kNowhere, kNowhere};
        else
            share = window.within(keepsBorders_ ? c.border : c.source);
        if (share > 0 && keepsBorders_) {
            switch (back_.pulledIn()) {
            case PulledIn::Nothing:
                share = std::min(share, window.within(source));
                break;
            case PulledIn::Mirror:
                source = {mirrored(source.x, shown_.x, shown_.w), mirrored(source.y, shown_.y, shown_.h)};
                break;
            case PulledIn::EdgeColour:
                source = {std::clamp(source.x, shown_.x, shown_.right()),
                          std::clamp(source.y, shown_.y, shown_.bottom())};
                break;
            }
        }
        out_.x[i] = float(source.x), out_.y[i] = float(source.y);
        out_.share[i] = float(share);
        out_.empty = out_.empty && share <= 0;
    }

    const BackMapping& back_;
    const Rect shown_;
    const IntRect region_;
    const bool keepsBorders_;
    const int across_; ///< blocks in a row
    int side_ = kRemapBlock;
    Coordinates& out_;
    BackMapping::Near near_;
};

} // namespace

Coordinates coordinatesFor(const Mapping& mapping, const Rect& shown, const IntRect& region,
                           Borders borders) {
    Coordinates out;
    out.width = region.w, out.height = region.h;
    const BackMapping back(mapping, region.toRect().grown(2 * kRemapBlock));
    if (!back.isThere() || back.reach().intersected(shown.grown(1)).empty()) return out;
    const size_t count = size_t(region.w) * size_t(region.h);
    out.x = Buffer<float>(count), out.y = Buffer<float>(count), out.share = Buffer<float>(count);
    Filler(back, shown, region, borders, out).fill();
    return out;
}

} // namespace glyptos
