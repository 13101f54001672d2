#include "vision/reduced.h"

#include <algorithm>
#include <cmath>

namespace glyptos {
namespace {

constexpr float kGround = 0.5f;

Rgba pixel(const Picture& p, int x, int y) {
    const Rgba c = straightAt(p, x, y);
    const float ground = kGround * (1 - c.a);
    return {c.r * c.a + ground, c.g * c.a + ground, c.b * c.a + ground, 1};
}

/// Average over the part [x0, x1) × [y0, y1) in pixels, whole pixels at the edges by their share.
Rgba average(const Picture& p, double x0, double y0, double x1, double y1) {
    double r = 0, g = 0, b = 0, sum = 0;
    for (int y = int(y0); y < std::min<int>(p.height, int(std::ceil(y1))); ++y) {
        const double high = std::min<double>(y + 1, y1) - std::max<double>(y, y0);
        for (int x = int(x0); x < std::min<int>(p.width, int(std::ceil(x1))); ++x) {
            const double w = high * (std::min<double>(x + 1, x1) - std::max<double>(x, x0));
            const Rgba c = pixel(p, x, y);
            r += w * double(c.r), g += w * double(c.g), b += w * double(c.b), sum += w;
        }
    }
    return sum > 0 ? Rgba{float(r / sum), float(g / sum), float(b / sum), 1} : Rgba{};
}

} // namespace

Rgba straightAt(const Picture& p, int x, int y) {
    if (p.is16()) {
        const uint16_t* v = p.row<uint16_t>(y) + ptrdiff_t(4) * x;
        return {float(v[0]) / 65535, float(v[1]) / 65535, float(v[2]) / 65535, float(v[3]) / 65535};
    }
    const uint8_t* v = p.row<uint8_t>(y) + ptrdiff_t(4) * x;
    return {float(v[0]) / 255, float(v[1]) / 255, float(v[2]) / 255, float(v[3]) / 255};
}

Reduced partOf(const Picture& picture, const IntRect& area) {
    Reduced out{area.w, area.h, {}};
    out.pixels.reserve(size_t(area.w) * size_t(area.h));
    for (int y = area.y; y < area.bottom(); ++y)
        for (int x = area.x; x < area.right(); ++x) out.pixels.push_back(pixel(picture, x, y));
    return out;
}

Reduced reduced(const Pyramid& picture, int width, int height) {
    int level = picture.firstLevel();
    while (level + 1 < picture.levels() && picture.level(level + 1).width >= 2 * width &&
           picture.level(level + 1).height >= 2 * height)
        ++level;
    const Picture& p = picture.level(level);
    Reduced out{width, height, {}};
    out.pixels.reserve(size_t(width) * size_t(height));
    const double kx = double(p.width) / width, ky = double(p.height) / height;
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x)
            out.pixels.push_back(average(p, x * kx, y * ky, (x + 1) * kx, (y + 1) * ky));
    return out;
}

Reduced reducedTo(const Pyramid& picture, int side) {
    const double k = std::min(1.0, double(side) / std::max(picture.width(), picture.height()));
    return reduced(picture, std::max(1, int(std::lround(picture.width() * k))),
                   std::max(1, int(std::lround(picture.height() * k))));
}

} // namespace glyptos
