#include "raster/warp/remap.h"

#include <array>
#include <cmath>

namespace glyptos {
namespace {

constexpr float kNowhere = std::numeric_limits<float>::quiet_NaN();

/// Fills blocks of a region: exactly at their corners, evenly between where that is near enough.
class Filler {
  public:
    Filler(const BackMapping& back, const Rect& shown, const IntRect& region, Borders borders,
           Coordinates& out)
        : back_(back)
        , shown_(shown)
        , region_(region)
        , staysKneaded_(back.endsWithKnead() && borders == Borders::Stay)
        , out_(out) {}

    void fill() {
        const int across = (region_.w + kRemapBlock - 1) / kRemapBlock,
                  down = (region_.h + kRemapBlock - 1) / kRemapBlock;
        out_.footprints.resize(size_t(across) * size_t(down));
        // A step that a mapping is smooth over, so that nothing slips between the corners.
        int side = kRemapBlock;
        while (side > 1 && side > back_.smoothOver()) side /= 2;
        for (int y = 0; y < region_.h; y += kRemapBlock)
            for (int x = 0; x < region_.w; x += kRemapBlock) block({x, y, kRemapBlock, kRemapBlock}, side);
    }

  private:
    /// Of a corner: before the knead, where borders are, and after it.
    struct Corner {
        Vec2 border, source;
        bool seen = false;
    };

    Corner at(double x, double y) {
        const auto p = back_.mapBeforeKnead({region_.x + x + 0.5, region_.y + y + 0.5}, near_);
        if (!p) return {};
        return {*p, back_.endsWithKnead() ? back_.kneaded(*p) : *p, true};
    }

    void block(const IntRect& area, int side) {
        // Corners of the small blocks inside, one more than they are.
        const int n = kRemapBlock / side;
        std::array<Corner, size_t(kRemapBlock + 1) * (kRemapBlock + 1)> corners;
        bool all = true, any = false;
        for (int j = 0; j <= n; ++j)
            for (int i = 0; i <= n; ++i) {
                Corner& c = corners[size_t(j) * size_t(n + 1) + size_t(i)] =
                    at(area.x + i * side, area.y + j * side);
                all = all && c.seen, any = any || c.seen;
            }
        const auto corner = [&](int i, int j) -> const Corner& {
            return corners[size_t(j) * size_t(n + 1) + size_t(i)];
        };
        Coordinates::Footprint& print = out_.footprints[index(area)];
        Coordinates::Footprint border; // the same, before the knead
        if (all) {
            const double k = 1.0 / kRemapBlock;
            print = {
                ((corner(n, 0).source - corner(0, 0).source) + (corner(n, n).source - corner(0, n).source)) *
                    (k / 2),
                ((corner(0, n).source - corner(0, 0).source) + (corner(n, n).source - corner(n, 0).source)) *
                    (k / 2)};
            border = {
                ((corner(n, 0).border - corner(0, 0).border) + (corner(n, n).border - corner(0, n).border)) *
                    (k / 2),
                ((corner(0, n).border - corner(0, 0).border) + (corner(n, n).border - corner(n, 0).border)) *
                    (k / 2)};
            const double size = std::max(print.across.length(), print.down.length());
            if (side == 1 || isEven(area, corner, size)) {
                for (int j = 0; j < n; ++j)
                    for (int i = 0; i < n; ++i)
                        even({area.x + i * side, area.y + j * side, side, side},
                             {corner(i, j), corner(i + 1, j), corner(i, j + 1), corner(i + 1, j + 1)}, print,
                             border);
                return;
            }
        }
        // Pixel by pixel. What is next to seen is needed for its footprint.
        std::array<Corner, size_t(kRemapBlock + 1) * (kRemapBlock + 1)> pixels;
        for (int j = 0; j <= kRemapBlock; ++j)
            for (int i = 0; i <= kRemapBlock; ++i)
                pixels[size_t(j) * (kRemapBlock + 1) + size_t(i)] = at(area.x + i, area.y + j);
        const auto pixel = [&](int i, int j) -> const Corner& {
            return pixels[size_t(j) * (kRemapBlock + 1) + size_t(i)];
        };
        int count = 0;
        Coordinates::Footprint sum, sumBorder;
        for (int j = 0; j < kRemapBlock; ++j)
            for (int i = 0; i < kRemapBlock; ++i) {
                const Corner &here = pixel(i, j), &right = pixel(i + 1, j), &below = pixel(i, j + 1);
                if (!here.seen || !right.seen || !below.seen) continue;
                sum.across = sum.across + (right.source - here.source),
                sum.down = sum.down + (below.source - here.source);
                sumBorder.across = sumBorder.across + (right.border - here.border);
                sumBorder.down = sumBorder.down + (below.border - here.border);
                ++count;
            }
        if (count > 0) {
            print = {sum.across * (1.0 / count), sum.down * (1.0 / count)};
            border = {sumBorder.across * (1.0 / count), sumBorder.down * (1.0 / count)};
        }
        for (int j = 0; j < kRemapBlock; ++j)
            for (int i = 0; i < kRemapBlock; ++i) put(area.x + i, area.y + j, pixel(i, j), print, border);
    }

    size_t index(const IntRect& area) const {
        const int across = (region_.w + kRemapBlock - 1) / kRemapBlock;
        return size_t(area.y / kRemapBlock) * size_t(across) + size_t(area.x / kRemapBlock);
    }

    /// Whether the middle lies where the corners have it, within 1/32 of a result pixel.
    template <class At>
    bool isEven(const IntRect& area, const At& corner, double size) {
        constexpr double kNear = 1.0 / 32;
        const int n = back_.smoothOver() >= kRemapBlock ? 1 : 0;
        if (n == 0) return true; // the small blocks are as fine as the mapping
        const Corner middle = at(area.x + kRemapBlock / 2.0, area.y + kRemapBlock / 2.0);
        if (!middle.seen) return false;
        const Vec2 mean =
            (corner(0, 0).source + corner(1, 0).source + corner(0, 1).source + corner(1, 1).source) * 0.25;
        return (middle.source - mean).length() <= kNear * size;
    }

    void even(const IntRect& area, const std::array<Corner, 4>& c, const Coordinates::Footprint& print,
              const Coordinates::Footprint& border) {
        const int right = std::min(area.right(), region_.w), bottom = std::min(area.bottom(), region_.h);
        const double k = 1.0 / area.w;
        for (int y = area.y; y < bottom; ++y) {
            const double t = (y - area.y) * k;
            const auto mix = [&](Vec2 Corner::*of, size_t a, size_t b) {
                return c[a].*of * (1 - t) + c[b].*of * t;
            };
            const Vec2 from = mix(&Corner::source, 0, 2), way = (mix(&Corner::source, 1, 3) - from) * k;
            const Vec2 edge = mix(&Corner::border, 0, 2), edgeWay = (mix(&Corner::border, 1, 3) - edge) * k;
            for (int x = area.x; x < right; ++x) {
                const double i = x - area.x;
                put(x, y, {edge + edgeWay * i, from + way * i, true}, print, border);
            }
        }
    }

    /// How much of a pixel, whose middle is at `at` and which is `wide` across, lies within [from, to).
    static double within(double at, double wide, double from, double to) {
        const double k = 1 / std::max(wide, 1e-12);
        return std::clamp((at - from) * k + 0.5, 0.0, 1.0) * std::clamp((to - at) * k + 0.5, 0.0, 1.0);
    }
    double within(Vec2 at, const Coordinates::Footprint& print) const {
        return within(at.x, std::hypot(print.across.x, print.down.x), shown_.x, shown_.right()) *
               within(at.y, std::hypot(print.across.y, print.down.y), shown_.y, shown_.bottom());
    }
    static double mirrored(double v, double from, double length) {
        const double t = std::fmod(v - from, 2 * length), u = t < 0 ? t + 2 * length : t;
        return from + (u > length ? 2 * length - u : u);
    }

    void put(int x, int y, const Corner& c, const Coordinates::Footprint& print,
             const Coordinates::Footprint& border) {
        if (x >= region_.w || y >= region_.h) return;
        const size_t i = size_t(y) * size_t(region_.w) + size_t(x);
        double share = 0;
        if (c.seen) {
            Vec2 source = c.source;
            share = staysKneaded_ ? within(c.border, border) : within(source, print);
            if (staysKneaded_) {
                if (back_.pulledIn() == PulledIn::Nothing) share = std::min(share, within(source, print));
                if (back_.pulledIn() == PulledIn::Mirror)
                    source = {mirrored(source.x, shown_.x, shown_.w), mirrored(source.y, shown_.y, shown_.h)};
                if (back_.pulledIn() == PulledIn::EdgeColour)
                    source = {std::clamp(source.x, shown_.x, shown_.right()),
                              std::clamp(source.y, shown_.y, shown_.bottom())};
            }
            out_.x[i] = float(source.x), out_.y[i] = float(source.y);
        } else
            out_.x[i] = out_.y[i] = kNowhere;
        out_.share[i] = float(share);
        out_.empty = out_.empty && share <= 0;
        out_.whole = out_.whole && share >= 1;
    }

    const BackMapping& back_;
    const Rect shown_;
    const IntRect region_;
    const bool staysKneaded_;
    Coordinates& out_;
    BackMapping::Near near_;
};

} // namespace

Coordinates coordinatesFor(const Mapping& mapping, const Rect& shown, const IntRect& region,
                           Borders borders) {
    Coordinates out;
    out.width = region.w, out.height = region.h;
    const BackMapping back(mapping, region.toRect().grown(kRemapBlock));
    if (!back.isThere() || back.reach().intersected(shown.grown(1)).empty()) return out;
    const size_t count = size_t(region.w) * size_t(region.h);
    out.x = Buffer<float>(count), out.y = Buffer<float>(count), out.share = Buffer<float>(count);
    Filler(back, shown, region, borders, out).fill();
    return out;
}

} // namespace glyptos
