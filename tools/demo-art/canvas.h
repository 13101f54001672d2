// A float canvas for the demo pictures: shaded pixel by pixel and filled along paths.
#pragma once

#include "raster/path.h"

#include <algorithm>
#include <cstdint>
#include <string>
#include <vector>

namespace glyptos::demo {

/// Straight sRGB-encoded colour, 0…1.
struct Ink {
    float r = 0, g = 0, b = 0;
    Ink operator*(float k) const { return {r * k, g * k, b * k}; }
    Ink operator+(const Ink& o) const { return {r + o.r, g + o.g, b + o.b}; }
};

inline Ink hex(uint32_t rgb) {
    return {float(rgb >> 16 & 255) / 255, float(rgb >> 8 & 255) / 255, float(rgb & 255) / 255};
}
inline Ink mix(const Ink& a, const Ink& b, float t) {
    return a * (1 - t) + b * t;
}
inline float smooth(float from, float to, float v) {
    const float t = std::clamp((v - from) / (to - from), 0.0f, 1.0f);
    return t * t * (3 - 2 * t);
}

struct Dot {
    Ink ink;
    float alpha = 1;
};

class Canvas {
  public:
    Canvas(int width, int height)
        : width(width)
        , height(height)
        , dots(size_t(width) * size_t(height), Dot{{}, 0}) {}

    /// Every pixel over what is there by shade(x, y, under), where x and y run 0…1 across the canvas's width
    /// and height.
    template <class Shade>
    void shade(Shade shade) {
        run([&](int px, int py, Dot& under) {
            over(under, shade((float(px) + 0.5f) / float(width), (float(py) + 0.5f) / float(height), under));
        });
    }

    /// Fills a path, given in shares of the canvas, with shade(x, y).
    template <class Shade>
    void fill(const Path& path, Shade shade) {
        const Affine toPixels = Affine::scaling(width, height);
        const IntRect area =
            pixelsAround(toPixels.mapBounds(path.bounds())).intersected({0, 0, width, height});
        if (area.empty()) return;
        const Buffer<float> cover =
            coverage(path, Affine::translation(-area.x, -area.y) * toPixels, area.w, area.h);
        for (int py = area.y; py < area.bottom(); ++py)
            for (int px = area.x; px < area.right(); ++px) {
                const float c = cover[size_t(py - area.y) * size_t(area.w) + size_t(px - area.x)];
                if (c <= 0) continue;
                Dot dot = shade((float(px) + 0.5f) / float(width), (float(py) + 0.5f) / float(height));
                dot.alpha *= c;
                over(dots[size_t(py) * size_t(width) + size_t(px)], dot);
            }
    }
    void fill(const Path& path, const Ink& ink, float alpha = 1) {
        fill(path, [&](float, float) { return Dot{ink, alpha}; });
    }

    /// Even grain of the given strength on everything that shows.
    void grain(float strength, uint32_t seed);

    std::vector<uint8_t> jpeg(int quality) const;
    std::vector<uint8_t> png() const;

    int width, height;
    std::vector<Dot> dots;

  private:
    static void over(Dot& under, const Dot& dot) {
        const float a = dot.alpha + under.alpha * (1 - dot.alpha);
        if (a <= 0) return;
        under.ink = (dot.ink * dot.alpha + under.ink * (under.alpha * (1 - dot.alpha))) * (1 / a);
        under.alpha = a;
    }
    template <class Each>
    void run(Each each);
};

/// A cubic Bézier curve.
struct Curve {
    Vec2 start, first, second, end;
};
struct Widths {
    double start, middle, end;
};
/// The curve with a width that swells and tapers, as a path to fill.
Path stroke(const Curve& curve, const Widths& widths);

/// The pictures of the demo, by file name.
struct DemoPicture {
    std::string name;
    std::vector<uint8_t> bytes;
};
DemoPicture seaAndSky();
DemoPicture lighthouse();
DemoPicture moon();
DemoPicture beam();
DemoPicture rust();
DemoPicture paper();
DemoPicture harbourWall();
DemoPicture rope();
DemoPicture chart();
DemoPicture gulls();
DemoPicture keeper();

} // namespace glyptos::demo

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

template <class Each>
void glyptos::demo::Canvas::run(Each each) {
    tbb::parallel_for(tbb::blocked_range<int>(0, height, 32), [&](const tbb::blocked_range<int>& rows) {
        for (int y = rows.begin(); y < rows.end(); ++y)
            for (int x = 0; x < width; ++x) each(x, y, dots[size_t(y) * size_t(width) + size_t(x)]);
    });
}
